// How parts are joined: what each kind wants around it, as kinds.json says.
#include <fmt/format.h>

#include <algorithm>

#include "circuit/connectivity.hpp"
#include "circuit/edit.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

bool on_both(const Part& part, const std::string& a, const std::string& b) {
    return part.pins.size() == 2 && ((part.pins[0].net == a && part.pins[1].net == b) ||
                                     (part.pins[0].net == b && part.pins[1].net == a));
}

/// A part with this role between two nets; nullptr if there is none.
const Part* between(const Circuit& circuit, Role role, const std::string& a, const std::string& b) {
    for (const Part& part : circuit.parts)
        if (on_both(part, a, b) && is(part, role)) return &part;
    return nullptr;
}

/// A remedy that puts a pin, used or not, on a net.
Remedy join_pin(std::string label, const std::string& designator, const std::string& pin,
                const std::string& net) {
    return circuit_remedy(std::move(label), [=](Circuit& circuit) -> std::optional<Error> {
        auto joined = move_pin(circuit, designator, pin, net);
        if (!joined) return joined.error();
        circuit = std::move(joined).value();
        return {};
    });
}

/// A pin that nothing else meets: not named at all, or alone on its net.
bool left_open(const Circuit& circuit, const Part& part, const std::string& pin) {
    const std::string& net = part.net(pin);
    if (net.empty()) return true;
    int pins = 0;
    for (const Part& p : circuit.parts)
        for (const Pin& q : p.pins) pins += q.net == net;
    return pins < 2;
}

/// Calls `each` for every need of one sort, with its part.
template <class Each>
void for_needs(const Circuit& circuit, Need::What what, Each each) {
    for (const Part& part : circuit.parts)
        if (const PartKind* kind = part_kind(part.kind))
            for (const Need& need : kind->needs)
                if (need.what == what) each(part, need);
}

void pin_open(const Evidence& e, std::vector<Finding>& out) {
    const Circuit& circuit = *e.circuit;
    for_needs(circuit, Need::What::held, [&](const Part& part, const Need& need) {
        if (!left_open(circuit, part, need.pin)) return;
        auto& f = add_finding(
            out, Severity::error, "circuit", "part:" + part.designator,
            fmt::format("{} pin {} is open", part.designator, need.pin),
            "An input that nothing holds follows the nearest finger: it switches when it likes.", need.pin);
        if (!left_open(circuit, part, need.partner))
            f.remedies.push_back(join_pin(fmt::format("Join {} to {}", need.pin, need.partner),
                                          part.designator, need.pin, part.net(need.partner)));
    });
    for_needs(circuit, Need::What::used_one, [&](const Part& part, const Need& need) {
        const bool open = std::all_of(need.pins.begin(), need.pins.end(),
                                      [&](const std::string& pin) { return left_open(circuit, part, pin); });
        if (open)
            add_finding(out, Severity::warning, "circuit", "part:" + part.designator,
                        fmt::format("Nothing uses {}'s output", part.designator),
                        fmt::format("Neither {} leads anywhere.", fmt::join(need.pins, " nor ")), "output");
    });
    for_needs(circuit, Need::What::used, [&](const Part& part, const Need& need) {
        for (const std::string& pin : need.pins)
            if (left_open(circuit, part, pin))
                add_finding(out, Severity::note, "circuit", "part:" + part.designator,
                            fmt::format("{} pin {} is open", part.designator, pin), need.advice, pin);
    });
}

void reset_open(const Evidence& e, std::vector<Finding>& out) {
    for_needs(*e.circuit, Need::What::tied, [&](const Part& part, const Need& need) {
        if (!left_open(*e.circuit, part, need.pin)) return;
        auto& f = add_finding(out, Severity::warning, "circuit", "part:" + part.designator,
                              fmt::format("{} {} is left open", part.designator, need.pin), need.advice);
        f.remedies.push_back(join_pin(fmt::format("Tie {} to the supply", need.pin), part.designator,
                                      need.pin, part.net(need.to)));
    });
}

