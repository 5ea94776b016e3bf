#include "board/footprint.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <deque>
#include <nlohmann/json.hpp>
#include <set>

#include "catalogue/catalogue.hpp"
#include "embedded.hpp"

namespace elkit {
namespace {
using nlohmann::json;

constexpr double most_mm = 300;
constexpr std::size_t most_pads = 100;
constexpr std::array pictures{"axial", "box",        "can",      "can-lying", "clamp",     "dip",
                              "disc",  "dome",       "flat",     "flat-chip", "header",    "holder",
                              "leads", "half-round", "standing", "tab",       "tab-lying", "toroid"};

double millimetres(const json& j, const char* what) {
    const double value = j.get<double>();
    if (!(std::abs(value) <= most_mm)) throw std::invalid_argument(fmt::format("{} is {} mm", what, value));
    return value;
}

constexpr std::array<const char*, 4> ways_out{"left", "right", "up", "down"};

Pad read_pad(const json& j) {
    Pad pad{j.at("pin"), millimetres(j.at("at").at(0), "a pad"), millimetres(j.at("at").at(1), "a pad")};
    if (!j.contains("size")) return pad;
    pad.width = millimetres(j["size"].at(0), "a land"), pad.height = millimetres(j["size"].at(1), "a land");
    if (!(pad.width >= 0.2 && pad.height >= 0.2))
        throw std::invalid_argument(fmt::format("a land of {} × {} mm", pad.width, pad.height));
    return pad;
}

Footprint read_one(const json& j) {
    Footprint f;
    f.id = j.at("id"), f.name = j.at("name");
    if (f.id.empty() || f.name.empty()) throw std::invalid_argument("id or name is empty");
    for (const auto& pad : j.at("pads")) f.pads.push_back(read_pad(pad));
    f.surface = !f.pads.empty() && f.pads.front().width > 0;
    for (const Pad& pad : f.pads)
        if ((pad.width > 0) != f.surface)
            throw std::invalid_argument(
                "some of its pads have a size, some none: all lie on the surface, or none");
    f.usual = j.value("usual", std::vector<std::size_t>{});
    auto order = f.usual;
    std::sort(order.begin(), order.end());
    for (std::size_t k = 0; k < order.size(); ++k)
        if (order[k] != k + 1) throw std::invalid_argument("its usual order is not each number once, from 1");
    const json& body = j.at("body");
    f.body = {millimetres(body.at(0), "the body"), millimetres(body.at(1), "the body"),
              millimetres(body.at(2), "the body"), millimetres(body.at(3), "the body")};
    f.height = millimetres(j.at("height"), "the height"), f.picture = j.at("picture");
    f.drill = millimetres(j.value("drill", json(0.8)), "the drill");
    f.edge = j.value("edge", false), f.opens = j.value("opens", std::string());
    if (!f.opens.empty() && std::find(ways_out.begin(), ways_out.end(), f.opens) == ways_out.end())
        throw std::invalid_argument(
            fmt::format("it opens \"{}\", not {}", f.opens, fmt::join(ways_out, ", ")));
    f.socket = j.value("socket", false);
    f.power = j.value("power", 0.0);
    if (!(f.power >= 0 && f.power <= 100))
        throw std::invalid_argument(fmt::format("it carries {} W", f.power));
    f.row = millimetres(j.value("row", json(0.0)), "the row");
    f.kinds = j.value("kinds", std::vector<std::string>{});
    std::set<std::pair<double, double>> places;
    for (const Pad& pad : f.pads)
        if (!places.emplace(pad.x, pad.y).second) throw std::invalid_argument("two pads in one place");
    if (f.row < 0 || (f.pads.empty() && f.row == 0)) throw std::invalid_argument("it has no pads");
    if (f.pads.size() > most_pads) throw std::invalid_argument(fmt::format("over {} pads", most_pads));
    if (!(f.body.x0 < f.body.x1 && f.body.y0 < f.body.y1))
        throw std::invalid_argument("its body has no area: left, top, right, bottom");
    if (!(f.drill >= 0.3 && f.drill <= 10))
        throw std::invalid_argument(fmt::format("its legs need a hole of {} mm", f.drill));
    if (!(f.height > 0)) throw std::invalid_argument("its height is not above 0");
    if (std::find(pictures.begin(), pictures.end(), f.picture) == pictures.end())
        throw std::invalid_argument(
            fmt::format("there is no picture \"{}\", but {}", f.picture, fmt::join(pictures, ", ")));
    return f;
}

/// Addresses stay: others keep them.
std::deque<Footprint>& table() {
    static std::deque<Footprint> all = [] {
        auto read = read_footprints(embedded::footprints).value();
        return std::deque<Footprint>(read.begin(), read.end());
    }();
    return all;
}

/// A parameter of the part, or a value that only its type has.
double value_of(const Part& part, const std::string& key) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->param(key) ? part.number(key)
                                    : known_catalogue().type_value(part.kind, part.text("type"), key);
}

const Footprint* choose(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return nullptr;
    for (const FootprintChoice& choice : kind->footprints) {
        const double value = choice.param.empty() ? 0 : value_of(part, choice.param);
        if (choice.param.empty() || (value >= choice.from && value < choice.to))
            return find_footprint(choice.id);
    }
    return nullptr;
}

/// The kind's pins as they are at the pads 1, 2, … of this footprint.
std::vector<std::string> usual_order(const PartKind& kind, const Footprint& shape) {
    if (shape.usual.size() != kind.pins.size()) return kind.pins;
    std::vector<std::string> order;
    for (const std::size_t number : shape.usual) order.push_back(kind.pins[number - 1]);
    return order;
}

/// A pad for each pin in use, in a row.
Footprint in_a_row(const Part& part, Footprint f) {
    f.pads.clear();
    for (std::size_t k = 0; k < part.pins.size(); ++k)
        f.pads.push_back({part.pins[k].name, f.row * static_cast<double>(k), 0});
    f.body.x1 += f.row * static_cast<double>(std::max<std::size_t>(part.pins.size(), 1) - 1);
    return f;
}

}  // namespace

