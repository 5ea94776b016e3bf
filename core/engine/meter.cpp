#include "engine/meter.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "circuit/part_kind.hpp"
#include "engine/measure.hpp"
#include "engine/newton.hpp"
#include "engine/steady.hpp"
#include "engine/system.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

constexpr double input_resistance = 10e6, counts = 2000, beep_below = 50;

Part resistance(const std::string& designator, const std::string& a, const std::string& b, double ohms) {
    Part p{designator, "resistor", {}, {{"a", a}, {"b", b}}, {}};
    p.params["value"] = ohms;
    return p;
}

/// The smallest range of 0.2, 2, 20 … that holds the value.
double range_for(double value, double least, double most) {
    double range = least;
    while (range < most && std::abs(value) >= range) range *= 10;
    return range;
}

/// Fills in value and display, rounded to the range's last digit.
void show(MeterReading& m, double value, double range, Unit unit, const std::string& label,
          std::vector<std::string> working) {
    const double digit = range / counts;
    m.range = range;
    m.overload = std::abs(value) >= range;
    m.value = {"meter", label, std::round(value / digit) * digit, unit, {}, {}, std::move(working)};
    m.value.working.push_back(fmt::format("shown on the {} range, in steps of {}",
                                          format_quantity(range, unit, 1), format_quantity(digit, unit, 1)));
    m.display = m.overload ? "OL" : format_on_range(m.value.value, unit, range);
}

struct Averages {
    double mean = 0, rms_of_swing = 0;
    bool pulses = false;
};

/// Mean of red against black, and the rms of what swings around it.
Result<Averages> averages(const Circuit& circuit, const Catalogue& catalogue, const Conditions& c,
                          const std::string& red, const std::string& black) {
    auto system = System::build(circuit, catalogue, c);
    if (!system) return system.error();
    if (system.value().monitors() == 0 && !system.value().can_store()) {
        auto op = operating_point(circuit, catalogue, c);
        if (!op) return op.error();
        return Averages{op.value().voltage(red) - op.value().voltage(black), 0, false};
    }
    auto steady = steady_state(circuit, catalogue, c, {"net:" + red, "net:" + black});
    if (!steady) return steady.error();
    const Recording& r = steady.value().cycle;
    std::vector<double> difference;
    for (std::size_t k = 0; k < r.time.size(); ++k)
        difference.push_back(r.traces[0].values[k] - r.traces[1].values[k]);
    if (!steady.value().repeats) return Averages{difference.front(), 0, false};
    const double mean = integral(r.time, difference, 0, r.time.back()) / r.time.back();
    double squares = 0;
    for (std::size_t k = 1; k < r.time.size(); ++k) {
        const double a = difference[k - 1] - mean, b = difference[k] - mean;
        squares += (r.time[k] - r.time[k - 1]) * (a * a + a * b + b * b) / 3;
    }
    return Averages{mean, std::sqrt(squares / r.time.back()), true};
}

Result<MeterReading> volts(Circuit circuit, const Catalogue& catalogue, const Conditions& c,
                           const Probing& p) {
    MeterReading m;
    double mean = 0;
    if (p.red != p.black) {
        circuit.parts.push_back(resistance("meter", p.red, p.black, input_resistance));
        auto found = averages(circuit, catalogue, c, p.red, p.black);
        if (!found) return found.error();
        const bool ac = p.mode == MeterMode::volts_ac;
        mean = ac ? found.value().rms_of_swing : found.value().mean;
        if (found.value().pulses)
            m.note = ac ? "rms of what swings around the mean" : "it pulses: the meter shows the mean";
        if (!found.value().pulses && ac) m.note = "a steady voltage: AC shows nothing";
    }
    show(m, mean, range_for(mean, 0.2, 600), Unit::volt, fmt::format("meter, {} against {}", p.red, p.black),
         {fmt::format("solved with the meter's 10 MΩ from {} to {}", p.red, p.black)});
    return m;
}

/// Moves one pin of a part to a net of its own; false if there is no such pin.
bool lift(Circuit& circuit, const std::string& leg, std::string& net) {
    const auto dot = leg.find('.');
    Part* part = circuit.find(leg.substr(0, dot));
    if (!part || dot == std::string::npos) return false;
    for (Pin& pin : part->pins)
        if (pin.name == leg.substr(dot + 1)) {
            net = std::exchange(pin.net, "lifted leg " + leg);
            return true;
        }
    return false;
}

