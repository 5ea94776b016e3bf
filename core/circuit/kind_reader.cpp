// Reads data/catalogue/kinds.json.
#include "circuit/kind_reader.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <limits>
#include <map>
#include <nlohmann/json.hpp>

namespace elkit {
namespace {
using nlohmann::json;
using Texts = std::vector<std::string>;

/// An entry of a table by name; throws like the JSON library, with what was found.
template <class Value>
Value named(const std::map<std::string_view, Value>& table, const std::string& name) {
    const auto found = table.find(name);
    if (found == table.end()) throw json::other_error::create(501, "unknown word \"" + name + "\"", nullptr);
    return found->second;
}

/// Each entry of a list, if there is one.
template <class Take>
void each(const json& j, const char* key, Take take) {
    if (const auto list = j.find(key); list != j.end())
        for (const json& entry : *list) take(entry);
}

Role role_of(const std::string& name) {
    static const std::map<std::string_view, Role> roles{{"source", Role::source},
                                                        {"energy", Role::energy},
                                                        {"cells", Role::cells},
                                                        {"on_leads", Role::on_leads},
                                                        {"bench", Role::bench},
                                                        {"contact", Role::contact},
                                                        {"momentary", Role::momentary},
                                                        {"stays", Role::stays},
                                                        {"plugged", Role::plugged},
                                                        {"resistor", Role::resistor},
                                                        {"light", Role::light},
                                                        {"diode_light", Role::diode_light},
                                                        {"blocks", Role::blocks},
                                                        {"junction", Role::junction},
                                                        {"bins", Role::bins},
                                                        {"capacitor", Role::capacitor},
                                                        {"polar", Role::polar},
                                                        {"stores", Role::stores},
                                                        {"swings", Role::swings},
                                                        {"gain", Role::gain},
                                                        {"transistor", Role::transistor},
                                                        {"chip", Role::chip},
                                                        {"coil", Role::coil},
                                                        {"sensor", Role::sensor},
                                                        {"light_sensor", Role::light_sensor},
                                                        {"usual", Role::usual},
                                                        {"no_current", Role::no_current},
                                                        {"protects", Role::protects},
                                                        {"charges", Role::charges},
                                                        {"legs_differ", Role::legs_differ}};
    return named(roles, name);
}

Unit unit_of(const std::string& sign) {
    static const std::map<std::string_view, Unit> units{
        {"Ω", Unit::ohm},      {"F", Unit::farad},    {"H", Unit::henry},          {"V", Unit::volt},
        {"A", Unit::ampere},   {"W", Unit::watt},     {"s", Unit::second},         {"Hz", Unit::hertz},
        {"m", Unit::metre},    {"h", Unit::hour},     {"mm²", Unit::square_metre}, {"count", Unit::count},
        {"°C", Unit::celsius}, {"cd", Unit::candela}, {"Ah", Unit::ampere_hour},   {"%", Unit::percent},
        {"lx", Unit::lux}};
    const auto found = units.find(sign);
    return found == units.end() ? Unit::none : found->second;  // T, K and the like stand in the meaning
}

Limit read_limit(const json& j) {
    static const std::map<std::string_view, Limit::Reading> readings{
        {"lasting", Limit::Reading::lasting},   {"rms", Limit::Reading::rms},
        {"together", Limit::Reading::together}, {"mean", Limit::Reading::mean},
        {"across", Limit::Reading::across},     {"power", Limit::Reading::power}};
    Limit l;
    l.reading = named(readings, j.at("reading"));
    l.what = j.at("what"), l.pins = j.at("pins").get<Texts>(), l.param = j.at("param");
    l.serious = j.value("severity", "error") == "error";
    l.station = j.value("station", "circuit");
    l.advice =
        j.value("advice", "From fresh cells, everything switched on. Take a larger part, or ask less of it.");
    return l;
}

Need read_need(const json& j) {
    using What = Need::What;
    static const std::map<std::string_view, What> whats{
        {"capacitor", What::capacitor}, {"diode", What::diode},      {"hold", What::hold},
        {"held", What::held},           {"tied", What::tied},        {"quiet", What::quiet},
        {"used", What::used},           {"used_one", What::used_one}};
    Need n;
    n.what = named(whats, j.at("need"));
    n.pin = j.value("pin", ""), n.to = j.value("to", ""), n.partner = j.value("partner", "");
    n.inductance = j.value("inductance", "");
    n.words = j.value("what", ""), n.advice = j.value("advice", ""), n.value = j.value("value", 0.0);
    for (const char* key : {"between", "across", "pins"})
        if (j.contains(key)) n.pins = j.at(key).get<Texts>();
    return n;
}

Identity read_identity(const json& j) {
    Identity i;
    i.family = j.at("family"), i.id = j.value("id", ""), i.by = j.at("by").get<Texts>();
    i.unless_usual = j.value("unless_usual", Texts{});
    i.pieces = j.value("pieces", ""), i.name = j.at("name");
    if (j.contains("also")) i.also_key = j["also"].at("key"), i.also_name = j["also"].at("name");
    i.by_pins = j.value("pins", false), i.spare = j.at("spare");
    return i;
}

BuildWords read_words(const json& j) {
    BuildWords w;
    w.prepare = j.value("prepare", ""), w.solder = j.value("solder", ""),
    w.polarity = j.value("polarity", "");
    w.caution = j.value("caution", ""), w.last = j.value("last", ""), w.hint = j.value("hint", "");
    w.measure = j.value("measure", ""), w.measure_pins = j.value("measure_pins", Texts{});
    w.check = j.value("check", false), w.heat = j.value("heat", 0);
    return w;
}

std::vector<PartKind::Joint> joints(const json& j) {
    std::vector<PartKind::Joint> all;
    for (const auto& pair : j) all.emplace_back(pair.at(0), pair.at(1));
    return all;
}

void read_electric(const json& j, PartKind& k) {
    if (j.contains("rest"))
        k.rest = {j.at("rest").at("param"), j["rest"].value("equals", ""), j["rest"].value("above", 0.0)};
    if (j.contains("contacts"))
        k.joined_open = joints(j.at("contacts").at("open")),
        k.joined_closed = joints(j.at("contacts").at("closed"));
    if (j.contains("joins")) {
        k.joined = joints(j.at("joins").at("pairs"));
        k.joined_param = j.at("joins").value("param", ""), k.joined_below = j["joins"].value("below", 0.0);
    }
    if (j.contains("direct_current"))
        k.direct_current = j.at("direct_current").get<std::vector<std::vector<std::string>>>();
    if (j.contains("supply")) {
        const json& s = j.at("supply");
        k.supply =
            SupplyPins{s.at("plus"), s.at("minus"), s.at("low").get<Texts>(), s.at("high"), s.at("stops")};
    }
    each(j, "limits", [&](const json& l) { k.limits.push_back(read_limit(l)); });
    each(j, "needs", [&](const json& n) { k.needs.push_back(read_need(n)); });
}

}  // namespace

PartKind read_kind(const json& j) {
    PartKind k;
    k.id = j.at("id"), k.name = j.at("name"), k.prefix = j.at("prefix");
    k.words = j.value("words", Texts{}), k.adjectives = j.value("adjectives", Texts{});
    k.pins = j.at("pins").get<Texts>();
    k.optional_pins = j.value("optional_pins", Texts{});
    k.value_key = j.value("value", "");
    k.polarised = j.value("polarised", false);
    for (const auto& role : j.at("roles")) k.roles.push_back(role_of(role));
    k.reads = j.value("reads", Texts{});
    k.control = j.value("control", ""), k.level = j.value("level", ""), k.waveform = j.value("waveform", "");
    k.shows = j.value("shows", "");
    if (j.contains("states")) k.states = {j.at("states").at(0), j.at("states").at(1)};
    k.symbol = j.at("symbol"), k.marking = j.value("marking", ""), k.side_pin = j.value("side_pin", "");
    k.against = j.value("against", "");
    k.filament_light = j.value("light", "");
    if (j.contains("dies")) k.dies = joints(j.at("dies"));
    k.drives = j.value("drives", Texts{}), k.traces = j.value("traces", Texts{});
    read_electric(j, k);
    if (j.contains("controller")) {
        k.controller = ControllerSpec{{}, j.at("controller").at("bits")};
        const json& c = j.at("controller");
        const auto among = [&](const char* key, const std::string& pin) {
            const auto pins = c.at(key).get<Texts>();
            return std::find(pins.begin(), pins.end(), pin) != pins.end();
        };
        for (const std::string& pin : c.at("pins").get<Texts>())
            k.controller->pins.push_back({pin, among("dims", pin), among("measures", pin)});
    }
    k.identity = read_identity(j.at("identity"));
    if (j.contains("build")) k.build = read_words(j.at("build"));
    if (j.contains("legs")) {
        k.legs.view = j.at("legs").at("view");
        each(j.at("legs"), "marks", [&](const json& m) {
            k.legs.marks.push_back({m.at("pin"), m.at("mark"), m.at("words")});
        });
    }
    each(j, "footprints", [&](const json& f) {
        k.footprints.push_back(
            {f.at("id"), f.value("param", ""), f.value("from", 0.0), f.value("to", 1e300)});
    });
    for (const auto& p : j.at("params")) k.params.push_back(read_param(p));
    return k;
}

ParamInfo read_param(const json& j) {
    ParamInfo p;
    p.key = j.at("key"), p.label = j.at("label"), p.meaning = j.at("meaning");
    p.unit = unit_of(j.value("unit", ""));
    const json& standard = j.at("standard");
    if (standard.is_string()) p.standard = standard.get<std::string>();
    if (standard.is_array()) {
        PointList points;
        for (const json& point : standard) points.push_back({point.at(0), point.at(1)});
        p.standard = std::move(points);
    }
    if (standard.is_null()) p.standard = std::numeric_limits<double>::quiet_NaN();
    if (standard.is_number()) p.standard = standard.get<double>();
    if (j.contains("axes")) p.axes = {unit_of(j.at("axes").at(0)), unit_of(j.at("axes").at(1))};
    if (j.contains("range")) p.low = j.at("range").at(0), p.high = j.at("range").at(1);
    const std::map<std::string_view, ParamInfo::Written> written{{"", ParamInfo::Written::no},
                                                                 {"behaviour", ParamInfo::Written::behaviour},
                                                                 {"frames", ParamInfo::Written::frames}};
    p.written = named(written, j.value("written", ""));
    p.choices = j.value("choices", Texts{}), p.choices_of = j.value("choices_of", "");
    p.with = j.value("with", "");
    p.usual = j.value("usual", Texts{});
    return p;
}

Result<std::vector<PartKind>> read_kinds(std::string_view text) {
    try {
        std::vector<PartKind> kinds;
        for (const auto& j : json::parse(text)) kinds.push_back(read_kind(j));
        return kinds;
    } catch (const json::exception& e) {
        return Error{Fault::file, "part kinds", e.what(), "a table as in data/catalogue/kinds.json"};
    }
}

}  // namespace elkit
