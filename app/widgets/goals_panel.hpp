#pragma once
#include <QWidget>
#include <vector>

#include "recipes/recipe.hpp"

class QVBoxLayout;

namespace elkit {

class GoalsForm;
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

    Session& session_;
    QString station_;
    QVBoxLayout* column_;
    std::vector<std::string> shown_;                         ///< recipes of the blocks
    std::vector<std::pair<std::size_t, GoalsForm*>> forms_;  ///< block and its fields
};

}  // namespace elkit
