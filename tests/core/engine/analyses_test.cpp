// Steady states, measurements, sweeps, spread and the meter.
#include <gtest/gtest.h>
#include <tbb/global_control.h>

#include <cmath>
#include <numbers>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "engine/long_run.hpp"
#include "engine/measure.hpp"
#include "engine/meter.hpp"
#include "engine/spread.hpp"
#include "engine/steady.hpp"
#include "engine/sweep.hpp"
#include "formats/waveforms.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

Circuit demo_circuit(const char* id) { return read_design(find_demo(id)->text).value().circuit; }

Circuit divider() {
    return circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0",
                    "resistor R1 a=V b=X value=10000 tolerance=0.1",
                    "resistor R2 a=X b=0 value=10000 tolerance=0.01"});
}

TEST(Waveform, WeightsGiveTheIntegralOverAll) {
    const Circuit c =
        circuit({"battery B1 +=P -=G", "resistor R1 a=P b=X value=10000", "capacitor C1 a=X b=G value=1e-6"});
    const Recording r = recorded(c, {.until = 0.05, .start = Start::power_up, .probes = {"net:X"}});
    const auto& x = r.traces[0].values;
    const double all = integral(r.time, x, r.time.front(), r.time.back());
    EXPECT_NEAR(mean_by(quadrature(r.time), x) * (r.time.back() - r.time.front()), all, 1e-9 * all);
    EXPECT_EQ(mean_by(quadrature({0}), {7}), 7) << "a moment";
}

TEST(Waveform, SamplesARoundingApartAreNoStep) {
    const double at = 24, beside = std::nextafter(24, 25);
    const std::vector<double> time{0, at, beside, beside, 48}, y{1, 1, 1, 3, 3};
    EXPECT_NEAR(integral(time, y, 0, 48), 96, 1e-9);
    EXPECT_NEAR(mean_by(quadrature(time), y), 2, 1e-9);
}

TEST(Waveform, IsEnoughAsSoonAsThereIsMoreThanAskedFor) {
    const Circuit c =
        circuit({"battery B1 +=P -=G", "resistor R1 a=P b=X value=10000", "capacitor C1 a=X b=G value=1e-6"});
    RunRequest request{.until = 1, .start = Start::power_up, .probes = {"net:X"}};
    request.enough = {"net:X", 1.0, 0};
    const Recording soon = recorded(c, request);
    EXPECT_LT(soon.time.back(), 0.02);
    EXPECT_GT(soon.traces[0].values.back(), 1.0);
    EXPECT_LT(soon.traces[0].values[soon.traces[0].values.size() - 3], 1.0) << "with the first step";
    request.enough = {"net:X", 1.0, 0.5};
    EXPECT_GE(recorded(c, request).time.back(), 0.5) << "not before it was asked for";
    request.enough = {"net:X", 100.0, 0};
    EXPECT_EQ(recorded(c, request).time.back(), 1) << "never that much";
}

TEST(Measure, ReadsASquareWave) {
    std::vector<double> t, y;
    for (int k = 0; k < 5; ++k)
        for (const auto& [at, v] :
             {std::pair{0.0, 0.0}, {0.3, 0.0}, {0.3001, 4.0}, {0.9999, 4.0}, {1.0, 0.0}})
            t.push_back(k + at), y.push_back(v);
    const Measurements m = measure(t, y);
    EXPECT_NEAR(*m.period, 1, 1e-3);
    EXPECT_NEAR(*m.duty(), 0.7, 1e-3);
    EXPECT_NEAR(m.mean, 2.8, 0.01);
    EXPECT_NEAR(m.rms, 4 * std::sqrt(0.7), 0.01);
    EXPECT_EQ(m.minimum, 0);
    EXPECT_EQ(m.maximum, 4);
    EXPECT_NEAR(*time_to_threshold(t, y, 2), 0.30005, 1e-4);
    EXPECT_NEAR(integral(t, y, 0, 2), 2 * 2.8, 0.01);
    EXPECT_FALSE(measurement(measure({0, 1}, {1, 1}), "period")) << "a steady value has no period";
}

