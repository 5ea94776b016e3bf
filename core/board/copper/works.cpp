#include "board/copper/works.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "board/holes/works.hpp"

namespace elkit {
namespace {

constexpr const char* spindle_caution =
    "Rotating tools cut and throw splinters: eye protection, hair and sleeves tied back, hands away until "
    "the spindle "
    "stands still, never reach in. The dust of glass fibre harms lungs: mask and suction, wipe wet, do not "
    "blow. Follow "
    "the rules of your workshop and the mill's own instructions.";

std::string drill_list(const CopperLayout& l) {
    std::map<double, int> count;
    for (const DrilledHole& h : drilled_holes(l)) ++count[h.diameter];
    std::string words;
    for (const auto& [diameter, n] : count)
        words += fmt::format("{}{} of {:.1f} mm", words.empty() ? "" : ", ", n, diameter);
    return words;
}

void add(Board& b, BoardWork::When when, std::string id, std::string title, std::string text,
         std::string caution = {}, std::string ref = {}) {
    b.works.push_back(
        {when, std::move(id), std::move(title), std::move(text), std::move(caution), std::move(ref)});
}

void mill_works(Board& b, const CopperLayout& l) {
    using enum BoardWork::When;
    const MakingTable& table = makings();
    const MillTool &isolate = *table.tool(l.making.isolate), &cut = *table.tool(l.making.cut);
    add(b, first, "mill.clamp", "Clamp the blank",
        fmt::format("At least {:.0f} × {:.0f} mm of {}, copper up, flat on a board that may be cut into. "
                    "Level the copper: "
                    "0.05 mm off is a cut half as wide.",
                    b.width + 10, b.height + 10, table.material(l.making.material)->name),
        spindle_caution);
    add(b, first, "mill.test-cut", "Make the test cut",
        fmt::format("Run the file of the test cut with {}, measure its grooves with a magnifier: {:.2f} mm "
                    "is meant. Change "
                    "depth or width of the tool in Elkit if they differ by more than 0.05 mm.",
                    isolate.name, isolate.width()),
        spindle_caution);
    add(b, first, "mill.isolate", "Mill between the tracks",
        fmt::format(
            "{}, {:.2f} mm deep, {} beside each other. The file is mirrored: the copper looks at you.",
            isolate.name, isolate.depth,
            l.making.passes == 1 ? "one pass" : fmt::format("{} passes", l.making.passes)),
        spindle_caution);
    add(b, first, "mill.drill", "Drill",
        fmt::format("{}. Change the drill at each pause of the file.", drill_list(l)), spindle_caution);
    add(b, first, "mill.cut", "Cut the outline",
        fmt::format("{}; the board hangs on its tabs at the end. Break them, file the edge.", cut.name),
        spindle_caution);
    add(b, first, "mill.mirror", "Look whether it is mirrored",
        "Hold the board with its copper away from you beside the picture of the component side: holes of the "
        "chips and "
        "corners must agree. A mirrored board is found now, not with the parts in it.");
    add(b, first, "mill.clean", "Clean and look for burrs",
        "Rub the copper with a scouring pad, look along every groove against the light with a magnifier: "
        "hairs of copper "
        "join tracks. Scratch them out.",
        "Burrs of copper cut fingers.");
    std::string pairs;
    for (std::size_t k = 0; k < b.neighbours.size() && k < 8; ++k)
        pairs += fmt::format("{}{}/{} ({})", k ? ", " : "", b.neighbours[k].a, b.neighbours[k].b,
                             b.neighbours[k].places.front());
    add(b, first, "mill.beep", "Beep between neighbours",
        pairs.empty()
            ? std::string("No lands of different nets lie within 1 mm of each other: beep only between + and "
                          "−: silent.")
            : fmt::format("Before any part is in, with no cell near it: silent between {}.", pairs));
}

void order_works(Board& b, const CopperLayout& l) {
    using enum BoardWork::When;
    const bool flat =
        std::any_of(l.parts.begin(), l.parts.end(), [](const CopperPart& p) { return p.footprint.surface; });
    add(b, first, "order.send", "Order the boards",
        fmt::format("Send the ZIP and the numbers of the order sheet: {}, {}. About {:.0f} days until they "
                    "are in hand.",
                    b.size, l.layers == 1 ? "one layer" : "two layers", l.making.days));
    add(b, first, "order.look", "Look at the boards that came",
        "Size, holes, legend, the right way round; no scratch across tracks. Beep one board: silent between "
        "+ and −.");
    if (flat)
        add(b, first, "surface.ready", "Make ready for the parts on the surface",
            "They come before all others, while the board lies flat: fine tip, thin solder, flux, tweezers, "
            "a "
            "magnifier, the board held down. Small parts are hardly marked: open one strip at a time.",
            "Flux spits and its fumes irritate: glasses, air the room.");
}

}  // namespace

void add_copper_works(Board& b, const CopperLayout& l) {
    if (l.making.milled())
        mill_works(b, l);
    else
        order_works(b, l);
    int count = 0;
    for (const WireLink& w : l.links) {
        const std::string from = square_name(w.a), to = square_name(w.b);
        ++count;
        add(b, BoardWork::When::link, fmt::format("link.{}.{}.{}", from, to, count),
            fmt::format("Link {}", count),
            fmt::format("Bare wire from {} to {}, straight and flat on the component side.", from, to), "",
            "link");
    }
    if (!l.making.plated)
        for (const Via& v : l.vias)
            add(b, BoardWork::When::link, fmt::format("via.{}.{}", square_name(v.at), ++count),
                "Wire through the board",
                fmt::format("At {}: a bit of bare wire, soldered on both sides, cut off flush.",
                            square_name(v.at)),
                "Cut ends fly: hold them while you cut.");
    if (l.making.milled()) {
        b.materials.push_back(sheet_share(b, "board/clad", "copper-clad board 100 × 160 mm"));
        if (!l.links.empty()) b.materials.push_back({"wire/tinned", "tinned wire 0.5 mm, 1 m", "", 0.1});
    } else {
        b.materials.push_back({"board/" + l.making.id, l.making.name, b.size, 1});
    }
}

}  // namespace elkit
