// The conditions grow with the circuit: each contact, knob, sensor and source has its control.
#include <QCheckBox>
#include <QPushButton>
#include <QSlider>

#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class Conditional : public Window {
  protected:
    QSlider* slider(const QString& name) {
        for (auto* s : window->findChildren<QSlider*>())
            if (s->accessibleName() == name && s->isVisibleTo(window)) return s;
        return nullptr;
    }
    const Conditions& conditions() const { return window->session().conditions(); }
    double volts(const char* net) { return op().voltage(net); }
};

TEST_F(Conditional, ALightSensorGetsALightControl) {
    EXPECT_EQ(slider("Light"), nullptr) << "nothing here sees light";
    say("ldr1 ldr a V+ b M");
    say("r9 10k from M to gnd");
    QSlider* light = slider("Light");
    ASSERT_NE(light, nullptr);
    light->setValue(0);
    EXPECT_NEAR(conditions().lux, 1, 1e-9);
    const double dark = volts("M");
    light->setValue(40);
    EXPECT_NEAR(conditions().lux, 1e4, 1);
    EXPECT_GT(volts("M"), dark + 0.5) << "more light, less resistance";
    EXPECT_EQ(slider("Infrared"), nullptr);
    say("lux 50");
    EXPECT_EQ(light->value(), 17) << "tenths of a decade";
    say("delete ldr1");
    EXPECT_EQ(slider("Light"), nullptr) << "gone with its sensor";
}

TEST_F(Conditional, APhototransistorGetsInfraredToo) {
    say("q9 phototransistor c V+ e M");
    say("r9 10k from M to gnd");
    QSlider* infrared = slider("Infrared");
    ASSERT_NE(infrared, nullptr);
    const double before = volts("M");
    infrared->setValue(20);
    EXPECT_NEAR(conditions().infrared, 100, 1e-6);
    EXPECT_GT(volts("M"), before + 1);
    infrared->setValue(infrared->minimum());
    EXPECT_EQ(conditions().infrared, 0) << "the lowest place is none at all";
}

TEST_F(Conditional, AThermistorFollowsTheWarmth) {
    say("th1 10k from V+ to M");
    say("r9 10k from M to gnd");
    const double mild = volts("M");
    slider("Warmth")->setValue(50);
    EXPECT_GT(volts("M"), mild + 0.5);
}

TEST_F(Conditional, ASourceGetsALevel) {
    say("ps1 supply + EXT - gnd");
    say("r9 100 from EXT to gnd");
    QSlider* level = slider("level of PS1");
    ASSERT_NE(level, nullptr);
    EXPECT_EQ(level->value(), 100);
    EXPECT_NEAR(volts("EXT"), 5, 0.05);
    level->setValue(50);
    EXPECT_NEAR(volts("EXT"), 2.5, 0.05);
    say("ps1 at 4");
    EXPECT_NEAR(volts("EXT"), 4, 0.05);
    EXPECT_EQ(level->value(), 80);
    for (auto* b : window->findChildren<QPushButton*>())
        if (b->accessibleName() == "reset all conditions") QTest::mouseClick(b, Qt::LeftButton);
    EXPECT_NEAR(volts("EXT"), 5, 0.05);
}

TEST_F(Conditional, ASwitchIsTurnedByMouseKeyAndWord) {
    auto* lever = window->findChild<QCheckBox*>("switch S1");
    ASSERT_NE(lever, nullptr);
    EXPECT_TRUE(lever->isChecked());
    QTest::mouseClick(lever, Qt::LeftButton);
    EXPECT_LT(volts("LAMP"), 3.9);
    lever->setFocus();
    QTest::keyClick(lever, Qt::Key_Space);
    EXPECT_GT(volts("LAMP"), 4);
    say("s1 off");
    EXPECT_FALSE(lever->isChecked());
    say("press s1");
    EXPECT_TRUE(lever->isChecked());
}

TEST_F(Conditional, AnUnreadableConditionIsRefusedAndChangesNothing) {
    const Conditions before = conditions();
    for (const char* line : {"lux many", "lux -5", "s9 on", "press r1", "temperature 900", "battery 140 %"}) {
        say(line);
        EXPECT_EQ(conditions(), before) << line;
        QTest::keyClick(window->doPanel()->line(), Qt::Key_Escape);
    }
}

}  // namespace
}  // namespace elkit::test
