// Where a rule begins to speak: each is swept across its limit and must speak on one side of it only. The
// limits stand here a second time on purpose.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"
#include "engine/queries.hpp"
#include "recipes/blocks.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

std::string number(double value) { return fmt::format("{:.12g}", value); }

bool speaks(const Circuit& circuit, const std::string& rule) {
    Design d;
    d.circuit = circuit;
    d.brief.run_time = 0;
    return find(findings(d, rule), rule) != nullptr;
}

/// Sweeps a value and wants the rule to speak exactly where it should, on both sides.
template <class Make, class Should>
void sweep(const std::vector<double>& values, const std::string& rule, Make make, Should should) {
    int spoke = 0, silent = 0;
    for (const double value : values) {
        const Circuit c = make(value);
        const bool expected = should(c);
        EXPECT_EQ(speaks(c, rule), expected) << rule << " at " << value;
        ++(expected ? spoke : silent);
    }
    EXPECT_GE(spoke, 1) << "the sweep must cross the limit";
    EXPECT_GE(silent, 1) << "the sweep must cross the limit";
}

TEST(Limits, AResistorWorksWithHalfAVoltOrMore) {
    sweep(
        {2.2, 2.3, 2.4, 2.45, 2.5, 2.55, 2.6, 2.8, 3.0}, "headroom",
        [](double volts) {
            return circuit({"supply PS1 +=V -=0 resistance=0.01 lead_length=0 voltage=" + number(volts),
                            "resistor R1 a=V b=A value=47", "led L1 a=A k=0 type=red-5mm"});
        },
        [](const Circuit& c) { return solve(c).part("R1").voltage < 0.5; });
}

TEST(Limits, OrWithFifteenPercentOfTheSupply) {
    sweep(
        {10.5, 10.8, 11.0, 11.3, 11.6, 12.0, 12.5, 13}, "headroom",
        [](double volts) {
            return circuit({"supply PS1 +=V -=0 resistance=0.01 lead_length=0 voltage=" + number(volts),
                            "resistor R1 a=V b=A value=100", "led L1 a=A k=B type=red-5mm",
                            "led L2 a=B k=C type=red-5mm", "led L3 a=C k=D type=red-5mm",
                            "led L4 a=D k=E type=red-5mm", "led L5 a=E k=0 type=red-5mm"});
        },
        [](const Circuit& c) {
            const auto op = solve(c);
            return op.part("R1").voltage < std::max(0.5, 0.15 * op.part("PS1").voltage);
        });
}

TEST(Limits, AtHalfBatteryFiftyFivePercentOfTheCurrentRemain) {
    // the more LEDs in a row, the less is left for the resistor at half battery
    sweep(
        {1, 2, 3, 4, 5, 6, 7}, "sag",
        [](double leds) {
            std::vector<std::string> lines{"battery B1 +=V -=0 cell=LR6 count=10",
                                           "resistor R1 a=V b=N1 value=47"};
            for (int k = 1; k <= leds; ++k)
                lines.push_back(fmt::format("led L{0} a=N{0} k={1} type=red-5mm", k,
                                            k < leds ? fmt::format("N{}", k + 1) : "0"));
            return circuit(lines);
        },
        [](const Circuit& c) {
            return solve(c, {0.5, 21, {}}).part("L1").current <= 0.55 * solve(c).part("L1").current;
        });
}

TEST(Limits, AResistorBearsHalfItsRating) {
    sweep(
        {0.0625, 0.1, 0.125, 0.2, 0.25, 0.5, 1}, "resistor-rating",
        [](double rating) {
            return circuit({"supply PS1 +=V -=0 resistance=0.01 lead_length=0 voltage=5",
                            "resistor R1 a=V b=0 tolerance=0 value=250 rating=" + number(rating)});
        },
        [](const Circuit& c) { return 2 * 5 * 5 / 250.0 > c.find("R1")->number("rating") * 1.0001; });
}

TEST(Limits, LeadsLoseThreePercent) {
    sweep(
        {0.1, 1, 5, 10, 14, 17, 20, 25}, "wire-rating",
        [](double metres) {
            return circuit(
                {"battery B1 +=V -=0 cell=LR6 count=3 lead_area=0.14 lead_length=" + number(metres),
                 "resistor R1 a=V b=0 value=100 rating=1"});
        },
        [](const Circuit& c) {
            // copper: 0.0172 Ω mm²/m at 20 °C, 0.39 %/K, there and back
            const double ohms =
                2 * 0.0172 * c.find("B1")->number("lead_length") / 0.14 * (1 + 0.0039 * (21 - 20));
            return ohms * solve(c).supply_current() >
                   0.03 * 3 * known_catalogue().cell("LR6")->open_circuit.at(1);
        });
}

