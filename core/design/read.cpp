#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "design/board_file.hpp"
#include "design/file.hpp"
#include "design/json_reader.hpp"
#include "design/json_text.hpp"
#include "design/migrate.hpp"
#include "design/optics.hpp"
#include "design/situation_file.hpp"
#include "outline/outline.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;
constexpr double a_million = 1e6;
constexpr std::size_t longest_outline = 60000;  // characters
constexpr std::size_t most_points = 1000;       // of a measured curve
constexpr double largest_point = 1e6;           // A, V

void read_brief(JsonReader& r, Brief& b) {
    b.purpose = r.prose("purpose", b.purpose);
    b.run_time = r.number("run_time_h", b.run_time, 0, a_million);
    b.end_brightness = r.number("end_brightness", b.end_brightness, 0, 1);
    b.kits = r.number("kits", b.kits, 1, a_million);
    b.cost_ceiling = r.number("cost_ceiling", b.cost_ceiling, 0, a_million);
    b.width = r.number("width_mm", b.width, 0, 2000);
    b.height = r.number("height_mm", b.height, 0, 2000);
    b.depth = r.number("depth_mm", b.depth, 0, 2000);
    b.for_children = r.boolean("for_children", b.for_children);
    b.distance = r.number("distance_m", 0, 0, 100);
    r.list("optics", [&](JsonReader& o) {
        Optic optic;
        for (const char* key : {"name", "factor"}) o.require(key, "name and factor");
        optic.name = o.text("name", "");
        optic.factor = o.number("factor", 1, least_optic, most_optic);
        optic.extra = o.rest();
        b.optics.push_back(std::move(optic));
    });
    b.extra = r.rest();
}

void read_trial(JsonReader& r, Design& d) {
    LightTrial t;
    for (const char* key : {"led", "reference", "resistor", "current", "reference_current", "looked"})
        r.require(key, "led, reference, resistor, current, reference_current and looked");
    t.led = r.text("led", ""), t.reference = r.text("reference", "");
    t.resistor = r.number("resistor", 1, 0, 1e9);
    t.current = r.number("current", 1, 1e-9, 100);
    t.reference_current = r.number("reference_current", 1, 1e-9, 100);
    const std::string looked = r.choice("looked", "same", {looked_words.begin(), looked_words.end()});
    for (std::size_t k = 0; k < looked_words.size(); ++k)
        if (looked == looked_words[k]) t.looked = static_cast<LightTrial::Looked>(k);
    t.extra = r.rest();
    d.trials.push_back(std::move(t));
}

void read_face(JsonReader& r, Face& f) {
    f.material = r.text("material", f.material), f.fit = r.text("fit", f.fit);
    f.thickness = r.number("thickness_mm", f.thickness, 0.05, 100);
    f.width = r.number("width_mm", 0, 0, 2000), f.height = r.number("height_mm", 0, 0, 2000);
    f.outline = r.text("outline", "", longest_outline);
    if (auto read = read_outline(f.outline); !read)
        r.error("outline", read.error().found, read.error().expected);
    r.list("places", [&](JsonReader& p) {
        FacePlace place;
        for (const char* key : {"light", "x", "y"}) p.require(key, "light, x and y");
        place.light = p.text("light", "");
        place.x = p.number("x", 0, -2000, 2000), place.y = p.number("y", 0, -2000, 2000);
        place.extra = p.rest();
        f.places.push_back(std::move(place));
    });
    r.list("measured", [&](JsonReader& m) {
        FaceHole hole;
        for (const char* key : {"body", "hole"}) m.require(key, "body and hole");
        hole.body = m.number("body", 5, 0.1, 200), hole.hole = m.number("hole", 5, 0.1, 200);
        hole.extra = m.rest();
        f.measured.push_back(std::move(hole));
    });
    f.extra = r.rest();
}

/// The names that a recipe gave to parts or nets: an object of texts.
std::map<std::string, std::string> read_names(JsonReader& r, const std::string& key) {
    std::map<std::string, std::string> names;
    r.object(key, [&](JsonReader& n) {
        n.each([&](const std::string& name, const Json&) { names[name] = n.name(name); });
    });
    return names;
}

