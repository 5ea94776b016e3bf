// Results are asked for: what is only looked at starts nothing, and nothing is computed twice.
#include <QFile>

#include "app/shell/working_drawer.hpp"
#include "app/stations/station.hpp"
#include "app/stave/stave_widget.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "power/discharge.hpp"
#include "support/circuits.hpp"
#include "support/studies.hpp"
#include "window_fixture.hpp"

namespace elkit::test {
namespace {

class Asking : public CircuitWindow {
  protected:
    std::shared_ptr<Store> store() override { return nullptr; }
    void visitAll() {
        for (const StationInfo& info : stations()) {
            window->showStation(info.id);
            settle();
        }
    }
    std::size_t computed() { return window->session().store().computed(); }
};

TEST_F(Asking, EveryStationOfADemoComputesEachThingOnce) {
    std::vector<std::string> ids{"pier-lantern", "harbour-dimmer", "firefly-jar", "seat-finder"};
    if (in_depth()) ids.insert(ids.end(), {"coat-badge", "twin-blinker", "tide-pool-lamp"});
    for (const std::string& id : ids) {
        const Demo& demo = *find_demo(id);
        window->openDemo(QString::fromStdString(demo.id));
        settle();
        visitAll();
        EXPECT_EQ(window->session().store().repeated(), 0u) << demo.id;
        const std::size_t before = computed();
        visitAll();
        window->writeExport("leaflet", folder / (demo.id + ".pdf"));
        ASSERT_TRUE(written()) << demo.id << ": " << qPrintable(window->bannerText());
        EXPECT_LE(computed() - before, 1u) << demo.id << ": the leaflet alone was not there";
    }
}

TEST_F(Asking, LookingStartsNothing) {
    auto* station = open("harbour-dimmer");
    visitAll();
    window->showStation("circuit");
    settle();
    const auto before = window->session().store().counts();
    auto* stave = station->stave();
    for (const char* item : {"net:OUT", "part:R1", "part:U1"}) {
        const QRectF at = stave->itemRect(item);
        if (at.isNull()) continue;
        QTest::mouseMove(stave, at.center().toPoint());
        QTest::mouseClick(stave, Qt::LeftButton, {}, at.center().toPoint());
        settle();
    }
    Design next = design();
    next.name = "Another name";
    next.record_for("solder.R1").done = true;
    next.record_for("solder.R1").note = "took long";
    window->session().edit(next, "rename and tick");
    settle();
    for (const StationInfo& info : stations()) {
        window->showStation(info.id);
        settle();
    }
    EXPECT_EQ(window->session().store().counts(), before);
}

TEST_F(Asking, AConditionThatNoPartReadsStartsNothing) {
    window->openDemo("pier-lantern");  // no sensor in it
    settle();
    visitAll();
    const std::size_t before = computed();
    Conditions c = window->session().conditions();
    c.lux = 5000;
    window->session().setConditions(c);
    settle();
    EXPECT_EQ(computed(), before);
}

TEST_F(Asking, AChangeoverMovesTheRunTime) {
    Design d;
    d.circuit = circuit({"battery B1 +=V -=0 cell=LR6 count=3", "changeover S1 common=V a=A b=B",
                         "resistor R1 a=A b=LA value=100", "led L1 a=LA k=0",
                         "resistor R2 a=B b=LB value=1500", "led L2 a=LB k=0"});
    window->session().startNew(d);
    const double first = figure("power", "runTime").value;
    for (const bool on : {true, false}) {
        Conditions c;
        c.switches["S1"] = on;
        window->session().setConditions(c);
        const double hours = figure("power", "runTime").value;
        const auto own = power(d, c);
        ASSERT_TRUE(own);
        EXPECT_NEAR(hours, own.value().run_time.value, 1e-9) << on;
        EXPECT_EQ(window->station("power")->keyFigure().current, true);
    }
    Conditions other;
    other.switches["S1"] = true;
    window->session().setConditions(other);
    const double second = figure("power", "runTime").value;
    EXPECT_GT(std::max(first, second) / std::min(first, second), 5);
}

TEST_F(Asking, GoingBackFindsEverythingThere) {
    visitAll();
    const auto before = design();
    enter("light", "current", "8mA");
    visitAll();
    const auto after = window->session().store().counts();
    QTest::keyClick(window, Qt::Key_Z, Qt::ControlModifier);
    settle();
    EXPECT_EQ(design().circuit, before.circuit);
    visitAll();
    auto now = window->session().store().counts();
    now["stave layout"] =
        after.at("stave layout");  // drawn from the layout before, so that lines stay in place
    EXPECT_EQ(now, after) << "the design before is still in the store";
}

TEST_F(Asking, AnotherDesignDoesNotShowTheNumberOfTheLast) {
    auto* drawer = window->findChild<WorkingDrawer*>();
    ASSERT_NE(drawer, nullptr);
    window->session().focusFigure(stringCurrent());
    EXPECT_FALSE(drawer->text().isEmpty());
    window->openDemo("coat-badge");
    settle();
    EXPECT_TRUE(drawer->text().isEmpty());
}

TEST_F(Asking, ValuesAreSavedAsTheyWereTyped) {
    open("harbour-dimmer");
    for (const auto& [typed, kept] : std::map<QString, std::string>{
             {"100n", "1e-07"}, {"4.7u", "4.7e-06"}, {"330p", "3.3e-10"}, {"2.2u", "2.2e-06"}}) {
        say("c1 " + typed);
        const std::string text = write_design(design());
        EXPECT_NE(text.find("\"value\": " + kept), std::string::npos) << qPrintable(typed);
    }
}

}  // namespace
}  // namespace elkit::test