TEST(Limits, AnElectrolyticStandsThreeTenthsOfAVoltBackwards) {
    sweep(
        {0.1, 0.25, 0.29, 0.31, 0.35, 0.5, 1}, "electrolytic-reversed",
        [](double volts) {
            return circuit({"supply PS1 +=V -=0 resistance=0.01 lead_length=0 voltage=3",
                            "resistor R1 a=V b=M value=" + number((3 - volts) * 1000),
                            "resistor R2 a=M b=0 value=" + number(volts * 1000),
                            "electrolytic C1 +=0 -=M value=1e-5 leakage=1e12"});
        },
        [](const Circuit& c) { return c.find("R2")->number("value") > 300; });
}

TEST(Limits, FiveYearsOnTheShelf) {
    sweep(
        {20e3, 50e3, 80e3, 95e3, 110e3, 130e3, 300e3, 1e6}, "standby-drain",
        [](double ohms) {
            return circuit({"battery B1 +=V -=0 cell=LR6 count=3", "switch S1 a=V b=A",
                            "resistor R1 a=A b=0 value=1000", "resistor R2 a=V b=0 value=" + number(ohms)});
        },
        [](const Circuit& c) {
            const CellType& cell = *known_catalogue().cell("LR6");
            const double amps = 3 * cell.open_circuit.at(1) / c.find("R2")->number("value");
            return 1 / (cell.self_discharge_per_year + amps * 8766 / cell.usable_charge(1e-6, 21)) < 5;
        });
}

TEST(Limits, PulsesReachTenThirdsOfAnLedsRating) {
    // short pulses of a transistor that a timer opens; the mean stays below the rating
    const auto blinker = [](double ohms) {
        Circuit c = astable(5, 470e3, 10e3, 1e-7);
        for (Part& p : circuit({"pnp Q1 e=V b=B c=A", "resistor R4 a=OUT b=B value=470",
                                "led L1 a=E k=0 type=red-5mm max_current=0.02",
                                "resistor R5 a=A b=E value=" + number(ohms)})
                           .parts)
            c.parts.push_back(p);
        return c;
    };
    sweep({10, 33, 47, 56, 82}, "pulsed-led", blinker, [](const Circuit& c) {
        const auto run = ask(RunQuery(c, Conditions{}));
        EXPECT_TRUE(run && run.value().moves());
        if (!run) return false;
        EXPECT_LT(run.value().mean().part("L1").current, 0.02);
        return run.value().lasting("L1", "a") > 0.02 * 10 / 3;
    });
}

TEST(Limits, ACellGivesItsRatedCurrent) {
    sweep(
        {10, 15, 20, 33, 47, 68, 100, 150}, "cell-rate",
        [](double ohms) {
            return circuit({"supply PS1 +=V -=0 resistance=0.01 lead_length=0 voltage=5 max_current=0.1",
                            "resistor R1 a=V b=0 rating=10 value=" + number(ohms)});
        },
        [](const Circuit& c) { return solve(c).supply_current() > 0.1; });
}

TEST(Limits, SixtyVoltsInARowAreRefused) {
    const auto row = [](double volts) {
        return circuit({"supply PS1 +=M -=0 voltage=" + number(volts), "supply PS2 +=V -=M voltage=24",
                        "resistor R1 a=V b=0 value=10000"});
    };
    sweep({5, 24, 35.9, 36, 36.1, 48}, "supply-limit", row,
          [](const Circuit& c) { return c.find("PS1")->number("voltage") + 24 > 60; });
    EXPECT_FALSE(operating_point(row(48), known_catalogue(), {}, {})) << "the engine refuses it as well";
    EXPECT_TRUE(operating_point(row(24), known_catalogue(), {}, {}));
}

TEST(Limits, ARecipesCurrentMayBeAFifthOffItsGoal) {
    // something beside the block takes or gives current: a resistor in series or across, of so much of the
    // block's
    const auto spoken = [](double series, double across) {
        Design d = new_design();
        Part& own = *d.circuit.find(d.blocks.front().parts.at("R1"));
        const std::string a = own.pins[0].net, b = own.pins[1].net;
        const double ohms = own.number("value");
        if (series > 0) own.pins[0].net = "between";
        d.circuit.parts.push_back(series > 0 ? resistor("R99", a, "between", series * ohms)
                                             : resistor("R99", a, b, across * ohms));
        return find(findings(d, "goals"), "goals") != nullptr;
    };
    EXPECT_FALSE(spoken(0.1, 0));
    EXPECT_TRUE(spoken(0.5, 0));
    EXPECT_FALSE(spoken(0, 12));
    EXPECT_TRUE(spoken(0, 1));
}

}  // namespace
}  // namespace elkit::test
