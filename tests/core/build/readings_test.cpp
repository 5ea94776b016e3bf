// The bands of a good unit's readings against cases worked by hand.
#include "build/readings.hpp"

#include <gtest/gtest.h>

#include "build/steps.hpp"
#include "catalogue/catalogue.hpp"
#include "store/store.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Figure volts_between(const Circuit& c, const std::string& red, const std::string& black) {
    Store store;
    const auto readings = Readings::solve(Ask(store), Keyed<Circuit>(c), lit(c, {}));
    EXPECT_TRUE(readings);
    return readings ? readings.value().between(red, black, "id", "label") : Figure{};
}

TEST(Readings, AllowTheMeterOnePercentAndTwoCounts) {
    // an even divider on a stiff supply: no part of it spreads the middle
    const Figure f = volts_between(circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0",
                                            "resistor R1 a=V b=M value=1000 tolerance=0.05",
                                            "resistor R2 a=M b=0 value=1000 tolerance=0.05"}),
                                   "M", "0");
    EXPECT_NEAR(f.value, 2.5, 1e-5);
    EXPECT_NEAR(*f.low, 2.5 - (0.025 + 0.01), 1e-5);
    EXPECT_NEAR(*f.high, 2.5 + (0.025 + 0.01), 1e-5);
}

TEST(Readings, OfWhatRestsOrSwingsAreAnnounced) {
    const auto texts = [](const Circuit& c) {
        const auto steps = ask(StepsQuery{c, {}, false, {}});
        EXPECT_TRUE(steps);
        std::map<std::string, std::string> by_title;
        for (const BuildStep& s : steps.value()) by_title[s.title] = s.text;
        return by_title;
    };
    auto idle = texts(
        circuit({"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=150", "led L1 a=A k=0",
                 "resistor R2 a=0 b=X value=1000", "capacitor C1 a=V b=X value=1e-7"}));
    EXPECT_TRUE(idle["Voltage across R2"].starts_with("About zero is right")) << idle["Voltage across R2"];
    EXPECT_TRUE(idle["Voltage across R1"].starts_with("Zero:")) << idle["Voltage across R1"];
    auto slow = texts(astable(9, 10e3, 470e3, 1e-6));
    EXPECT_NE(slow["Voltage across R1"].find("to and fro"), std::string::npos) << slow["Voltage across R1"];
}

TEST(Readings, SpreadWithTheToleranceOfTheResistors) {
    Store store;
    const auto r = Readings::solve(Ask(store),
                                   circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0",
                                            "resistor R1 a=V b=0 value=100 tolerance=0.05"}),
                                   {});
    ASSERT_TRUE(r);
    const Figure f = r.value().supply_current("id");
    EXPECT_NEAR(f.value, 0.05, 1e-5);
    EXPECT_NEAR(*f.low, 0.05 / 1.05 - 0.01 * 0.05 - 1e-4, 2e-6);
    EXPECT_NEAR(*f.high, 0.05 / 0.95 + 0.01 * 0.05 + 1e-4, 2e-6);
}

TEST(Readings, SpreadWithCellsFromEightyFivePercentToFresh) {
    const Figure f = volts_between(
        circuit({"battery B1 +=V -=0 cell=LR6 count=3 lead_length=0", "resistor R1 a=V b=0 value=1e6"}), "V",
        "0");
    const Curve& open = known_catalogue().cell("LR6")->open_circuit;
    EXPECT_NEAR(f.value, 3 * open.at(0.95), 1e-4);
    const double slack = 0.01 * f.value + 0.01;
    EXPECT_NEAR(*f.low, 3 * open.at(0.85) - slack, 1e-4);
    EXPECT_NEAR(*f.high, 3 * open.at(1) + slack, 1e-4);
}

TEST(Readings, OfAnLedReachFromItsLowBinToItsHigh) {
    const auto c = circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0",
                            "resistor R1 a=V b=A value=150 tolerance=0", "led L1 a=A k=0 type=red-5mm"});
    const Figure f = volts_between(c, "A", "0");
    const double slack = 0.01 * f.value + 0.01;
    EXPECT_NEAR(*f.low, solve(c, {}, {-1, 0, 0}).voltage("A") - slack, 1e-6);
    EXPECT_NEAR(*f.high, solve(c, {}, {1, 0, 0}).voltage("A") + slack, 1e-6);
}

TEST(Steps, MeasureAResistorWithinItsToleranceAndTheCellsTheRightWayRound) {
    Design d = pier_lantern();
    d.circuit.find("R1")->params["tolerance"] = 0.02;
    const auto steps = ask(StepsQuery{d.circuit, d.board, false});
    ASSERT_TRUE(steps);
    const auto check = [&](const std::string& id) -> Figure {
        for (const BuildStep& s : steps.value())
            if (s.id == id && s.check && s.check->expected) return *s.check->expected;
        ADD_FAILURE() << "no expected reading at " << id;
        return {};
    };
    const Figure ohms = check("measure.R1");
    const double value = d.circuit.find("R1")->number("value");
    EXPECT_NEAR(*ohms.low, 0.98 * value, 1e-9);
    EXPECT_NEAR(*ohms.high, 1.02 * value, 1e-9);
    EXPECT_NEAR(check("volts.supply").value, solve(d.circuit, {0.95, 21, {}}).part("B1").voltage, 1e-6);
    EXPECT_GT(check("volts.supply").value, 0) << "red on plus";
}

}  // namespace
}  // namespace elkit::test
