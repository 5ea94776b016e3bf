// Prints the accuracy table of docs/engine.md: closed forms against the engine, and what halving the step
// does. Usage: elkit_accuracy
#include <fmt/format.h>

#include <boost/math/special_functions/lambert_w.hpp>
#include <cmath>
#include <cstdio>
#include <functional>
#include <numbers>
#include <optional>

#include "engine/measure.hpp"
#include "engine/models.hpp"
#include "engine/steady.hpp"
#include "engine/transient.hpp"

namespace elkit {
namespace {

using Params = std::map<std::string, ParamValue>;

/// A part from "resistor R1 a=IN b=OUT": pins in the order of the kind.
Part part(const std::string& kind, const std::string& designator, std::vector<Pin> pins, Params params) {
    Part p;
    p.kind = kind, p.designator = designator, p.pins = std::move(pins), p.params = std::move(params);
    return p;
}
Part supply(double volts) {
    return part("supply", "PS1", {{"+", "V"}, {"-", "0"}},
                {{"voltage", volts}, {"resistance", 1e-6}, {"lead_length", 0.0}});
}
Part resistor(const char* name, const char* a, const char* b, double ohms) {
    return part("resistor", name, {{"a", a}, {"b", b}}, {{"value", ohms}});
}
Part capacitor(const char* a, const char* b, double farads) {
    return part("capacitor", "C1", {{"a", a}, {"b", b}}, {{"value", farads}, {"leakage", 1e15}});
}
Part diode(const char* name, const char* a, const char* k) {
    return part("diode", name, {{"a", a}, {"k", k}}, {});
}

[[noreturn]] void give_up(const Error& e) {
    std::fprintf(stderr, "%s\n", e.text().c_str());
    std::exit(1);
}

Recording run(const Circuit& circuit, double until, const std::string& probe, Accuracy accuracy) {
    RunRequest q{.until = until, .start = Start::power_up, .probes = {probe}};
    q.accuracy = accuracy, q.copy_cycles = false, q.balance = false;
    auto r = simulate(circuit, known_catalogue(), {}, q);
    if (!r) give_up(r.error());
    return std::move(r).value();
}

/// Value of a probe at the end of a run.
double at_end(const Circuit& circuit, double until, const std::string& probe, Accuracy accuracy) {
    return run(circuit, until, probe, accuracy).traces[0].values.back();
}

/// Time between the last switching and the one two before it.
double last_period(const Circuit& circuit, double until, Accuracy accuracy) {
    const Recording r = run(circuit, until, "net:OUT", accuracy);
    const auto& h = r.happenings;
    if (h.size() < 7) give_up({Fault::design, "circuit", "it does not switch", "an astable"});
    return h[h.size() - 1].time - h[h.size() - 3].time;
}

struct Case {
    std::string name, closed_form;
    double exact;
    const char* unit;
    std::function<double(Accuracy)> engine;
};

Case rc() {
    const Circuit c{{supply(5), resistor("R1", "V", "OUT", 10e3), capacitor("OUT", "0", 1e-6)}};
    return {"RC, 5 V, after one time constant", "V (1 − e^(−t/RC))", 5 * (1 - std::exp(-1.0)), "V",
            [c](Accuracy a) { return at_end(c, 0.01, "net:OUT", a); }};
}

Case slow_rc() {
    const Circuit c{{supply(5), resistor("R1", "V", "OUT", 10e6), capacitor("OUT", "0", 60e-6)}};
    return {"RC of ten minutes, after one time constant", "V (1 − e^(−t/RC))", 5 * (1 - std::exp(-1.0)), "V",
            [c](Accuracy a) { return at_end(c, 600, "net:OUT", a); }};
}

Case rlc() {
    Circuit c{{supply(1), resistor("R1", "V", "A", 10),
               part("inductor", "LI1", {{"a", "A"}, {"b", "OUT"}},
                    {{"value", 1e-3},
                     {"resistance", 1e-4},
                     {"saturation", 1000.0},
                     {"winding_capacitance", 0.0},
                     {"core_loss", 1e12}}),
               capacitor("OUT", "0", 1e-6)}};
    const double alpha = 10.0001 / 2e-3, w = std::sqrt(1e9 - alpha * alpha), t = 1e-4;
    return {"RLC ringing at 5 kHz, after half a swing", "V (1 − e^(−αt)(cos ωt + (α/ω) sin ωt))",
            1 - std::exp(-alpha * t) * (std::cos(w * t) + alpha / w * std::sin(w * t)), "V",
            [c, t](Accuracy a) { return at_end(c, t, "net:OUT", a); }};
}

Case diode_and_resistor(double celsius) {
    Circuit c{{supply(5), resistor("R1", "V", "OUT", 1e3), diode("D1", "OUT", "0")}};
    const Junction j = junction_model(c.parts[2], known_catalogue(), celsius, 0).value();
    const double r = 1e3 + 1e-6 + j.resistance, n = j.slope, is = j.saturation;
    const double i = n / r * boost::math::lambert_w0(is * r / n * std::exp((5 + is * r) / n)) - is;
    return {fmt::format("diode behind 1 kΩ at 5 V, {} °C", celsius), "I = (nVt/R) W(…) − Is", i, "A",
            [c, celsius](Accuracy) {
                Conditions at;
                at.celsius = celsius;
                auto op = operating_point(c, known_catalogue(), at);
                if (!op) give_up(op.error());
                return op.value().part("D1").current;
            }};
}

Part timer(double delay) {
    return part("timer", "U1",
                {{"gnd", "0"},
                 {"trig", "T"},
                 {"out", "OUT"},
                 {"reset", "V"},
                 {"thr", "T"},
                 {"disch", "D"},
                 {"vcc", "V"}},
                {{"type", std::string("timer-cmos")}, {"discharge_resistance", 0.1}, {"delay", delay}});
}

/// Without steering diodes: both times have a closed form, with the discharge pin's own resistance, and with
/// what the capacitor overshoots a threshold by until the output follows.
Case astable(double volts, std::optional<double> knob = {}) {
    const double ra = knob ? 1e3 + *knob * 1e5 : 10e3, rb = knob ? 1e3 + (1 - *knob) * 1e5 : 47e3,
                 farads = 1e-7, pin = 0.1, delay = 3e-7;
    Circuit c{{supply(volts), timer(delay), resistor("R1", "V", "D", ra), resistor("R2", "D", "T", rb),
               capacitor("T", "0", farads), resistor("R3", "OUT", "0", 1e5)}};
    if (knob) {
        c.parts[1].pins.push_back({"cont", "CONT"});
        c.parts.push_back(capacitor("CONT", "0", 1e-8));
        c.parts.back().designator = "C2";
    }
    const double floor = pin / (ra + pin), third = 1.0 / 3;  // of the supply
    const double up = (ra + rb) * farads, down = (rb + pin * ra / (ra + pin)) * farads;
    const double top = 1 - third * std::exp(-delay / up),
                 bottom = floor + (third - floor) * std::exp(-delay / down);
    const double period =
        2 * delay + up * std::log((1 - bottom) / third) + down * std::log((top - floor) / (third - floor));
    return {knob ? fmt::format("astable with 10 nF at its control pin, knob at {:.0f} %: period", 100 * *knob)
                 : fmt::format("astable at {} V: period", volts),
            "ln2 (Ra + 2 Rb) C, and the chip's delay", period, "s",
            [c, period](Accuracy a) { return last_period(c, 8.3 * period, a); }};
}

/// Two clocks that have nothing to do with each other: the first one's output on average, as if it were
/// alone.
Case two_clocks() {
    const double ra = 10e3, rb = 47e3;
    Circuit c{{supply(5), timer(0), resistor("R1", "V", "D", ra), resistor("R2", "D", "T", rb),
               capacitor("T", "0", 1e-7), resistor("R3", "OUT", "0", 1e8), timer(0),
               resistor("R4", "V", "D2", ra), resistor("R5", "D2", "T2", 1.618034 * rb),
               capacitor("T2", "0", 1e-7), resistor("R6", "OUT2", "0", 1e8)}};
    c.parts[6].designator = "U2", c.parts[9].designator = "C2";
    for (Pin& pin : c.parts[6].pins)
        if (pin.net != "V" && pin.net != "0") pin.net += "2";
    return {"two unrelated clocks: output of the first on average", "V (Ra + Rb)/(Ra + 2 Rb)",
            5 * (ra + rb) / (ra + 2 * rb), "V", [c](Accuracy a) {
                const auto s = steady_state(c, known_catalogue(), {}, {"net:OUT"}, a);
                if (!s) give_up(s.error());
                const Recording& r = s.value().cycle;
                return integral(r.time, r.traces[0].values, r.time.front(), r.time.back()) /
                       (r.time.back() - r.time.front());
            }};
}

/// Seconds to move `farads` from one third to two thirds of the supply through a resistor and a diode: the
/// diode's own curve, integrated by Simpson's rule; `charging` or towards zero.
double through_diode(const Junction& j, double volts, double ohms, double farads, bool charging) {
    const auto current = [&](double v) {
        const double across = charging ? volts - v : v;
        const double r = ohms + j.resistance;
        return j.slope / r *
                   boost::math::lambert_w0(j.saturation * r / j.slope *
                                           std::exp((across + j.saturation * r) / j.slope)) -
               j.saturation;
    };
    constexpr int n = 2000;
    const double h = volts / 3 / n;
    double sum = 0;
    for (int k = 0; k <= n; ++k)
        sum += (k == 0 || k == n ? 1 : k % 2 ? 4 : 2) * farads / current(volts / 3 + k * h);
    return sum * h / 3;
}

Case steered(double volts) {
    const double ra = 22e3, rb = 33e3, farads = 1e-7;
    const Circuit c{{supply(volts), timer(0), resistor("R1", "V", "D", ra), diode("D1", "D", "T"),
                     diode("D2", "T", "X"), resistor("R2", "X", "D", rb), capacitor("T", "0", farads),
                     resistor("R3", "OUT", "0", 1e5)}};
    const Junction j = junction_model(c.parts[3], known_catalogue(), Conditions{}.celsius, 0).value();
    const double period =
        through_diode(j, volts, ra, farads, true) + through_diode(j, volts, rb + 0.1, farads, false);
    return {fmt::format("astable with steering diodes at {} V: period", volts),
            fmt::format("∫ C dV/I; 0.69 (Ra + Rb) C would be {:.0f} % off",
                        100 * (0.69 * (ra + rb) * farads / period - 1)),
            period, "s", [c](Accuracy a) { return last_period(c, 0.1, a); }};
}

/// Constant voltage on a winding: its flux linkage is V·t, and the current follows from the core's law.
Case saturating_core() {
    const double turns = 20, al = 1e-6, limit = 0.35 * 5e-6, k = 0.999, volts = 1;
    const double t = 1.15 * limit * turns / volts;  // well into saturation
    Circuit c{{supply(volts), part("core", "T1", {{"1a", "V"}, {"1b", "0"}},
                                   {{"turns1", turns},
                                    {"al", al},
                                    {"area", 5.0},
                                    {"bsat", 0.35},
                                    {"wire_resistance", 1e-6},
                                    {"winding_capacitance", 0.0},
                                    {"core_loss", 1e12},
                                    {"coupling", k}})}};
    const auto linkage = [&](double i) {
        const double theta = turns * i, air = k * al / 200;
        return turns * (limit * std::tanh((k * al - air) * theta / limit) + air * theta) +
               (1 - k) * turns * turns * al * i;
    };
    double low = 0, high = 1e4;
    for (int n = 0; n < 200; ++n) (linkage((low + high) / 2) < volts * t ? low : high) = (low + high) / 2;
    return {"core driven 15 % past saturation: current", "V t = N Φ(N i) + leakage", low, "A",
            [c, t](Accuracy a) { return at_end(c, t, "part:T1", a); }};
}

/// Two windings of N and 2N turns coupled by k, a step on one, a resistor on the other: L i' = v − R i with
/// the matrix L.
Case coupled(double k) {
    const double turns = 10, al = 1e-6, r1 = 1, r2 = 50, volts = 1, t = 40e-6;
    const double l1 = al * turns * turns, l2 = 4 * l1, m = k * std::sqrt(l1 * l2);
    Circuit c{{supply(volts), resistor("R1", "V", "A", r1),
               part("core", "T1", {{"1a", "A"}, {"1b", "0"}, {"2a", "B"}, {"2b", "0"}},
                    {{"turns1", turns},
                     {"turns2", 2 * turns},
                     {"al", al},
                     {"area", 1e4},
                     {"bsat", 3.0},
                     {"wire_resistance", 1e-6},
                     {"winding_capacitance", 0.0},
                     {"core_loss", 1e12},
                     {"coupling", k}}),
               resistor("R2", "B", "0", r2)}};
    // i1 = V/R1 + a e^(p t) + b e^(q t) with p, q the roots of (l1 l2 − m²) s² + (r1 l2 + r2 l1) s + r1 r2
    const double d = l1 * l2 - m * m, sum = (r1 * l2 + r2 * l1) / d;
    const double root = std::sqrt(sum * sum / 4 - r1 * r2 / d), p = -sum / 2 + root, q = -sum / 2 - root;
    const double slope = volts * l2 / d;  // di1/dt at once
    const double b = (slope + p * volts / r1) / (q - p), a = -volts / r1 - b;
    return {fmt::format("windings coupled by {}: current of the driven one", k), "V/R + a e^(pt) + b e^(qt)",
            volts / r1 + a * std::exp(p * t) + b * std::exp(q * t), "A",
            [c, t](Accuracy accuracy) { return at_end(c, t, "part:R1", accuracy); }};
}

/// A coil that a switch lets go: its current swings into its own capacitance and that of the contacts.
Case opened_switch() {
    const double volts = 5, ohms = 1000, henry = 0.01, farads = 10e-12, contacts = 2e-12;
    Circuit c{{supply(volts), part("switch", "S1", {{"a", "V"}, {"b", "OUT"}}, {}),
               part("inductor", "LI1", {{"a", "OUT"}, {"b", "0"}},
                    {{"value", henry},
                     {"resistance", ohms},
                     {"saturation", 1000.0},
                     {"winding_capacitance", farads},
                     {"core_loss", 1e12}})}};
    const double all = farads + contacts, alpha = ohms / (2 * henry),
                 w = std::sqrt(1 / (henry * all) - alpha * alpha), quarter = std::numbers::pi / 2 / w;
    const double sine = (-volts / ohms / all + alpha * volts) / w;
    const double v = std::exp(-alpha * quarter) * sine;
    return {
        "coil let go by a switch: first peak", "−I √(L/C) e^(−αt)", v, "V", [c, quarter](Accuracy a) {
            const double at = 1e-3;
            Conditions closed;
            closed.celsius = 20;  // copper's resistance is stated there
            Conditions open = closed;
            open.switches["S1"] = false;
            RunRequest q{.until = at + quarter, .probes = {"net:OUT"}, .changes = {{at, open, "S1 opens"}}};
            q.accuracy = a;
            auto r = simulate(c, known_catalogue(), closed, q);
            if (!r) give_up(r.error());
            return r.value().traces[0].values.back();
        }};
}

Case thermistor(double celsius) {
    Circuit c{{supply(5),
               part("thermistor", "TH1", {{"a", "V"}, {"b", "OUT"}},
                    {{"value", 10e3}, {"beta", 3950.0}, {"dissipation", 1000.0}}),
               resistor("R1", "OUT", "0", 10e3)}};
    const double r = 10e3 * std::exp(3950 * (1 / (celsius + 273.15) - 1 / 298.15));
    return {fmt::format("thermistor divider at {} °C", celsius), "V R/(R + R25 e^(β(1/T − 1/T25)))",
            5 * 10e3 / (10e3 + r), "V", [c, celsius](Accuracy) {
                Conditions at;
                at.celsius = celsius;
                auto op = operating_point(c, known_catalogue(), at);
                if (!op) give_up(op.error());
                return op.value().voltage("OUT");
            }};
}

/// Two N-MOSFETs, the gate of each at the drain of the other. In either state the drains v of the one that
/// conducts and w of the other solve (V − v)/R = I(w, v) and (V − w)/R = I(v, w): by bisection, in turns.
Case latch(bool conducting) {
    constexpr double volts = 5, ohms = 10e3, threshold = 1.5, on = 1000, drive = 5, n = 1.4;
    const double vt = thermal_voltage(25), beta = 1 / (on * (drive - threshold));
    const auto amps = [=](double gate, double drain) {
        const auto f = [&](double u) { return std::pow(std::log1p(std::exp(u / (2 * n * vt))), 2); };
        return 2 * n * beta * vt * vt * (f(gate - threshold) - f(gate - threshold - n * drain)) +
               1e-12 * drain;
    };
    const auto drain_at = [&](double gate) {
        double low = 0, high = volts;
        for (int k = 0; k < 200; ++k) {
            const double middle = (low + high) / 2;
            (amps(gate, middle) < (volts - middle) / ohms ? low : high) = middle;
        }
        return low;
    };
    double v = 0, w = volts;
    for (int k = 0; k < 100; ++k) v = drain_at(w), w = drain_at(v);
    const Params like{
        {"threshold", threshold}, {"on_resistance", on}, {"gate_drive", drive}, {"leakage", 0.0}};
    Circuit c{{supply(volts), resistor("R1", "V", "OUT", ohms), resistor("R2", "V", "X", ohms),
               part("nmos", "Q1", {{"d", "OUT"}, {"g", "X"}, {"s", "0"}}, like),
               part("nmos", "Q2", {{"d", "X"}, {"g", "OUT"}, {"s", "0"}}, like)}};
    return {fmt::format("latch of two N-MOSFETs, {} the first", conducting ? "on" : "off"),
            "(V − v)/R = I(w, v), by bisection", conducting ? v : w, "V", [c, conducting](Accuracy) {
                Conditions at;
                at.celsius = 25;
                const auto states = operating_points(c, known_catalogue(), at);
                if (!states) give_up(states.error());
                for (const OperatingPoint& op : states.value())
                    if (const double out = op.voltage("OUT"), other = op.voltage("X");
                        std::abs(out - other) > 1 && (out < other) == conducting)
                        return out;
                give_up({Fault::design, "circuit", "not found in this state", "both states of a latch"});
            }};
}

/// A timer used as a bistable: its output stands behind its resistance above or below the load's divider.
Case bistable(bool high) {
    constexpr double volts = 9, load = 470, up = 120, down = 12, drop = 0.3;
    Circuit c{{supply(volts),
               part("timer", "U1",
                    {{"gnd", "0"}, {"trig", "T"}, {"out", "OUT"}, {"reset", "R"}, {"thr", "0"}, {"vcc", "V"}},
                    {{"source_resistance", up}, {"sink_resistance", down}, {"high_drop", drop}}),
               resistor("R1", "V", "T", 10e3), resistor("R2", "V", "R", 10e3),
               resistor("R3", "OUT", "0", load), resistor("R4", "OUT", "V", load)}};
    // the Thevenin voltage of the two equal loads is V/2 behind load/2
    const double ohms = high ? up : down, own = high ? volts - drop : 0;
    const double exact = (own / ohms + volts / load) / (1 / ohms + 2 / load);
    return {fmt::format("timer as a bistable, output {}", high ? "high" : "low"), "(E/r + V/R)/(1/r + 2/R)",
            exact, "V", [c, high](Accuracy) {
                const auto states = operating_points(c, known_catalogue(), {});
                if (!states) give_up(states.error());
                for (const OperatingPoint& op : states.value())
                    if ((op.voltage("OUT") > 4.5) == high) return op.voltage("OUT");
                give_up({Fault::design, "circuit", "not found in this state", "both states of a latch"});
            }};
}

void print(const Case& c) {
    const auto error = [&](double relative) {
        return std::abs(
            c.engine({.relative = relative, .volts = relative * 1e-3, .others = 1e-10}) / c.exact - 1);
    };
    fmt::print("| {} | {} | {:.6g} {} | {:.1e} | {:.1e} |\n", c.name, c.closed_form, c.exact, c.unit,
               error(5e-3), error(1e-6));
}

/// Fixed steps, halved again and again: TR-BDF2 is of second order, so each halving divides the error by
/// four. (A core under a steady voltage is no case: its flux is exact at any step.)
void print_halving(const Case& c, double longest, const char* name) {
    std::string errors;
    double before = 0;
    for (int k = 0; k < 5; ++k, longest /= 2) {
        const double e =
            std::abs(c.engine({.relative = 1e3, .volts = 1, .others = 1, .longest_step = longest}) - c.exact);
        errors += fmt::format(" {:.2e}{} |", e, before > 0 ? fmt::format(" (÷{:.2f})", before / e) : "");
        before = e;
    }
    fmt::print("| {} |{}\n", name, errors);
}

}  // namespace
}  // namespace elkit

