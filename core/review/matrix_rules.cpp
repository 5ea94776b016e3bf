// Matrices of lights: whether what they show reaches them, all at one time, and whether their supply holds.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <utility>

#include "behaviour/behaviour.hpp"
#include "circuit/chain.hpp"
#include "circuit/edit.hpp"
#include "engine/long_run.hpp"
#include "power/supply_range.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

const ModuleSpec* matrix(const Part& part) {
    return shows_pictures(part) ? &*part_kind(part.kind)->module : nullptr;
}

/// Whether something other than a matrix is joined to the net.
bool somebody_sends(const Circuit& circuit, const std::string& net) {
    return !net.empty() && std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& part) {
        return !matrix(part) && std::any_of(part.pins.begin(), part.pins.end(),
                                            [&](const Pin& pin) { return pin.net == net; });
    });
}

/// Lets the last of one chain hand on to the first of another, which also gets what all of them share.
Remedy hand_on(const std::string& from, const std::string& to) {
    return circuit_remedy(
        fmt::format("Let {} hand its data on to {}", from, to),
        [from, to](Circuit& circuit) -> std::optional<Error> {
            const Part a = *circuit.find(from), b = *circuit.find(to);
            const ModuleSpec &giver = *matrix(a), &taker = *matrix(b);
            std::vector<std::array<std::string, 3>> moves;  // designator, pin, net
            const std::string between =
                a.net(giver.chain_out).empty() ? free_net(circuit, "DATA") : a.net(giver.chain_out);
            moves.push_back({from, giver.chain_out, between}), moves.push_back({to, taker.chain_in, between});
            for (const std::string& pin : part_kind(a.kind)->optional_pins)
                if (pin != giver.chain_in && pin != giver.chain_out && !a.net(pin).empty())
                    moves.push_back({to, pin, a.net(pin)});
            for (const auto& [designator, pin, net] : moves) {
                auto joined = move_pin(circuit, designator, pin, net);
                if (!joined) return joined.error();
                circuit = std::move(joined).value();
            }
            return {};
        });
}

void matrix_data(const Evidence& e, std::vector<Finding>& out) {
    const auto chains = chains_of(*e.circuit);
    for (const auto& chain : chains) {
        const Part& first = *e.circuit->find(chain.front());
        const ModuleSpec* spec = matrix(first);
        if (!spec || somebody_sends(*e.circuit, first.net(spec->chain_in))) continue;
        auto& f = add_finding(out, Severity::warning, "circuit", "part:" + first.designator,
                              first.designator + " gets no data",
                              fmt::format("Its pin {} leads to nothing that sends. It shows what it happens "
                                          "to hold when power comes on.",
                                          spec->chain_in),
                              spec->chain_in);
        for (const auto& other : chains) {
            const Part& last = *e.circuit->find(other.back());
            if (other != chain && matrix(last) &&
                somebody_sends(*e.circuit, e.circuit->find(other.front())->net(matrix(last)->chain_in)))
                f.remedies.push_back(hand_on(last.designator, first.designator));
        }
    }
}

void matrix_times(const Evidence& e, std::vector<Finding>& out) {
    for (const auto& chain : chains_of(*e.circuit)) {
        const auto in_time = chain_pictures(*e.circuit, chain);
        for (std::size_t k = 0; k < in_time.size() && in_time.size() == chain.size(); ++k) {
            const auto own = frames_of(e.circuit->find(chain[k])->text("pattern"));
            if (!own || own.value() == in_time[k]) continue;
            auto& f = add_finding(
                out, Severity::warning, "circuit", "part:" + chain[k],
                fmt::format("{} and {} change their pictures at different times", chain.front(), chain[k]),
                "They hang in one chain, and what is sent fills all of it: a picture is one for all of them.",
                "pattern");
            f.remedies.push_back(
                set_param(fmt::format("Show those of {} when {} does", chain[k], chain.front()), chain[k],
                          "pattern", text_of(in_time[k])));
        }
    }
}

