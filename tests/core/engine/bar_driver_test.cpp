// The bar driver chip against what its data sheet says, and events that fall on one moment.
#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <tuple>

#include "catalogue/catalogue.hpp"
#include "engine/transient.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {
using namespace std::string_literals;

/// Ten red LEDs straight on the supply; 1.25 kΩ at ref, with the chain's 12 kΩ beside it.
Circuit ten_lights(double supply, double in, const std::string& mode) {
    std::vector<std::string> lines{
        "supply PS1 +=V -=0 lead_length=0 voltage=" + std::to_string(supply),
        "vsource VS1 +=IN -=0 value=" + std::to_string(in),
        "resistor R1 a=REF b=0 value=1250",
        "resistor R2 a=IN b=0 value=100000",
    };
    std::string chip = "bar_driver U1 gnd=0 low=0 in=IN high=REF ref=REF mode=" + mode + " vcc=V";
    for (int k = 1; k <= 10; ++k) {
        const std::string n = std::to_string(k);
        chip += " out" + n + "=O" + n;
        lines.push_back("led L" + n + " a=V k=O" + n + " type=red-5mm");
    }
    lines.push_back(chip);
    return circuit(lines);
}

std::string lit(const OperatingPoint& op) {
    std::string all;
    for (int k = 1; k <= 10; ++k) all += op.part("L" + std::to_string(k)).current > 1e-3 ? '1' : '0';
    return all;
}

TEST(BarDriver, LightsOneAfterAnotherAsABarAndAloneAsADot) {
    for (int tenth = 0; tenth <= 10; ++tenth) {
        const double in = 0.125 * tenth + 0.06;
        const auto n = static_cast<std::size_t>(tenth);
        std::string bar(10, '0'), dot(10, '0');
        for (std::size_t k = 0; k < n; ++k) bar[k] = '1';
        if (n > 0) dot[n - 1] = '1';
        EXPECT_EQ(lit(solve(ten_lights(6, in, "V"))), bar) << in;
        EXPECT_EQ(lit(solve(ten_lights(6, in, "0"))), dot) << in;
    }
}

TEST(BarDriver, GivesTenTimesWhatItsReferenceDoesWhateverTheSupply) {
    for (const double supply : {4.0, 6.0, 9.0}) {
        const OperatingPoint op = solve(ten_lights(supply, 1.3, "V"));
        EXPECT_NEAR(op.voltage("REF"), 1.25, 0.005) << supply;
        const double drawn = 1.25 / 1250 + 1.25 / 12000;
        for (int k = 1; k <= 10; ++k)
            EXPECT_NEAR(op.part("L" + std::to_string(k)).current, 10 * drawn, 3e-4) << supply;
    }
}

TEST(BarDriver, GivesNoMoreThanAThirdAboveItsRatingThroughAShortedReference) {
    Circuit c = ten_lights(6, 1.3, "V");
    c.find("R1")->params["value"] = 1.0;
    EXPECT_LT(solve(c).part("L1").current, 1.3 * 0.03 + 1e-3);
}

TEST(BarDriver, ShowsNothingOnTooLittle) {
    EXPECT_EQ(lit(solve(ten_lights(2.2, 1.3, "V"))), "0000000000");
    Circuit turned = ten_lights(6, 1.3, "V");
    for (Pin& pin : turned.find("PS1")->pins) pin.net = pin.net == "V" ? "0" : "V";
    const auto op = operating_point(turned, known_catalogue(), {});
    if (op) {
        EXPECT_GE(op.value().part("U1").taken, 0) << "it never gives power";
    }
}

