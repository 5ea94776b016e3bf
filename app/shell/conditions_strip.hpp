#pragma once
#include <QWidget>
#include <array>
#include <functional>
#include <map>

#include "engine/conditions.hpp"

class QCheckBox;
class QHBoxLayout;
class QLabel;
class QSlider;

namespace elkit {

class ConditionGroup;
class Session;
class SituationChips;

/// Battery, warmth and the design's switches, knobs and sensors, always in view; every number follows while a
/// slider moves. What has no room in the row stands behind a button for its group.
class ConditionsStrip : public QWidget {
    Q_OBJECT
  public:
    explicit ConditionsStrip(Session& session, QWidget* parent = nullptr);
    SituationChips& chips() { return *chips_; }

  signals:
    void doAsked();  ///< the button of the do-anything panel

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    enum Group { switches, knobs, sensors, groups };
    struct Control {
        QWidget* widget;
        Group group;
    };
    void buildHead(QHBoxLayout* head);
    void arrange();
    int widthOf(const std::vector<Control>& controls) const;
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
    QHBoxLayout *row_, *switches_;
    std::vector<Control> controls_;
    std::array<ConditionGroup*, groups> behind_{};  ///< for what has no room in the row
    std::map<std::string, QCheckBox*> toggles_;
    struct Knob {
        QSlider* slider;
        QLabel* value;
    };
    std::map<std::string, Knob> knobs_;  ///< by designator, and "lux", "infrared"
    std::vector<std::string> shown_;     ///< what wanted() said when they were made
};

}  // namespace elkit
