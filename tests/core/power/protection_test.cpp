#include "power/protection.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "design/file.hpp"
#include "embedded.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

const ProtectionWay& way(const Protection& all, const std::string& id) {
    for (const ProtectionWay& w : all.ways)
        if (w.id == id) return w;
    ADD_FAILURE() << id;
    return all.ways.front();
}

TEST(Protection, CostsVoltsAndHours) {
    const Protection all = test::ask(ProtectionQuery{test::pier_lantern(), {}}).value();
    EXPECT_EQ(way(all, "as-is").drop.value, 0);
    EXPECT_NEAR(way(all, "schottky").drop.value, 0.28, 0.1) << "V of a Schottky diode at 20 mA";
    EXPECT_NEAR(way(all, "silicon").drop.value, 0.7, 0.12);
    EXPECT_LT(way(all, "pmos").drop.value, 0.01);
    EXPECT_GT(way(all, "pmos").drop.value, 0) << "its channel has a resistance";
    EXPECT_LT(way(all, "schottky").reversed.value, 1e-3);
    EXPECT_LT(way(all, "pmos").reversed.value, 1e-3);
    EXPECT_NE(way(all, "silicon").remark.find("% of the current is left"), std::string::npos)
        << "dimmer, so it runs longer";
    EXPECT_LT(way(all, "silicon").current.value, 0.8 * way(all, "as-is").current.value);
    EXPECT_EQ(way(all, "keyed").run_time.value, way(all, "as-is").run_time.value);
}

TEST(Protection, ReversedCellsAreComputedNotAssumed) {
    Design d = test::pier_lantern();  // a bare resistor across the cells takes its current either way
    Part load;
    load.kind = "resistor", load.designator = "R9", load.params["value"] = 100.0;
    const Part& source = *d.circuit.source();
    load.pins = {{"a", source.pins[0].net}, {"b", source.pins[1].net}};
    d.circuit.parts.push_back(load);
    const Protection all = test::ask(ProtectionQuery{d, {}}).value();
    EXPECT_NEAR(way(all, "as-is").reversed.value, 4.8 / 100, 0.003);
    EXPECT_LT(way(all, "silicon").reversed.value, 1e-4);
    EXPECT_LT(way(all, "pmos").reversed.value, 1e-4);
}

TEST(Protection, ChipsAreNotPromisedToSurvive) {
    const Design d = read_design(embedded::demo_harbour_dimmer).value();
    const Protection all = test::ask(ProtectionQuery{d, {}}).value();
    EXPECT_TRUE(std::isnan(way(all, "as-is").reversed.value)) << "their models hold for one polarity";
    EXPECT_NE(way(all, "as-is").remark.find("destroy"), std::string::npos) << way(all, "as-is").remark;
    EXPECT_LT(way(all, "pmos").reversed.value, 1e-3);
}

TEST(Protection, AFuseHoldsInUseAndOpensOnAShort) {
    const Protection all = test::ask(ProtectionQuery{test::pier_lantern(), {}}).value();
    ASSERT_FALSE(all.fuses.empty());
    const FuseWay& best = all.fuses.front();
    EXPECT_TRUE(best.holds && best.opens) << best.remark;
    EXPECT_NEAR(best.drop.value, 2.5 * 0.0233, 0.003) << "100 mA: 2.5 Ω";
    const Protection badge = test::ask(ProtectionQuery{test::coat_badge(), {}}).value();
    for (const FuseWay& fuse : badge.fuses)
        EXPECT_FALSE(fuse.opens) << "a coin cell gives too little for " << fuse.name;
}

TEST(Protection, APowerBankSwitchesItselfOff) {
    Design d = test::pier_lantern();
    d.circuit.find("B1")->params["cell"] = std::string("USB");
    d.circuit.find("B1")->params["count"] = 1.0;
    const Protection all = test::ask(ProtectionQuery{d, {}}).value();
    ASSERT_EQ(all.cautions.size(), 1u);
    EXPECT_NE(all.cautions[0].find("power bank"), std::string::npos);
    EXPECT_FALSE(ProtectionQuery{}.compute(Ask(*std::make_unique<Store>()))) << "nothing to protect";
}

TEST(Protection, ALockForABareLithiumCell) {
    Design torch = test::demo("rock-pool-torch");
    torch.circuit.find("B1")->params["cell"] = std::string("INR19-66");
    ASSERT_FALSE(test::findings(torch, "lithium").empty());
    const Protection all = test::ask(ProtectionQuery{torch, {}}).value();
    const ProtectionWay& lock = way(all, "lock");
    ASSERT_TRUE(lock.circuit);
    EXPECT_NEAR(lock.drop.value, 0.05 * lock.current.value, 1e-3) << "0.05 Ω of its contacts";
    EXPECT_NE(lock.remark.find("2.40"), std::string::npos) << lock.remark;
    torch.circuit = *lock.circuit;
    EXPECT_TRUE(test::findings(torch, "lithium").empty());
    const Protection alkaline = test::ask(ProtectionQuery{test::pier_lantern(), {}}).value();
    for (const ProtectionWay& w : alkaline.ways) EXPECT_NE(w.id, "lock") << "alkaline cells need none";
}

}  // namespace
}  // namespace elkit
