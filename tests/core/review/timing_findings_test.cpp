// Timing parts beyond what a timer can do, and gates that are driven too little.
#include <gtest/gtest.h>

#include <algorithm>
#include <optional>

#include "design/demo.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/recipes.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {
using namespace std::string_literals;

Design wired(const std::vector<std::string>& lines) {
    Design d;
    d.circuit = circuit(lines);
    return d;
}

/// A flasher with these timing parts.
Design flasher(const std::string& charging, const std::string& discharging, const std::string& capacitor) {
    return wired({"battery B1 +=V -=0 cell=LR6 count=4",
                  "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V reset=V type=timer-cmos",
                  "resistor R1 a=V b=D value=" + charging, "resistor R2 a=D b=T value=" + discharging,
                  capacitor, "resistor R3 a=OUT b=A value=680", "led L1 a=A k=0"});
}

/// The finding of a rule on a part, if it is there; each of its remedies makes it fall silent.
std::optional<Finding> cured(const Design& d, const std::string& rule, const std::string& part) {
    for (const Finding& f : findings(d, rule)) {
        if (f.ref != "part:" + part) continue;
        EXPECT_FALSE(f.remedies.empty());
        for (const Remedy& remedy : f.remedies) {
            const auto next = remedy.apply(d);
            EXPECT_TRUE(next) << remedy.label;
            if (!next) continue;
            for (const Finding& still : findings(next.value(), rule))
                EXPECT_NE(still.ref, f.ref) << remedy.label << ": " << still.title;
        }
        return f;
    }
    return std::nullopt;
}

TEST(TimingFindings, AResistorMustNotBeTooLargeOrTooSmall) {
    const std::string film = "capacitor C1 a=T b=0 value=1e-7";
    EXPECT_TRUE(findings(flasher("10000", "470000", film), "timing-resistor").empty());
    const auto large = cured(flasher("10000", "22e6", film), "timing-resistor", "R2");
    ASSERT_TRUE(large);
    EXPECT_NE(large->title.find("too large"), std::string::npos) << large->title;
    EXPECT_TRUE(cured(flasher("330", "470000", film), "timing-resistor", "R1"));
    EXPECT_TRUE(cured(flasher("10000", "100", film), "timing-resistor", "R2"));
}

TEST(TimingFindings, ATimerThatOnlyRemembersHasNoTimingResistor) {
    const Design d =
        wired({"battery B1 +=V -=0 cell=LR6 count=4",
               "timer U1 gnd=0 trig=S out=OUT reset=R thr=0 vcc=V type=timer-cmos",
               "resistor R1 a=V b=S value=100000", "resistor R2 a=V b=R value=100000", "button S1 a=S b=0",
               "button S2 a=R b=0", "resistor R3 a=OUT b=A value=680", "led L1 a=A k=0",
               "resistor R4 a=G b=0 value=4700000", "nmos Q1 d=V g=G s=L", "led L2 a=L k=0"});
    EXPECT_TRUE(findings(d, "timing-resistor").empty());
}

TEST(TimingFindings, ACapacitorThatLeaksAsFastAsItIsChargedIsTold) {
    const auto never =
        cured(flasher("10000", "2.2e6", "electrolytic C1 +=T -=0 value=1e-3"), "timing-leak", "C1");
    ASSERT_TRUE(never);
    EXPECT_EQ(never->severity, Severity::error) << never->title;
    EXPECT_TRUE(
        findings(flasher("10000", "100000", "electrolytic C1 +=T -=0 value=1e-5"), "timing-leak").empty());
    EXPECT_TRUE(
        findings(flasher("10000", "2.2e6", "capacitor C1 a=T b=0 value=1e-6"), "timing-leak").empty());
}

TEST(TimingFindings, AMosfetThatIsNotFullyOnIsTold) {
    const auto lamp = [](const std::string& type, int cells) {
        return wired({"battery B1 +=V -=0 cell=LR6 count=" + std::to_string(cells), "switch S1 a=V b=P",
                      "resistor R1 a=P b=G value=100", "resistor R2 a=G b=0 value=100000",
                      "nmos Q1 d=D g=G s=0 type=" + type, "resistor R3 a=P b=D value=10"});
    };
    EXPECT_TRUE(cured(lamp("nmos-power", 2), "gate-low", "Q1"));
    EXPECT_TRUE(findings(lamp("nmos-logic", 2), "gate-low").empty());
}

TEST(TimingFindings, NoDemoAndNoRecipeAsItComesHasOne) {
    for (const char* rule : {"timing-resistor", "timing-leak", "gate-low", "core-full", "booster-start"}) {
        for (const Demo& each : demos())
            EXPECT_TRUE(findings(demo(each.id), rule).empty()) << rule << each.id;
        for (const Recipe& recipe : recipes()) {
            const auto design = made(recipe.id.c_str(), {});
            EXPECT_TRUE(design && findings(design.value(), rule).empty()) << rule << " in a " << recipe.id;
        }
    }
}

}  // namespace
}  // namespace elkit::test
