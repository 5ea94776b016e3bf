#include "board/copper/making.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>
#include <set>
#include <stdexcept>

#include "embedded.hpp"

namespace elkit {
namespace {
using nlohmann::json;

double number(const json& j, const char* key, double least, double most) {
    const double value = j.at(key).get<double>();
    if (!(value >= least && value <= most))
        throw std::invalid_argument(fmt::format("{} is {}, not {} to {}", key, value, least, most));
    return value;
}
double number_or(const json& j, const char* key, double otherwise, double least, double most) {
    return j.contains(key) ? number(j, key, least, most) : otherwise;
}
std::string word(const json& j, const char* key, std::initializer_list<std::string_view> known) {
    std::string value = j.at(key);
    if (std::find(known.begin(), known.end(), value) == known.end())
        throw std::invalid_argument(
            fmt::format("{} is \"{}\", not one of {}", key, value, fmt::join(known, ", ")));
    return value;
}

MillTool read_tool(const json& j) {
    MillTool t;
    t.id = j.at("id"), t.name = j.at("name"), t.kind = word(j, "kind", {"engraver", "mill", "drill"});
    t.tip = number(j, "tip", 0.02, 10), t.depth = number(j, "depth", 0.01, 10);
    t.angle = t.kind == "engraver" ? number(j, "angle", 1, 120) : 0;
    t.runout = number_or(j, "runout", 0, 0, 1);
    t.feed = number(j, "feed", 0, 10000), t.plunge = number(j, "plunge", 1, 10000);
    t.speed = number(j, "speed", 100, 200000);
    return t;
}

BoardMaterialKind read_material(const json& j) {
    return {j.at("id"), j.at("name"), number(j, "thickness", 0.2, 10), number(j, "copper", 5, 400)};
}

Making read_method(const json& j) {
    Making m;
    m.id = j.at("id"), m.name = j.at("name"), m.about = j.at("about");
    m.process = word(j, "process", {"milled", "ordered"});
    m.layers = static_cast<int>(number(j, "layers", 1, 2));
    m.most_layers = static_cast<int>(number_or(j, "most_layers", m.layers, m.layers, 2));
    m.track_least = number(j, "track_least", 0.05, 5), m.track = number(j, "track", m.track_least, 10);
    m.gap = number(j, "gap", 0.05, 5);
    m.ring = number(j, "ring", 0.05, 3), m.land_ring = number(j, "land_ring", m.ring, 3);
    m.hole_least = number(j, "hole_least", 0.1, 3), m.hole_gap = number(j, "hole_gap", 0.1, 5);
    m.hole_edge = number(j, "hole_edge", 0, 10), m.copper_edge = number(j, "copper_edge", 0, 10);
    for (const double d : j.value("holes", std::vector<double>{})) {
        if (!(d >= m.hole_least && d <= 20)) throw std::invalid_argument(fmt::format("a hole of {} mm", d));
        m.holes.push_back(d);
    }
    std::sort(m.holes.begin(), m.holes.end());
    m.plated = j.value("plated", false), m.links = j.value("links", false);
    m.legend = j.value("legend", false), m.mask = j.value("mask", false);
    m.via = word(j, "via", {"plated", "wire", "none"});
    m.material = j.at("material");
    if (m.milled()) {
        m.isolate = j.at("isolate"), m.cut = j.at("cut"), m.drill = j.at("drill");
        m.clear = j.value("clear", std::string());
        m.passes = static_cast<int>(number_or(j, "passes", 1, 1, 20));
        m.overlap = number_or(j, "overlap", 0.4, 0, 0.9);
    }
    m.setup_minutes = number_or(j, "setup_minutes", 0, 0, 1e4);
    m.board_minutes = number_or(j, "board_minutes", 0, 0, 1e4);
    m.setup_cost = number_or(j, "setup_cost", 0, 0, 1e5), m.area_cost = number_or(j, "area_cost", 0, 0, 1e3);
    m.days = number_or(j, "days", 0, 0, 365);
    return m;
}

template <class T, class Read>
void read_list(const json& all, const char* list, std::string& place, std::vector<T>& into, Read read) {
    std::set<std::string> ids;
    for (const auto& j : all.value(list, json::array())) {
        place = fmt::format("making, {}, {}", list,
                            j.is_object() && j.contains("id") && j["id"].is_string()
                                ? j["id"].get<std::string>()
                                : fmt::format("entry {}", into.size() + 1));
        into.push_back(read(j));
        if (into.back().id.empty() || into.back().name.empty())
            throw std::invalid_argument("id or name is empty");
        if (!ids.insert(into.back().id).second) throw std::invalid_argument("it stands there twice");
    }
}

template <class T>
const T* find_in(const std::vector<T>& all, std::string_view id) {
    for (const T& t : all)
        if (t.id == id) return &t;
    return nullptr;
}

/// Its tools and material must be there, each of the kind that its work asks for.
void check_references(const Making& m, const MakingTable& read, const MakingTable& known) {
    if (!read.material(m.material) && !known.material(m.material))
        throw std::invalid_argument(fmt::format("there is no material \"{}\"", m.material));
    if (!m.milled()) return;
    const auto tool = [&](const std::string& id, const char* work, std::string_view kind) {
        const MillTool* t = read.tool(id) ? read.tool(id) : known.tool(id);
        if (!t || (!kind.empty() && t->kind != kind))
            throw std::invalid_argument(fmt::format("there is no such tool \"{}\" for {}", id, work));
        return t;
    };
    tool(m.drill, "drill", "drill"), tool(m.cut, "cut", "mill");
    if (!m.clear.empty()) tool(m.clear, "clear", "mill");
    const MillTool* isolate = tool(m.isolate, "isolate", {});
    if (isolate->kind == "drill") throw std::invalid_argument("a drill does not isolate");
}

template <class T>
void replace_or_add(std::vector<T>& all, std::vector<T> own) {
    for (T& t : own) {
        t.name += " (own)";
        const auto same = std::find_if(all.begin(), all.end(), [&](const T& old) { return old.id == t.id; });
        if (same == all.end())
            all.push_back(std::move(t));
        else
            *same = std::move(t);
    }
}

MakingTable& making_table() {
    static MakingTable all = read_makings(embedded::making).value();
    return all;
}

}  // namespace

double MillTool::width() const {
    return tip + 2 * depth * std::tan(angle / 2 * std::numbers::pi / 180) + runout;
}

double Making::hole(double least) const {
    const double wanted = std::max(least, hole_least);
    if (holes.empty()) return wanted;
    const auto at = std::lower_bound(holes.begin(), holes.end(), wanted - 1e-9);
    return at == holes.end() ? holes.back() : *at;
}

const MillTool* MakingTable::tool(std::string_view id) const { return find_in(tools, id); }
const BoardMaterialKind* MakingTable::material(std::string_view id) const { return find_in(materials, id); }
const Making* MakingTable::method(std::string_view id) const { return find_in(methods, id); }

const MakingTable& makings() { return making_table(); }

Result<MakingTable> read_makings(std::string_view text, const MakingTable& known) {
    MakingTable table;
    std::string place = "making";
    try {
        const json all = json::parse(text);
        if (!all.is_object()) throw std::invalid_argument("it is no object");
        read_list(all, "tools", place, table.tools, read_tool);
        read_list(all, "materials", place, table.materials, read_material);
        read_list(all, "methods", place, table.methods, [&](const json& j) {
            Making m = read_method(j);
            check_references(m, table, known);
            return m;
        });
        return table;
    } catch (const std::exception& e) {
        return Error{Fault::file, place, e.what(), "an entry as in data/catalogue/making.json"};
    }
}

void add_own_makings(MakingTable own) {
    for (Making& m : own.methods) m.own = true;
    MakingTable& all = making_table();
    replace_or_add(all.tools, std::move(own.tools));
    replace_or_add(all.materials, std::move(own.materials));
    replace_or_add(all.methods, std::move(own.methods));
}

}  // namespace elkit