TEST(SteadyState, FindsThePeriodOfEachDemo) {
    struct Case {
        const char* id;
        double least, most;
    };
    for (const Case& c :
         {Case{"harbour-dimmer", 7e-4, 1.2e-3}, {"twin-blinker", 0.4, 0.8}, {"firefly-jar", 5e-6, 2e-5}}) {
        const auto s = steady_state(demo_circuit(c.id), known_catalogue(), {}, {"part:L1"});
        ASSERT_TRUE(s) << c.id << ": " << s.error().text();
        EXPECT_TRUE(s.value().repeats) << c.id;
        EXPECT_GT(s.value().period, c.least) << c.id;
        EXPECT_LT(s.value().period, c.most) << c.id;
        EXPECT_LT(s.value().closure, 3e-2) << c.id << ": what the steps leave open";
        // the same from a long run
        RunRequest q{.until = 12 * s.value().period, .start = Start::power_up, .probes = {"part:L1"}};
        const auto run = simulate(demo_circuit(c.id), known_catalogue(), {}, q);
        ASSERT_TRUE(run) << c.id;
        const auto m = measure(run.value().time, run.value().traces[0].values, 8 * s.value().period);
        const double mean =
            integral(s.value().cycle.time, s.value().cycle.traces[0].values, 0, s.value().period) /
            s.value().period;
        EXPECT_NEAR(mean / m.mean, 1, 0.03) << c.id;
    }
}

TEST(SteadyState, DoesNotSimulateMinutesForALargeCapacitor) {
    Circuit c = astable(5, 10e3, 47e3, 1e-7);
    for (Part& p :
         circuit({"resistor R9 a=OUT b=SLOW value=100000", "electrolytic C9 +=SLOW -=0 value=0.0001"}).parts)
        c.parts.push_back(p);
    const auto s = steady_state(c, known_catalogue(), {}, {"net:SLOW", "net:OUT"});
    ASSERT_TRUE(s) << s.error().text();
    EXPECT_LT(s.value().cycles_run, 200) << "ten seconds of time constant are 1400 cycles";
    const auto& r = s.value().cycle;
    const double out = integral(r.time, r.traces[1].values, 0, s.value().period) / s.value().period;
    const double leak = 5e6 / (5e6 + 1e5);  // of the electrolytic
    EXPECT_NEAR(r.traces[0].values.back(), out * leak, 0.05) << "it holds the mean";
}

/// In the long run no capacitor keeps anything: its mean current is nothing against the source's.
TEST(SteadyState, LeavesNothingInACapacitor) {
    std::vector<Circuit> all;
    for (const char* demo : {"harbour-dimmer", "twin-blinker", "firefly-jar"})
        all.push_back(demo_circuit(demo));
    for (const char* cell : {"CR2032", "LR6"})
        for (const double reservoir : {1e-6, 4.7e-4})
            all.push_back(circuit(
                {std::string("battery B1 +=V -=0 cell=") + cell + " count=2",
                 "timer U1 gnd=0 trig=T out=G thr=T disch=D vcc=V reset=V", "resistor R1 a=V b=D value=47000",
                 "resistor R2 a=D b=T value=47000", "capacitor C1 a=T b=0 value=1e-8",
                 "capacitor C2 a=V b=0 value=" + std::to_string(reservoir), "nmos Q1 g=G d=K s=0",
                 "resistor R3 a=V b=A value=2200", "led L1 a=A k=K"}));
    for (const Circuit& c : all) {
        const auto run = long_run(c, known_catalogue(), {});
        ASSERT_TRUE(run) << run.error().text();
        const double source = run.value().mean().supply_current();
        EXPECT_GT(source, 0);
        for (const Part& part : c.parts)
            if (is(part, Role::capacitor)) {
                EXPECT_LT(std::abs(run.value().mean().part(part.designator).current), 0.02 * source)
                    << part.designator << " of " << c.parts.front().text("cell");
            }
    }
}

TEST(SteadyState, ClosesWhereAnotherSourceThanTheFirstDoesTheWork) {
    const auto s =
        steady_state(circuit({"battery B1 +=X -=0 cell=LR6", "resistor R9 a=X b=0 value=1e7",
                              "vsource VS1 +=P -=0 wave=pulse value=0 high=5 width=3e-4 period=1e-3",
                              "resistor R1 a=P b=V value=10", "diode D1 a=V k=Y",
                              "electrolytic C1 +=Y -=0 value=1e-4", "resistor R2 a=Y b=0 value=1000"}),
                     known_catalogue(), {}, {"part:C1"});
    ASSERT_TRUE(s) << s.error().text();
    EXPECT_TRUE(s.value().moves);
    EXPECT_TRUE(s.value().repeats);
    EXPECT_NEAR(s.value().period, 1e-3, 1e-6);
}

