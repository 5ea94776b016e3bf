// Random circuits with gain and storage, through time: Kirchhoff's laws hold at every accepted point, charge
// balances, and nothing gives energy that was not put in.
#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "engine/band.hpp"
#include "engine/measure.hpp"
#include "engine/transient.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

std::string number(double v) {
    std::ostringstream s;
    s << v;
    return s.str();
}

/// Transistors with random bases and loads, capacitors and coils between random nets, fed by a pulsed source.
Circuit random_circuit(int seed) {
    std::mt19937 random(static_cast<unsigned>(seed));
    const auto pick = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    std::vector<std::string> lines{
        "supply PS1 +=V -=0 voltage=" + number(3 + pick(6)) + " resistance=0.5",
        "vsource VS1 +=IN -=0 wave=pulse value=0 high=3 width=2e-4 period=5e-4 edge=1e-6 resistance=10"};
    std::vector<std::string> nets{"V", "IN", "0"};
    const auto any = [&] { return nets[static_cast<std::size_t>(pick(static_cast<int>(nets.size())))]; };
    const int stages = 2 + seed % 4;
    for (int k = 1; k <= stages; ++k) {
        const std::string n = std::to_string(k), c = "C" + n, b = "B" + n;
        const char* kind = k % 3 == 0 ? "nmos" : "npn";
        lines.push_back(k % 3 == 0 ? std::string(kind) + " Q" + n + " d=" + c + " g=" + b + " s=0"
                                   : std::string(kind) + " Q" + n + " c=" + c + " b=" + b + " e=0");
        lines.push_back("resistor RB" + n + " a=" + any() + " b=" + b +
                        " value=" + number(2200 * (1 + pick(10))));
        lines.push_back("resistor RG" + n + " a=" + b + " b=0 value=100000");
        lines.push_back("resistor RL" + n + " a=V b=A" + n + " value=" + number(100 * (1 + pick(10))));
        lines.push_back("led L" + n + " a=A" + n + " k=" + c);
        nets.push_back(c);
        const std::string other = any();
        if (other != c)
            lines.push_back("capacitor K" + n + " a=" + c + " b=" + other +
                            " value=" + number(1e-9 * (1 + pick(50))));
    }
    lines.push_back("resistor RI a=IN b=0 value=4700");
    lines.push_back("inductor LI1 a=V b=X value=1e-3 resistance=2 saturation=1");
    lines.push_back("resistor RX a=X b=C1 value=330");
    return circuit(lines);
}

class RandomRun : public ::testing::TestWithParam<int> {};

TEST_P(RandomRun, HoldsKirchhoffChargeAndEnergy) {
    const Circuit c = random_circuit(GetParam());
    RunRequest request{.until = 2e-3, .start = Start::power_up};
    request.accuracy.relative = 1e-3;
    request.copy_cycles = false;
    std::vector<std::vector<std::size_t>> of_net(c.nets().size());
    std::vector<double> sign;
    const auto nets = c.nets();
    for (const Part& part : c.parts)
        for (const Pin& pin : part.pins) {
            const auto n =
                static_cast<std::size_t>(std::find(nets.begin(), nets.end(), pin.net) - nets.begin());
            of_net[n].push_back(request.probes.size());
            request.probes.push_back("part:" + part.designator + "." + pin.name);
        }
    auto run = simulate(c, known_catalogue(), {}, request);
    ASSERT_TRUE(run) << run.error().text();
    const Recording& r = run.value();
    double largest = 0;
    for (const Trace& t : r.traces)
        for (const double i : t.values) largest = std::max(largest, std::abs(i));
    double worst = 0;
    std::string where;
    for (std::size_t n = 0; n < nets.size(); ++n)
        for (std::size_t k = 0; k < r.time.size(); ++k) {
            double sum = 0;
            for (const std::size_t p : of_net[n]) sum += r.traces[p].values[k];
            if (std::abs(sum) > worst) worst = std::abs(sum), where = nets[n] + " at " + number(r.time[k]);
        }
    EXPECT_LT(worst, request.accuracy.relative * largest) << where << " of " << largest;
    EXPECT_LT(r.balance.charge_error, 0.02);
    EXPECT_LT(r.balance.energy_error, 0.05) << "given " << r.balance.given << ", taken " << r.balance.taken;
}

INSTANTIATE_TEST_SUITE_P(Seeds, RandomRun, ::testing::Range(1, 81));

TEST(Bands, HoldTheTypicalTraceAndAreTheSameForASeed) {
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=OUT value=10000 tolerance=0.1",
                 "capacitor C1 a=OUT b=0 value=1e-6 tolerance=0.2"});
    const RunRequest request{.until = 0.05, .start = Start::power_up, .probes = {"net:OUT"}};
    const auto one = bands(c, known_catalogue(), {}, request, 40, 100),
               again = bands(c, known_catalogue(), {}, request, 40, 100);
    ASSERT_TRUE(one);
    const Band& band = one.value().bands.front();
    EXPECT_EQ(band.low, again.value().bands.front().low) << "whatever thread was first";
    const auto typical = simulate(c, known_catalogue(), {}, request).value();
    for (std::size_t k = 5; k < band.low.size(); k += 10) {
        const double v = value_at(typical.time, typical.traces[0].values, one.value().time[k]);
        EXPECT_LE(band.low[k], v + 1e-3);
        EXPECT_GE(band.high[k], v - 1e-3);
    }
    EXPECT_GT(band.high[20] - band.low[20], 0.2) << "a fifth of the way the tolerances show";
    EXPECT_LT(band.high[99] - band.low[99], 0.1) << "full is full";
    const auto stopped =
        bands(c, known_catalogue(), {}, request, 40, 100, 1, [](auto, double) { return false; });
    EXPECT_FALSE(stopped);
}

TEST(Measure, TimesDifferencesAndChargeACycle) {
    const std::vector<double> time{0, 1, 2, 3}, values{0, 2, 4, 6};
    EXPECT_DOUBLE_EQ(value_at(time, values, 0.25), 0.5);
    EXPECT_DOUBLE_EQ(value_at(time, values, 9), 6);
    EXPECT_DOUBLE_EQ(value_difference(time, values, "X", Unit::volt, 0.5, 1.5).value, 2);
    EXPECT_DOUBLE_EQ(threshold_figure(time, values, "X", Unit::volt, 3)->value, 1.5);
    EXPECT_DOUBLE_EQ(threshold_figure(time, values, "X", Unit::volt, 3, 1)->value, 0.5) << "from the mark";
    EXPECT_FALSE(threshold_figure(time, values, "X", Unit::volt, 7));
    Measurements m;
    m.mean = 2e-3, m.period = 0.5;
    EXPECT_DOUBLE_EQ(measurement(m, "cycle").value(), 1e-3);
    EXPECT_EQ(measurement_unit("cycle", Unit::watt), Unit::joule);
}

}  // namespace
}  // namespace elkit::test