PointList read_points(JsonReader& r, const std::string& key) {
    const Json& list = *r.take(key);
    PointList points;
    for (const auto& p : list) {
        if (!p.is_array() || p.size() != 2 || !p[0].is_number() || !p[1].is_number())
            return r.error(key, describe(p), "pairs of numbers such as [0.02, 2.1]"), PointList();
        if (points.size() == most_points)
            return r.error(key, "is too long", fmt::format("at most {} points", most_points)), PointList();
        points.push_back({p[0].get<double>(), p[1].get<double>()});
        for (const double x : points.back())
            if (!(std::abs(x) <= largest_point))
                return r.error(key, describe(p), fmt::format("numbers from -{0} to {0}", largest_point)),
                       PointList();
    }
    return points;
}

void read_block(JsonReader& r, Design& d) {
    Block b;
    r.require("recipe", "the id of a recipe, such as steady-light");
    b.recipe = r.text("recipe", "");
    r.object("goals", [&](JsonReader& g) {
        g.each([&](const std::string& key, const Json& value) {
            if (value.is_number())
                b.goals[key] = g.number(key, 0, -1e12, 1e12);
            else if (value.is_array())
                b.goals[key] = read_points(g, key);
            else
                b.goals[key] = g.text(key, "");
        });
    });
    b.parts = read_names(r, "parts"), b.uses = read_names(r, "uses"), b.nets = read_names(r, "nets");
    if (const Json* list = r.take("by_hand"))
        for (const Json& entry : *list) {
            if (entry.is_string() &&
                trouble_of_text(entry.get_ref<const std::string&>(), longest_word).empty())
                b.by_hand.insert(entry.get<std::string>());
            else
                r.error("by_hand", describe(entry), "texts such as R1.value");
        }
    b.extra = r.rest();
    d.blocks.push_back(std::move(b));
}

void read_params(JsonReader& r, const PartKind& kind, Part& part) {
    r.each([&](const std::string& key, const Json& value) {
        const ParamInfo* info = kind.param(key);
        if (value.is_array()) {
            if (info && !std::holds_alternative<PointList>(info->standard))
                r.error(key, describe(value), "no list here");
            part.params[key] = read_points(r, key);
        } else if (value.is_number()) {
            if (info && !std::holds_alternative<double>(info->standard))
                r.error(key, describe(value), "a text");
            part.params[key] = info ? r.number(key, 0, info->low, info->high) : value.get<double>();
        } else if (value.is_string()) {
            if (info && !std::holds_alternative<std::string>(info->standard))
                r.error(key, describe(value),
                        "a number in " +
                            std::string(symbol(info->unit).empty() ? "SI units" : symbol(info->unit)));
            part.params[key] = info && info->written != ParamInfo::Written::no
                                   ? r.text(key, "", longest_table)
                                   : r.text(key, "");
        } else {
            r.error(key, describe(value), "a number, a text or a list of points");
        }
    });
}

void read_pins(JsonReader& r, const PartKind& kind, Part& part) {
    for (const std::string& name : kind.pins) {
        if (kind.optional(name) && !r.has(name)) continue;  // left open
        r.require(name, "the net of pin " + name);
        part.pins.push_back({name, r.name(name)});
    }
    const Json unknown = r.rest();
    if (!unknown.is_object()) return;
    const std::string& name = unknown.begin().key();
    r.error(name, fmt::format("a {} has no pin {}", kind.id, name),
            fmt::format("pins {}", fmt::join(kind.pins, ", ")));
}

/// Every text parameter must be one that the catalogue or the kind knows.
void check_texts(JsonReader& r, const Part& part, const PartKind& kind) {
    for (const ParamInfo& info : kind.params) {
        if (!std::holds_alternative<std::string>(info.standard)) continue;
        if (const auto trouble = trouble_of_choice(kind, info, part.text(info.key)))
            r.error("params/" + info.key,
                    (info.written != ParamInfo::Written::no ? trouble->place + ": " : "") + trouble->found,
                    trouble->expected);
    }
}