TEST(SteadyState, TakesBothHalvesOfASymmetricFlasher) {
    for (const double ohms : {150.0, 330.0, 390.0, 470.0}) {
        Circuit c = demo_circuit("twin-blinker");  // its supply shakes twice in a cycle, once for each side
        c.find("B1")->params["cell"] = std::string("LR03"), c.find("B1")->params["count"] = 3.0;
        for (const char* name : {"R1", "R4"}) c.find(name)->params["value"] = ohms;
        c.find("L2")->params["type"] = c.find("L1")->params["type"];
        for (const double battery : {1.0, 0.5, 0.1}) {
            Conditions cells;
            cells.battery = battery;
            const auto run = long_run(c, known_catalogue(), cells);
            ASSERT_TRUE(run) << ohms << " Ω, " << battery << ": " << run.error().text();
            const LongRun& r = run.value();
            EXPECT_NEAR(r.mean().part("L1").current / r.mean().part("L2").current, 1, 0.01)
                << ohms << " Ω, " << battery;
            EXPECT_NEAR(r.peak("L1", "a") / r.peak("L2", "a"), 1, 0.03) << ohms << " Ω, " << battery;
        }
    }
}

TEST(SteadyState, KnowsWhatRests) {
    const auto s = steady_state(divider(), known_catalogue(), {}, {"net:X"});
    ASSERT_TRUE(s);
    EXPECT_FALSE(s.value().repeats);
    EXPECT_NEAR(s.value().cycle.traces[0].values[0], 2.5, 1e-3);
}

TEST(Sweeps, FollowADividerAndAKnob) {
    const auto goal = goal_from_words(divider(), "X").value();
    const auto s = sweep(divider(), known_catalogue(), {}, "R1.value", {1000, 100000, 9, true}, {goal});
    ASSERT_TRUE(s) << s.error().text();
    for (std::size_t k = 0; k < s.value().at.size(); ++k)
        EXPECT_NEAR(s.value().values[0][k], 5 * 1e4 / (1e4 + s.value().at[k]), 1e-3);
    const Circuit dimmer = demo_circuit("harbour-dimmer");
    const auto duty = goal_from_words(dimmer, "GATE mean").value();
    const auto knob = sweep(dimmer, known_catalogue(), {}, "RV1", {0.1, 0.9, 5, false}, {duty});
    ASSERT_TRUE(knob) << knob.error().text();
    EXPECT_TRUE(knob.value().troubles.empty()) << knob.value().troubles.front();
    for (std::size_t k = 1; k < 5; ++k) EXPECT_GT(knob.value().values[0][k], knob.value().values[0][k - 1]);
    EXPECT_FALSE(sweep(divider(), known_catalogue(), {}, "R7.value", {1, 2, 3, false}, {goal}));
    EXPECT_FALSE(sweep(divider(), known_catalogue(), {}, "battery", {0, 2, 3, false}, {goal}))
        << "above full";
    EXPECT_EQ(range_from_words("10..1k:31 log").value().points, 31);
    EXPECT_FALSE(range_from_words("ten to twenty"));
}

TEST(Spreads, AreTheSameOnAnyNumberOfThreadsAndNameTheCulprit) {
    const auto goal = goal_from_words(divider(), "X").value();
    const auto one = [&](std::size_t threads, std::uint64_t seed) {
        const tbb::global_control limit(tbb::global_control::max_allowed_parallelism, threads);
        return spread(divider(), known_catalogue(), {}, {goal}, 2000, seed).value().front();
    };
    const Spread a = one(1, 7), b = one(2, 7), c = one(2, 8);
    EXPECT_EQ(a.values, b.values);
    EXPECT_NE(a.values, c.values);
    EXPECT_EQ(a.influences.front().designator, "R1") << "ten times the tolerance of R2";
    EXPECT_GT(a.influences.front().share, 0.9);
    EXPECT_LT(a.influences.front().correlation, 0);
    EXPECT_NEAR(a.median, 2.5, 0.01);
    EXPECT_GT(a.least, 5 * 0.99 / (0.99 + 1.1) - 1e-6);
    EXPECT_LT(a.most, 5 * 1.01 / (1.01 + 0.9) + 1e-6);
    EXPECT_LT(a.low, a.median);
    EXPECT_EQ(a.figure().working.size(), 3u);
}

