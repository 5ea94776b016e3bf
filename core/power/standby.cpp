#include "power/standby.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <limits>

#include "circuit/part_kind.hpp"
#include "power/discharge.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

constexpr double daylight = 10'000;  // lx, an overcast noon
constexpr double shelf_life = 10;    // years
constexpr double hours_of_a_year = 8766;
constexpr double trickle = 1e-6;  // A, at which cells give all that they have

/// A contact that stays and can be open.
bool has_switch(const Circuit& c) {
    return std::any_of(c.parts.begin(), c.parts.end(), [](const Part& p) {
        return is(p, Role::stays) && part_kind(p.kind)->joined_open.empty();
    });
}

}  // namespace

bool can_be_off(const Circuit& circuit) {
    return has_switch(circuit) || any(circuit, Role::momentary) || any(circuit, Role::light_sensor);
}

Conditions switched_off(const Circuit& circuit, Conditions c) {
    c.battery = 1;
    c.events.clear();
    for (const Part& part : circuit.parts)
        if (is(part, Role::momentary) || (is(part, Role::stays) && part_kind(part.kind)->joined_open.empty()))
            c.switches[part.designator] = false;
    if (!has_switch(circuit) && any(circuit, Role::light_sensor)) c.lux = daylight;
    return c;
}

std::string off_text(const Circuit& circuit) {
    if (has_switch(circuit)) return "every switch open";
    if (any(circuit, Role::light_sensor)) return "in daylight (10 000 lx)";
    return any(circuit, Role::momentary) ? "no button pressed" : "as it stands";
}

std::vector<std::pair<std::string, double>> takers(const Circuit& circuit, const OperatingPoint& op) {
    std::vector<std::pair<std::string, double>> list;
    const Part* source = circuit.source();
    if (!source) return list;
    for (const Part& part : circuit.parts) {
        if (&part == source) continue;
        const PartState& state = op.part(part.designator);
        double taken = 0;
        for (std::size_t k = 0; k < part.pins.size() && k < state.pins.size(); ++k)
            if (part.pins[k].net == source->net("+")) taken += state.pins[k];
        if (taken > 1e-9) list.emplace_back(part.designator, taken);
    }
    std::stable_sort(list.begin(), list.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    return list;
}

Figure standby_life(const Part& source, double amps, double celsius) {
    Figure f{
        "power.standby", "standby life", std::numeric_limits<double>::infinity(), Unit::year, {}, {}, {}};
    const auto cell = emptying_cell(source);
    if (!cell) return f;
    const double drain = std::max(0.0, amps) * hours_of_a_year / cell->usable_charge(trickle, celsius);
    const double computed = 1 / (cell->self_discharge_per_year + drain);
    f.value = std::min(computed, shelf_life);
    f.working = {"T = 1 / (self-discharge + drain × 8766 h / capacity)",
                 fmt::format("  = 1 / ({:.2g} + {:.2g}) = {}", cell->self_discharge_per_year, drain,
                             format_quantity(computed, Unit::year))};
    if (computed > shelf_life) f.working.push_back("more than a cell keeps on the shelf: shown as 10 years");
    return f;
}

}  // namespace elkit