TEST(Events, OfTwoComparatorsAHairApartFollowEachOther) {
    // within the clock's last digit of each other at 1 s, behind a slow edge
    for (int hair = 1; hair <= 60; ++hair) {
        const std::string step = std::to_string(0.1 * hair);
        std::vector<std::string> lines{"battery B1 +=V -=0 cell=LR6 count=12",
                                       "button S1 a=V b=ON",
                                       "resistor R1 a=ON b=REF value=10000",
                                       "diode D1 a=0 k=REF type=zener-3V3",
                                       "capacitor C1 a=ON b=0 value=1e-7",
                                       "resistor R2 a=ON b=T1 value=180000",
                                       std::string("resistor R3 a=T1 b=T2 value=") + step,
                                       "resistor R4 a=T2 b=T3 value=2000",
                                       "resistor R5 a=T3 b=T4 value=2000",
                                       "resistor R6 a=T4 b=T5 value=1800",
                                       "resistor R7 a=T5 b=T6 value=1600",
                                       "resistor R8 a=T6 b=T7 value=130",
                                       "resistor R9 a=T7 b=0 value=39000"};
        const std::array<std::array<std::string, 2>, 7> lights{{{"3600", "red"},
                                                                {"4300", "amber"},
                                                                {"4300", "amber"},
                                                                {"4300", "amber"},
                                                                {"15000", "green"},
                                                                {"15000", "green"},
                                                                {"16000", "green"}}};
        for (std::size_t k = 0; k < lights.size(); ++k) {
            const std::string n = std::to_string(k + 1), ohms = lights[k][0], colour = lights[k][1];
            lines.push_back("comparator U"s + n + " in+=REF in-=T" + n + " out=O" + n +
                            " vcc=ON gnd=0 type=comparator-open");
            lines.push_back("resistor R1"s + n + " a=ON b=L" + n + " value=" + ohms);
            lines.push_back("led L"s + n + " a=L" + n + " k=O" + n + " type=" + colour + "-5mm");
        }
        const Circuit c = circuit(lines);
        Conditions pressed;
        pressed.events = {{1.0, "S1", true}};
        const Recording r = recorded(c, {.until = 2, .probes = {"net:O1", "net:O2"}}, pressed);
        EXPECT_LT(r.traces[0].values.back(), 1) << step;
        EXPECT_LT(r.traces[1].values.back(), 1) << step;
    }
}

/// Microfarads on nets that hang by kiloohms: in too short a step the last digit of their charge is a current
/// that drowns what holds them.
TEST(Events, SettleWhereLargeChargesHangHigh) {
    const Circuit c = circuit(
        {"supply PS1 +=V -=0 resistance=501498.4530862421",
         "colour_changer X1 +=N2 -=N5 intensity=1.215292507832255 "
         "on_time=11.686134677304631 period=9.946633250772923 highest_supply=3.0305929083242935",
         "resistor R2 a=N3 b=N4", "step_down X3 in=N1 gnd=N6 out=N5 efficiency=0.2945990189677104",
         "touch_switch_low X4 vcc=N5 gnd=N3 out=0", "ldr X5 a=N4 b=N1",
         "double_switch X6 a1=N6 b1=V a2=N1 b2=N4", "resistor RV a=V b=0 value=100000",
         "resistor RN1 a=N1 b=0 value=13478.744759736412", "resistor RN2 a=N2 b=0 value=80840.837134097",
         "resistor RN3 a=N3 b=0 value=10146.526062186877", "resistor RN4 a=N4 b=0 value=5364.715924986863",
         "resistor RN5 a=N5 b=0 value=35043.980202776314"});
    Conditions hands;
    hands.lux = 242.90571574919156;
    RunRequest request{.until = 2e-3};
    request.accuracy.relative = 1e-3, request.frames = 20;
    const Conditions at_first = hands;
    for (const auto& [time, part, on] :
         {std::tuple{0.00014601711863651871, "X4", true}, std::tuple{0.00091488024946302182, "X6", true},
          std::tuple{0.0015693058493081481, "X6", false}}) {
        hands.switches[part] = on;
        request.changes.push_back({time, hands, part});
    }
    const auto run = simulate(c, known_catalogue(), at_first, request);
    EXPECT_TRUE(run) << run.error().text();
}

}  // namespace
}  // namespace elkit::test
