#include "recipes/sketch.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "quantity/preferred.hpp"
#include "recipes/steady_light.hpp"
#include "recipes/string_resistor.hpp"
#include "recipes/wording.hpp"

namespace elkit {

Lights lights_of(const Goals& goals) {
    return {goals.text("led"), static_cast<int>(goals.number("count")),
            static_cast<int>(goals.number("per_string")), goals.number("current")};
}

Result<Junction> light_junction(const Lights& lights) {
    return junction_model({"L1", "led", {{"type", lights.type}}, {}, {}}, known_catalogue(), 21, 0);
}

Part source_of(const Goals& goals, const Environment& environment) {
    if (environment.source) {
        Part part = *environment.source;
        part.designator = recipe_source, part.pins = {{"+", "V+"}, {"-", "GND"}};
        return part;
    }
    return {std::string(recipe_source),
            "battery",
            {{"cell", goals.text("cell")}, {"count", goals.number("cells")}},
            {{"+", "V+"}, {"-", "GND"}},
            {}};
}

Result<Thevenin> fresh_source(const Goals& goals, const Environment& environment) {
    auto model = source_model(source_of(goals, environment), known_catalogue(), {});
    if (!model) return Error{Fault::design, "supply", model.error().found, model.error().expected};
    return model;
}

void Sketch::resistor(const std::string& name, double ohms, const std::string& a, const std::string& b) {
    add({name, "resistor", {{"value", ohms}}, {{"a", a}, {"b", b}}, {}});
}

double Sketch::rough_resistor(const std::string& name, const std::string& label, double ohms,
                              const std::string& a, const std::string& b, std::vector<std::string> working) {
    const auto near = values_near(ohms, environment_.owned, Series::e24, 1);
    const double value = std::abs(std::log(near.front() / ohms)) < std::log(3.0) ? near.front() : ohms;
    resistor(name, value, a, b);
    chose(name, label, value, Unit::ohm, std::move(working));
    return value;
}

void Sketch::capacitor(const std::string& name, double farads, const std::string& a, const std::string& b) {
    if (farads < least_electrolytic)
        return add({name, "capacitor", {{"value", farads}}, {{"a", a}, {"b", b}}, {}});
    const auto source = fresh_source(goals_, environment_);
    const double rating = electrolytic_rating(source ? source.value().voltage : 0);
    add({name, "electrolytic", {{"value", farads}, {"rating", rating}}, {{"+", a}, {"-", b}}, {}});
}

void Sketch::button(const std::string& name, const std::string& a, const std::string& b) {
    add({name, "button", {}, {{"a", a}, {"b", b}}, {}});
}

void Sketch::chose(const std::string& name, const std::string& label, double value, Unit unit,
                   std::vector<std::string> working) {
    out_.figures[name + ".value"] = {"recipe." + name, label, value, unit, {}, {}, std::move(working)};
}

Result<double> Sketch::chosen_resistor(const std::string& name, const std::string& label, double exact,
                                       const std::string& a, const std::string& b,
                                       std::vector<std::string> working) {
    const auto near = values_near(exact, environment_.owned, Series::e24, 1);
    if (near.empty() || std::abs(near.front() / exact - 1) > 0.2)
        return Error{Fault::design, label,
                     fmt::format("the drawer has none near {}", format_quantity(exact, Unit::ohm)),
                     "a resistor within a fifth of it"};
    working.push_back(
        fmt::format("{} → {}", format_quantity(exact, Unit::ohm), format_quantity(near.front(), Unit::ohm)));
    resistor(name, near.front(), a, b);
    chose(name, label, near.front(), Unit::ohm, std::move(working));
    return near.front();
}

Result<Feed> Sketch::feed() {
    auto source = fresh_source(goals_, environment_);
    if (!source) return source.error();
    Feed feed{"V+", source.value()};
    add(source_of(goals_, environment_));
    if (goals_.text("switch") == "yes") {
        Part part{"S1", "switch", {}, {{"a", "V+"}, {"b", "ON"}}, {}};
        feed.fresh.resistance += part.number("on_resistance");
        add(std::move(part)), feed.net = "ON";
    }
    return feed;
}

void Sketch::carries(double amps) {
    for (Part& part : out_.parts) {
        if (part.kind == "switch" && amps > 0.8 * part.number("rating"))
            for (const double rating : {1.0, 3.0, 6.0, 10.0})
                if (part.params["rating"] = rating; 0.8 * rating >= amps) break;
        if (!is(part, Role::source) || environment_.source) continue;
        for (const WireType& wire : known_catalogue().wires) {  // thin to thick
            if (0.8 * wire.max_current < amps) continue;
            if (wire.area > part.number("lead_area")) part.params["lead_area"] = wire.area;
            break;
        }
    }
}

Result<void> Sketch::light_resistor(const std::string& name, const std::string& label, const Lights& string,
                                    double total, const Thevenin& from, const std::string& high,
                                    const std::string& low) {
    StringQuestion q;
    q.source = source_of(goals_, environment_);
    q.led = {"L1", "led", {{"type", string.type}}, {}, {}};
    q.leds = string.count, q.led_current = q.current = string.current, q.total = total;
    q.owned = environment_.owned, q.feed = from;
    const auto answer = size_string(q);
    if (!answer) return Error{Fault::design, "lights", answer.error().found, answer.error().expected};
    Part resistor{name, "resistor", {{"value", answer.value().value}}, {{"a", high}, {"b", low}}, {}};
    if (answer.value().rating > 0.25) resistor.params["rating"] = answer.value().rating;
    add(std::move(resistor));
    chose(name, label, answer.value().value, Unit::ohm, answer.value().working);
    return success();
}

Result<void> Sketch::lights(const Lights& lights, const Thevenin& from, const std::string& high,
                            const std::string& low) {
    carries(lights.total());
    int light = 0, string = 0;
    for (const int length : string_lengths(lights.count, lights.per_string)) {
        const std::string name = fmt::format("Rlight{}", ++string);
        std::string net = fmt::format("LIGHT{}", string == 1 ? "" : std::to_string(string));
        if (auto placed = light_resistor(name, fmt::format("resistor of light string {}", string),
                                         {lights.type, length, length, lights.current}, lights.total(), from,
                                         high, net);
            !placed)
            return placed;
        const double ohms = out_.parts.back().number("value");
        const std::string first = fmt::format("L{}", light + 1);
        for (int k = 1; k <= length; ++k) {
            const std::string next = k == length ? low : fmt::format("BETWEEN{}", light + 1);
            add({fmt::format("L{}", ++light), "led", {{"type", lights.type}}, {{"a", net}, {"k", next}}, {}});
            net = next;
        }
        // rounding takes up to an E24 step, and the models of cells and chips as much again: some 50 mV, that
        // count for more where little is left for the resistor
        const double off = 0.2 + 0.05 / std::max(0.1, lights.current * ohms);
        Expectation e = lit_;
        e.label = fmt::format("light string {}", string), e.probe = "part:" + first;
        e.target = lights.current, e.low = (1 - off) * lights.current;
        // what sags only after a while has not sagged in a short flash
        e.high = (1 + off) * lights.current + lights.total() * (from.lasting() - from.resistance) / ohms;
        if (!by_another_) expect(std::move(e));
    }
    return success();
}

std::vector<double> values_near(double exact, const std::vector<double>& owned, Series series,
                                std::size_t count) {
    std::vector<double> values = owned.empty() ? preferred_around(exact, series) : owned;
    const auto off = [&](double v) { return std::abs(std::log(v / exact)); };
    std::sort(values.begin(), values.end(), [&](double a, double b) { return off(a) < off(b); });
    if (values.size() > count) values.resize(count);
    return values;
}

const PartType* comparator_for(double volts) {
    const PartType* best = nullptr;
    for (const PartType& t : known_catalogue().types)
        if (t.kind == "comparator" && t.value("highest_supply") >= volts &&
            (!best || t.value("own_current") < best->value("own_current")))
            best = &t;
    return best;
}

void suit_led(Goals& goals, const std::set<std::string>& said, double fresh) {
    if (said.contains("led")) return;
    const LedType* led = known_catalogue().led(goals.text("led"));
    if (led && fresh > 0 && fresh < led->vf_typical + 0.5) goals.values["led"] = std::string("red-5mm");
}

double fresh_volts(const Goals& goals, const Environment& environment) {
    const auto source = fresh_source(goals, environment);
    return source ? source.value().voltage : 0;
}

std::optional<std::string> lasts_on(const Goals& goals, const Environment& environment, double amps) {
    constexpr double room_celsius = 21;
    const auto cell = cell_of(source_of(goals, environment), known_catalogue());
    if (!cell || cell->endless()) return std::nullopt;
    return fmt::format("that alone empties the cells in {}",
                       format_quantity(cell->usable_charge(amps, room_celsius) / amps, Unit::hour));
}

double usual_number(const PartKind& kind, const char* param) {
    return std::get<double>(kind.param(param)->standard);
}

Result<void> fits_supply(const PartKind& kind, double volts) {
    const double lowest = usual_number(kind, "lowest_supply"), highest = usual_number(kind, "highest_supply");
    if (volts >= lowest && volts <= highest) return success();
    return Error{Fault::design, "cells", fmt::format("{} do not suit a {}", volts_text(volts), kind.name),
                 fmt::format("{} to {}", volts_text(lowest), volts_text(highest))};
}

double usual_tolerance(const std::string& kind) { return usual_number(*part_kind(kind), "tolerance"); }

double electrolytic_rating(double volts) {
    for (const double rating : {16.0, 25.0, 35.0, 50.0, 63.0})
        if (rating >= 1.25 * volts) return rating;
    return 100;
}

}  // namespace elkit
