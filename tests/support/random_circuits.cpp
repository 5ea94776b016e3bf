#include "support/random_circuits.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/operating_point.hpp"
#include "engine/transient.hpp"

namespace elkit::test {
namespace {

class Dice {
  public:
    explicit Dice(unsigned seed) : random_(seed) {}
    int below(int n) { return static_cast<int>(random_() % static_cast<unsigned>(n)); }
    bool chance(double p) { return unit() < p; }
    double unit() { return static_cast<double>(random_()) / 4294967296.0; }
    template <class T>
    const T& of(const std::vector<T>& list) {
        return list[static_cast<std::size_t>(below(static_cast<int>(list.size())))];
    }
    /// Anywhere in the range of a parameter, near its usual value more often than not.
    double value(const ParamInfo& p) {
        const double usual = std::get<double>(p.standard);
        double low = p.low, high = p.high;
        if (usual > 0 && chance(0.7)) low = std::max(low, usual / 10), high = std::min(high, usual * 10);
        if (low > 0 && high / low > 20) return low * std::pow(high / low, unit());
        return low + (high - low) * unit();
    }

  private:
    std::mt19937 random_;
};

bool may_be_random(const PartKind& kind) { return !kind.is(Role::no_current); }

Part random_part(Dice& dice, const PartKind& kind, const std::string& name,
                 const std::vector<std::string>& nets) {
    Part part{name, kind.id, {}, {}, {}};
    const bool windings = kind.id == "core";  // both ends or none, in order
    const std::size_t wound = 2 * static_cast<std::size_t>(1 + dice.below(3));
    for (const std::string& pin : kind.pins)
        if (windings ? part.pins.size() < wound : !kind.optional(pin) || dice.chance(0.5))
            part.pins.push_back({pin, dice.of(nets)});
    const auto alike = [&] {
        return std::all_of(part.pins.begin(), part.pins.end(),
                           [&](const Pin& p) { return p.net == part.pins[0].net; });
    };
    const auto shorts = [&] {
        return kind.is(Role::contact) && std::all_of(part.pins.begin(), part.pins.end(), [](const Pin& p) {
                   return p.net == "V" || p.net == "0";
               });
    };
    for (int tries = 0; part.pins.size() > 1 && (alike() || shorts()) && tries < 20; ++tries)
        part.pins[static_cast<std::size_t>(dice.below(static_cast<int>(part.pins.size())))].net =
            dice.of(nets);
    for (const ParamInfo& p : kind.params) {
        if (!dice.chance(0.3)) continue;
        if (std::holds_alternative<double>(p.standard))
            part.params[p.key] = dice.value(p);
        else if (std::holds_alternative<std::string>(p.standard))
            if (auto choices = text_choices(kind.id, p.key); !choices.empty()) {
                std::erase_if(choices, [&](const std::string& id) {  // other tests add parts of their own
                    return known_catalogue().name_of(kind.id, id).ends_with(" (own)");
                });
                part.params[p.key] = dice.of(choices);
            }
    }
    return part;
}

/// Sum of the currents into the pins on each net [A], and the largest of them.
struct Sums {
    std::map<std::string, double> of_net;
    double largest = 0;
};
Sums sums_of(const Circuit& circuit, const OperatingPoint& op) {
    Sums sums;
    for (std::size_t k = 0; k < circuit.parts.size(); ++k)
        for (std::size_t p = 0; p < op.parts[k].pins.size(); ++p) {
            const double i = op.parts[k].pins[p];
            sums.of_net[circuit.parts[k].pins[p].net] += i;
            sums.largest = std::max(sums.largest, std::abs(i));
        }
    return sums;
}

/// A volt's worth of what is called nothing [A].
constexpr double nothing = 1e-8;

void check_rest(const Circuit& circuit, const OperatingPoint& op, std::vector<std::string>& broken) {
    const auto say = [&](std::string what) { broken.push_back(std::move(what)); };
    for (std::size_t n = 0; n < op.nets.size(); ++n)
        if (!std::isfinite(op.voltages[n])) return say(op.nets[n] + " is no number");
    const Sums sums = sums_of(circuit, op);
    double highest = 0;
    for (const double v : op.voltages) highest = std::max(highest, std::abs(v));
    // of what is nearly a short a picovolt makes a current
    double stiffest = 0;
    for (const PartState& s : op.parts)
        if (std::abs(s.voltage) > 0) stiffest = std::max(stiffest, std::abs(s.current / s.voltage));
    // the solver may let leaks of 1 nS flow to the rail
    for (const auto& [net, sum] : sums.of_net)
        if (!(std::abs(sum) <= 1e-6 * sums.largest + 1e-8 * highest + 1e-12 * std::min(stiffest, 1e4)))
            say(fmt::format("{} A are left over on {}", sum, net));
    double given = 0;
    for (const PartState& s : op.parts) given += std::max(0.0, -s.taken);
    for (std::size_t k = 0; k < circuit.parts.size(); ++k) {
        const Part& part = circuit.parts[k];
        const PartState& s = op.parts[k];
        const PartKind& kind = *part_kind(part.kind);
        const bool source = kind.is(Role::energy) || kind.is(Role::source);
        if (!source && s.taken < -1e-9 - 1e-6 * given)
            say(fmt::format("{} makes {} W", part.designator, -s.taken));
        const double rated = part.number("reverse_voltage");  // an LED that says it stands more than usual
        const double breaks_down = rated > 5 ? 1.2 * rated : 28;  // V
        const double leak =
            std::max(1e-4, part.number("test_current") / 300);  // of the softest curve allowed
        const double reverse =
            kind.is(Role::junction) ? op.voltage(part.pins[1].net) - op.voltage(part.pins[0].net) : 0;
        if (kind.is(Role::junction) && part.params.find("vz") == part.params.end() && kind.id != "diode" &&
            reverse > 0.1 && reverse < breaks_down && std::abs(s.pins[0]) > leak)
            say(fmt::format("{} blocks {} A", part.designator, s.pins[0]));
    }
}

void check_run(const RandomCase& random, const OperatingPoint& rest, Outcome& outcome) {
    std::vector<std::string>& broken = outcome.broken;
    const Circuit& circuit = random.circuit;
    RunRequest request{.until = 2e-3, .changes = random.changes};
    request.accuracy.relative = 1e-3;
    request.copy_cycles = false, request.frames = 20;
    const auto run = simulate(circuit, known_catalogue(), random.conditions, request);
    if (!run) {
        outcome.run_refusal = run.error().text();
        return;
    }
    const Recording& r = run.value();
    for (const OperatingPoint& frame : r.frames) {
        const Sums sums = sums_of(circuit, frame);
        for (std::size_t k = 0; k < circuit.parts.size(); ++k) {
            const auto& pins = frame.parts[k].pins;
            if (pins.size() == 2 && std::abs(pins[0] + pins[1]) > 1e-3 * sums.largest + nothing)
                return broken.push_back(fmt::format("{} lets in {} A and out {} A",
                                                    circuit.parts[k].designator, pins[0], -pins[1]));
        }
        for (const double v : frame.voltages)
            if (!std::isfinite(v)) return broken.push_back("a run comes to no number");
    }
    if (r.balance.energy_error > 0.05 && r.balance.given > 1e-9)
        broken.push_back(fmt::format("energy of the run is off by {}: {} J given, {} J taken",
                                     r.balance.energy_error, r.balance.given, r.balance.taken));
    if (!random.changes.empty()) return;
    const bool moves = std::any_of(circuit.parts.begin(), circuit.parts.end(),
                                   [](const Part& p) { return moves_by_itself(p) || is(p, Role::swings); });
    if (moves || rest.oscillates || !r.happenings.empty()) return;
    double span = 0, moved = 0;
    for (std::size_t n = 0; n < rest.voltages.size(); ++n) {
        span = std::max(span, std::abs(rest.voltages[n]));
        moved = std::max(moved, std::abs(rest.voltages[n] - r.end.voltages[n]));
    }
    if (moved > 0.01 * span + 1e-3) broken.push_back(fmt::format("it is at rest, and moves by {} V", moved));
}

/// Without gain and without what latches there is one state of rest, whichever way one comes to it.
void check_two_ways(const RandomCase& random, const OperatingPoint& rest, std::vector<std::string>& broken) {
    const auto several = [](const Part& p) {
        return is(p, Role::gain) || is(p, Role::chip) || p.kind == "relay" || p.kind == "fuse" ||
               moves_by_itself(p);
    };
    if (std::any_of(random.circuit.parts.begin(), random.circuit.parts.end(), several)) return;
    const auto other = state_from_power_up(random.circuit, known_catalogue(), random.conditions);
    if (!other) return;
    double span = 0.01;
    for (const double v : rest.voltages) span = std::max(span, std::abs(v));
    for (std::size_t n = 0; n < rest.nets.size(); ++n)
        if (const double v = other.value().voltages[n]; std::abs(v - rest.voltages[n]) > 0.01 * span)
            return broken.push_back(fmt::format("{} rests at {} V, and from power-up at {} V", rest.nets[n],
                                                rest.voltages[n], v));
}

}  // namespace

RandomCase random_case(unsigned seed) {
    Dice dice(seed);
    RandomCase made;
    std::vector<const PartKind*> kinds;
    for (const PartKind& kind : part_kinds())
        if (may_be_random(kind) && !kind.is(Role::source) && !kind.own) kinds.push_back(&kind);
    std::vector<std::string> nets{"V", "0"};
    for (int n = 0, many = 1 + dice.below(6); n < many; ++n) nets.push_back(fmt::format("N{}", n + 1));
    Part source = random_part(dice, *part_kind(dice.chance(0.5) ? "battery" : "supply"), "PS1", nets);
    source.pins = {{"+", "V"}, {"-", "0"}};
    made.circuit.parts.push_back(source);
    const int parts = 2 + dice.below(dice.chance(0.2) ? 30 : 9);
    for (int k = 1; k <= parts; ++k) {
        const PartKind& kind = dice.chance(0.3) ? *part_kind("resistor") : *dice.of(kinds);
        made.circuit.parts.push_back(random_part(dice, kind, fmt::format("X{}", k), nets));
    }
    // every net that is used leads on, so that few are refused
    const auto pins_on = [&](const std::string& net) {
        int count = 0;
        for (const Part& part : made.circuit.parts)
            for (const Pin& pin : part.pins) count += pin.net == net;
        return count;
    };
    made.circuit.parts.push_back({"RV", "resistor", {{"value", 1e5}}, {{"a", "V"}, {"b", "0"}}, {}});
    for (std::size_t n = 2; n < nets.size(); ++n)
        if (const int count = pins_on(nets[n]); count == 1 || (count > 1 && dice.chance(0.5))) {
            Part r{"RN" + std::to_string(n),
                   "resistor",
                   {{"value", 1e3 * std::pow(1e3, dice.unit())}},
                   {{"a", nets[n]}, {"b", "0"}},
                   {}};
            made.circuit.parts.push_back(r);
        }
    Conditions& c = made.conditions;
    if (dice.chance(0.3)) c.battery = dice.unit();
    if (dice.chance(0.3)) c.celsius = -40 + 125 * dice.unit();
    c.lux = std::pow(10.0, 5 * dice.unit()), c.infrared = dice.chance(0.3) ? 100 * dice.unit() : 0;
    for (const Part& part : made.circuit.parts)
        if (is(part, Role::contact) && dice.chance(0.5)) c.switches[part.designator] = dice.chance(0.5);
    Conditions later = c;  // hands at work while it runs
    for (const Part& part : made.circuit.parts)
        if (is(part, Role::contact))
            for (int k = 0, times = 1 + dice.below(3); k < times; ++k)
                made.changes.push_back({1e-4 + 1.8e-3 * dice.unit(), c, part.designator});
    std::sort(made.changes.begin(), made.changes.end(),
              [](const TimedChange& a, const TimedChange& b) { return a.time < b.time; });
    for (TimedChange& change : made.changes) {
        bool& on = later.switches[change.what];
        on = !on, change.conditions = later;
    }
    return made;
}

Outcome outcome_of(const RandomCase& random, bool run) {
    Outcome outcome;
    const auto op = operating_point(random.circuit, known_catalogue(), random.conditions);
    if (!op) {
        outcome.refusal = op.error().text();
        outcome.kind = op.error().found.find("settle") != std::string::npos ? Outcome::Kind::unsettled
                                                                            : Outcome::Kind::refused;
        return outcome;
    }
    if (op.value().oscillates) outcome.kind = Outcome::Kind::no_rest;
    check_rest(random.circuit, op.value(), outcome.broken);
    if (run) check_two_ways(random, op.value(), outcome.broken), check_run(random, op.value(), outcome);
    return outcome;
}

std::string described(const RandomCase& random) {
    std::string text =
        fmt::format("battery {} at {} °C, {} lx, {} W/m²\n", random.conditions.battery,
                    random.conditions.celsius, random.conditions.lux, random.conditions.infrared);
    for (const auto& [name, on] : random.conditions.switches)
        text += fmt::format("{} {}\n", name, on ? "on" : "off");
    for (const Part& part : random.circuit.parts) {
        text += part.kind + " " + part.designator;
        for (const Pin& pin : part.pins) text += " " + pin.name + "=" + pin.net;
        for (const auto& [key, value] : part.params) {
            if (const auto* number = std::get_if<double>(&value)) text += fmt::format(" {}={}", key, *number);
            if (const auto* word = std::get_if<std::string>(&value)) text += " " + key + "=" + *word;
        }
        text += "\n";
    }
    return text;
}

}  // namespace elkit::test