void supply_capacitor(const Evidence& e, std::vector<Finding>& out) {
    constexpr double polar_from = 5e-7;  // F; bench practice: from about here an electrolytic serves as well
    for_needs(*e.circuit, Need::What::capacitor, [&](const Part& part, const Need& need) {
        const std::string &plus = part.net(need.pins.at(0)), &minus = part.net(need.pins.at(1));
        const std::string rail = e.circuit->negative_rail();  // as good, for a chip that stands on a load
        const Part* slow = nullptr;
        for (const Part& p : e.circuit->parts) {
            if (!is(p, Role::capacitor) || !(on_both(p, plus, minus) || on_both(p, plus, rail))) continue;
            if (!is(p, Role::polar) || need.value > polar_from) return;
            slow = &p;
        }
        const std::string value = format_quantity(need.value, Unit::farad);
        auto& f = add_finding(
            out, Severity::warning, "circuit", "part:" + part.designator,
            slow ? fmt::format("{} has nothing but {} at its {}", part.designator, slow->designator,
                               need.words)
                 : fmt::format("{} has no capacitor at its {}", part.designator, need.words),
            fmt::format(
                "Switching pulls short currents that long leads{} cannot deliver: {} right at the pins "
                "keeps the supply still.",
                slow ? " and the resistance inside an electrolytic" : "", value),
            need.words);
        f.remedies.push_back(add_between("Add " + value, kind_with(Role::capacitor), need.value, plus,
                                         plus == rail ? minus : rail));
    });
}

void control_capacitor(const Evidence& e, std::vector<Finding>& out) {
    for_needs(*e.circuit, Need::What::quiet, [&](const Part& part, const Need& need) {
        if (!left_open(*e.circuit, part, need.pin)) return;
        const std::string value = format_quantity(need.value, Unit::farad);
        auto& f =
            add_finding(out, Severity::note, "circuit", "part:" + part.designator,
                        fmt::format("{} control pin has no capacitor", part.designator),
                        fmt::format("{} from {} to ground keeps noise off the thresholds; many leave it "
                                    "out on a quiet battery.",
                                    value, need.pin));
        f.remedies.push_back({fmt::format("Add {} at {}", value, need.pin),
                              [d = part.designator, need](const Design& design) -> Result<Design> {
                                  const Part* chip = design.circuit.find(d);
                                  if (!chip)
                                      return Error{Fault::design, "part " + d, "it is gone", "a timer"};
                                  const std::string net =
                                      chip->net(need.pin).empty() ? d + "_CONT" : chip->net(need.pin);
                                  auto joined = join_pin("", d, need.pin, net).apply(design);
                                  return joined ? add_between("", kind_with(Role::capacitor), need.value, net,
                                                              chip->net(need.to))
                                                      .apply(joined.value())
                                                : joined;
                              }});
    });
}

/// The circuit with every contact that a hand can open taken out.
Circuit opened(const Circuit& circuit) {
    Circuit open = circuit;
    std::erase_if(open.parts, [](const Part& p) { return is(p, Role::contact) && !is(p, Role::plugged); });
    return open;
}

void gate_floats(const Evidence& e, std::vector<Finding>& out) {
    const Circuit& circuit = *e.circuit;
    const auto never = nets_without_dc_path(circuit);
    const auto sometimes = nets_without_dc_path(opened(circuit));
    const auto holds = [](const std::vector<std::string>& nets, const std::string& net) {
        return std::find(nets.begin(), nets.end(), net) != nets.end();
    };
    for_needs(circuit, Need::What::hold, [&](const Part& part, const Need& need) {
        const std::string &net = part.net(need.pin), &hold = part.net(need.to);
        if (net.empty() || left_open(circuit, part, need.pin)) return;
        const bool always = holds(never, net);
        if (!always && !holds(sometimes, net)) return;
        const bool stores = std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
            return is(p, Role::stores) && (p.pins[0].net == net || p.pins[1].net == net);
        });
        const double ohms = stores ? 10e6 : 100e3;
        auto& f = add_finding(
            out, always ? Severity::error : Severity::warning, "circuit", "part:" + part.designator,
            fmt::format("{} pin {} floats{}", part.designator, need.pin,
                        always ? "" : " when the switches are open"),
            stores
                ? "How long it holds rests on leakage, which varies a hundredfold with damp and fingers. A "
                  "bleed resistor of 1–22 MΩ makes the time a value."
                : "No direct current can set its voltage, so a touch or damp board turns it on. A resistor "
                  "holds it.",
            need.pin);
        f.remedies.push_back(
            add_between(fmt::format("Add {} from {} to {}", format_quantity(ohms, Unit::ohm), net, hold),
                        kind_with(Role::resistor), ohms, net, hold));
    });
}