Result<std::vector<Footprint>> read_footprints(std::string_view text) {
    std::vector<Footprint> all;
    std::set<std::string> ids;
    std::string place = "footprints";
    try {
        for (const auto& j : json::parse(text)) {
            place = fmt::format("footprints, {}", j.is_object() && j.contains("id") && j["id"].is_string()
                                                      ? j["id"].get<std::string>()
                                                      : fmt::format("entry {}", all.size() + 1));
            all.push_back(read_one(j));
            if (!ids.insert(all.back().id).second) throw std::invalid_argument("it stands there twice");
        }
        return all;
    } catch (const std::exception& e) {
        return Error{Fault::file, place, e.what(), "an entry as in data/catalogue/footprints.json"};
    }
}

std::vector<const Footprint*> footprints() {
    std::vector<const Footprint*> all;
    for (const Footprint& f : table()) all.push_back(&f);
    return all;
}

const Footprint* find_footprint(std::string_view id) {
    for (const Footprint& f : table())
        if (f.id == id) return &f;
    return nullptr;
}

void add_own_footprints(std::vector<Footprint> own) {
    for (Footprint& f : own) {
        f.own = true, f.name += " (own)";
        table().push_back(std::move(f));
    }
}

std::vector<const Footprint*> footprint_choices(const PartKind& kind) {
    std::vector<const Footprint*> all;
    for (const FootprintChoice& choice : kind.footprints)
        if (const Footprint* f = find_footprint(choice.id); std::find(all.begin(), all.end(), f) == all.end())
            all.push_back(f);
    for (const Footprint& f : table())
        if (std::find(f.kinds.begin(), f.kinds.end(), kind.id) != f.kinds.end()) all.push_back(&f);
    return all;
}

std::string usual_legs(const PartKind& kind, const Footprint& shape) {
    std::string order;
    for (const std::string& pin : usual_order(kind, shape)) order += (order.empty() ? "" : " ") + pin;
    return order;
}

const Footprint* wired_footprint(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return nullptr;
    const Footprint* first = choose(part);
    if (first && !first->surface) return first;
    for (const Footprint* f : footprint_choices(*kind))
        if (!f->surface) return f;
    return nullptr;
}

Footprint footprint(const Part& part, const Footprint& shape, const std::vector<std::string>& legs) {
    if (shape.row > 0) return in_a_row(part, shape);
    Footprint f = shape;
    const PartKind* kind = part_kind(part.kind);
    const std::vector<std::string> order = !legs.empty() ? legs
                                           : kind        ? usual_order(*kind, shape)
                                                         : std::vector<std::string>{};
    for (Pad& pad : f.pads) {
        std::size_t number = 0;
        std::from_chars(pad.pin.data(), pad.pin.data() + pad.pin.size(), number);
        const std::string name = number >= 1 && number <= order.size() ? order[number - 1] : std::string();
        pad.pin = part.net(name).empty() ? std::string() : name;  // a pin left open is a leg without a net
    }
    return f;
}

Footprint footprint(const Part& part) {
    const Footprint* chosen = choose(part);
    return footprint(part, chosen ? *chosen : *find_footprint("wires-5"));
}

}  // namespace elkit
