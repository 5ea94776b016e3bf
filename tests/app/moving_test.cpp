// What the window says of circuits that do not rest, and how long work there is stopped.
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QTabWidget>
#include <QTableWidget>

#include "app/stations/circuit/circuit_station.hpp"
#include "app/stations/circuit/goal_chooser.hpp"
#include "app/stations/circuit/meter_panel.hpp"
#include "app/stations/circuit/spread_panel.hpp"
#include "app/stations/circuit/sweep_panel.hpp"
#include "app/stations/circuit/time_lane.hpp"
#include "app/stave/stave_widget.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class Moving : public CircuitWindow {
  protected:
    template <class Panel>
    QPushButton* button(Panel* panel, const QString& text) {
        for (auto* b : panel->template findChildren<QPushButton*>())
            if (b->text() == text) return b;
        return nullptr;
    }
};

class MovingAnew : public Moving {  // what is stopped must not be there already
  protected:
    std::shared_ptr<Store> store() override { return nullptr; }
};

TEST_F(Moving, AveragesStandWhereAStateOfRestWouldMislead) {
    open("harbour-dimmer");
    const auto run = ask(window->session().freshRunQuery());
    ASSERT_TRUE(run && run->moves());
    window->showStation("light");
    settle();
    const auto figure = [&](const char* name) {
        auto* shown = window->station("light")->findChild<FigureLabel*>(name);
        return shown && !shown->isHidden() ? shown->figure() : Figure{};
    };
    EXPECT_NEAR(figure("average").value, run->mean().part("L1").current, 1e-9);
    EXPECT_GT(figure("average").working.size(), 1u);
    EXPECT_NEAR(figure("currentNow").value, run->lasting("L1", "a"), 1e-4) << "while it is on";
    const auto power = ask(window->session().powerQuery());
    ASSERT_TRUE(power);
    EXPECT_NEAR(power->typical.samples.front().amps, run->mean().supply_current(), 1e-4);
}

TEST_F(Moving, LightsInsideOtherPartsAreShownToo) {
    Design d = pier_lantern();
    d.blocks.clear();
    d.circuit = circuit({"supply PS1 +=V -=0 voltage=12", "strip LS1 +=V -=0 length=0.1"});
    window->session().edit(d, "entered");
    window->showStation("light");
    settle();
    auto* list = window->station("light")->findChild<QWidget*>("inside");
    ASSERT_NE(list, nullptr);
    std::vector<double> amps;
    for (auto* f : list->findChildren<FigureLabel*>()) amps.push_back(f->figure().value);
    const auto light = ask(window->session().lightQuery());
    ASSERT_TRUE(light);
    ASSERT_EQ(amps.size(), light->inside.size());
    ASSERT_EQ(amps.size(), 1u);
    EXPECT_NEAR(amps[0], 0.0357, 0.002) << "two rows of three behind 150 Ω";
    EXPECT_FALSE(list->isHidden());
    window->session().edit(pier_lantern(), "entered");
    settle();
    EXPECT_TRUE(list->isHidden());
}

TEST_F(Moving, TheKnobChangesTheAverage) {
    open("harbour-dimmer");
    const double before = ask(window->session().runQuery())->steady().mean_current;
    Conditions c = window->session().conditions();
    c.knobs["RV1"] = 0.1;
    window->session().setConditions(c);
    const auto shown = window->session().ask(window->session().runQuery());
    if (shown.current()) {  // it may be there already
        EXPECT_LT(shown->steady().mean_current, 0.6 * before) << "what was known is of another knob";
    }
    settle();
    EXPECT_LT(ask(window->session().runQuery())->steady().mean_current, 0.6 * before);
}

TEST_F(MovingAnew, TheMeterAveragesOffTheInterfaceThread) {
    auto* station = open("harbour-dimmer");
    station->tabs()->setCurrentWidget(station->meter());
    station->meter()->probe("GATE", true);
    station->meter()->probe("GND", false);
    ASSERT_TRUE(QTest::qWaitFor([&] { return !station->meter()->measuring(); }, 20000));
    const double shown = station->meter()->findChild<FigureLabel*>()->figure().value;
    EXPECT_NEAR(shown, 2.28, 0.1) << "about half of the supply at half a turn";
}

TEST_F(Moving, PlayingGoesOnAndPauses) {
    auto* station = open("twin-blinker");
    TimeLane* lane = station->timeLane();
    station->tabs()->setCurrentWidget(lane);
    lane->record(1);
    ASSERT_TRUE(QTest::qWaitFor([&] { return lane->recording() != nullptr; }, 20000));
    auto* head = lane->findChild<QSlider*>();
    head->setValue(0);
    auto* play = button(lane, "Play");
    ASSERT_NE(play, nullptr);
    QTest::mouseClick(play, Qt::LeftButton);
    EXPECT_EQ(play->text(), "Pause");
    ASSERT_TRUE(QTest::qWaitFor([&] { return head->value() > 5; }, 5000));
    QTest::mouseClick(play, Qt::LeftButton);
    const int stopped = head->value();
    QTest::qWait(80);
    EXPECT_EQ(head->value(), stopped);
    QComboBox* speed = nullptr;
    for (auto* box : lane->findChildren<QComboBox*>())
        if (box->accessibleName() == "speed of playing") speed = box;
    ASSERT_NE(speed, nullptr);
    speed->setCurrentIndex(speed->findData(1e6));
    QTest::mouseClick(play, Qt::LeftButton);
    QTest::qWait(120);
    EXPECT_LE(head->value(), stopped + 1) << "a million times slower stands as good as still";
    QTest::mouseClick(play, Qt::LeftButton);
}

