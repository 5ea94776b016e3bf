#include "board/footprint.hpp"

#include <algorithm>
#include <charconv>
#include <nlohmann/json.hpp>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "embedded.hpp"

namespace elkit {
namespace {
using nlohmann::json;

constexpr double wire_pitch = 5.08;  // mm between the pads of wires

Footprint read_one(const json& j) {
    Footprint f;
    f.id = j.at("id"), f.name = j.at("name");
    for (const auto& pad : j.at("pads"))
        f.pads.push_back({pad.at("pin"), pad.at("at").at(0), pad.at("at").at(1)});
    const auto body = j.at("body").get<std::vector<double>>();
    f.body = {body.at(0), body.at(1), body.at(2), body.at(3)};
    f.height = j.at("height"), f.picture = j.at("picture");
    f.edge = j.value("edge", false), f.row = j.value("row", 0.0);
    return f;
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

/// A pad for each pin in use, in a row.
Footprint in_a_row(const Part& part, Footprint f, double pitch) {
    f.pads.clear();
    for (std::size_t k = 0; k < part.pins.size(); ++k)
        f.pads.push_back({part.pins[k].name, pitch * static_cast<double>(k), 0});
    f.body.x1 += pitch * static_cast<double>(std::max<std::size_t>(part.pins.size(), 1) - 1);
    return f;
}

}  // namespace

Result<std::vector<Footprint>> read_footprints(std::string_view text) {
    try {
        std::vector<Footprint> all;
        for (const auto& j : json::parse(text)) all.push_back(read_one(j));
        return all;
    } catch (const json::exception& e) {
        return Error{Fault::file, "footprints", e.what(), "a table as in data/catalogue/footprints.json"};
    }
}

const std::vector<Footprint>& footprints() {
    static const std::vector<Footprint> all = read_footprints(embedded::footprints).value();
    return all;
}

const Footprint* find_footprint(std::string_view id) {
    for (const Footprint& f : footprints())
        if (f.id == id) return &f;
    return nullptr;
}

Footprint footprint(const Part& part) {
    const Footprint* chosen = choose(part);
    if (!chosen)
        return in_a_row(
            part, {"wires", "wires, a pad for each pin", {}, {-1.3, -1.3, 1.3, 1.3}, 4, "leads", true, 0},
            wire_pitch);
    if (chosen->row > 0) return in_a_row(part, *chosen, chosen->row);
    Footprint f = *chosen;
    const PartKind& kind = *part_kind(part.kind);
    for (Pad& pad : f.pads) {
        std::size_t number = 0;
        std::from_chars(pad.pin.data(), pad.pin.data() + pad.pin.size(), number);
        const std::string name =
            number >= 1 && number <= kind.pins.size() ? kind.pins[number - 1] : std::string();
        pad.pin = part.net(name).empty() ? std::string() : name;  // a pin left open is a leg without a net
    }
    return f;
}

}  // namespace elkit
