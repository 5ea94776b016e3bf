// How parts are joined: pins left open, capacitors and resistors that every chip, gate and coil wants.
#include <fmt/format.h>

#include <algorithm>

#include "circuit/connectivity.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

bool on_both(const Part& part, const std::string& a, const std::string& b) {
    return part.pins.size() == 2 && ((part.pins[0].net == a && part.pins[1].net == b) ||
                                     (part.pins[0].net == b && part.pins[1].net == a));
}

/// A part of one of these kinds between two nets; nullptr if there is none.
const Part* between(const Circuit& circuit, std::initializer_list<const char*> kinds, const std::string& a,
                    const std::string& b) {
    for (const Part& part : circuit.parts)
        if (on_both(part, a, b) &&
            std::any_of(kinds.begin(), kinds.end(), [&](const char* k) { return part.kind == k; }))
            return &part;
    return nullptr;
}

/// A remedy that adds a part with two pins between two nets.
Remedy add_between(std::string label, const std::string& kind, double value, const std::string& first,
                   const std::string& second) {
    return {std::move(label), [=](const Design& design) -> Result<Design> {
                Design next = design;
                const PartKind& info = *part_kind(kind);
                Part part;
                part.kind = kind, part.designator = next.circuit.free_designator(info.prefix);
                if (value > 0) part.params["value"] = value;
                part.pins = {{info.pins[0], first}, {info.pins[1], second}};
                next.circuit.parts.push_back(std::move(part));
                return next;
            }};
}

/// A remedy that puts a pin, used or not, on a net.
Remedy join_pin(std::string label, const std::string& designator, const std::string& pin,
                const std::string& net) {
    return {std::move(label), [=](const Design& design) -> Result<Design> {
                Design next = design;
                Part* part = next.circuit.find(designator);
                if (!part)
                    return Error{Fault::design, "part " + designator, "it is gone", "a part of the circuit"};
                for (Pin& p : part->pins)
                    if (p.name == pin) {
                        p.net = net;
                        return next;
                    }
                part->pins.push_back({pin, net});
                return next;
            }};
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

void pin_open(const Evidence& e, std::vector<Finding>& out) {
    const Circuit& circuit = e.design.circuit;
    for (const Part& part : circuit.parts) {
        const std::string ref = "part:" + part.designator;
        if (part.kind == "timer") {
            for (const auto& [pin, other] : {std::pair("trig", "thr"), std::pair("thr", "trig")}) {
                if (!left_open(circuit, part, pin)) continue;
                auto& f = add_finding(
                    out, Severity::error, "circuit", ref,
                    fmt::format("{} pin {} is open", part.designator, pin),
                    "An input that nothing holds follows the nearest finger: it switches when it likes.");
                if (!left_open(circuit, part, other))
                    f.remedies.push_back(join_pin(fmt::format("Join {} to {}", pin, other), part.designator,
                                                  pin, part.net(other)));
            }
            if (left_open(circuit, part, "out") && left_open(circuit, part, "disch"))
                add_finding(out, Severity::warning, "circuit", ref,
                            fmt::format("Nothing uses {}'s output", part.designator),
                            "Neither out nor disch leads anywhere.");
        }
        if (part.kind == "rgb")
            for (const char* pin : {"r", "g", "b"})
                if (left_open(circuit, part, pin))
                    add_finding(out, Severity::note, "circuit", ref,
                                fmt::format("{} pin {} is open", part.designator, pin),
                                "This colour stays dark. Cut the leg short so that it touches nothing.");
    }
}

void reset_open(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "timer" || !left_open(e.design.circuit, part, "reset")) continue;
        auto& f = add_finding(out, Severity::warning, "circuit", "part:" + part.designator,
                              fmt::format("{} reset is left open", part.designator),
                              "Its own pull-up is weak: a spike near it stops the timer now and then. Tie it "
                              "to the supply unless something uses it.");
        f.remedies.push_back(join_pin("Tie reset to the supply", part.designator, "reset", part.net("vcc")));
    }
}

struct Rail {
    std::string plus, minus, what;
    double wanted;  ///< F
};

void supply_capacitor(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.design.circuit.parts) {
        std::vector<Rail> rails;
        if (part.kind == "timer" || part.kind == "comparator")
            rails.push_back({part.net("vcc"), part.net("gnd"), "supply pins", 100e-9});
        if (part.kind == "regulator") {
            rails.push_back({part.net("in"), part.net("gnd"), "input", 100e-9});
            rails.push_back({part.net("out"), part.net("gnd"), "output", 1e-6});
        }
        for (const Rail& rail : rails) {
            if (between(e.design.circuit, {"capacitor"}, rail.plus, rail.minus)) continue;
            if (rail.wanted > 5e-7 && between(e.design.circuit, {"electrolytic"}, rail.plus, rail.minus))
                continue;
            const std::string value = format_quantity(rail.wanted, Unit::farad);
            auto& f = add_finding(
                out, Severity::warning, "circuit", "part:" + part.designator,
                fmt::format("{} has no capacitor at its {}", part.designator, rail.what),
                fmt::format("Switching pulls short currents that long leads cannot deliver: {} right at the "
                            "pins keeps the supply still.",
                            value));
            f.remedies.push_back(
                add_between("Add " + value, "capacitor", rail.wanted, rail.plus, rail.minus));
        }
    }
}

