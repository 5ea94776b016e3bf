// Waveforms as text, read back by a small reader of their own.
#include "formats/waveforms.hpp"

#include <gtest/gtest.h>

#include <map>
#include <sstream>

#include "support/circuits.hpp"

namespace elkit::test {
namespace {

Recording ramp() {
    const Circuit c = circuit({"supply PS1 +=IN -=0 voltage=5 resistance=0.001 lead_length=0",
                               "resistor R1 a=IN b=OUT value=10000", "capacitor C1 a=OUT b=0 value=1e-6"});
    return simulate(c, known_catalogue(), {},
                    {.until = 0.02, .start = Start::power_up, .probes = {"net:OUT", "part:R1"}})
        .value();
}

TEST(Waveforms, CsvHoldsEverySample) {
    const Recording r = ramp();
    const CsvTable back = parse_csv(write_csv(recording_csv(r))).value();
    ASSERT_EQ(back.size(), r.time.size() + 1);
    EXPECT_EQ(back[0], (std::vector<std::string>{"time_s", "OUT_V", "R1_A"}));
    for (std::size_t k = 0; k < r.time.size(); ++k) {
        EXPECT_NEAR(std::stod(back[k + 1][0]), r.time[k], 1e-9);
        EXPECT_NEAR(std::stod(back[k + 1][1]), r.traces[0].values[k], 1e-6);
        EXPECT_NEAR(std::stod(back[k + 1][2]), r.traces[1].values[k], 1e-9);
    }
}

/// Signals by name, each with its changes (seconds, value), as IEEE 1364 writes them.
std::map<std::string, std::vector<std::pair<double, double>>> read_vcd(const std::string& text) {
    std::map<std::string, std::string> names;
    std::map<std::string, std::vector<std::pair<double, double>>> signals;
    std::istringstream in(text);
    double tick = 1e-12, now = 0;
    for (std::string word; in >> word;) {
        if (word == "$timescale") {
            std::string unit;
            in >> unit;
            EXPECT_EQ(unit.substr(0, 1), "1") << unit;
        } else if (word == "$var") {
            std::string type, bits, id, name;
            in >> type >> bits >> id >> name;
            EXPECT_EQ(type, "real");
            names[id] = name;
        } else if (word[0] == '#') {
            now = std::stod(word.substr(1)) * tick;
        } else if (word[0] == 'r' && word.size() > 1 && word.find("eal") == std::string::npos) {
            std::string id;
            in >> id;
            signals[names.at(id)].emplace_back(now, std::stod(word.substr(1)));
        }
    }
    return signals;
}

TEST(Waveforms, VcdIsReadBack) {
    const Recording r = ramp();
    const auto signals = read_vcd(recording_vcd(r, "slope"));
    ASSERT_EQ(signals.size(), 2u);
    const auto& out = signals.begin()->first.find("OUT") != std::string::npos ? signals.begin()->second
                                                                              : signals.rbegin()->second;
    EXPECT_NEAR(out.back().second, r.traces[0].values.back(), 1e-6);
    for (std::size_t k = 1; k < out.size(); ++k) EXPECT_GE(out[k].first, out[k - 1].first);
    EXPECT_NEAR(out.back().first, r.time.back(), 2e-3);
    EXPECT_EQ(recording_vcd(r, "slope"), recording_vcd(ramp(), "slope")) << "the same run, the same text";
}

}  // namespace
}  // namespace elkit::test
