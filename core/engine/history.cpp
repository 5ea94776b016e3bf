#include "engine/history.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "circuit/part_kind.hpp"
#include "engine/repetition.hpp"
#include "quantity/format.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

Result<void> go_on_until(double limit, System& system, Stepper& stepper, const Accuracy& accuracy) {
    stepper.set_longest_step((limit - stepper.time()) / 50);
    Repetition repetition(system, stepper, accuracy.relative);
    for (std::size_t samples = 1; stepper.time() < limit; ++samples) {
        stop_point();
        if (auto done = stepper.advance(limit); !done) {
            Error e = done.error();
            e.found += fmt::format(" at {}", format_quantity(stepper.time(), Unit::second, 5));
            return e;
        }
        if (!system.autonomous() || !repetition.closes(samples, limit)) continue;
        const double whole = std::floor((limit - stepper.time()) / repetition.period());
        stepper.skip(whole * repetition.period());
        repetition.restart();
    }
    return success();
}

}  // namespace

bool remembers(const Circuit& circuit) { return any(circuit, Role::gain) || any(circuit, Role::chip); }

bool keeps_to_itself(const Circuit& circuit) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [](const Part& part) {
        const PartKind* kind = part_kind(part.kind);
        return kind && (kind->controller || (kind->module && kind->module->latching));
    });
}

void put_hand(Conditions& c, const Circuit& circuit, const std::string& contact, bool on) {
    constexpr double pause = 1;  // s
    const Part* part = circuit.find(contact);
    const bool momentary = part && is(*part, Role::momentary);
    if (!c.events.empty() || (momentary && remembers(circuit))) {
        c.events.push_back({(c.events.empty() ? 0 : c.events.back().time) + pause, contact, on});
        return;
    }
    c.switches[contact] = on;
    if (momentary && !on) c.switches.erase(contact);
}

std::vector<TimedChange> changes_of(const Conditions& conditions) {
    std::vector<TimedChange> changes;
    Conditions now = conditions;
    now.events.clear();
    for (const HandEvent& e : conditions.events) {
        now.switches[e.part] = e.on;
        changes.push_back({e.time, now, e.part + (e.on ? " on" : " off")});
    }
    return changes;
}

Result<void> live_through(const Conditions& conditions, System& system, Stepper& stepper,
                          const Accuracy& accuracy) {
    for (const TimedChange& change : changes_of(conditions)) {
        if (change.time > stepper.time())
            if (auto done = go_on_until(change.time, system, stepper, accuracy); !done) return done;
        if (system.configure(change.conditions))
            if (auto done = stepper.jump(); !done) return done;
    }
    if (conditions.moment > 0)
        return go_on_until(stepper.time() + conditions.moment, system, stepper, accuracy);
    return success();
}

}  // namespace elkit
