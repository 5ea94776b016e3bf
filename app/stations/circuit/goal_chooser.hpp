#pragma once
#include <QStringList>
#include <QWidget>

#include "engine/goal.hpp"

class QComboBox;

namespace elkit {

class Session;

/// Two boxes: what to look at (a net, a part's current, power or light) and how to read it.
class GoalChooser : public QWidget {
    Q_OBJECT
  public:
    explicit GoalChooser(Session& session, QWidget* parent = nullptr);
    Result<Goal> goal() const;
    void choose(const QString& probe, const QString& reading);

  signals:
    void chosen();

  private:
    void rebuild();
    Session& session_;
    QComboBox *probe_, *reading_;
    QStringList names_;  ///< in the box
};

}  // namespace elkit
