// What a controller is told to do beside what its pins are joined to.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "behaviour/behaviour.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

using Level = BehaviourWhen::On;

constexpr double least_gap = 0.01, better_gap = 0.03;  // of full scale

template <class Each>
void for_tables(const Circuit& circuit, Each each) {
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->controller) continue;
        if (const auto table = behaviour_of(part.text("behaviour"))) each(part, table.value());
    }
}

/// The table without a pin.
Behaviour without(Behaviour table, const std::string& pin) {
    std::erase(table.sinks, pin);
    for (BehaviourState& state : table.states) {
        for (BehaviourRow& row : state.rows) std::erase(row.pins, pin);
        std::erase_if(state.rows, [](const BehaviourRow& row) {
            const std::size_t least = row.does == BehaviourRow::Does::colours ? 3
                                      : row.does == BehaviourRow::Does::chase ? 2
                                                                              : 1;
            return row.pins.size() < least;
        });
        std::erase_if(state.whens, [&](const BehaviourWhen& when) { return when.pin == pin; });
    }
    return table;
}

void controller_pin(const Evidence& e, std::vector<Finding>& out) {
    for_tables(*e.circuit, [&](const Part& part, const Behaviour& table) {
        std::set<std::string> named;
        for (const BehaviourState& state : table.states) {
            for (const BehaviourRow& row : state.rows) named.insert(row.pins.begin(), row.pins.end());
            for (const BehaviourWhen& when : state.whens) named.insert(when.pin);
        }
        named.erase("");
        for (const std::string& pin : named) {
            const std::string& net = part.net(pin);
            const bool joined =
                std::any_of(e.circuit->parts.begin(), e.circuit->parts.end(), [&](const Part& other) {
                    return std::any_of(other.pins.begin(), other.pins.end(), [&](const Pin& p) {
                        return p.net == net && (&other != &part || p.name != pin);
                    });
                });
            if (!net.empty() && joined) continue;
            auto& f = add_finding(
                out, Severity::warning, "circuit", "part:" + part.designator,
                fmt::format("{} says what {} does, and nothing hangs on {}", part.designator, pin, pin),
                "Join it to what it should light or look at, or leave it out of the table.", pin);
            f.remedies.push_back(set_param(fmt::format("Leave {} out of what {} does", pin, part.designator),
                                           part.designator, "behaviour", text_of(without(table, pin))));
        }
    });
}

/// A level that leads back, and how far it lies from the one that led there.
struct Wavers {
    std::size_t state, when;
    double gap;
};
std::vector<Wavers> wavering(const Behaviour& table) {
    std::vector<Wavers> all;
    for (const BehaviourState& state : table.states)
        for (const BehaviourWhen& there : state.whens) {
            if (there.on != Level::above && there.on != Level::below) continue;
            for (std::size_t s = 0; s < table.states.size(); ++s)
                for (std::size_t k = 0; table.states[s].name == there.to && k < table.states[s].whens.size();
                     ++k) {
                    const BehaviourWhen& back = table.states[s].whens[k];
                    if (back.pin != there.pin || back.to != state.name || back.on == there.on) continue;
                    if (back.on != Level::above && back.on != Level::below) continue;
                    const double gap =
                        there.on == Level::above ? there.amount - back.amount : back.amount - there.amount;
                    if (gap < least_gap) all.push_back({s, k, gap});
                }
        }
    return all;
}

void controller_wavers(const Evidence& e, std::vector<Finding>& out) {
    for_tables(*e.circuit, [&](const Part& part, const Behaviour& table) {
        // both ways of a pair are found; the second of them is mended with the first
        std::set<std::string> pins;
        for (const Wavers& w : wavering(table)) {
            Behaviour mended = table;
            BehaviourWhen& back = mended.states[w.state].whens[w.when];
            if (!pins.insert(back.pin).second) continue;
            auto& f = add_finding(
                out, Severity::warning, "circuit", "part:" + part.designator,
                fmt::format("{} goes to and fro at {}: no hysteresis", part.designator, back.pin),
                fmt::format(
                    "It leads there and back {:.1f} % of full scale apart, and the converter wavers by "
                    "a count or two.",
                    100 * w.gap),
                back.pin);
            const double further = better_gap - w.gap;
            back.amount =
                std::clamp(back.amount + (back.on == Level::below ? -further : further), 0.001, 0.999);
            if (const std::string text = text_of(mended); wavering(behaviour_of(text).value()).empty() ||
                                                          wavering(mended).size() < wavering(table).size())
                f.remedies.push_back(
                    set_param(fmt::format("Let {} lead back at {:.1f} %", back.pin, 100 * back.amount),
                              part.designator, "behaviour", text));
        }
    });
}

}  // namespace

std::vector<Rule> controller_rules() {
    return {
        {"controller-pin",
         "a pin of a controller's table on which nothing hangs",
         "what it should light or look at is missing",
         "each pin that the table names",
         {},
         controller_pin},
        {"controller-wavers",
         "a controller's threshold without hysteresis",
         "lights flicker where it turns",
         "levels that lead there and back; 1 % of full scale at least is bench practice",
         {},
         controller_wavers},
    };
}

}  // namespace elkit
