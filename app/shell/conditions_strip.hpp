#pragma once
#include <QWidget>
#include <map>

class QCheckBox;
class QHBoxLayout;
class QLabel;
class QSlider;

namespace elkit {

class Session;

/// Battery, warmth and the design's switches, always in view; every number follows while a slider moves.
class ConditionsStrip : public QWidget {
    Q_OBJECT
  public:
    explicit ConditionsStrip(Session& session, QWidget* parent = nullptr);
    QWidget* lineSlot() { return line_slot_; }  ///< room for the do-anything line

  private:
    void rebuildSwitches();
    void refresh();
    Session& session_;
    QSlider *battery_, *warmth_;
    QLabel *battery_value_, *warmth_value_;
    QHBoxLayout* switches_;
    std::map<std::string, QCheckBox*> toggles_;
    QWidget* line_slot_;
};

}  // namespace elkit