MeterReading meter(const Circuit& c, Probing p) {
    auto m = read_meter(c, known_catalogue(), {}, p);
    EXPECT_TRUE(m) << (m ? "" : m.error().text());
    return m ? m.value() : MeterReading{};
}

TEST(Meter, LoadsWhatItMeasuresAndRounds) {
    Circuit c = divider();
    for (const char* r : {"R1", "R2"}) c.find(r)->params["value"] = 10e6;
    EXPECT_NEAR(meter(c, {"X", "0", MeterMode::volts_dc, {}}).value.value, 5.0 / 3, 0.01)
        << "10 MΩ across 10 MΩ";
    EXPECT_EQ(meter(divider(), {"X", "0", MeterMode::volts_dc, {}}).display, "2.50\u00a0V")
        << "of the 20 V range";
    EXPECT_EQ(meter(divider(), {"0", "X", MeterMode::volts_dc, {}}).value.value, -2.5);
}

TEST(Meter, ReadsAmperesInALiftedLeg) {
    const MeterReading m = meter(divider(), {"", "", MeterMode::amps, "R1.a"});
    EXPECT_NEAR(m.value.value, 250e-6, 1e-6);
    EXPECT_EQ(m.range, 0.002);
    EXPECT_FALSE(read_meter(divider(), known_catalogue(), {}, {"", "", MeterMode::amps, "R9.a"}));
}

TEST(Meter, ReadsOhmsWithThePowerOff) {
    EXPECT_NEAR(meter(divider(), {"V", "X", MeterMode::ohms, {}}).value.value, 10000, 20)
        << "not through the lifted supply";
    const Circuit diode = circuit({"supply PS1 +=V -=0 voltage=5 lead_length=0", "switch S1 a=V b=Y",
                                   "led L1 a=Y k=X", "resistor R1 a=X b=0 value=100"});
    EXPECT_TRUE(meter(diode, {"V", "X", MeterMode::ohms, {}}).overload) << "0.4 V does not light an LED";
    EXPECT_TRUE(meter(diode, {"V", "Y", MeterMode::beep, {}}).beeps);
    EXPECT_FALSE(meter(diode, {"V", "0", MeterMode::beep, {}}).beeps);
}

TEST(Meter, AveragesWhatPulses) {
    const Circuit c = astable(5, 10e3, 47e3, 1e-7);
    const MeterReading dc = meter(c, {"OUT", "0", MeterMode::volts_dc, {}}),
                       ac = meter(c, {"OUT", "0", MeterMode::volts_ac, {}});
    const double duty = 0.546;
    EXPECT_NEAR(dc.value.value, 5 * duty, 0.1);
    EXPECT_NEAR(ac.value.value, 5 * std::sqrt(duty * (1 - duty)), 0.1);
    EXPECT_FALSE(dc.note.empty());
}

TEST(Waveforms, AreWrittenAsCsvAndVcd) {
    const auto run = simulate(astable(5, 10e3, 47e3, 1e-7), known_catalogue(), {},
                              {.until = 0.01, .start = Start::power_up, .probes = {"net:OUT", "part:U1.out"}})
                         .value();
    const CsvTable table = recording_csv(run);
    EXPECT_EQ(table.size(), run.time.size() + 1);
    EXPECT_EQ(table[0], (std::vector<std::string>{"time_s", "OUT_V", "U1.out_A"}));
    const std::string vcd = recording_vcd(run, "test");
    EXPECT_NE(vcd.find("$timescale 1ps $end"), std::string::npos);
    EXPECT_NE(vcd.find("$var real 64 ! OUT_V $end"), std::string::npos);
    EXPECT_NE(vcd.find("$enddefinitions $end\n#0\nr"), std::string::npos);
    long long last = -1;  // times only grow
    for (std::size_t at = vcd.find("\n#"); at != std::string::npos; at = vcd.find("\n#", at + 1)) {
        const long long t = std::stoll(vcd.substr(at + 2));
        EXPECT_GT(t, last);
        last = t;
    }
    EXPECT_EQ(last, 10'000'000'000);
}

}  // namespace
}  // namespace elkit::test
