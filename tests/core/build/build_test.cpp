#include <gtest/gtest.h>

#include <set>

#include "build/readings.hpp"
#include "build/steps.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

struct Built {
    Design design;
    Board board;
    std::vector<BuildStep> steps;
    const BuildStep& step(const std::string& id) const {
        for (const auto& s : steps)
            if (s.id == id) return s;
        ADD_FAILURE() << "no step " << id;
        return steps.front();
    }
    std::size_t at(const std::string& id) const { return static_cast<std::size_t>(&step(id) - steps.data()); }
};

Built build(const Design& d) {
    return {d, test::ask(BoardQuery{d.circuit, d.board}).value(),
            test::ask(StepsQuery{d.circuit, d.board, d.brief.for_children}).value()};
}

TEST(Steps, GoFromLowPartsToHighAndCloseLast) {
    const Built b = build(test::pier_lantern());
    EXPECT_LT(b.at("prepare.board"), b.at("solder.R1"));
    EXPECT_LT(b.at("solder.R2"), b.at("solder.S1"));
    EXPECT_LT(b.at("solder.S1"), b.at("solder.L1"));
    EXPECT_LT(b.at("solder.L4"), b.at("wire.B1"));
    EXPECT_LT(b.at("wire.B1"), b.at("beep.GND"));
    EXPECT_LT(b.at("silent.supply"), b.at("volts.supply"));
    EXPECT_EQ(b.steps.back().id, "close");
    EXPECT_NE(b.steps.back().text.find("no return"), std::string::npos);
}

TEST(Steps, HaveIdsOfTheirOwnForEveryPartAndNet) {
    const Built b = build(test::pier_lantern());
    std::set<std::string> ids;
    for (const auto& s : b.steps) EXPECT_TRUE(ids.insert(s.id).second) << s.id;
    for (const Part& p : b.design.circuit.parts)
        EXPECT_TRUE(ids.contains((p.kind == "battery" ? "wire." : "solder.") + p.designator)) << p.designator;
    for (const auto& net : b.design.circuit.nets()) EXPECT_TRUE(ids.contains("beep." + net)) << net;
}

TEST(Steps, SayPolarityAndCautionWhereTheyBelong) {
    const Built b = build(test::coat_badge());
    EXPECT_NE(b.step("solder.L1").polarity.find("Long leg"), std::string::npos);
    EXPECT_NE(b.step("solder.L1").caution.find("do not stare"), std::string::npos);
    EXPECT_NE(b.step("volts.supply").caution.find("swallowed"), std::string::npos);
    EXPECT_NE(b.step("trim").caution.find("glasses"), std::string::npos);
    EXPECT_NE(b.step("wire.B1").polarity.find("Red"), std::string::npos);
}

TEST(Steps, NameTheHolesOfTheLayout) {
    const Built b = build(test::pier_lantern());
    for (const auto& pin : b.board.pins)
        if (pin.designator == "R1") {
            EXPECT_NE(b.step("solder.R1").text.find(pin.place), std::string::npos);
        }
}

TEST(Readings, EncloseEveryCornerOfTheEngine) {
    const Built b = build(test::pier_lantern());
    for (const double charge : {0.85, 0.95, 1.0})
        for (const double bin : {-1.0, 0.0, 1.0}) {
            const auto op = test::solve(b.design.circuit, {charge, 21, {}}, {bin, -bin, 0});
            const Figure &led = *b.step("volts.L1").check->expected,
                         &amps = *b.step("amps.supply").check->expected;
            EXPECT_GE(op.part("L1").voltage, *led.low);
            EXPECT_LE(op.part("L1").voltage, *led.high);
            EXPECT_GE(op.supply_current(), *amps.low);
            EXPECT_LE(op.supply_current(), *amps.high);
        }
    EXPECT_FALSE(b.step("volts.L1").check->expected->working.empty());
}

TEST(Readings, FlagWhatLiesOutside) {
    const Built b = build(test::pier_lantern());
    const BuildStep& volts = b.step("volts.L1");
    EXPECT_EQ(judge(volts, nullptr), Reading::none);
    StepRecord r{
        .step = volts.id, .note = {}, .measured = volts.check->expected->value, .time = {}, .extra = {}};
    EXPECT_EQ(judge(volts, &r), Reading::within);
    r.measured = 4.7;
    EXPECT_EQ(judge(volts, &r), Reading::outside);
    r.measured = 0.0;
    EXPECT_EQ(judge(b.step("beep.GND"), &r), Reading::outside) << "a net that must beep was silent";
    EXPECT_EQ(judge(b.step("silent.supply"), &r), Reading::within);
    r.measured = 1.0;
    EXPECT_EQ(judge(b.step("silent.supply"), &r), Reading::outside);
}

}  // namespace
}  // namespace elkit