void control_capacitor(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "timer" || !left_open(e.design.circuit, part, "cont")) continue;
        auto& f = add_finding(out, Severity::note, "circuit", "part:" + part.designator,
                              fmt::format("{} control pin has no capacitor", part.designator),
                              "10 nF from cont to ground keeps noise off the thresholds; many leave it "
                              "out on a quiet battery.");
        f.remedies.push_back(
            {"Add 10 nF at cont", [d = part.designator](const Design& design) -> Result<Design> {
                 const Part* timer = design.circuit.find(d);
                 if (!timer) return Error{Fault::design, "part " + d, "it is gone", "a timer"};
                 const std::string net = timer->net("cont").empty() ? d + "_CONT" : timer->net("cont");
                 auto joined = join_pin("", d, "cont", net).apply(design);
                 return joined ? add_between("", "capacitor", 10e-9, net, timer->net("gnd"))
                                     .apply(joined.value())
                               : joined;
             }});
    }
}

/// The circuit with every contact that a hand can open taken out.
Circuit opened(const Circuit& circuit) {
    Circuit open = circuit;
    std::erase_if(open.parts, [](const Part& p) { return is_contact(p) && p.kind != "jumper"; });
    return open;
}

void gate_floats(const Evidence& e, std::vector<Finding>& out) {
    const auto never = nets_without_dc_path(e.design.circuit);
    const auto sometimes = nets_without_dc_path(opened(e.design.circuit));
    const auto holds = [](const std::vector<std::string>& nets, const std::string& net) {
        return std::find(nets.begin(), nets.end(), net) != nets.end();
    };
    for (const Part& part : e.design.circuit.parts) {
        std::vector<std::pair<std::string, std::string>> inputs;  // pin, and the net to hold it to
        if (part.kind == "nmos" || part.kind == "pmos") inputs = {{"g", part.net("s")}};
        if (part.kind == "comparator") inputs = {{"in+", part.net("gnd")}, {"in-", part.net("gnd")}};
        if (part.kind == "timer") inputs = {{"trig", part.net("vcc")}, {"thr", part.net("gnd")}};
        for (const auto& [pin, hold] : inputs) {
            const std::string& net = part.net(pin);
            if (net.empty() || left_open(e.design.circuit, part, pin)) continue;
            const bool always = holds(never, net);
            if (!always && !holds(sometimes, net)) continue;
            const bool stores =
                std::any_of(e.design.circuit.parts.begin(), e.design.circuit.parts.end(), [&](const Part& p) {
                    return (p.kind == "capacitor" || p.kind == "electrolytic") &&
                           (p.pins[0].net == net || p.pins[1].net == net);
                });
            const double ohms = stores ? 10e6 : 100e3;
            auto& f = add_finding(
                out, always ? Severity::error : Severity::warning, "circuit", "part:" + part.designator,
                fmt::format("{} pin {} floats{}", part.designator, pin,
                            always ? "" : " when the switches are open"),
                stores ? "How long it holds rests on leakage, which varies a hundredfold with damp and "
                         "fingers. A bleed resistor of 1–22 MΩ makes the time a value."
                       : "No direct current can set its voltage, so a touch or damp board turns it on. A "
                         "resistor holds it.");
            f.remedies.push_back(
                add_between(fmt::format("Add {} from {} to {}", format_quantity(ohms, Unit::ohm), net, hold),
                            "resistor", ohms, net, hold));
        }
    }
}

/// True if something other than a hand opens the coil's circuit: a transistor or chip on one of its nets.
bool driven(const Circuit& circuit, const std::string& a, const std::string& b) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
        for (const char* pin : {"c", "d", "out", "disch"})
            if (!p.net(pin).empty() && (p.net(pin) == a || p.net(pin) == b)) return true;
        return false;
    });
}

void coil_diode(const Evidence& e, std::vector<Finding>& out) {
    const Circuit& circuit = e.design.circuit;
    for (const Part& part : circuit.parts) {
        const bool relay = part.kind == "relay";
        if (!relay && part.kind != "motor") continue;
        const std::string &a = part.net(relay ? "coil+" : "+"), &b = part.net(relay ? "coil-" : "-");
        if (!driven(circuit, a, b) || between(circuit, {"diode"}, a, b)) continue;
        auto& f = add_finding(out, Severity::error, "circuit", "part:" + part.designator,
                              fmt::format("{} has no diode across its coil", part.designator),
                              "When the transistor lets go, the coil drives its voltage far above the supply "
                              "and breaks the transistor.");
        f.remedies.push_back(add_between("Add a diode across it", "diode", 0, b, a));
    }
}

}  // namespace

std::vector<Rule> circuit_rules() {
    return {
        {"pin-open", "a pin that leads nowhere though it matters", "an open input switches when it likes",
         "pins and their nets", pin_open},
        {"gate-floats", "a gate or input whose voltage nothing sets", "it turns on by touch, damp or leakage",
         "paths for direct current, also with the switches open", gate_floats},
        {"reset-open", "a timer's reset left open", "a spike stops it now and then", "pins and their nets",
         reset_open},
        {"supply-capacitor", "a chip without a capacitor at its pins",
         "switching currents shake its supply and thresholds", "parts between its supply nets",
         supply_capacitor},
        {"control-capacitor", "a timer's control pin left open", "noise reaches its thresholds",
         "pins and their nets", control_capacitor},
        {"coil-diode", "a driven coil without a diode", "its voltage breaks the transistor at switch-off",
         "parts across the coil", coil_diode},
    };
}

}  // namespace elkit
