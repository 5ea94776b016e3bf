#pragma once
#include <QWidget>
#include <functional>
#include <vector>

#include "recipes/recipe.hpp"

class QGridLayout;

namespace elkit {

class Session;

/// Fields for the goals of a recipe, made from what it declares. It shows the goals that it is given and
/// tells what a person sets; it keeps nothing.
class GoalsForm : public QWidget {
    Q_OBJECT
  public:
    /// Only goals for which `wanted` holds.
    GoalsForm(Session& session, const Recipe& recipe, const std::function<bool(const GoalInfo&)>& wanted,
              QWidget* parent = nullptr);
    void show(const Goals& goals);
    using QWidget::show;
    /// The field of a goal; nullptr if it has none.
    QWidget* field(const QString& key) const;
    QWidget* firstField() const { return fields_.empty() ? nullptr : fields_.front().second; }

  signals:
    void entered(const QString& key, const elkit::ParamValue& value);

  private:
    void addField(const GoalInfo& goal, QGridLayout* grid, int& row, int& column);
    QWidget* choiceField(const GoalInfo& goal);
    QWidget* numberField(const GoalInfo& goal);
    QWidget* pointsField(const GoalInfo& goal);

    Session& session_;
    std::vector<std::pair<QString, QWidget*>> fields_;  ///< goal and its field
    std::vector<std::function<void(const Goals&)>> showers_;
};

}  // namespace elkit
