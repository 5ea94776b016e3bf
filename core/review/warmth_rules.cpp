// What gets warm: power LEDs, sensors that warm themselves, parts beside cells and sensors, cells run too
// low.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "board/mount.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "engine/models.hpp"
#include "light/heat.hpp"
#include "light/judgement.hpp"
#include "review/rules.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr double sensor_minds = 0.5;           // °C of its own warmth
constexpr double hole = 2.54;                  // mm
constexpr double near = 10, warms_near = 0.1;  // mm, W: beside a sensor; bench practice
constexpr double warms_cells = 0.5;            // W in one part, in a case with cells; bench practice

/// A sensor of warmth: one that says what power warms it.
bool feels_warmth(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->is(Role::sensor) && kind->param("dissipation");
}

double junction_celsius(const Part& led, double watts, double ambient) {
    return ambient + watts * led.number("thermal_resistance");
}

void hot_led(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::diode_light)) continue;
        const double watts = run->mean().part(part.designator).power();
        const double ambient = e.fresh.celsius_of(part.designator);
        const double junction = junction_celsius(part, watts, ambient);
        if (!(junction > hot_junction)) continue;
        auto& f = add_finding(
            out, junction > ruined_junction ? Severity::error : Severity::warning, "light",
            "part:" + part.designator, fmt::format("{} gets {} inside", part.designator, degrees(junction)),
            fmt::format("{} in it, {:.0f} °C for each watt as it is mounted, in air of {}. Above {} an LED "
                        "loses light and soon its life; what it sits on burns fingers.",
                        format_quantity(watts, Unit::watt), part.number("thermal_resistance"),
                        degrees(ambient), degrees(hot_junction)));
        if (const double sink = std::floor((cool_junction - ambient) / watts); sink >= 3)
            f.remedies.push_back(set_param(fmt::format("A heat sink: {:.0f} °C a watt in all", sink),
                                           part.designator, "thermal_resistance", sink));
        add_raised_resistor(
            e, part.designator,
            [name = part.designator, c = e.fresh, ambient](const Circuit& circuit) {
                const auto trial = long_run(circuit, known_catalogue(), c);
                return trial && junction_celsius(*circuit.find(name), trial.value().mean().part(name).power(),
                                                 ambient) < hot_junction;
            },
            f);
    }
}

/// Resistances that share a net with the part.
std::vector<std::string> dividers_of(const Circuit& circuit, const Part& sensor) {
    std::vector<std::string> all;
    const std::string rail = circuit.negative_rail(),
                      plus = circuit.source() ? circuit.source()->pins.front().net : "";
    const auto shares = [&](const Part& other) {
        return std::any_of(sensor.pins.begin(), sensor.pins.end(), [&](const Pin& a) {
            const bool free = a.net != rail && a.net != plus;
            return free && std::any_of(other.pins.begin(), other.pins.end(),
                                       [&](const Pin& b) { return a.net == b.net; });
        });
    };
    for (const Part& other : circuit.parts)
        if (is(other, Role::resistor) && shares(other)) all.push_back(other.designator);
    return all;
}

void warm_sensor(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        if (!feels_warmth(part)) continue;
        const double watts = run->mean().part(part.designator).power(),
                     own = watts / part.number("dissipation");
        if (!(own > sensor_minds)) continue;
        const double factor = std::pow(10, std::ceil(std::log10(own / sensor_minds)));
        auto& f = add_finding(
            out, own > 10 ? Severity::warning : Severity::note, "circuit", "part:" + part.designator,
            fmt::format("{} warms itself by {:.1f} °C", part.designator, own),
            fmt::format(
                "{} in it, {} for each degree: it shows that much more than what it is to feel, less in "
                "water or wind. {:.0f} times the ohms in it and its divider leave {:.2g} °C of it.",
                format_quantity(watts, Unit::watt), format_quantity(part.number("dissipation"), Unit::watt),
                factor, own / factor));
        const PointList* points = part.points("points");
        if (points && !points->empty()) continue;  // a sensor that was measured is that one
        auto names = dividers_of(*e.circuit, part);
        names.push_back(part.designator);
        f.remedies.push_back(circuit_remedy(
            fmt::format("{:.0f} times the ohms in {}", factor, fmt::join(names, ", ")),
            [names, factor](Circuit& circuit) -> std::optional<Error> {
                for (const std::string& name : names) {
                    Part* p = circuit.find(name);
                    const ParamInfo* info = p ? part_kind(p->kind)->param("value") : nullptr;
                    if (!info)
                        return Error{Fault::design, "part " + name, "it is gone", "a part of the circuit"};
                    const double value = factor * p->number("value");
                    if (value > info->high)
                        return Error{Fault::design, "part " + name, "its value would be too large",
                                     "at most " + format_quantity(info->high, info->unit)};
                    p->params["value"] = value;
                }
                return {};
            }));
    }
}

/// Middle of a part on the board [mm], from the places of its pins such as "C4".
std::map<std::string, std::pair<double, double>> places_of(const Board& board) {
    std::map<std::string, std::pair<double, double>> sums;
    std::map<std::string, int> counts;
    for (const PlacedPin& pin : board.pins) {
        double column = 0, row = 0;
        for (const char c : pin.place) {
            if (c >= 'A' && c <= 'Z') column = 26 * column + (c - 'A' + 1);
            if (c >= '0' && c <= '9') row = 10 * row + (c - '0');
        }
        sums[pin.designator].first += hole * column, sums[pin.designator].second += hole * row;
        ++counts[pin.designator];
    }
    for (auto& [part, at] : sums) at.first /= counts[part], at.second /= counts[part];
    return sums;
}

