#include "recipes/measured.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "design/content.hpp"
#include "engine/goal.hpp"
#include "engine/measure.hpp"
#include "recipes/block_parts.hpp"
#include "recipes/edge.hpp"
#include "recipes/level.hpp"

namespace elkit {

static constexpr double settled = 0.05;  // s between power and the first press, at least

Result<Recording> run_of_presses(const Circuit& circuit, const Expectation& x, Conditions conditions,
                                 double after, const Corner& corner) {
    conditions.events.clear(), conditions.moment = 0;
    conditions.celsius = x.celsius.value_or(conditions.celsius),
    conditions.lux = x.lux.value_or(conditions.lux);
    for (const Part& part : circuit.parts)
        if (is(part, Role::momentary)) conditions.switches.erase(part.designator);
    RunRequest request;
    request.probes = {x.probe}, request.balance = false;
    Conditions now = conditions;
    double time = std::max(settled, x.pressed);
    for (const std::string& button : x.presses) {
        now.switches[button] = true;
        request.changes.push_back({time, now, "press " + button});
        now.switches[button] = false;
        request.changes.push_back({time + x.pressed, now, "let go " + button});
        time += x.pressed + std::max(settled, x.pressed);
    }
    request.until = request.changes[request.changes.size() - 2].time + after;
    return simulate(circuit, known_catalogue(), conditions, request, corner);
}

namespace {

Result<double> after_presses(const Circuit& circuit, const Expectation& x, const Conditions& conditions,
                             const Corner& corner) {
    const bool lasts = x.reading == "lasts";
    auto run =
        run_of_presses(circuit, x, conditions, lasts ? 1.5 * x.high + x.pressed : 1.2 * x.wait, corner);
    if (!run) return run.error();
    const Recording& r = run.value();
    const auto& values = r.trace(x.probe)->values;
    double pressed = 0;
    for (const Happening& h : r.happenings)
        if (h.what == "press " + x.presses.back()) pressed = h.time;
    if (!lasts) return std::abs(value_at(r.time, values, pressed + x.wait));
    double most = 0, last = pressed;
    for (std::size_t k = 0; k < r.time.size(); ++k)
        if (r.time[k] > pressed) most = std::max(most, values[k]);
    for (const LevelCrossing& crossing : level_crossings(r.time, values, x.level * most, pressed))
        if (!crossing.rising) last = crossing.time;
    if (values.back() > x.level * most) return r.time.back() - pressed;  // longer than anybody asked for
    return last - pressed;
}

}  // namespace

Result<double> measured(const Ask& ask, const Keyed<Circuit>& circuit, const Expectation& x,
                        const Conditions& given, const Corner& corner) {
    Conditions conditions = given;
    for (const auto& [knob, turn] : x.knobs) conditions.knobs[knob] = turn;
    if (x.celsius) conditions.celsius = *x.celsius;
    if (x.lux) conditions.lux = *x.lux;
    if (x.lux && x.infrared_per_lux) conditions.infrared = *x.lux * *x.infrared_per_lux;
    if (is_edge(x.reading)) return edge_level(*circuit, x, conditions, corner);
    if (!x.bench.part.empty()) {
        for (const std::string& button : x.presses) conditions.switches[button] = true;  // held all along
        return trigger_level(*circuit, x, conditions, corner);
    }
    if (!x.presses.empty()) return after_presses(*circuit, x, conditions, corner);
    const auto run = ask(RunQuery(circuit, conditions, corner));
    if (x.reading.empty()) {
        const std::string part = x.probe.substr(x.probe.find(':') + 1);
        const WhileOn on(*circuit, run, part);
        if (!on) return run.error();
        return on->part(part).current;
    }
    if (!run) return run.error();
    if (x.reading == "mean") {
        const std::string of = x.probe.substr(x.probe.find(':') + 1);
        return x.probe.starts_with("net:") ? run->mean().voltage(of) : std::abs(run->mean().part(of).current);
    }
    if (!run->moves()) return Error{Fault::design, x.label, "the circuit rests", "one that goes on and on"};
    const Trace* trace = run->steady().cycle.trace(x.probe);
    if (!trace) return Error{Fault::design, x.probe, "is not there", "a net or part of the circuit"};
    auto found = read_cycle(run->steady(), *trace, x.reading);
    if (found && x.unit == Unit::percent) found.value() *= 100;
    return found;
}

Circuit circuit_of_block(const Design& design, std::size_t block) {
    if (design.blocks.size() < 2) return design.circuit;
    std::set<std::size_t> wanted{block};
    const auto offered = offered_nets(design);
    for (std::size_t before = 0; before != wanted.size();) {
        before = wanted.size();
        for (const std::size_t k : std::set(wanted))
            for (const auto& [local, net] : design.blocks[k].nets)
                for (const OfferedNet& offer : offered)
                    if (offer.net == net) wanted.insert(offer.block);
    }
    Circuit circuit;
    const auto behind = main_switch(design.circuit);
    for (const Part& part : design.circuit.parts)
        if ((behind && part.designator == behind->designator) ||
            !part_kind(part.kind)->joined.empty() ||  // a fuse before them
            std::any_of(wanted.begin(), wanted.end(),
                        [&](std::size_t k) { return has_part(design.blocks[k], part.designator); }))
            circuit.parts.push_back(part);
    return circuit;
}

std::optional<Expectation> in_design(Expectation x, const Block& block, const Circuit& circuit) {
    const auto part = [&](const std::string& local) -> std::string {
        for (const auto* names : {&block.parts, &block.uses})
            if (const auto at = names->find(local); at != names->end() && circuit.find(at->second))
                return at->second;
        return {};
    };
    const auto colon = x.probe.find(':');
    const std::string local = x.probe.substr(colon + 1);
    std::string here;
    if (x.probe.starts_with("net:")) {
        if (const auto net = block.nets.find(local); net != block.nets.end()) here = net->second;
    } else {
        here = part(local);
    }
    if (here.empty()) return std::nullopt;
    x.probe = x.probe.substr(0, colon + 1) + here;
    if (!x.bench.part.empty())
        if (x.bench.part = part(x.bench.part); x.bench.part.empty()) return std::nullopt;
    std::map<std::string, double> knobs;
    for (const auto& [knob, turn] : x.knobs) {
        const std::string there = part(knob);
        if (there.empty()) return std::nullopt;
        knobs[there] = turn;
    }
    x.knobs = std::move(knobs);
    for (std::string& button : x.presses)
        if (button = part(button); button.empty()) return std::nullopt;
    return x;
}

std::vector<Figure> only_reckoned(const Sized& sized, const std::vector<Measured>& measured) {
    std::vector<Figure> rest;
    for (const Figure& f : sized.results)
        if (std::none_of(measured.begin(), measured.end(),
                         [&](const Measured& m) { return m.asked.label.starts_with(f.label); }))
            rest.push_back(f);
    return rest;
}

MeasuredQuery::MeasuredQuery(const Design& of, std::size_t which, const Conditions& under)
    : block(which), conditions(as_seen(of.circuit, fresh(of.circuit, under))) {
    design.circuit = of.circuit, design.blocks = of.blocks;
}

Digest MeasuredQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << block;
    return d.digest();
}

Result<std::vector<Measured>> MeasuredQuery::compute(const Ask& ask) const {
    auto sized = sized_block(design, block);
    if (!sized) return sized.error();
    const Keyed<Circuit> circuit(circuit_of_block(design, block));
    std::vector<Measured> all;
    for (const Expectation& local : sized.value().expected) {
        const auto x = in_design(local, design.blocks[block], design.circuit);
        if (!x) continue;
        Measured m{*x, {}, false, {}};
        m.found = {"measured." + x->label,
                   x->label,
                   std::numeric_limits<double>::quiet_NaN(),
                   x->unit,
                   x->low,
                   x->high,
                   {fmt::format("asked for {}; {} to {} over a batch, by the recipe's own reckoning",
                                format_quantity(x->target, x->unit), format_quantity(x->low, x->unit),
                                format_quantity(x->high, x->unit))}};
        if (auto found = measured(ask, circuit, *x, conditions)) {
            m.found.value = found.value();
            m.found.working.insert(m.found.working.begin(), "the engine's, of the circuit as it stands");
            m.met = found.value() >= x->low && found.value() <= x->high;
        } else {
            m.trouble = found.error().text();
        }
        all.push_back(std::move(m));
    }
    return all;
}

}  // namespace elkit