void read_part(JsonReader& r, Circuit& circuit, std::set<std::string>& designators) {
    Part part;
    r.require("designator", "a designator such as R1");
    r.require("kind", "one of " + known_kinds());
    r.require("pins", "an object of pin names and nets");
    part.designator = r.name("designator");
    part.kind = r.text("kind", "");
    if (!part.designator.empty() && !designators.insert(part.designator).second)
        r.error("designator", "a second part is called " + part.designator, "each designator once");
    const PartKind* kind = part_kind(part.kind);
    if (!kind) {
        if (r.has("kind"))
            r.error("kind", "unknown part kind \"" + part.kind + "\"", "one of " + known_kinds());
        return;
    }
    r.object("params", [&](JsonReader& p) { read_params(p, *kind, part); });
    r.object("pins", [&](JsonReader& p) { read_pins(p, *kind, part); });
    check_texts(r, part, *kind);
    part.extra = r.rest();
    circuit.parts.push_back(std::move(part));
}

void read_record(JsonReader& r, Design& d) {
    StepRecord record;
    r.require("step", "the step's id");
    record.step = r.text("step", "");
    record.done = r.boolean("done", false);
    record.note = r.prose("note", "");
    if (r.has("measured")) record.measured = r.number("measured", 0, -1e9, 1e9);
    record.unit = r.number("unit", 1, 1, a_million);
    record.time = r.text("time", "");
    record.extra = r.rest();
    d.records.push_back(std::move(record));
}

void read_document(JsonReader& r, Design& d) {
    d.version = static_cast<int>(r.number("elkit", current_version, 1, 1000));
    d.name = r.text("name", d.name, longest_title);
    r.object("brief", [&](JsonReader& b) { read_brief(b, d.brief); });
    r.list("blocks", [&](JsonReader& b) { read_block(b, d); });
    r.object("circuit", [&](JsonReader& c) {
        std::set<std::string> designators;
        c.list("parts", [&](JsonReader& p) { read_part(p, d.circuit, designators); });
        d.circuit.extra = c.rest();
    });
    r.object("board", [&](JsonReader& b) { read_board(b, d.board); });
    r.object("batch", [&](JsonReader& b) {
        d.batch.spares = b.number("spares", d.batch.spares, 0, 10);
        d.batch.extra = b.rest();
    });
    r.object("face", [&](JsonReader& f) { read_face(f, d.face); });
    r.list("situations", [&](JsonReader& s) { read_situation(s, d); });
    r.list("use", [&](JsonReader& u) { read_use(u, d); });
    r.list("records", [&](JsonReader& b) { read_record(b, d); });
    r.list("trials", [&](JsonReader& t) { read_trial(t, d); });
    r.list("decisions", [&](JsonReader& b) {
        Decision decision{b.text("finding", ""), b.prose("reason", ""), {}};
        decision.extra = b.rest();
        d.decisions.push_back(std::move(decision));
    });
    d.extra = r.rest();
}

struct Parsed {
    Design design;
    std::vector<Error> errors;
};

Parsed parse(std::string_view text) {
    Parsed out;
    auto parsed = parse_json(text, "the JSON text of a design");
    if (!parsed) {
        out.errors.push_back(parsed.error());
        return out;
    }
    Json document = std::move(parsed).value();
    if (document.is_object() && !document.contains("elkit")) {
        out.errors.push_back({Fault::design, "/elkit", "is missing", "the version of the file format, 1"});
        return out;
    }
    migrate(document);
    JsonReader reader(document, "", out.errors);
    if (document.is_object()) read_document(reader, out.design);
    return out;
}

}  // namespace

Result<Design> read_design(std::string_view text) {
    Parsed parsed = parse(text);
    if (!parsed.errors.empty()) return parsed.errors.front();
    return std::move(parsed.design);
}

std::vector<Error> design_errors(std::string_view text) { return parse(text).errors; }

}  // namespace elkit
