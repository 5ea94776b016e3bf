#include "recipes/winding.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double tail = 0.05;                        // m of wire at each end
constexpr double enamelled = 1.12;                   // times the copper (IEC 60317, grade 1)
constexpr double copper_resistivity = 1.75e-8;       // Ω m
constexpr int most_drawn = 30;                       // turns; more would run into each other
constexpr double words_x = 218, words_size = 12;     // units
constexpr double outer = 74, inner = 40, gap = 0.5;  // units; rad to each side of where the ends are
constexpr double middle_x = 88, middle_y = 112;

using Point = std::pair<double, double>;

/// Where the four ends leave the core: of the first wire, of the second, where the first and the second
/// begin.
using Ends = std::array<Point, 4>;

struct Brush {
    Drawing& d;
    void strand(Point from, Point to, bool first, double width) {
        d.add(Line{from.first, from.second, to.first, to.second},
              {first ? Ink::light : Ink::structure, width}, first ? "wire:1" : "wire:2");
    }
};

Point around(double angle, double radius) {
    return {middle_x + radius * std::cos(angle), middle_y + radius * std::sin(angle)};
}

/// From below the gap clockwise to above it, each wire's turns in turn.
Ends draw_ring(Drawing& d, int turns) {
    d.add(Circle{middle_x, middle_y, outer}, {Ink::muted, 1.2, Ink::faint}, "core");
    d.add(Circle{middle_x, middle_y, inner}, {Ink::muted, 1.2, Ink::card}, "core");
    const int strands = 2 * turns;
    const double step = (2 * std::numbers::pi - 2 * gap) / std::max(1, strands - 1);
    const double thick = std::clamp(0.55 * step * inner, 1.0, 4.0);
    for (int k = 0; k < strands; ++k) {
        const double angle = gap + step * k;
        Brush{d}.strand(around(angle, inner - 3), around(angle, outer + 3), k % 2 == 0, thick);
    }
    const double last = gap + step * (strands - 1);
    return {around(last - step, outer + 3), around(last, outer + 3), around(gap, outer + 3),
            around(gap + step, outer + 3)};
}

/// Upright, from below to above.
Ends draw_bobbin(Drawing& d, int turns) {
    constexpr double half = 40, flange = 62, top = 45, low = 179, plate = 9;
    d.add(Rect{middle_x - half, top, 2 * half, low - top}, {Ink::muted, 1.2, Ink::faint}, "core");
    for (const double y : {top - plate, low})
        d.add(Rect{middle_x - flange, y, 2 * flange, plate, 2}, {Ink::muted, 1.2, Ink::faint}, "core");
    const int strands = 2 * turns;
    const double step = (low - top) / (strands + 1);
    const double thick = std::clamp(0.55 * step, 1.0, 4.0);
    const auto at = [&](int k) { return low - step * (k + 1); };
    for (int k = 0; k < strands; ++k)
        Brush{d}.strand({middle_x - half - 3, at(k)}, {middle_x + half + 3, at(k)}, k % 2 == 1, thick);
    const double x = middle_x + half + 3;
    return {{{x, at(strands - 1)}, {x, at(strands - 2)}, {x, at(1)}, {x, at(0)}}};
}

}  // namespace

double Winding::length() const { return turns * core.value("turn_length") + 2 * tail; }

double Winding::turn_ohms() const {
    return copper_resistivity * core.value("turn_length") / (std::numbers::pi * wire * wire / 4);
}

double Winding::side_by_side() const { return 2 * turns * enamelled * wire; }

int Winding::layers() const { return static_cast<int>(std::ceil(side_by_side() / core.value("window"))); }

Result<Winding> winding_of(const Goals& goals) {
    const PartType* core = known_catalogue().type("core", goals.text("core"));
    if (!core) return Error{Fault::design, "core", "is unknown", "a core of the catalogue"};
    return Winding{*core, static_cast<int>(goals.number("turns")), goals.number("wire")};
}

Figure winding_plan(const Winding& w) {
    return {
        "recipe.wire",
        "wire of each winding",
        w.length(),
        Unit::metre,
        {},
        {},
        {fmt::format("{} turns of {} and {} at each end", w.turns, length_text(w.core.value("turn_length")),
                     length_text(tail)),
         "take two colours of that length and wind both at once, side by side and evenly spread",
         "join the start of the first colour with the end of the second: that goes to plus",
         "the end of the first goes to the collector, the start of the second to the base resistor",
         fmt::format("{} turns in all need {} of {}: {} layer{}", 2 * w.turns, length_text(w.side_by_side()),
                     length_text(w.core.value("window")), w.layers(), w.layers() > 1 ? "s" : ""),
         "scrape the enamel off the ends; if it does not start, swap the ends of one winding"}};
}

Drawing draw_winding(const Winding& w) {
    Drawing d;
    d.width = 430, d.height = 236, d.unit_mm = 0.27;
    d.title = "How to wind it";
    const int drawn = std::min(w.turns, most_drawn);
    const bool ring = w.core.value("ring_diameter") > 0;
    const Ends ends = ring ? draw_ring(d, drawn) : draw_bobbin(d, drawn);
    struct Label {
        const char *which, *where;
        bool first;
    };
    static constexpr std::array<Label, 4> labels{{{"first wire ends", "collector", true},
                                                  {"second wire ends", "", false},
                                                  {"first wire starts", "", true},
                                                  {"second wire starts", "base resistor", false}}};
    const double bend = words_x - 32;
    for (std::size_t k = 0; k < labels.size(); ++k) {
        const double y = middle_y + 32 * (static_cast<double>(k) - 1.5);
        Brush{d}.strand(ends[k], {bend, y}, labels[k].first, 2.2);
        Brush{d}.strand({bend, y}, {words_x - 8, y}, labels[k].first, 2.2);
        if (k >= 2) d.add(Circle{words_x - 20, y, 4}, {Ink::ink, 1, Ink::ink}, "dot");
        d.text(words_x, y + 4, labels[k].which, words_size);
        d.text(words_x + 122, y + 4, labels[k].where, words_size, Ink::ink, true);
    }
    const double joint = words_x + 112;
    d.add(Polygon{{{joint - 4, middle_y - 16},
                   {joint + 3, middle_y - 16},
                   {joint + 3, middle_y + 16},
                   {joint - 4, middle_y + 16}},
                  false},
          {Ink::ink, 1.4}, "joint");
    d.text(words_x + 122, middle_y + 4, "joined: plus", words_size, Ink::ink, true);
    if (ring) {
        d.text(middle_x, middle_y - 1, fmt::format("2 × {}", w.turns), 15, Ink::ink, true, Anchor::middle);
        d.text(middle_x, middle_y + 15, "turns", words_size, Ink::muted, false, Anchor::middle);
    }
    d.text(8, 14,
           fmt::format("2 × {} turns side by side: two wires of {}, {} thick", w.turns,
                       length_text(w.length()), length_text(w.wire)),
           words_size, Ink::ink, true);
    if (drawn < w.turns)
        d.text(8, d.height - 25, fmt::format("{} turns of each are drawn.", drawn), words_size, Ink::muted);
    d.text(8, d.height - 8, "Dots mark the starts. If it does not shine, swap the ends of one wire.",
           words_size, Ink::muted);
    return d;
}

}  // namespace elkit
