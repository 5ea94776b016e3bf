// Cells as they were measured: reading a logger's file, and the fit.
#include "power/cell_fit.hpp"

#include <fmt/format.h>

#include <cmath>

#include "command/command.hpp"
#include "design/file.hpp"
#include "engine/models.hpp"
#include "formats/discharge_file.hpp"
#include "recipes/blocks.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

const CellType& lr6() { return *known_catalogue().cell("LR6"); }

/// An independent discharge by small steps in charge instead of time, of scaled cells on a current or ohms.
MeasuredDischarge made(double volts, double ohms, double charge, const FitLoad& load, int count,
                       double noise) {
    MeasuredDischarge d;
    double hours = 0;
    unsigned seed = 1;
    constexpr int steps = 4000;
    for (int k = 0; k < steps * 97 / 100; ++k) {
        const double s = 1 - double(k) / steps;
        const double open = count * volts * lr6().open_circuit.at(s),
                     within = count * ohms * lr6().resistance.at(s);
        const double amps = load.amps > 0 ? load.amps : open / (within + load.ohms);
        if (k % 40 == 0) {
            seed = seed * 1664525U + 1013904223U;
            d.points.push_back({hours, open - amps * within + noise * (double(seed >> 8) / (1 << 24) - 0.5)});
        }
        hours += charge * lr6().usable_charge(amps, 21) / steps / amps;
    }
    return d;
}

TEST(CellFit, FindsTheCellThatWasMeasured) {
    for (const FitLoad load : {FitLoad{0.1, 0}, FitLoad{0, 10}, FitLoad{0.3, 0}}) {
        const auto fit = fit_cell(lr6(), 1, load, made(1.03, 1.8, 0.8, load, 1, 0));
        ASSERT_TRUE(fit) << fit.error().text();
        EXPECT_NEAR(fit.value().open_circuit.value, 1.03 * 1.6, 0.004);
        EXPECT_NEAR(fit.value().resistance.value, 1.8 * 0.15, 0.02);
        EXPECT_NEAR(fit.value().capacity.value, 0.8 * 2.5, 0.02);
        EXPECT_LT(fit.value().rms, 0.003);
    }
}

TEST(CellFit, ItsSpreadCoversNoise) {
    const FitLoad load{0, 12};
    const auto fit = fit_cell(lr6(), 3, load, made(0.97, 1.2, 1.1, load, 3, 0.02));
    ASSERT_TRUE(fit) << fit.error().text();
    EXPECT_NEAR(fit.value().capacity.value, 1.1 * 2.5, 0.05);
    EXPECT_LT(*fit.value().capacity.low, fit.value().capacity.value);
    EXPECT_NEAR(fit.value().rms, 0.02 / std::sqrt(12.0), 0.002) << "the noise that was put in";
}

TEST(CellFit, TheChargeIsTheIntegralOfTheCurrent) {
    MeasuredDischarge d;
    for (int k = 0; k <= 20; ++k) d.points.push_back({k / 20.0 * 15, 1.5 - 0.025 * k});
    const auto by_current = fit_cell(lr6(), 1, {0.1, 0}, d);
    ASSERT_TRUE(by_current);
    EXPECT_NEAR(by_current.value().delivered, 1.5, 1e-9);
    const auto by_ohms = fit_cell(lr6(), 1, {0, 10}, d);
    ASSERT_TRUE(by_ohms);
    EXPECT_NEAR(by_ohms.value().delivered, 15 * 1.25 / 10, 1e-9) << "linear volts: the mean counts";
}

TEST(CellFit, RefusesWhatIsNoDischargeOfIt) {
    const FitLoad load{0.1, 0};
    const auto good = made(1, 1, 1, load, 1, 0);
    EXPECT_FALSE(fit_cell(lr6(), 1, {}, good)) << "no load";
    EXPECT_FALSE(fit_cell(lr6(), 1, {0.1, 10}, good)) << "two loads";
    EXPECT_FALSE(fit_cell(lr6(), 0, load, good));
    EXPECT_FALSE(fit_cell(*known_catalogue().cell("USB"), 1, load, good));
    MeasuredDischarge rising;
    for (int k = 0; k < 20; ++k) rising.points.push_back({double(k), 0.1 + 0.5 * k});
    EXPECT_FALSE(fit_cell(lr6(), 1, load, rising));
}

TEST(DischargeFile, IsReadHoweverTheLoggerWroteIt) {
    const auto file = [](const char* heading, char separator, bool comma, double scale) {
        std::string text = heading;
        for (int k = 0; k < 12; ++k) {
            std::string volts = fmt::format("{:.3f}", 1.5 - 0.01 * k);
            if (comma) volts.replace(volts.find('.'), 1, ",");
            text += fmt::format("{}{}{}\r\n", k * scale, separator, volts);
        }
        return text;
    };
    for (const std::string& text :
         {file("time_h,volts\n", ',', false, 1), file("t (min);U/V\r\n", ';', true, 60),
          file("seconds\tV\n", '\t', false, 3600), file("", ',', false, 1), file("", ';', true, 1),
          file("", ',', false, 3600)}) {
        const auto read = read_discharge(text);
        ASSERT_TRUE(read) << text << read.error().text();
        ASSERT_EQ(read.value().points.size(), 12U) << text;
        EXPECT_NEAR(read.value().points.back().hours, 11, 1e-9) << text << read.value().told;
        EXPECT_NEAR(read.value().points.back().volts, 1.39, 1e-9) << text;
    }
    const auto swapped = read_discharge("volts,time/s\n" + [] {
        std::string rows;
        for (int k = 0; k < 12; ++k) rows += fmt::format("{:.2f},{}\n", 1.5 - 0.01 * k, 10 * k);
        return rows;
    }());
    ASSERT_TRUE(swapped);
    EXPECT_NEAR(swapped.value().points.back().hours, 110.0 / 3600, 1e-9);
}

