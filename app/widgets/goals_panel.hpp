#pragma once
#include <QWidget>
#include <functional>
#include <vector>

#include "recipes/recipe.hpp"

class QVBoxLayout;

namespace elkit {

class Session;

/// The goals of the design's blocks that a station asks for, made from what their recipes declare.
class GoalsPanel : public QWidget {
    Q_OBJECT
  public:
    GoalsPanel(Session& session, QString station, QWidget* parent = nullptr);
    void refresh();
    void focusGoal(const QString& key);

  private:
    void rebuild();
    QWidget* blockCard(std::size_t block, const Recipe& recipe);
    QWidget* choiceField(std::size_t block, const GoalInfo& goal);
    QWidget* numberField(std::size_t block, const GoalInfo& goal);
    void change(std::size_t block, const GoalInfo& goal, const ParamValue& value);

    Session& session_;
    QString station_;
    QVBoxLayout* column_;
    std::vector<std::string> shown_;                    ///< recipes of the blocks that have cards
    std::vector<std::pair<QString, QWidget*>> fields_;  ///< goal and its field
    std::vector<std::function<void()>> refreshers_;
};

}  // namespace elkit
