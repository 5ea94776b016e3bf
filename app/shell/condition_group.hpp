#pragma once
#include <QFrame>
#include <QToolButton>
#include <vector>

class QGridLayout;

namespace elkit {

/// Conditions of one kind, behind a button where there is no room for them in a row: it opens them downwards,
/// over the bench, and they stay until it is pressed again or Escape is.
class ConditionGroup : public QToolButton {
    Q_OBJECT
  public:
    explicit ConditionGroup(const QString& name, QWidget* parent = nullptr);
    void setControls(const std::vector<QWidget*>& controls);  ///< takes them into the panel
    QFrame* panel() const { return panel_; }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    void place();
    QString name_;
    QFrame* panel_;
    QGridLayout* grid_;
};

}  // namespace elkit
