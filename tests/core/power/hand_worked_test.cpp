// The run time, the shelf and the comparison of supplies against cases worked by hand.
#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"
#include "light/light.hpp"
#include "light/strings.hpp"
#include "power/discharge.hpp"
#include "power/standby.hpp"
#include "power/supplies.hpp"
#include "quantity/brightness.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

constexpr double hours_of_a_year = 24 * 365.25;

Design worked(const std::vector<std::string>& lines) {
    Design d;
    d.circuit = circuit(lines);
    return d;
}

const CellType& cell(const char* id) { return *known_catalogue().cell(id); }

TEST(Power, CellsThatDifferStretchTheTimeByATenth) {
    // nothing but the cells spreads here: the resistor is exact and there is no LED
    const auto p = power(worked({"battery B1 +=V -=0 cell=NiMH-AA count=3 lead_length=0",
                                 "resistor R1 a=V b=0 value=100 tolerance=0"}));
    ASSERT_TRUE(p);
    const Figure& t = p.value().run_time;
    EXPECT_NEAR(*t.low / t.value, 0.9, 1e-9);
    EXPECT_NEAR(*t.high / t.value, 1.1, 1e-9);
    EXPECT_EQ(p.value().corners.size(), 4u);
}

TEST(Power, TheCornerOfMuchCurrentIsTheShorterRun) {
    const auto c = circuit({"battery B1 +=V -=0 cell=NiMH-AA count=3 lead_length=0",
                            "resistor R1 a=V b=0 value=100 tolerance=0.1"});
    const double typical = discharge(c, {}, 0.5).value().hours;
    EXPECT_NEAR(discharge(c, {}, 0.5, {0, -1, 0}).value().hours / typical, 0.9, 0.01);
    EXPECT_NEAR(discharge(c, {}, 0.5, {0, 1, 0}).value().hours / typical, 1.1, 0.01);
    // a tenth more in the cells is a tenth more time, whatever they feed
    EXPECT_NEAR(discharge(c, {}, 0.5, {0, 0, 1}).value().hours / typical, 1.1, 5e-4)
        << "but for self-discharge";
    EXPECT_NEAR(discharge(c, {}, 0.5, {0, 0, -1}).value().hours / typical, 0.9, 5e-4);
}

class Cutoffs : public ::testing::TestWithParam<int> {};
TEST_P(Cutoffs, AreWhereAProtectionLooksAndNowhereElse) {
    const auto run = [](const std::string& cell) {
        return discharge(
            circuit({"battery B1 +=V -=0 cell=" + cell + " lead_length=1 count=" + std::to_string(GetParam()),
                     "resistor R1 a=V b=0 rating=10 value=" + std::to_string(4 * GetParam())}),
            {}, 0.5);
    };
    const auto alkaline = run("LR6");
    ASSERT_TRUE(alkaline);
    EXPECT_EQ(alkaline.value().ended_by, "cells empty");
    EXPECT_LT(alkaline.value().samples.back().volts, GetParam() * cell("LR6").cutoff)
        << "nothing stops it there";
    EXPECT_EQ(alkaline.value().charge_left, 0);
    const auto pack = run("Li-ion-2000");
    ASSERT_TRUE(pack);
    EXPECT_NE(pack.value().ended_by.find("protection"), std::string::npos) << pack.value().ended_by;
    const auto& last = pack.value().samples.back();
    const double leads = 2 * 0.0172 / 0.14;  // Ω of 1 m there and back
    EXPECT_NEAR(last.volts + last.amps * leads, GetParam() * cell("Li-ion-2000").cutoff, 0.02 * GetParam());
}
INSTANTIATE_TEST_SUITE_P(Counts, Cutoffs, ::testing::Values(1, 2, 3, 4, 8),
                         [](const auto& of) { return "Of" + std::to_string(of.param); });

TEST(Discharge, TheAverageBrightnessIsWhatTheEyeSeesOverTime) {
    const auto d = discharge(pier_lantern().circuit, {}, 0.3).value();
    double seen = 0;
    for (std::size_t k = 1; k < d.samples.size(); ++k) {
        const auto &a = d.samples[k - 1], &b = d.samples[k];
        const auto lightness = [](double y) { return 1.16 * std::cbrt(y) - 0.16; };  // CIE L* / 100
        seen += (lightness(a.light) + lightness(b.light)) / 2 * (b.hours - a.hours);
    }
    EXPECT_NEAR(d.average_light, seen / d.hours, 1e-6);
}

class Bleeds : public ::testing::TestWithParam<double> {};
TEST_P(Bleeds, EmptyTheCellsBesideTheirSelfDischarge) {
    const double ohms = GetParam();
    const Design d =
        worked({"battery B1 +=V -=0 cell=LR6 count=3", "switch S1 a=V b=A", "resistor R1 a=A b=0 value=100",
                "resistor R2 a=V b=0 value=" + std::to_string(ohms)});
    const auto p = power(d);
    ASSERT_TRUE(p);
    const double amps = 3 * cell("LR6").open_circuit.at(1) / ohms;
    EXPECT_NEAR(p.value().standby_current.value / amps, 1, 1e-3);
    const double a_year =
        amps * hours_of_a_year / cell("LR6").usable_charge(1e-6, 21) + cell("LR6").self_discharge_per_year;
    EXPECT_NEAR(p.value().standby.value / std::min(10.0, 1 / a_year), 1, 2e-3);
    ASSERT_EQ(p.value().drains.size(), 1u);
    EXPECT_EQ(p.value().drains[0].first, "R2");
    EXPECT_NEAR(p.value().drains[0].second / amps, 1, 1e-3);
}
INSTANTIATE_TEST_SUITE_P(Ohms, Bleeds, ::testing::Values(10e3, 100e3, 1e6, 5e6, 50e6));

