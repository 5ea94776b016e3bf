#include "engine/queries.hpp"

#include "catalogue/catalogue.hpp"
#include "engine/history.hpp"

namespace elkit {

Conditions as_seen(const Circuit& circuit, const Conditions& given) {
    const Conditions c = given.events.empty() || remembers(circuit) ? given : given.after_events();
    Conditions seen;
    seen.events = c.events, seen.as_set = c.as_set;
    if (!c.events.empty()) seen.moment = c.moment;
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind) continue;
        const auto reads = [&](const char* condition) { return kind->reads_condition(condition); };
        if (reads("battery")) seen.battery = c.battery;
        if (reads("celsius")) {
            seen.celsius = c.celsius;
            if (const auto own = c.warmth.find(part.designator); own != c.warmth.end())
                seen.warmth.insert(*own);
        }
        if (reads("lux")) seen.lux = c.lux;
        if (reads("infrared")) seen.infrared = c.infrared;
        if (reads("switch")) {
            // a momentary contact is kept as pressed or not, any other as closed or not
            const auto set = c.switches.find(part.designator);
            seen.switches[part.designator] =
                kind->is(Role::momentary) ? set != c.switches.end() && set->second : c.closed(part);
        }
        if (reads("knob")) seen.knobs[part.designator] = c.position(part);
        if (reads("level") && has_level(part)) seen.levels[part.designator] = c.level(part);
    }
    return seen;
}

Digest content_digest(const Conditions& c) {
    Digester d;
    d << c.battery << c.celsius << c.switches << c.knobs << c.lux << c.infrared << c.levels << c.warmth
      << c.as_set << c.moment << c.events.size();
    for (const HandEvent& e : c.events) d << e.time << e.part << e.on;
    return d.digest();
}

Digest content_digest(const Corner& c) {
    Digester d;
    d << c.led_vf << c.resistance << c.capacity << c.parts;
    return d.digest();
}

Conditions lit(const Circuit& circuit, Conditions c) {
    if (c.as_set) return c;
    for (const Part& part : circuit.parts)
        if (is(part, Role::stays) && part_kind(part.kind)->joined_open.empty())
            c.switches[part.designator] = true;
    return c;
}

Conditions fresh(const Circuit& circuit, const Conditions& conditions) {
    Conditions c = lit(circuit, conditions);
    c.battery = 1;
    return c;
}

Digest Situated::key() const {
    Digester d;
    d << circuit.digest() << content_digest(conditions) << content_digest(corner);
    return d.digest();
}

Result<OperatingPoint> RestQuery::compute(const Ask&) const {
    return operating_point(*circuit, known_catalogue(), conditions, corner);
}

Result<LongRun> RunQuery::compute(const Ask& ask) const {
    if (!may_move(*circuit)) {
        const auto rest = ask(RestQuery(circuit, conditions, corner));
        if (!rest) return rest.error();
        return resting_run(*circuit, *rest);
    }
    return long_run(*circuit, known_catalogue(), conditions, corner);
}

Result<std::vector<OperatingPoint>> StatesQuery::compute(const Ask& ask) const {
    if (may_latch(*circuit)) return operating_points(*circuit, known_catalogue(), conditions);
    const auto rest = ask(RestQuery(circuit, conditions, corner));
    if (!rest) return rest.error();
    return std::vector<OperatingPoint>{*rest};
}

bool may_latch(const Circuit& circuit) {
    int transistors = 0, others = 0;
    for (const Part& part : circuit.parts) {
        transistors += is(part, Role::transistor);
        others += is(part, Role::gain) && !is(part, Role::transistor);
    }
    return transistors > 1 || others > 0;
}

}  // namespace elkit
