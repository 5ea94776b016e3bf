#include "catalogue/catalogue.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <limits>
#include <nlohmann/json.hpp>
#include <optional>

#include "embedded.hpp"

namespace elkit {
namespace {
using nlohmann::json;

Curve curve(const json& list) {
    Curve c;
    for (const auto& p : list) c.points.push_back({p.at(0).get<double>(), p.at(1).get<double>()});
    return c;
}

CellType read_cell(const json& j, const json& temperature) {
    CellType c;
    c.id = j.at("id"), c.name = j.at("name"), c.chemistry = j.at("chemistry"), c.source = j.at("source");
    c.open_circuit = curve(j.at("open_circuit"));
    c.resistance = curve(j.at("resistance"));
    c.capacity = curve(j.at("capacity"));
    c.max_current = j.at("max_current"), c.self_discharge_per_year = j.at("self_discharge_per_year");
    c.mass = j.at("mass_g"), c.price = j.at("price"), c.cutoff = j.at("cutoff"),
    c.limits_itself = j.at("limits_itself"), c.protection = j.value("protection", false);
    for (const auto& s : j.value("sag", json::array())) c.sag.push_back({s.at(0), s.at(1)});
    c.size = {j.at("size_mm").at(0).get<double>(), j.at("size_mm").at(1).get<double>()};
    c.resistance_factor = curve(temperature.at("resistance").at(c.chemistry));
    c.capacity_factor = curve(temperature.at("capacity").at(c.chemistry));
    return c;
}

LedType read_led(const json& j) {
    LedType t;
    t.id = j.at("id"), t.name = j.at("name"), t.rgb = j.at("rgb"), t.source = j.at("source"),
    t.caution = j.at("caution");
    t.vf_low = j.at("vf_low"), t.vf_typical = j.at("vf_typical"), t.vf_high = j.at("vf_high");
    t.test_current = j.at("test_current"), t.emission = j.at("emission"),
    t.series_resistance = j.at("series_resistance");
    t.intensity = j.at("intensity_mcd").get<double>() / 1000, t.max_current = j.at("max_current");
    t.reverse_voltage = j.at("reverse_voltage"), t.diameter = j.at("diameter_mm"), t.tempco = j.at("tempco");
    t.visible = j.at("visible");
    t.thermal_resistance = j.value("thermal_resistance", t.thermal_resistance);
    t.thermal_case = std::min(j.value("thermal_case", 0.4 * t.thermal_resistance), t.thermal_resistance);
    t.viewing_angle = j.value("viewing_angle", t.viewing_angle);
    return t;
}

DiodeType read_diode(const json& j) {
    DiodeType t;
    t.id = j.at("id"), t.name = j.at("name"), t.source = j.at("source");
    t.vf_typical = j.at("vf_typical"), t.test_current = j.at("test_current"), t.emission = j.at("emission");
    t.series_resistance = j.at("series_resistance"), t.max_current = j.at("max_current");
    t.reverse_voltage = j.at("reverse_voltage"), t.tempco = j.at("tempco");
    t.breakdown = j.value("breakdown", 0.0), t.breakdown_current = j.value("breakdown_current", 0.005),
    t.breakdown_resistance = j.value("breakdown_resistance", 10.0);
    return t;
}

PartType read_type(const json& j) {
    PartType t;
    t.kind = j.at("kind"), t.id = j.at("id"), t.name = j.at("name"), t.source = j.at("source");
    for (const auto& [key, value] : j.at("values").items()) t.values[key] = value;
    return t;
}

template <class List>
auto find(const List& list, std::string_view id) -> decltype(&list.front()) {
    for (const auto& entry : list)
        if (entry.id == id) return &entry;
    return nullptr;
}
}  // namespace

const CellType* Catalogue::cell(std::string_view id) const { return find(cells, id); }
unsigned LedType::colour() const {
    unsigned value = 0xf0a21e;
    if (rgb.size() == 7) std::from_chars(rgb.data() + 1, rgb.data() + 7, value, 16);
    return value;
}

const LedType* Catalogue::led(std::string_view id) const { return find(leds, id); }
const DiodeType* Catalogue::diode(std::string_view id) const { return find(diodes, id); }

const PartType* Catalogue::type(std::string_view kind, std::string_view id) const {
    for (const auto& t : types)
        if (t.id == id && t.kind == kind) return &t;
    return nullptr;
}

double PartType::value(std::string_view key) const {
    const auto found = values.find(key);
    return found == values.end() ? std::numeric_limits<double>::quiet_NaN() : found->second;
}

std::vector<std::string> Catalogue::ids(std::string_view list, std::string_view kind) const {
    std::vector<std::string> all;
    if (list == "cells")
        for (const auto& c : cells) all.push_back(c.id);
    else if (list == "leds")
        for (const auto& l : leds) all.push_back(l.id);
    else if (list == "diodes")
        for (const auto& d : diodes) all.push_back(d.id);
    else
        for (const auto& t : types)
            if (t.kind == kind) all.push_back(t.id);
    return all;
}

std::string Catalogue::name_of(std::string_view kind, std::string_view id) const {
    if (const PartType* t = type(kind, id)) return t->name;
    if (const LedType* l = led(id)) return l->name;
    if (const CellType* c = cell(id)) return c->name;
    const DiodeType* d = diode(id);
    return d ? d->name : "";
}

double Catalogue::type_value(std::string_view kind, std::string_view id, std::string_view key) const {
    if (const PartType* t = type(kind, id)) return t->value(key);
    const auto common = [&](const auto& t) {
        return key == "vf"                  ? t.vf_typical
               : key == "emission"          ? t.emission
               : key == "series_resistance" ? t.series_resistance
               : key == "max_current"       ? t.max_current
               : key == "reverse_voltage"   ? t.reverse_voltage
                                            : std::numeric_limits<double>::quiet_NaN();
    };
    if (const LedType* l = led(id))
        return key == "diameter"             ? l->diameter
               : key == "intensity"          ? l->intensity
               : key == "test_current"       ? l->test_current
               : key == "thermal_resistance" ? l->thermal_resistance
               : key == "viewing_angle"      ? l->viewing_angle
                                             : common(*l);
    const DiodeType* d = diode(id);
    if (!d) return std::numeric_limits<double>::quiet_NaN();
    return key == "vz" ? d->breakdown : common(*d);
}

const WireType& Catalogue::wire_at_least(double area) const {
    for (const auto& w : wires)
        if (w.area >= area * (1 - 1e-9)) return w;
    return wires.back();
}

namespace {

/// The lists of a catalogue; an entry that cannot be read is told with its list, place and id.
Result<Catalogue> read_lists(const json& all, const json& cell_temperature) {
    Catalogue c;
    std::string place = "catalogue";
    const auto each = [&](const char* list, auto read, auto& into) {
        if (!all.contains(list)) return;
        place = list;
        std::size_t index = 0;
        for (const json& entry : all.at(list)) {
            place = fmt::format("{}, entry {}", list, ++index);
            if (entry.is_object() && entry.contains("id") && entry["id"].is_string())
                place += " (" + entry["id"].get<std::string>() + ")";
            into.push_back(read(entry));
        }
    };
    try {
        each(
            "cells", [&](const json& j) { return read_cell(j, cell_temperature); }, c.cells);
        each("leds", read_led, c.leds);
        each("diodes", read_diode, c.diodes);
        each("types", read_type, c.types);
        each(
            "wires",
            [](const json& j) {
                return WireType{j.at("area_mm2"), j.at("awg"), j.at("max_current")};
            },
            c.wires);
    } catch (const json::exception& e) {
        return Error{Fault::file, place, e.what(), "an entry as in data/catalogue/catalogue.json"};
    }
    return c;
}

struct Bound {
    const char* what;
    double value, low, high;
};

/// An entry with a number that no such part has; nothing if all are possible.
std::optional<Error> impossible(const std::string& place, const std::vector<Bound>& bounds) {
    for (const Bound& b : bounds)
        if (!(b.value >= b.low && b.value <= b.high))
            return Error{Fault::file, place, fmt::format("{} is {}", b.what, b.value),
                         fmt::format("{} to {}", b.low, b.high)};
    return std::nullopt;
}

Result<void> check_own(const Catalogue& c) {
    const auto named = [](const char* list, const auto& entry) {
        return fmt::format("{}, {}", list, entry.id);
    };
    for (const CellType& cell : c.cells) {
        for (const Curve* curve : {&cell.open_circuit, &cell.resistance})
            if (curve->points.size() < 2)
                return Error{Fault::file, named("cells", cell), "a curve has less than two points",
                             "pairs of charge and value"};
        for (const Curve* curve : {&cell.open_circuit, &cell.resistance, &cell.capacity})
            for (std::size_t k = 0; k < curve->points.size(); ++k)
                if (!(curve->points[k].y > 0) || (k > 0 && curve->points[k].x <= curve->points[k - 1].x))
                    return Error{Fault::file, named("cells", cell), "a curve falls back or reaches zero",
                                 "pairs in rising order, of values above zero"};
        if (auto bad = impossible(named("cells", cell),
                                  {{"open_circuit", cell.open_circuit.at(1), 0.1, 60},
                                   {"open_circuit", cell.open_circuit.at(0), 0, 60},
                                   {"resistance", cell.resistance.at(1), 1e-4, 1e5},
                                   {"max_current", cell.max_current, 1e-6, 1000},
                                   {"cutoff", cell.cutoff, 0, 60},
                                   {"self_discharge_per_year", cell.self_discharge_per_year, 0, 1},
                                   {"price", cell.price, 0, 1e6}}))
            return *bad;
    }
    for (const CellType& cell : c.cells)
        for (const CellType::Sag& sag : cell.sag)
            if (auto bad = impossible(named("cells", cell), {{"sag", sag.resistance, 1e-4, 1e5},
                                                             {"time of sag", sag.seconds, 0.01, 1e5}}))
                return *bad;
    for (const LedType& led : c.leds)
        if (auto bad =
                impossible(named("leds", led), {{"vf_typical", led.vf_typical, 0.5, 100},
                                                {"vf_low", led.vf_low, 0.5, led.vf_typical},
                                                {"vf_high", led.vf_high, led.vf_typical, 120},
                                                {"test_current", led.test_current, 1e-6, 10},
                                                {"emission", led.emission, 0.5, 200},
                                                {"series_resistance", led.series_resistance, 0, 1e4},
                                                {"intensity_mcd", 1000 * led.intensity, 0, 1e7},
                                                {"max_current", led.max_current, 1e-5, 20},
                                                {"reverse_voltage", led.reverse_voltage, 0.1, 1000},
                                                {"diameter_mm", led.diameter, 0.1, 200},
                                                {"thermal_resistance", led.thermal_resistance, 0.1, 5000},
                                                {"viewing_angle", led.viewing_angle, 0, 360}}))
            return *bad;
    for (const DiodeType& d : c.diodes)
        if (auto bad = impossible(named("diodes", d), {{"vf_typical", d.vf_typical, 0.05, 10},
                                                       {"test_current", d.test_current, 1e-9, 100},
                                                       {"emission", d.emission, 0.5, 10},
                                                       {"series_resistance", d.series_resistance, 0, 1e4},
                                                       {"max_current", d.max_current, 1e-5, 1000},
                                                       {"reverse_voltage", d.reverse_voltage, 0.1, 1e4},
                                                       {"breakdown", d.breakdown, 0, 1000}}))
            return *bad;
    return success();
}

/// The id of an entry that the other catalogue has too; empty if there is none.
template <class List>
std::string taken(const List& own, const List& known) {
    for (const auto& entry : own)
        if (std::any_of(known.begin(), known.end(), [&](const auto& k) { return k.id == entry.id; }))
            return entry.id;
    return "";
}

Catalogue& in_use() {
    static Catalogue catalogue = read_catalogue(embedded::catalogue).value();
    return catalogue;
}

template <class List>
void append(List& own, List& known) {
    for (auto& entry : own) {
        entry.name += own_mark;
        known.push_back(std::move(entry));
    }
}

}  // namespace

Result<Catalogue> read_catalogue(std::string_view text) {
    const json all = json::parse(text, nullptr, false);
    for (const char* list : {"cells", "cell_temperature", "leds", "diodes", "types", "wires"})
        if (!all.is_object() || !all.contains(list))
            return Error{Fault::file, "catalogue", fmt::format("it has no {}", list),
                         "a catalogue as in data/catalogue"};
    return read_lists(all, all.at("cell_temperature"));
}

Result<Catalogue> read_own_catalogue(std::string_view text) {
    static const json temperature = json::parse(embedded::catalogue).at("cell_temperature");
    const json all = json::parse(text, nullptr, false);
    if (!all.is_object())
        return Error{
            Fault::file, "own parts", "it is no JSON object",
            R"({"leds": […], "cells": […], "diodes": […], "types": […], "modules": […], "words": […]})"};
    auto own = read_lists(all, temperature);
    if (!own) return own;
    if (auto sound = check_own(own.value()); !sound) return sound.error();
    return own;
}

Result<void> add_own_parts(Catalogue own) {
    Catalogue& known = in_use();
    for (const std::string& id : {taken(own.cells, known.cells), taken(own.leds, known.leds),
                                  taken(own.diodes, known.diodes), taken(own.types, known.types)})
        if (!id.empty())
            return Error{Fault::usage, "own part " + id, "there is one of this id already", "another id"};
    append(own.cells, known.cells), append(own.leds, known.leds);
    append(own.diodes, known.diodes), append(own.types, known.types);
    return success();
}

const Catalogue& known_catalogue() { return in_use(); }

}  // namespace elkit