void matrix_sleep(const Evidence& e, std::vector<Finding>& out) {
    for (const auto& chain : chains_of(*e.circuit)) {
        const Part* sender = sender_of(*e.circuit, chain);
        const auto pictures = chain_pictures(*e.circuit, chain);
        const bool change = std::any_of(pictures.begin(), pictures.end(), [](const auto& frames) {
            return std::any_of(frames.begin(), frames.end(),
                               [&](const MatrixFrame& f) { return f.rows != frames.front().rows; });
        });
        if (!sender || !change) continue;
        auto table = behaviour_of(sender->text("behaviour"));
        if (!table) continue;
        std::string sleeping;
        for (BehaviourState& state : table.value().states)
            if (std::exchange(state.sleeps, false)) sleeping = state.name, state.looks = 0;
        if (sleeping.empty()) continue;
        auto& f =
            add_finding(out, Severity::warning, "circuit", "part:" + chain.front(),
                        fmt::format("{} stands still while {} sleeps", chain.front(), sender->designator),
                        fmt::format("{} sends its pictures, and does nothing in its state {}. What was "
                                    "shown last stays, and takes its current.",
                                    sender->designator, sleeping),
                        "sleep");
        f.remedies.push_back(set_param(fmt::format("Let {} stay awake", sender->designator),
                                       sender->designator, "behaviour", text_of(table.value())));
    }
}

/// The circuit with all matrices at this share of their brightness.
Circuit dimmed(const Circuit& circuit, double share) {
    Circuit next = circuit;
    for (Part& part : next.parts)
        if (matrix(part))
            part.params["brightness"] = std::max(1.0, std::floor(share * part.number("brightness")));
    return next;
}

void matrix_supply(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const SupplyRange& range : supply_ranges(*e.circuit)) {
        if (!matrix(*e.circuit->find(range.designator))) continue;
        const auto [least, most] = run->between(range.plus, range.minus);
        if (least >= range.low || most < range.low) continue;  // below it all along is told elsewhere
        auto& f =
            add_finding(out, Severity::warning, "power", "part:" + range.designator,
                        fmt::format("{} gets {} while most lights are on, it wants {}", range.designator,
                                    volts(least), volts(range.low)),
                        "Its supply sags with what the picture takes: lights flicker, or pictures are lost.");
        add_goal_remedies(e.design, "matrix-supply", range.designator, f);
        for (double share = 0.8; share > 0.1; share *= 0.8) {
            const auto then = long_run(dimmed(*e.circuit, share), known_catalogue(), e.fresh);
            if (!then || then.value().between(range.plus, range.minus).first < range.low) continue;
            f.remedies.push_back(
                circuit_remedy(fmt::format("Show it with {:.0f} % of the current", 100 * share),
                               [share](Circuit& circuit) -> std::optional<Error> {
                                   circuit = dimmed(circuit, share);
                                   return {};
                               }));
            break;
        }
    }
}

}  // namespace

std::vector<Rule> matrix_rules() {
    return {
        {"matrix-data",
         "a matrix of lights that no data reach",
         "it shows nothing, or what it happens to hold",
         "what its data come from: another matrix, or any other part",
         {},
         matrix_data},
        {"matrix-times",
         "matrices of one chain that change pictures at different times",
         "what is sent fills the whole chain",
         "times of their pictures",
         {},
         matrix_times},
        {"matrix-sleep",
         "pictures sent by a controller that sleeps",
         "a picture stands still, and takes its current",
         "pictures that change, and states that sleep in the table of what sends them",
         {},
         matrix_sleep},
        {"matrix-supply",
         "a matrix whose supply sags while most lights are on",
         "lights flicker, or pictures are lost",
         "lowest voltage at it over all pictures, fresh cells, against its lowest supply",
         {On::conditions},
         matrix_supply},
    };
}

}  // namespace elkit