Result<MeterReading> amps(const Circuit& circuit, const Catalogue& catalogue, const Conditions& c,
                          const Probing& p) {
    MeterReading m;
    for (const double shunt : {1.0, 0.05}) {
        Circuit with = circuit;
        std::string red = p.red, black = p.black;
        if (!p.lifted.empty()) {
            std::string net;
            if (!lift(with, p.lifted, net))
                return Error{Fault::usage, p.lifted, "there is no such pin", "PART.PIN, such as R1.a"};
            red = net, black = "lifted leg " + p.lifted;  // current into the pin reads positive
        }
        with.parts.push_back(resistance("meter", red, black, shunt));
        auto found = averages(with, catalogue, c, red, black);
        if (!found) return found.error();
        const double current = found.value().mean / shunt;
        if (shunt == 1.0 && std::abs(current) >= 0.2) continue;
        if (found.value().pulses) m.note = "it pulses: the meter shows the mean";
        const double drop = std::abs(found.value().mean);
        show(m, current, range_for(current, 0.002, shunt == 1.0 ? 0.2 : 20), Unit::ampere,
             p.lifted.empty() ? "meter between " + red + " and " + black : "meter in " + p.lifted,
             {fmt::format("solved with the meter's {} in the way, which drops {}",
                          format_quantity(shunt, Unit::ohm), format_quantity(drop, Unit::volt))});
        if (p.lifted.empty())
            m.note = "an ammeter across two nets joins them: lift a leg to put it in series";
        return m;
    }
    return m;
}

/// A chip or module without power: its outputs are open. What its input stages make of a meter's 0.4 V is
/// nothing that a datasheet tells. Contacts of a relay module that are closed at rest are closed.
bool dead_without_power(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind || !(kind->is(Role::chip) || kind->module)) return false;
    return !kind->module || std::none_of(kind->module->outputs.begin(), kind->module->outputs.end(),
                                         [](const ModuleSpec::Output& o) {
                                             return o.gives == ModuleSpec::Gives::passes && o.inverted;
                                         });
}

Result<MeterReading> ohms(const Circuit& circuit, const Catalogue& catalogue, const Conditions& c,
                          const Probing& p) {
    constexpr double drive = 0.4;  // V: below what makes junctions conduct
    MeterReading m;
    m.note = "measured with the power off: the cells are lifted";
    double value = 0;
    if (p.red != p.black) {
        Circuit off;
        for (const Part& part : circuit.parts)
            if (!is(part, Role::energy) && !dead_without_power(part)) off.parts.push_back(part);
        for (const double range_resistor : {100.0, 10e3, 1e6}) {
            Circuit with = off;
            Part meter{"meter", "vsource", {}, {{"+", p.red}, {"-", p.black}}, {}};
            meter.params["value"] = drive, meter.params["resistance"] = range_resistor;
            with.parts.insert(with.parts.begin(), meter);
            // what the lifted cells leave hanging is of no concern to the meter
            auto system = System::build(with, catalogue, c);
            if (!system) return system.error();
            auto rest = settle_at_rest(system.value());
            if (!rest) return rest.error();
            const int red = system.value().net(p.red);
            const double v = red > 0 ? rest.value().x[static_cast<std::size_t>(red)] : 0;
            const double i = (drive - v) / range_resistor;
            value = i > 1e-13 ? v / i : 1e30;
            if (value < 20 * range_resistor) break;
        }
    }
    const double most = 20e6;
    show(m, std::min(value, 2 * most), range_for(value, 200, most), Unit::ohm,
         fmt::format("meter, {} to {}, power off", p.red, p.black),
         {fmt::format("the meter drives {} behind its range resistor and divides volts by amperes",
                      format_quantity(drive, Unit::volt))});
    if (p.mode == MeterMode::beep) {
        m.beeps = value < beep_below;
        m.display = m.beeps ? "beep " + m.display : "silent";
    }
    return m;
}

}  // namespace

Result<MeterMode> meter_mode(const std::string& word) {
    static constexpr std::array<std::pair<std::string_view, MeterMode>, 5> modes{{{"V", MeterMode::volts_dc},
                                                                                  {"V~", MeterMode::volts_ac},
                                                                                  {"A", MeterMode::amps},
                                                                                  {"ohm", MeterMode::ohms},
                                                                                  {"beep", MeterMode::beep}}};
    for (const auto& [name, mode] : modes)
        if (name == word) return mode;
    return Error{Fault::usage, "mode", "found " + word, "V, V~, A, ohm or beep"};
}

Result<MeterReading> read_meter(const Circuit& circuit, const Catalogue& catalogue,
                                const Conditions& conditions, const Probing& p) {
    const auto nets = circuit.nets();
    for (const std::string* net : {&p.red, &p.black})
        if (p.lifted.empty() && std::find(nets.begin(), nets.end(), *net) == nets.end())
            return Error{Fault::usage, net == &p.red ? "red" : "black", "there is no net \"" + *net + "\"",
                         "a net of the circuit"};
    if (p.mode == MeterMode::amps) return amps(circuit, catalogue, conditions, p);
    if (p.mode == MeterMode::ohms || p.mode == MeterMode::beep)
        return ohms(circuit, catalogue, conditions, p);
    return volts(circuit, catalogue, conditions, p);
}

}  // namespace elkit