void warm_neighbours(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    const Part* source = e.circuit->source();
    const bool cells = source && is(*source, Role::cells);
    std::map<std::string, double> heat;
    for (const Part& part : e.circuit->parts)
        if (!is(part, Role::energy)) heat[part.designator] = run->mean().part(part.designator).power();
    for (const auto& [part, watts] : heat)
        if (cells && watts > warms_cells)
            add_finding(
                out, Severity::note, "board", "part:" + part,
                fmt::format("{} turns {} into heat: keep it off {}", part, format_quantity(watts, Unit::watt),
                            source->designator),
                "Warm cells lose charge and leak, lithium cells age fast and may catch fire. A hand's "
                "breadth, or a wall of the case, between them.",
                "cells");
    if (std::none_of(e.circuit->parts.begin(), e.circuit->parts.end(), feels_warmth)) return;
    const auto board = e.board();
    if (!board) return;
    const auto places = places_of(*board);
    for (const Part& sensor : e.circuit->parts) {
        const auto here = places.find(sensor.designator);
        if (!feels_warmth(sensor) || here == places.end()) continue;
        for (const auto& [part, watts] : heat) {
            const auto there = places.find(part);
            if (there == places.end() || part == sensor.designator || !(watts > warms_near)) continue;
            const double apart = std::hypot(here->second.first - there->second.first,
                                            here->second.second - there->second.second);
            if (apart > near) continue;
            add_finding(out, Severity::warning, "board", "part:" + sensor.designator,
                        fmt::format("{} turns {} into heat {:.0f} mm from {}", part,
                                    format_quantity(watts, Unit::watt), apart, sensor.designator),
                        "The sensor feels it. Put the sensor on wires, or on the far side of the board.",
                        part);
        }
    }
}

void emptied(const Evidence& e, std::vector<Finding>& out) {
    constexpr double drains = 1e-3;  // A
    for (const Part& part : e.circuit->parts) {
        const auto cell = is(part, Role::cells) ? cell_of(part, known_catalogue()) : std::nullopt;
        if (!cell || cell->protection || cell->endless()) continue;
        const bool reversed = cell->chemistry == "NiMH" && part.number("count") > 1;
        if (!reversed && cell->chemistry != "lead-acid") continue;
        Conditions flat = e.fresh;
        flat.battery = 0;
        const auto run = e.ask(RunQuery(e.circuit, flat));
        const double current = run ? -run->mean().part(part.designator).current : 0;
        if (!(current > drains)) continue;
        add_finding(
            out, Severity::note, "power", "part:" + part.designator,
            fmt::format("Left on, it empties {} below {} a cell", part.designator, volts(cell->cutoff)),
            fmt::format("{} still flow when it is empty. {} Switch off when the light fades, and charge "
                        "soon.",
                        amps(current),
                        reversed ? "The weakest cell of the row is then charged the wrong way round, and "
                                   "leaks."
                                 : "A lead cell that stands empty never comes back whole."));
    }
}

void leg_order(const Evidence& e, std::vector<Finding>& out) {
    std::string names, taken;
    const Part* first = nullptr;
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::legs_differ)) continue;
        const PartKind& kind = *part_kind(part.kind);
        const PartMount mount = mount_of(e.design.board, part.designator);
        const Footprint* shape = find_footprint(mount.footprint);
        if (!mount.legs.empty() || (shape && legs_agreed(*shape))) continue;  // someone looked
        if (!first) first = &part;
        names += (names.empty() ? "" : ", ") + part.designator;
        if (legs_to_choose(kind) && taken.empty())
            taken = fmt::format(" It is taken as {} until you choose it on Board, under Parts on it.",
                                usual_legs(kind, shape ? *shape : footprint(part)));
    }
    if (!first) return;
    add_finding(
        out, Severity::note, taken.empty() ? "build" : "board", "part:" + first->designator,
        fmt::format("Leg order of {} differs between makers", names),
        "The same type comes with its legs in another order from another maker. Look at the leaflet of those "
        "in your hand, or find the legs with the diode range of a meter, before the first one is soldered." +
            taken);
}

}  // namespace

std::vector<Rule> warmth_rules() {
    return {
        {"hot-led",
         "an LED that gets too hot inside",
         "it loses light and dies early",
         "mean power in the long run, thermal resistance of its type or heat sink; 100 °C is from typical "
         "datasheets",
         {On::conditions},
         hot_led,
         Over::every},
        {"warm-sensor",
         "a sensor of warmth that warms itself",
         "it reads too much",
         "its mean power and dissipation; half a degree is bench practice",
         {On::conditions},
         warm_sensor,
         Over::every},
        {"warm-neighbours",
         "parts that get warm beside cells or sensors of warmth",
         "cells age and leak, sensors feel it",
         "mean power in the long run, places on the board; 10 mm and 0.1 W are bench practice",
         {On::conditions, On::board, On::brief},
         warm_neighbours},
        {"emptied",
         "cells that are emptied too far when it stays on",
         "they are ruined",
         "current with empty cells; chemistry",
         {On::conditions},
         emptied},
        {"leg-order",
         "transistors and regulators whose legs differ between makers",
         "the wrong order is the commonest fault of a kit",
         "kinds of the parts",
         {On::board},
         leg_order},
    };
}

}  // namespace elkit