/// What opens the coil's circuit: a part that switches one of its nets, one without contacts before one with;
/// nullptr if nothing does. What reverses a motor changes over at both ends of it, where no diode may stand.
const Part* switch_of(const Circuit& circuit, const Part& coil, const std::string& a, const std::string& b) {
    const Part* by_contact = nullptr;
    bool at_a = false, at_b = false;
    for (const Part& p : circuit.parts) {
        const PartKind* kind = part_kind(p.kind);
        if (!kind || &p == &coil) continue;
        const bool hand = kind->is(Role::contact), contact = hand || kind->is(Role::coil);
        for (const Pin& pin : p.pins) {
            const bool switches =
                hand || std::find(kind->drives.begin(), kind->drives.end(), pin.name) != kind->drives.end();
            if (!switches || pin.net.empty() || (pin.net != a && pin.net != b)) continue;
            if (!contact) return &p;
            by_contact = &p;
            const bool changes_over = !hand || (!kind->joined_open.empty() && !kind->joined_closed.empty());
            at_a = at_a || (changes_over && pin.net == a), at_b = at_b || (changes_over && pin.net == b);
        }
    }
    return at_a && at_b ? nullptr : by_contact;
}

struct InCoil {
    double most = 0;         // A, in any situation; 0 where none can be computed
    bool backwards = false;  // from its second pin to its first
};
InCoil in_coil(const Evidence& e, const Part& part, const std::string& pin) {
    InCoil found;
    for (const Situation& s : e.situations) {
        const auto run = e.run_in(s);
        const double flows = run ? run->lasting(part.designator, pin) : 0;
        if (flows <= found.most) continue;
        const PartState& mean = run->mean().part(part.designator);
        found = {flows, mean.current < 0};
    }
    return found;
}

void coil_diode(const Evidence& e, std::vector<Finding>& out) {
    for_needs(*e.circuit, Need::What::diode, [&](const Part& part, const Need& need) {
        const std::string &a = part.net(need.pins.at(0)), &b = part.net(need.pins.at(1));
        const Part* opens = switch_of(*e.circuit, part, a, b);
        if (!opens || between(*e.circuit, Role::blocks, a, b)) return;
        const bool contact = is(*opens, Role::contact) || is(*opens, Role::coil);
        const auto [current, backwards] = in_coil(e, part, need.pins.at(0));
        const double henry = part.number(need.inductance);
        if (contact && between(*e.circuit, Role::capacitor, a, b)) return;
        const std::string what =
            current > 0 && henry > 0
                ? fmt::format("{} in {}, {} each time, drive", amps(current),
                              format_quantity(henry, Unit::henry),
                              format_quantity(henry * current * current / 2, Unit::joule))
                : std::string("the coil drives");
        auto& f = add_finding(
            out, contact ? Severity::warning : Severity::error, "circuit", "part:" + part.designator,
            fmt::format("{} has no diode across its coil", part.designator),
            contact ? fmt::format("When {} opens, {} its contact to some 300 V, until it sparks: it burns, a "
                                  "chip nearby may lose count, and a light beside it gets that backwards.",
                                  opens->designator, what)
                    : fmt::format("When {} lets go, {} its voltage far above the supply, to where it breaks "
                                  "down.",
                                  opens->designator, what));
        f.remedies.push_back(add_between("Add a diode across it", kind_with(Role::blocks), 0,
                                         backwards ? a : b, backwards ? b : a));
    });
}

}  // namespace

std::vector<Rule> circuit_rules() {
    return {
        {"pin-open",
         "a pin that leads nowhere though it matters",
         "an open input switches when it likes",
         "pins and their nets",
         {},
         pin_open},
        {"gate-floats",
         "a gate or input whose voltage nothing sets",
         "it turns on by touch, damp or leakage",
         "paths for direct current, also with the switches open; bleed of 1–22 MΩ is bench practice",
         {},
         gate_floats},
        {"reset-open",
         "a timer's reset left open",
         "a spike stops it now and then",
         "pins and their nets",
         {},
         reset_open},
        {"supply-capacitor",
         "a chip without a capacitor at its pins",
         "switching currents shake its supply and thresholds",
         "parts between its supply nets; 100 nF and 1 µF are what typical datasheets ask for",
         {},
         supply_capacitor},
        {"control-capacitor",
         "a timer's control pin left open",
         "noise reaches its thresholds",
         "pins and their nets; 10 nF from typical datasheets",
         {},
         control_capacitor},
        {"coil-diode",
         "a switched coil without a diode",
         "its voltage breaks the transistor at switch-off, or burns the contact",
         "parts across the coil; its largest current in any situation and I²L/2; air sparks over at 327 V",
         {On::conditions},
         coil_diode},
    };
}

}  // namespace elkit