TEST(Standby, AnUntouchedCellLosesItsShareOfAYear) {
    // open switch: only self-discharge, and no more years are promised than a shelf has
    const Design d = worked(
        {"battery B1 +=V -=0 cell=NiMH-AA count=2", "switch S1 a=V b=A", "resistor R1 a=A b=0 value=100"});
    const double years = 1 / cell("NiMH-AA").self_discharge_per_year;
    EXPECT_NEAR(power(d).value().standby.value, std::min(10.0, years), 0.01);
}

TEST(Standby, InDaylightAPhotoresistorLetsThroughWhatItsLawSays) {
    const Design d = worked({"battery B1 +=V -=0 cell=LR6 count=3 lead_length=0",
                             "resistor R1 a=V b=B value=100000", "ldr RL1 a=B b=0 value=20000 gamma=0.7",
                             "npn Q1 c=C b=B e=0", "resistor R2 a=V b=C value=1000"});
    const auto p = power(d);
    ASSERT_TRUE(p) << p.error().text();
    const double light_dependent = 20000 * std::pow(10'000.0 / 10, -0.7);
    EXPECT_NEAR(p.value().standby_current.value,
                3 * cell("LR6").open_circuit.at(1) / (100e3 + light_dependent), 1e-6);
}

TEST(Supplies, TheEndIsTheBriefsShareOfTheStart) {
    const Design d = pier_lantern();
    int checked = 0;
    for (const auto& row : supplies(d, SupplyPolicy::same_parts)) {
        if (!row.possible || row.run_time.working.back().find("light below") == std::string::npos) continue;
        const double start = luminance_for(row.start.value / 100);
        EXPECT_NEAR(row.end.value, 100 * perceived(start * luminance_for(d.brief.end_brightness)), 0.6)
            << row.name;
        checked += std::abs(start - 1) > 0.1;
    }
    EXPECT_GE(checked, 1) << "a supply of another voltage starts at another light";
}

TEST(Supplies, CellsArePaidByTheHourAndCarriedByTheGram) {
    for (const auto& row : supplies(pier_lantern(), SupplyPolicy::sized_anew)) {
        if (!row.possible || !std::isfinite(row.run_time.value)) continue;
        const CellType& used = cell(row.cell.c_str());
        const double sets =
            used.chemistry.starts_with("alkaline") || used.chemistry == "lithium coin" ? 1 : 300;
        EXPECT_NEAR(row.cost_per_hour.value, row.count * used.price / sets / row.run_time.value, 1e-9)
            << row.name;
        EXPECT_NEAR(row.mass.value, row.count * cell(row.cell.c_str()).mass, 1e-9) << row.name;
    }
}

TEST(Light, IsTheIntensityOfEachTypeTimesItsShareOfTheTestCurrent) {
    const auto c = circuit({"supply PS1 +=V -=0 voltage=9 resistance=0.1", "resistor R1 a=V b=A value=470",
                            "led L1 a=A k=B type=red-5mm", "led L2 a=B k=0 type=green-5mm"});
    const auto op = solve(c);
    const Catalogue& catalogue = known_catalogue();
    const LedType &red = *catalogue.led("red-5mm"), &green = *catalogue.led("green-5mm");
    EXPECT_NEAR(total_intensity(c, catalogue, op),
                red.intensity * op.part("L1").current / red.test_current +
                    green.intensity * op.part("L2").current / green.test_current,
                1e-9);
}

TEST(Light, SpreadsFromTheCornerOfMostCurrentToThatOfLeast) {
    const Design d = pier_lantern();
    const auto light = ask(LightQuery(d.circuit, Conditions{}));
    ASSERT_TRUE(light);
    const Figure& f = light.value().strings.at(0).fresh_current;
    EXPECT_NEAR(*f.high, solve(d.circuit, {}, {-1, -1, 0}).part("L1").current, 1e-7);
    EXPECT_NEAR(*f.low, solve(d.circuit, {}, {1, 1, 0}).part("L1").current, 1e-7);
}

TEST(Light, OfOneLedFollowsTheEyesCurveOfItsCurrent) {
    const auto c = circuit({"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=100",
                            "led L1 a=A k=0 type=red-5mm"});
    const Conditions half{0.5, 21, {}};
    const double share = solve(c, half).part("L1").current / solve(c).part("L1").current;
    const auto light = ask(LightQuery(c, half));
    ASSERT_TRUE(light);
    EXPECT_NEAR(light.value().brightness.value, 116 * std::cbrt(share) - 16, 0.01);
}

}  // namespace
}  // namespace elkit::test