int main() {
    using namespace elkit;
    fmt::print(
        "| what | closed form | its value | off at the default accuracy | off at 1e-6 "
        "|\n|---|---|---|---|---|\n");
    for (const Case& c :
         {rc(), slow_rc(), rlc(), diode_and_resistor(-10), diode_and_resistor(21), diode_and_resistor(60)})
        print(c);
    for (const double volts : {3.0, 5.0, 9.0, 12.0}) print(astable(volts));
    for (const double knob : {0.0, 0.5, 1.0}) print(astable(9, knob));
    print(two_clocks());
    for (const double volts : {3.0, 5.0, 9.0, 12.0}) print(steered(volts));
    print(saturating_core());
    for (const double k : {0.7, 0.99}) print(coupled(k));
    print(opened_switch());
    for (const bool on : {true, false}) print(latch(on));
    for (const bool high : {true, false}) print(bistable(high));
    for (const double celsius : {0.0, 25.0, 60.0}) print(thermistor(celsius));
    fmt::print(
        "\n| step held at h, h/2, … h/16: error | h | h/2 | h/4 | h/8 | h/16 |\n|---|---|---|---|---|---|\n");
    print_halving(rc(), 2e-3, "RC [V], h = 2 ms");
    print_halving(rlc(), 1e-5, "RLC [V], h = 10 µs");
    return 0;
}
