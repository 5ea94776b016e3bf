#include "situations/afterglow.hpp"

#include <algorithm>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/history.hpp"
#include "engine/transient.hpp"
#include "quantity/brightness.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

constexpr double held_for = 1;                        // s
constexpr double lookouts[] = {30, 240, 1800, 7200};  // s; further ones where it still glows
constexpr double at_once = 0.05;                      // s: nobody calls that an afterglow
constexpr double dark_for_good = 0.7;                 // of a run: dark for the rest of it is dark
constexpr std::size_t most_samples = 200'000;

bool presses(const Circuit& circuit, const std::string& name) {
    const Part* part = circuit.find(name);
    return part && is(*part, Role::momentary);
}

/// The conditions with every held button let go at the end; nothing if none is held.
std::optional<Conditions> let_go(const Circuit& circuit, Conditions c) {
    std::map<std::string, bool> held;
    for (const auto& [name, on] : c.switches) held[name] = on && presses(circuit, name);
    for (const HandEvent& e : c.events) held[e.part] = e.on && presses(circuit, e.part);
    const double when = (c.events.empty() ? 0 : c.events.back().time) + held_for;
    const std::size_t before = c.events.size();
    for (const auto& [name, on] : held)
        if (on) c.events.push_back({when, name, false});
    if (c.events.size() == before) return std::nullopt;
    return c;
}

}  // namespace

Digest AfterglowQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(held);
    return d.digest();
}

Result<std::optional<double>> AfterglowQuery::compute(const Ask&) const {
    const auto freed = let_go(*circuit, held);
    if (!freed) return Value();
    RunRequest request;
    request.start = Start::power_up;
    request.changes = changes_of(*freed);
    request.balance = false;
    request.most_samples = most_samples;
    for (const Part& part : circuit->parts)
        if (is(part, Role::light)) request.probes.push_back("light:" + part.designator);
    if (request.probes.empty()) return Value();
    Conditions start = *freed;
    start.events.clear();
    const double when = freed->events.back().time;
    for (const double lookout : lookouts) {
        request.until = when + lookout;
        const auto run = simulate(*circuit, known_catalogue(), start, request);
        if (!run) return Value();
        const auto light = [&](std::size_t k) {
            double sum = 0;
            for (const Trace& t : run.value().traces) sum += t.values[k];
            return sum;
        };
        const std::vector<double>& time = run.value().time;
        double bright = 0, last = when;
        for (std::size_t k = 0; k < time.size() && time[k] <= when; ++k) bright = std::max(bright, light(k));
        if (!(bright > 0)) return Value();
        for (std::size_t k = 0; k < time.size(); ++k)
            if (time[k] > when && light(k) > luminance_for(0.5) * bright) last = time[k];
        if (last - when > dark_for_good * lookout) continue;
        return Value(last - when < at_once ? 0 : last - when);
    }
    return Value();
}

std::string afterglow_text(const Ask& ask, const Keyed<Circuit>& circuit, const Situation& situation) {
    const auto found = ask(AfterglowQuery{circuit, situation.under({})});
    if (!found || !found->has_value() || **found == 0) return {};
    return "stays lit " + format_quantity(**found, Unit::second) + " when let go";
}

}  // namespace elkit