TEST_F(MovingAnew, LongWorkIsStoppedByItsButton) {
    auto* station = open("firefly-jar");
    TimeLane* lane = station->timeLane();
    station->tabs()->setCurrentWidget(lane);
    lane->record(0.5);  // thousands of cycles
    auto* stop = button(lane, "Stop");
    ASSERT_NE(stop, nullptr);
    QTest::mouseClick(stop, Qt::LeftButton);
    EXPECT_FALSE(lane->recordingNow());
    EXPECT_NE(button(lane, "Record"), nullptr);
    SpreadPanel* spread = station->spreadPanel();
    station->tabs()->setCurrentWidget(spread);
    spread->start();
    ASSERT_TRUE(spread->running());
    QTest::mouseClick(button(spread, "Stop"), Qt::LeftButton);
    EXPECT_FALSE(spread->running());
    EXPECT_FALSE(spread->result());
    SweepPanel* sweep = station->sweepPanel();
    station->tabs()->setCurrentWidget(sweep);
    sweep->start();
    QTest::mouseClick(button(sweep, "Stop"), Qt::LeftButton);
    EXPECT_FALSE(sweep->running());
}

TEST_F(Moving, ALevelIsReachedAfterItsTime) {
    auto* station = open("twin-blinker");
    TimeLane* lane = station->timeLane();
    station->tabs()->setCurrentWidget(lane);
    lane->record(1);
    ASSERT_TRUE(QTest::qWaitFor([&] { return lane->recording() != nullptr; }, 20000));
    QLineEdit* level = nullptr;
    for (auto* e : lane->findChildren<QLineEdit*>())
        if (e->accessibleName() == "level to reach") level = e;
    ASSERT_NE(level, nullptr);
    level->setFocus();
    QTest::keyClicks(level, "0.3");
    QTest::keyClick(level, Qt::Key_Return);
    bool found = false;
    for (auto* f : lane->findChildren<FigureLabel*>())
        if (f->figure().id.ends_with(".reaches") && f->isVisible()) found = true;
    EXPECT_TRUE(found);
}

TEST_F(Moving, AWrongGoalIsSaidAndNothingRuns) {
    auto* station = open("pier-lantern");
    SweepPanel* sweep = station->sweepPanel();
    station->tabs()->setCurrentWidget(sweep);
    sweep->goal()->choose("NOWHERE", "mean");
    sweep->start();
    EXPECT_FALSE(sweep->running());
    bool said = false;
    for (auto* l : sweep->findChildren<QLabel*>()) said = said || l->text().contains("NOWHERE");
    EXPECT_TRUE(said);
    sweep->goal()->choose("L1", "period");
    sweep->vary("battery");
    sweep->start();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !sweep->running(); }, 20000));
    said = false;
    for (auto* l : sweep->findChildren<QLabel*>()) said = said || l->text().contains("does not repeat");
    EXPECT_TRUE(said) << "what rests has no period, and the panel says so";
}

TEST_F(Moving, ThePlotsFollowTheTheme) {
    auto* station = open("pier-lantern");
    SpreadPanel* spread = station->spreadPanel();
    station->tabs()->setCurrentWidget(spread);
    spread->goal()->choose("L1", "mean");
    spread->start();
    ASSERT_TRUE(QTest::qWaitFor([&] { return spread->result().has_value(); }, 20000));
    const QImage light = spread->grab().toImage();
    apply_theme(true);
    settle();
    QApplication::processEvents();
    EXPECT_LT(qGray(spread->grab().toImage().pixel(30, 60)), qGray(light.pixel(30, 60)));
    apply_theme(false);
}

TEST_F(Moving, ARowIsDeletedAndTheStaveFollows) {
    auto* station = open("pier-lantern");
    station->tabs()->setCurrentWidget(station->table());
    station->table()->setFocus();
    station->table()->setCurrentCell(2, 0);
    const QString part = station->table()->item(2, 0)->text();
    QTest::keyClick(station->table(), Qt::Key_Delete);
    settle();
    EXPECT_EQ(design().circuit.find(part.toStdString()), nullptr);
    window->action("undo")->trigger();
    settle();
    EXPECT_NE(design().circuit.find(part.toStdString()), nullptr);
}

TEST_F(Moving, FindingsOfCircuitsOfferTheirRemedy) {
    open("harbour-dimmer");
    say("delete c2");
    settle();
    const Finding* capacitor = nullptr;
    for (const Finding& f : window->session().findings())
        if (f.rule == "supply-capacitor") capacitor = &f;
    ASSERT_NE(capacitor, nullptr);
    ASSERT_FALSE(capacitor->remedies.empty());
    auto next = capacitor->remedies.front().apply(design());
    ASSERT_TRUE(next);
    window->session().edit(next.value(), "remedy");
    settle();
    for (const Finding& f : window->session().findings()) EXPECT_NE(f.rule, "supply-capacitor");
}

}  // namespace
}  // namespace elkit::test
