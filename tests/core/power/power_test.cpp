#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "power/charging.hpp"
#include "power/discharge.hpp"
#include "power/life.hpp"
#include "power/supplies.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

TEST(LowBattery, WarnsWithATenthOfTheTimeLeft) {
    const Design d = test::pier_lantern();
    const auto life = test::ask(LifeQuery(d, Keyed<Circuit>(d.circuit), {}));
    ASSERT_TRUE(life);
    const Discharge& typical = life.value().typical;
    const double warn = life.value().warn_at.value;
    EXPECT_LT(warn, typical.samples.front().volts);
    EXPECT_GT(warn, typical.samples.back().volts);
    std::size_t last = 0;  // the last sample that is not below it, read off from the samples themselves
    while (last + 1 < typical.samples.size() && typical.samples[last + 1].volts >= warn) ++last;
    EXPECT_LE(typical.samples[last].hours, 0.9 * typical.hours);
    EXPECT_GE(typical.samples[last + 1].hours, 0.9 * typical.hours);
    EXPECT_TRUE(life.value().warn_at.low && *life.value().warn_at.low <= warn &&
                warn <= *life.value().warn_at.high);
    EXPECT_TRUE(std::isnan(typical.volts_at(typical.hours + 1))) << "nothing is known behind the end";
}

TEST(Discharge, BalancesItsCharge) {
    for (const Design& design : {test::pier_lantern(), test::coat_badge()}) {
        const auto d = test::discharge(design.circuit, {}, 0.5);
        ASSERT_TRUE(d);
        // what flowed out is what the state of charge lost, counted with the capacity at each step's current
        const CellType& cell = *known_catalogue().cell(design.circuit.source()->text("cell"));
        double lost = 0;
        const auto& s = d.value().samples;
        for (std::size_t k = 1; k < s.size(); ++k)
            lost += (s[k - 1].charge - s[k].charge) * cell.usable_charge((s[k].amps + s[k - 1].amps) / 2, 21);
        EXPECT_NEAR(d.value().delivered / lost, 1, 0.01) << design.name;
        EXPECT_GT(d.value().energy_left, 0);
        EXPECT_LT(d.value().energy_left, d.value().charge_left) << "the last charge has the least voltage";
    }
}

TEST(Discharge, MatchesTheClosedFormOfASteadyCurrent) {
    // a large resistor on NiMH, whose voltage is nearly flat: t = Q R / V, within the slope of the voltage
    Part b{"B1", "battery", {}, {{"+", "V"}, {"-", "0"}}, {}};
    b.params["cell"] = std::string("NiMH-AA"), b.params["count"] = 3.0;
    const Circuit c{{b, test::resistor("R1", "V", "0", 100)}};
    const auto d = test::discharge(c, {}, 0.5);
    ASSERT_TRUE(d);
    EXPECT_NEAR(d.value().hours, 2.0 / (3 * 1.25 / 100), 2);
    EXPECT_EQ(d.value().ended_by, "cells empty");
}

TEST(Discharge, TimeAndLightRunOneWay) {
    const auto d = test::discharge(test::pier_lantern().circuit, {}, 0.3).value();
    for (std::size_t k = 1; k < d.samples.size(); ++k) {
        EXPECT_GT(d.samples[k].hours, d.samples[k - 1].hours);
        EXPECT_LT(d.samples[k].light, d.samples[k - 1].light);
    }
    EXPECT_LT(test::discharge(test::pier_lantern().circuit, {}, 0.7).value().hours, d.hours)
        << "a stricter end comes earlier";
}

TEST(Discharge, ColdCellsGiveLess) {
    EXPECT_LT(test::discharge(test::pier_lantern().circuit, {1, -10, {}}, 0.5).value().hours,
              test::discharge(test::pier_lantern().circuit, {1, 21, {}}, 0.5).value().hours);
}

TEST(Discharge, ASupplyThatDoesNotEmptyRunsForever) {
    const auto d = test::discharge(
        {{test::supply("V", "0", 5, 1), test::resistor("R1", "V", "A", 150), test::led("L1", "A", "0")}}, {},
        0.5);
    ASSERT_TRUE(d);
    EXPECT_TRUE(std::isinf(d.value().hours));
}

TEST(Power, SpreadEnclosesTheTypicalRunTime) {
    const auto p = test::power(test::pier_lantern());
    ASSERT_TRUE(p);
    EXPECT_LT(*p.value().run_time.low, p.value().run_time.value);
    EXPECT_GT(*p.value().run_time.high, p.value().run_time.value);
    EXPECT_FALSE(p.value().run_time.working.empty());
    EXPECT_LT(p.value().standby_current.value, 1e-9);
    EXPECT_GT(p.value().standby.value, 5);
}

TEST(Supplies, CompareAtLeastSixForTheSameLight) {
    const Design d = test::pier_lantern();
    const auto rows = test::supplies(d, SupplyPolicy::sized_anew);
    int possible = 0;
    for (const auto& r : rows) {
        if (!r.possible) {
            EXPECT_FALSE(r.reason.empty()) << r.name;
            continue;
        }
        ++possible;
        EXPECT_GT(r.start.value, 85) << r.name << ": the re-chosen resistor brings the target current";
        EXPECT_LE(r.end.value, r.start.value + 1e-9) << r.name;
        EXPECT_GT(r.mass.value, 0);
        for (const Figure* f :
             {&r.resistor, &r.current, &r.start, &r.end, &r.run_time, &r.cost_per_hour, &r.mass})
            EXPECT_TRUE(!f->working.empty() || f == &r.resistor) << r.name << " " << f->label;
        if (std::isfinite(r.run_time.value)) {
            EXPECT_NEAR(r.cost_per_hour.value * r.run_time.value,
                        r.count * known_catalogue().cell(r.cell)->price /
                            (rechargeable(*known_catalogue().cell(r.cell)) ? 300 : 1),
                        1e-9)
                << r.name;
        }
    }
    EXPECT_GE(possible, 6);
    EXPECT_TRUE(rows.front().present);
    EXPECT_EQ(rows.front().name, "3 × LR6");
}

TEST(Supplies, ShowWhatTheSameResistorDoes) {
    const Design d = test::pier_lantern();
    const auto same = test::supplies(d, SupplyPolicy::same_parts);
    for (const auto& r : same) {
        if (r.name == "4 × LR6") {
            EXPECT_FALSE(r.possible) << "62 Ω lets too much through from four cells";
            EXPECT_NE(r.reason.find("may have"), std::string::npos);
        }
        if (r.possible && r.resistor.value > 0) {
            EXPECT_DOUBLE_EQ(r.resistor.value, 62) << r.name;
        }
    }
}

TEST(Supplies, OfferAResistorWhereTheCellDoesNotLimit) {
    const auto torch = with_supply(test::coat_badge(), "LR6", 3);
    ASSERT_TRUE(torch);
    EXPECT_NE(torch.value().circuit.find("R1"), nullptr);
    EXPECT_EQ(with_supply(test::coat_badge(), "CR2450", 1).value().circuit.find("R1"), nullptr);
}

}  // namespace
}  // namespace elkit
