#pragma once
#include <QWidget>
#include <functional>
#include <map>

#include "engine/conditions.hpp"

class QCheckBox;
class QHBoxLayout;
class QLabel;
class QSlider;

namespace elkit {

class Session;
class SituationChips;

/// Battery, warmth and the design's switches, always in view; every number follows while a slider moves.
class ConditionsStrip : public QWidget {
    Q_OBJECT
  public:
    explicit ConditionsStrip(Session& session, QWidget* parent = nullptr);
    QWidget* lineSlot() { return line_slot_; }  ///< room for the do-anything line
    SituationChips& chips() { return *chips_; }

  private:
    std::vector<std::string> wanted() const;
    void change(const std::function<void(Conditions&)>& edit);
    QWidget* contactControl(const Part& part);
    QWidget* knobControl(const std::string& designator);
    QWidget* sourceControl(const Part& part);
    QWidget* lightControl(bool infrared);
    void rebuildSwitches();
    void refresh();
    Session& session_;
    SituationChips* chips_;
    QSlider *battery_, *warmth_;
    QLabel *battery_value_, *warmth_value_;
    QHBoxLayout* switches_;
    std::map<std::string, QCheckBox*> toggles_;
    struct Knob {
        QSlider* slider;
        QLabel* value;
    };
    std::map<std::string, Knob> knobs_;  ///< by designator, and "lux", "infrared"
    std::vector<std::string> shown_;     ///< what wanted() said when they were made
    QWidget* line_slot_;
};

}  // namespace elkit