TEST(DischargeFile, SaysTheLineThatIsWrong) {
    std::string good = "time_h,volts\n";
    for (int k = 0; k < 12; ++k) good += fmt::format("{},1.4\n", k);
    for (const auto& [bad, line] : {std::pair{"12,x\n", "line 14"}, std::pair{"12\n", "line 14"},
                                    std::pair{"3,1.2\n", "line 14"}, std::pair{"12,900\n", "line 14"}}) {
        const auto read = read_discharge(good + bad);
        ASSERT_FALSE(read) << bad;
        EXPECT_NE(read.error().text().find(line), std::string::npos) << read.error().text();
    }
    for (const char* bad : {"", "time,volts\n", "1,1\n2,1\n", "\"open", "\xff\xfe\x00\x01"})
        EXPECT_FALSE(read_discharge(bad)) << bad;
}

TEST(DischargeFile, LoadsAreCurrentsOrOhms) {
    EXPECT_DOUBLE_EQ(read_load("50mA").value().amps, 0.05);
    EXPECT_DOUBLE_EQ(read_load("4R7").value().ohms, 4.7);
    for (const char* bad : {"", "x", "0", "-1A"}) EXPECT_FALSE(read_load(bad)) << bad;
}

TEST(CellFit, GoesIntoTheDesignsBattery) {
    const FitLoad load{0.1, 0};
    const auto fit = fit_cell(lr6(), 1, load, made(1.03, 1.8, 0.8, load, 1, 0));
    const auto next = with_fit(test::demo("pier-lantern"), fit.value());
    ASSERT_TRUE(next) << next.error().text();
    const auto cell = cell_of(*next.value().circuit.source(), known_catalogue());
    EXPECT_NEAR(cell->open_circuit.at(1), 1.03 * 1.6, 0.004);
    EXPECT_NEAR(cell->usable_charge(0.1, 21), 0.8 * lr6().usable_charge(0.1, 21), 0.02);
    EXPECT_FALSE(with_fit(test::demo("shelf-strip"), fit.value())) << "no battery";
}

/// One LR6 whose voltage is a straight line behind one resistance: charge taken at a constant current is a
/// product, and the volts under load are U(s) − I R.
TEST(OwnCurves, TakeThePlaceOfTheTypes) {
    Design d;
    d.circuit = test::circuit({"battery B1 +=V -=0 cell=LR6 count=1", "resistor R1 a=V b=0 value=15"});
    for (const auto& [key, typed] :
         {std::pair("voltage_curve", "100% 2V; 0% 1V"), std::pair("resistance_curve", "0% 0.5R; 100% 0.5R"),
          std::pair("capacity_curve", "10mA 2Ah; 1A 2Ah")}) {
        const auto next = set_parameter(d, "B1", key, typed);
        ASSERT_TRUE(next) << key << ": " << next.error().text();
        d = next.value();
    }
    const auto cell = cell_of(*d.circuit.find("B1"), known_catalogue());
    ASSERT_TRUE(cell);
    EXPECT_NEAR(cell->open_circuit.at(0.25), 1.25, 1e-12) << "sorted by charge";
    EXPECT_NEAR(cell->usable_charge(0.1, 21), 2, 1e-9);
    Conditions half;
    half.battery = 0.5;
    const auto source = source_model(*d.circuit.find("B1"), known_catalogue(), half);
    ASSERT_TRUE(source);
    EXPECT_NEAR(source.value().voltage, 1.5, 1e-12);
    EXPECT_NEAR(source.value().resistance, 0.5 + lead_resistance(*d.circuit.find("B1"), half.celsius), 1e-9);
    const auto back = read_design(write_design(d));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back.value().circuit, d.circuit);
}

TEST(OwnCurves, ThatAreNoneAreRefused) {
    Design d;
    d.circuit = test::circuit({"battery B1 +=V -=0 cell=LR6 count=1", "resistor R1 a=V b=0 value=100"});
    for (const auto& [key, typed] :
         {std::pair("voltage_curve", "100% 1V; 0% 2V"), std::pair("voltage_curve", "50% 1.5V"),
          std::pair("voltage_curve", "0% 1V; 120% 2V"), std::pair("resistance_curve", "0% 0R; 100% 1R"),
          std::pair("capacity_curve", "1A 2Ah; 1A 3Ah"), std::pair("capacity_curve", "much")}) {
        const auto next = set_parameter(d, "B1", key, typed);
        EXPECT_FALSE(next) << key << " " << typed;
    }
}

TEST(OwnCurves, AreForgottenWithAnotherCell) {
    Design d = test::pier_lantern();
    d = set_parameter(d, "B1", "voltage_curve", "0% 0.9V; 100% 1.7V").value();
    d = set_parameter(d, "B1", "capacity", "1.5Ah").value();
    for (const Design& next :
         {with_supply(d, "LR03", 3).value(), set_parameter(d, "B1", "cell", "LR03").value()}) {
        EXPECT_FALSE(next.circuit.find("B1")->params.contains("voltage_curve"));
        EXPECT_FALSE(next.circuit.find("B1")->params.contains("capacity")) << "it was measured of an LR6";
    }
    EXPECT_TRUE(with_supply(d, "LR6", 4).value().circuit.find("B1")->params.contains("capacity"));
}

}  // namespace
}  // namespace elkit
