// A board of copper as a board: layout → outline, read-back, pictures, work, material.
#include "board/copper/copper_method.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "board/copper/check.hpp"
#include "board/copper/copper_length.hpp"
#include "board/copper/works.hpp"
#include "board/layout_key.hpp"

namespace elkit {
namespace {

/// Lands that solder could join.
std::vector<Neighbours> near_lands(const CopperLayout& l) {
    constexpr double near = 1.0;  // mm that solder bridges
    std::map<std::pair<std::string, std::string>, std::vector<std::string>> pairs;
    for (std::size_t i = 0; i < l.pads.size(); ++i)
        for (std::size_t k = 0; k < i; ++k) {
            const CopperPad &a = l.pads[k], &b = l.pads[i];
            if (a.net.empty() || b.net.empty() || a.net == b.net) continue;
            if (distance(a.at, b.at) - a.land / 2 - b.land / 2 > near) continue;
            auto& places = pairs[std::minmax(a.net, b.net)];
            if (places.size() < 6) places.push_back(square_name(a.at) + "|" + square_name(b.at));
        }
    std::vector<Neighbours> all;
    for (auto& [nets, places] : pairs) all.push_back({nets.first, nets.second, std::move(places)});
    return all;
}

std::vector<NetCopper> narrowest_tracks(const CopperLayout& l) {
    std::map<std::string, NetCopper> nets;
    for (const Track& t : l.tracks) {
        NetCopper& n = nets[t.net];
        if (!n.net.empty() && n.narrowest <= t.width) continue;
        n = {t.net, t.width, makings().material(l.making.material)->copper, square_name(t.a)};
    }
    std::vector<NetCopper> all;
    for (auto& [net, copper] : nets) all.push_back(std::move(copper));
    return all;
}

std::string summary_of(const CopperLayout& l) {
    std::string words =
        fmt::format("{:.0f} mm of track, {} holes", l.track_length(), drilled_holes(l).size());
    if (!l.links.empty())
        words += fmt::format(", {} {}", l.links.size(), l.links.size() == 1 ? "link" : "links");
    if (!l.vias.empty()) words += fmt::format(", {} {}", l.vias.size(), l.vias.size() == 1 ? "via" : "vias");
    for (const std::string& text : l.unplaced) words += fmt::format(", no room for \"{}\"", text);
    return words + fmt::format(", {}", l.layers == 1 ? "one layer" : "two layers");
}

double link_length(const WireLink& w) {
    constexpr double ends = 8;  // mm bent down and soldered, both together
    return 5 * std::ceil((distance(w.a, w.b) + ends) / 5);
}

/// A layout of copper, kept while only values change that it does not depend on.
struct CopperLayoutQuery {
    const std::string& method;
    Keyed<Circuit> circuit;
    const BoardChoices& choices;

    struct Value {
        Keyed<Circuit> circuit;  // whose parts the layout has
        CopperLayout layout;

        /// The same with the parts of a circuit that is like it but for values.
        CopperLayout with_parts_of(const Circuit& other) const {
            CopperLayout l = layout;
            for (CopperPart& p : l.parts) p.part = other.find(p.part->designator);
            return l;
        }
    };
    static constexpr std::string_view name = "copper";
    static constexpr std::size_t weight = 30;
    Digest key() const { return layout_key(method, *circuit, choices); }
    Result<Value> compute(const Ask& ask) const {
        auto laid = lay_out_copper(*circuit, choices, *makings().method(method), ask.progress());
        if (!laid) return laid.error();
        return Value{circuit, std::move(laid).value()};
    }
};

}  // namespace

namespace {

/// Where everything lies, and how that looks.
Board lying_board(const CopperLayout& l) {
    Board b;
    b.method = l.making.id;
    b.width = l.width(), b.height = l.height(), b.layers = l.layers;
    b.size = fmt::format("{:.1f} × {:.1f} mm", b.width, b.height);
    for (const CopperPad& p : l.pads) b.pins.push_back({p.designator, p.pin, p.net, square_name(p.at)});
    for (const CopperPart& p : l.parts)
        b.parts.push_back({p.part->designator, p.place, p.footprint, p.at.x, p.at.y, p.turn});
    b.ways = l.ways;
    b.sides = copper_sides(l);
    b.summary = summary_of(l);
    return b;
}

}  // namespace

Board board_of(const CopperLayout& l, const Circuit& circuit) {
    Board b = lying_board(l);
    const auto groups = copper_groups(l);
    for (const auto& group : groups) {
        std::vector<std::string> pins;
        for (const std::string& pin : group)
            if (!pin.starts_with("free leg")) pins.push_back(pin);
        if (!pins.empty()) b.groups.push_back(std::move(pins));
    }
    b.differences = fabrication_faults(l, circuit, groups);
    const double area = b.width * b.height / 100;  // cm²
    constexpr double minutes_a_joint = 0.8;
    b.effort = {
        l.making.setup_minutes,
        l.making.board_minutes + minutes_a_joint * static_cast<double>(l.pads.size() + 2 * l.links.size()),
        l.making.setup_cost, l.making.area_cost * area, l.making.days};
    b.copper = narrowest_tracks(l), b.supplies = supply_paths(l);
    b.neighbours = near_lands(l);
    for (const WireLink& w : l.links)
        b.wires.push_back({"link", square_name(w.a), square_name(w.b), w.net, "", link_length(w)});
    add_copper_works(b, l);
    return b;
}

BoardMethod copper_method(const std::string& id) {
    const Making& making = *makings().method(id);
    return {
        making.id,
        making.name,
        making.about,
        {"board_width", "board_height", "layers", "track", "corner_holes", "panel_across", "panel_down"},
        [id](const Keyed<Circuit>& circuit, const BoardChoices& choices, const Ask& ask) -> Result<Board> {
            const auto laid = ask(CopperLayoutQuery{id, circuit, choices});
            if (!laid) return laid.error();
            return board_of(laid->with_parts_of(*circuit), *circuit);
        },
        making.milled() ? "mill, engraving bit, drills, iron" : "iron",
        making.milled() ? "a warped blank cuts too shallow; dust; burrs that join tracks"
                        : "a fault comes home in every board, and costs the wait again",
        true,
        true,
        true,
        [id](const Circuit& circuit, const BoardChoices& choices) -> Result<Board> {
            const auto laid = glance_copper(circuit, choices, *makings().method(id));
            if (!laid) return laid.error();
            return lying_board(laid.value());
        }};
}

}  // namespace elkit
