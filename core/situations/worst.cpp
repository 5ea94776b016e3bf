#include "situations/worst.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "design/content.hpp"

namespace elkit {
namespace {

constexpr std::size_t all_up_to = 8;          // contacts and knob ends of which every combination is tried
constexpr std::size_t most_solved = 200'000;  // parts, over all trials: half a second or so
constexpr double worse = 1.05;                // than in any situation, to be worth a name
constexpr double least_power = 1e-3;          // W: below it nothing gets warm
constexpr std::size_t most_named = 3, most_parts_in_a_name = 3;

using Move = std::function<void(Conditions&, bool)>;

std::vector<Move> moves_of(const Circuit& circuit) {
    std::vector<Move> moves;
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind) continue;
        const std::string name = part.designator;
        if (is(part, Role::momentary) || is(part, Role::stays))
            moves.push_back([name](Conditions& c, bool on) { c.switches[name] = on; });
        else if (kind->reads_condition("knob"))
            moves.push_back([name](Conditions& c, bool on) { c.knobs[name] = on ? 1 : 0; });
    }
    return moves;
}

/// Which moves are made in each trial.
std::vector<std::vector<bool>> trials_of(std::size_t n) {
    std::vector<std::vector<bool>> trials;
    if (n <= all_up_to) {
        for (std::size_t bits = 0; bits < (std::size_t{1} << n); ++bits) {
            std::vector<bool> on(n);
            for (std::size_t k = 0; k < n; ++k) on[k] = bits >> k & 1;
            trials.push_back(std::move(on));
        }
        return trials;
    }
    for (const bool all : {false, true}) {
        trials.emplace_back(n, all);
        for (std::size_t k = 0; k < n; ++k) trials.emplace_back(n, all), trials.back()[k] = !all;
    }
    for (std::size_t a = 0; a < std::min<std::size_t>(n, 16); ++a)
        for (std::size_t b = a + 1; b < std::min<std::size_t>(n, 16); ++b)
            trials.emplace_back(n, false), trials.back()[a] = trials.back()[b] = true;
    return trials;
}

/// W that each part takes, or gives.
std::vector<double> stress_of(const OperatingPoint& op) {
    std::vector<double> watts;
    for (const PartState& s : op.parts) watts.push_back(std::abs(s.taken));
    return watts;
}

}  // namespace

Digest WorstQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(situations);
    return d.digest();
}

Result<std::vector<Situation>> WorstQuery::compute(const Ask& ask) const {
    const std::vector<Move> moves = moves_of(*circuit);
    if (moves.size() < 2 || may_move(*circuit) || situations.empty()) return std::vector<Situation>{};
    std::vector<std::vector<bool>> all = trials_of(moves.size());
    all.resize(std::min(all.size(), most_solved / circuit->parts.size()));
    std::vector<double> known(circuit->parts.size(), 0);
    for (const Situation& s : situations)
        if (const auto run = ask(RunQuery(circuit, s.under({})))) {
            const auto watts = stress_of(run->mean());
            for (std::size_t k = 0; k < watts.size(); ++k) known[k] = std::max(known[k], watts[k]);
        }
    struct Trial {
        Conditions conditions;
        std::vector<std::size_t> worst_for;
    };
    std::vector<Trial> trials;
    std::vector<std::size_t> worst_in(known.size(), 0);
    std::vector<double> highest = known;
    for (const std::vector<bool>& on : all) {
        Trial trial{situations.front().under({}), {}};
        trial.conditions.events.clear();
        for (std::size_t k = 0; k < moves.size(); ++k) moves[k](trial.conditions, on[k]);
        trials.push_back(std::move(trial));
        const auto op = operating_point(*circuit, known_catalogue(), trials.back().conditions);
        if (!op) continue;
        const auto watts = stress_of(op.value());
        for (std::size_t k = 0; k < watts.size(); ++k)
            if (watts[k] > highest[k] * (1 + 1e-9)) highest[k] = watts[k], worst_in[k] = trials.size();
    }
    for (std::size_t k = 0; k < known.size(); ++k)
        if (worst_in[k] > 0 && highest[k] > worse * known[k] + least_power)
            trials[worst_in[k] - 1].worst_for.push_back(k);
    std::stable_sort(trials.begin(), trials.end(),
                     [](const Trial& a, const Trial& b) { return a.worst_for.size() > b.worst_for.size(); });
    std::vector<Situation> list;
    for (const Trial& t : trials) {
        if (t.worst_for.empty() || list.size() == most_named) break;
        std::vector<std::string> names;
        for (const std::size_t k : t.worst_for) names.push_back(circuit->parts[k].designator);
        const bool many = names.size() > most_parts_in_a_name;
        if (many) names.resize(most_parts_in_a_name);
        list.push_back(
            {fmt::format("worst for {}{}", fmt::join(names, ", "), many ? " …" : ""), {}, t.conditions, {}});
    }
    return list;
}

}  // namespace elkit
