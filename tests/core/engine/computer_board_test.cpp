// Boards whose pins have volts of their own.
#include <gtest/gtest.h>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "engine/operating_point.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Circuit board(const std::string& behaviour, const std::string& volts = "5") {
    Circuit c = circuit({"supply PS1 +=V -=0 lead_length=0 resistance=0.1 max_current=2 voltage=" + volts,
                         "computer_board U1 vcc=V gnd=0 P0=OUT P1=IN", "resistor R1 a=OUT b=0 value=330",
                         "button S1 a=IN b=0"});
    c.find("U1")->params["behaviour"] = behaviour;
    return c;
}
OperatingPoint resting(const Circuit& c, const Conditions& conditions = {}) {
    const auto run = long_run(c, known_catalogue(), conditions);
    EXPECT_TRUE(run) << (run ? "" : run.error().text());
    return run.value().mean();
}

TEST(ComputerBoard, GivesItsOwnVoltsAndTakesTheSameCurrentFromItsSupply) {
    for (const char* volts : {"4.8", "5", "5.2"}) {
        const OperatingPoint op = resting(board("state a; P0 on", volts));
        const double amps = 3.3 / (330 + 50);
        EXPECT_NEAR(op.voltage("OUT"), 330 * amps, 1e-3) << volts;
        const double own = 0.15 * op.voltage("V") / 5;
        EXPECT_NEAR(op.supply_current(), own + amps, 1e-4) << volts;
    }
    const OperatingPoint low = resting(board("state a; P0 off; press P1 to b; state b; P0 on"));
    EXPECT_NEAR(low.voltage("OUT"), 0, 1e-6);
    EXPECT_NEAR(low.voltage("IN"), 3.3, 1e-2) << "its pull-up goes to the same volts";
    EXPECT_NEAR(resting(board("state a; P0 on", "4.3")).voltage("OUT"), 0, 1e-3) << "too little to run on";
}

TEST(ComputerBoard, SeesWhatIsHighAgainstItsOwnVolts) {
    // 2.2 V is high for pins of 3.3 V, and would not be for pins of 5 V
    for (const auto& [level, high] : {std::pair("2.2", true), {"1.2", false}}) {
        Circuit c = board("state a; P0 off; high P1 to b; state b; P0 on; low P1 to a");
        std::erase_if(c.parts, [](const Part& p) { return p.designator == "S1"; });
        const Circuit source = circuit({"vsource V1 +=IN -=0 value=" + std::string(level)});
        c.parts.push_back(source.parts[0]);
        EXPECT_EQ(resting(c).voltage("OUT") > 1, high) << level;
    }
}

TEST(ComputerBoard, IsWarnedOfFiveVoltsAtAPin) {
    Design d;
    d.circuit = board("state a; P0 off; high P1 to b; state b; P0 on; low P1 to a");
    EXPECT_TRUE(findings(d, "part-rating").empty());
    std::erase_if(d.circuit.parts, [](const Part& p) { return p.designator == "S1"; });
    d.circuit.parts.push_back(circuit({"resistor R2 a=V b=IN value=1000"}).parts[0]);
    const auto found = findings(d, "part-rating");
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NE(found[0].title.find("P1"), std::string::npos) << found[0].title;
    // a divider brings it down
    d.circuit.parts.push_back(circuit({"resistor R3 a=IN b=0 value=1800"}).parts[0]);
    EXPECT_TRUE(findings(d, "part-rating").empty());
}

}  // namespace
}  // namespace elkit::test
