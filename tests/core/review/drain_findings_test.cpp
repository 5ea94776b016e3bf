// Dividers that drain and minuses that are apart: raised, cured, and quiet elsewhere.
#include <gtest/gtest.h>

#include <algorithm>

#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "design/demo.hpp"
#include "review/findings.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/recipes.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {
using namespace std::string_literals;

/// A dark lamp's comparator with a divider of so many ohms as its reference.
Design reference_of(const char* ohms) {
    Design d;
    d.circuit = circuit({"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=REF value="s + ohms,
                         "resistor R2 a=REF b=0 value="s + ohms, "resistor R3 a=V b=S value=1e6",
                         "thermistor TH1 a=S b=0 value=1e6",
                         "comparator U1 in+=S in-=REF out=OUT vcc=V gnd=0 type=comparator-cmos",
                         "resistor R4 a=OUT b=A value=1000", "led L1 a=A k=0 type=red-5mm"});
    return d;
}

TEST(DividerDrain, IsToldWithWhatItCostsAndMadeTenTimesAsLarge) {
    Design d = reference_of("10000");
    auto found = findings(d, "divider-drain");
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NE(found[0].title.find("R1 and R2"), std::string::npos) << found[0].title;
    ASSERT_FALSE(found[0].remedies.empty());
    auto cured = found[0].remedies[0].apply(d);
    ASSERT_TRUE(cured) << cured.error().text();
    EXPECT_EQ(cured.value().circuit.find("R1")->number("value"), 100e3);
    EXPECT_EQ(cured.value().circuit.find("R2")->number("value"), 100e3);
    EXPECT_TRUE(findings(cured.value(), "divider-drain").empty());
    EXPECT_TRUE(findings(reference_of("1e6"), "divider-drain").empty());
}

TEST(DividerDrain, IsJudgedWhileItWaitsAndNotOnASupplyThatDoesNotEmpty) {
    Design d = reference_of("10000");
    for (Part& part : d.circuit.parts)
        if (part.designator != "B1")
            for (Pin& pin : part.pins)
                if (pin.net == "V") pin.net = "ON";
    d.circuit.parts.push_back(circuit({"switch S1 a=V b=ON"}).parts[0]);
    Design plugged = reference_of("10000");
    plugged.circuit.find("B1")->params["cell"] = "USB"s;
    plugged.circuit.find("B1")->params["count"] = 1.0;
    EXPECT_TRUE(findings(plugged, "divider-drain").empty());
    // switched off it takes nothing; on, it still waits, and that is what is judged
    EXPECT_EQ(findings(d, "divider-drain").size(), 1u);
}

TEST(GroundsApart, IsToldWhereSignalsGoBetweenTwoSupplies) {
    Design d;
    d.circuit = circuit({"battery B1 +=V -=0 cell=LR6 count=3", "battery B2 +=W -=GND2 cell=LR6 count=4",
                         "controller_8 U1 vcc=V gnd=0 P0=OUT", "resistor R1 a=OUT b=GATE value=220",
                         "resistor R2 a=GATE b=GND2 value=100e3", "nmos Q1 d=LAMP g=GATE s=GND2",
                         "resistor R3 a=W b=A value=220", "led L1 a=A k=LAMP type=red-5mm"});
    const auto found = findings(d, "grounds-apart");
    ASSERT_EQ(found.size(), 1u);
    const auto joined = found[0].remedies[0].apply(d);
    ASSERT_TRUE(joined) << joined.error().text();
    EXPECT_EQ(joined.value().circuit.find("Q1")->net("s"), "0");
    EXPECT_TRUE(findings(joined.value(), "grounds-apart").empty());
    // a relay's contact has nothing to do with its coil
    Design apart;
    apart.circuit =
        circuit({"battery B1 +=V -=0 cell=LR6 count=4", "battery B2 +=W -=GND2 cell=LR6 count=3",
                 "button S1 a=V b=C", "relay K1 coil+=C coil-=0 common=W no=LAMP", "diode D1 a=0 k=C",
                 "resistor R3 a=LAMP b=A value=220", "led L1 a=A k=GND2 type=red-5mm"});
    EXPECT_TRUE(findings(apart, "grounds-apart").empty());
    // cells in a row, and a supply for below the ground
    Design stacked;
    stacked.circuit = circuit({"battery B1 +=V -=0 cell=LR6 count=2", "battery B2 +=0 -=NEG cell=LR6 count=2",
                               "resistor R1 a=V b=A value=220", "led L1 a=A k=NEG type=red-5mm"});
    EXPECT_TRUE(findings(stacked, "grounds-apart").empty());
}

TEST(DrainFindings, AreRaisedByNoRecipeAndNoDemo) {
    for (const Demo& each : demos())
        for (const char* rule : {"divider-drain", "grounds-apart"})
            EXPECT_TRUE(findings(demo(each.id), rule).empty()) << each.id << ": " << rule;
    for (const Recipe& recipe : recipes()) {
        const auto d = made(recipe.id.c_str(), {});
        if (!d) continue;
        for (const auto& f : findings(d.value(), "divider-drain"))
            ADD_FAILURE() << recipe.id << ": " << f.title;
    }
}

TEST(TouchOutput, IsToldWhenItGivesMoreThanItMay) {
    Design d = made("touch-light", {{"current", 0.005}}).value();
    Circuit changed = d.circuit;
    for (Part& part : changed.parts)
        if (is(part, Role::resistor)) part.params["value"] = 22.0;
    d = with_circuit(d, changed);
    const auto found = findings(d, "part-rating");
    ASSERT_FALSE(found.empty());
    const auto goal = std::find_if(found[0].remedies.begin(), found[0].remedies.end(), [](const Remedy& r) {
        return r.label.find("transistor") != std::string::npos;
    });
    ASSERT_NE(goal, found[0].remedies.end()) << "the block is better made another way";
    const auto cured = goal->apply(d);
    ASSERT_TRUE(cured) << cured.error().text();
    EXPECT_TRUE(findings(cured.value(), "part-rating").empty());
}

}  // namespace
}  // namespace elkit::test
