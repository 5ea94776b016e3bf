#include "catalogue/catalogue.hpp"

#include <limits>
#include <nlohmann/json.hpp>
#include <stdexcept>

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
    c.limits_itself = j.at("limits_itself");
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
    if (const LedType* l = led(id)) return key == "diameter" ? l->diameter : common(*l);
    const DiodeType* d = diode(id);
    if (!d) return std::numeric_limits<double>::quiet_NaN();
    return key == "vz" ? d->breakdown : common(*d);
}

const WireType& Catalogue::wire_at_least(double area) const {
    for (const auto& w : wires)
        if (w.area >= area * (1 - 1e-9)) return w;
    return wires.back();
}

Result<Catalogue> read_catalogue(std::string_view text) {
    try {
        const json all = json::parse(text);
        Catalogue c;
        for (const auto& j : all.at("cells")) c.cells.push_back(read_cell(j, all.at("cell_temperature")));
        for (const auto& j : all.at("leds")) c.leds.push_back(read_led(j));
        for (const auto& j : all.at("diodes")) c.diodes.push_back(read_diode(j));
        for (const auto& j : all.at("types")) c.types.push_back(read_type(j));
        for (const auto& j : all.at("wires"))
            c.wires.push_back({j.at("area_mm2"), j.at("awg"), j.at("max_current")});
        return c;
    } catch (const json::exception& e) {
        return Error{Fault::file, "catalogue", e.what(), "a catalogue as in data/catalogue"};
    }
}

const Catalogue& built_in_catalogue() {
    static const Catalogue catalogue = read_catalogue(embedded::catalogue).value();
    return catalogue;
}

}  // namespace elkit
