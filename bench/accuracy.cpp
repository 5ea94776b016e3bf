// Prints the accuracy table of docs/engine.md: closed forms against the engine, and what halving the step
// does. Usage: elkit_accuracy
#include <fmt/format.h>

#include <boost/math/special_functions/lambert_w.hpp>
#include <cmath>
#include <cstdio>
#include <functional>
#include <numbers>

#include "engine/models.hpp"
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
    auto r = simulate(circuit, built_in_catalogue(), {}, q);
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

Case rlc() {
    Circuit c{{supply(1), resistor("R1", "V", "A", 10),
               part("inductor", "LI1", {{"a", "A"}, {"b", "OUT"}},
                    {{"value", 1e-3}, {"resistance", 1e-4}, {"saturation", 1000.0}}),
               capacitor("OUT", "0", 1e-6)}};
    const double alpha = 10.0001 / 2e-3, w = std::sqrt(1e9 - alpha * alpha), t = 1e-4;
    return {"RLC ringing at 5 kHz, after half a swing", "V (1 − e^(−αt)(cos ωt + (α/ω) sin ωt))",
            1 - std::exp(-alpha * t) * (std::cos(w * t) + alpha / w * std::sin(w * t)), "V",
            [c, t](Accuracy a) { return at_end(c, t, "net:OUT", a); }};
}

Case diode_and_resistor(double celsius) {
    Circuit c{{supply(5), resistor("R1", "V", "OUT", 1e3), diode("D1", "OUT", "0")}};
    const Junction j = junction_model(c.parts[2], built_in_catalogue(), celsius, 0).value();
    const double r = 1e3 + 1e-6 + j.resistance, n = j.slope, is = j.saturation;
    const double i = n / r * boost::math::lambert_w0(is * r / n * std::exp((5 + is * r) / n)) - is;
    return {fmt::format("diode behind 1 kΩ at 5 V, {} °C", celsius), "I = (nVt/R) W(…) − Is", i, "A",
            [c, celsius](Accuracy) {
                Conditions at;
                at.celsius = celsius;
                auto op = operating_point(c, built_in_catalogue(), at);
                if (!op) give_up(op.error());
                return op.value().part("D1").current;
            }};
}

Part timer() {
    return part("timer", "U1",
                {{"gnd", "0"},
                 {"trig", "T"},
                 {"out", "OUT"},
                 {"reset", "V"},
                 {"thr", "T"},
                 {"disch", "D"},
                 {"vcc", "V"}},
                {{"type", std::string("timer-cmos")}, {"discharge_resistance", 0.1}});
}

/// Without steering diodes: both times have a closed form, with the discharge pin's own resistance.
Case astable(double volts) {
    const double ra = 10e3, rb = 47e3, farads = 1e-7, pin = 0.1;
    const Circuit c{{supply(volts), timer(), resistor("R1", "V", "D", ra), resistor("R2", "D", "T", rb),
                     capacitor("T", "0", farads), resistor("R3", "OUT", "0", 1e5)}};
    const double floor = pin / (ra + pin), ohms = rb + pin * ra / (ra + pin);
    const double period = (ra + rb) * farads * std::numbers::ln2 +
                          ohms * farads * std::log((2.0 / 3 - floor) / (1.0 / 3 - floor));
    return {fmt::format("astable at {} V: period", volts), "ln2 (Ra + 2 Rb) C", period, "s",
            [c](Accuracy a) { return last_period(c, 0.06, a); }};
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
    const Circuit c{{supply(volts), timer(), resistor("R1", "V", "D", ra), diode("D1", "D", "T"),
                     diode("D2", "T", "X"), resistor("R2", "X", "D", rb), capacitor("T", "0", farads),
                     resistor("R3", "OUT", "0", 1e5)}};
    const Junction j = junction_model(c.parts[3], built_in_catalogue(), Conditions{}.celsius, 0).value();
    const double period =
        through_diode(j, volts, ra, farads, true) + through_diode(j, volts, rb + 0.1, farads, false);
    return {fmt::format("astable with steering diodes at {} V: period", volts),
            fmt::format("∫ C dV/I; 0.69 (Ra + Rb) C would be {:.0f} % off",
                        100 * (0.69 * (ra + rb) * farads / period - 1)),
            period, "s", [c](Accuracy a) { return last_period(c, 0.1, a); }};
}

/// Constant voltage on a winding: its flux linkage is V·t, and the current follows from the core's law.
Case saturating_core() {
    const double turns = 20, al = 1e-6, limit = 0.35 * 5e-6, leak = 1 - 0.999 * 0.999, volts = 1;
    const double t = 1.15 * limit * turns / volts;  // well into saturation
    Circuit c{{supply(volts), part("core", "T1", {{"1a", "V"}, {"1b", "0"}},
                                   {{"turns1", turns},
                                    {"al", al},
                                    {"area", 5.0},
                                    {"bsat", 0.35},
                                    {"wire_resistance", 1e-6},
                                    {"coupling", 0.999}})}};
    const auto linkage = [&](double i) {
        const double theta = turns * i, air = al / 200;
        return turns * (limit * std::tanh((al - air) * theta / limit) + air * theta) +
               leak * turns * turns * al * i;
    };
    double low = 0, high = 1e4;
    for (int k = 0; k < 200; ++k) (linkage((low + high) / 2) < volts * t ? low : high) = (low + high) / 2;
    return {"core driven 15 % past saturation: current", "V t = N Φ(N i) + leakage", low, "A",
            [c, t](Accuracy a) { return at_end(c, t, "part:T1", a); }};
}

Case thermistor(double celsius) {
    Circuit c{{supply(5),
               part("thermistor", "TH1", {{"a", "V"}, {"b", "OUT"}}, {{"value", 10e3}, {"beta", 3950.0}}),
               resistor("R1", "OUT", "0", 10e3)}};
    const double r = 10e3 * std::exp(3950 * (1 / (celsius + 273.15) - 1 / 298.15));
    return {fmt::format("thermistor divider at {} °C", celsius), "V R/(R + R25 e^(β(1/T − 1/T25)))",
            5 * 10e3 / (10e3 + r), "V", [c, celsius](Accuracy) {
                Conditions at;
                at.celsius = celsius;
                auto op = operating_point(c, built_in_catalogue(), at);
                if (!op) give_up(op.error());
                return op.value().voltage("OUT");
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
/// four.
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
         {rc(), rlc(), diode_and_resistor(-10), diode_and_resistor(21), diode_and_resistor(60)})
        print(c);
    for (const double volts : {3.0, 5.0, 9.0, 12.0}) print(astable(volts));
    for (const double volts : {3.0, 5.0, 9.0, 12.0}) print(steered(volts));
    print(saturating_core());
    for (const double celsius : {0.0, 25.0, 60.0}) print(thermistor(celsius));
    fmt::print(
        "\n| step held at h, h/2, … h/16: error | h | h/2 | h/4 | h/8 | h/16 |\n|---|---|---|---|---|---|\n");
    print_halving(rc(), 2e-3, "RC [V], h = 2 ms");
    print_halving(rlc(), 1e-5, "RLC [V], h = 10 µs");
    print_halving(saturating_core(), 4e-6, "saturating core [A], h = 4 µs");
    return 0;
}
