// What a board house asks, in numbers.
#include "fabricate/order_sheet.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

namespace elkit {

std::string order_sheet(const CopperLayout& l, const std::string& name, const FabricateOptions& options,
                        const PanelPlan& panel, const std::vector<std::string>& faults) {
    const BoardMaterialKind& material = *makings().material(l.making.material);
    double track = 1e9, hole = 1e9;
    for (const Track& t : l.tracks) track = std::min(track, t.width);
    std::map<double, int> holes;
    for (const DrilledHole& h : drilled_holes(l)) hole = std::min(hole, h.diameter), ++holes[h.diameter];
    const double in_panel = static_cast<double>(panel.boards.size());
    std::string text = "Order sheet: " + name + "\n\n";
    if (!faults.empty()) {
        text += "THIS BOARD DIFFERS FROM THE CIRCUIT. Do not order it before this is mended:\n";
        for (const std::string& f : faults) text += "- " + f + "\n";
        text += "\n";
    }
    const auto line = [&](const char* what, const std::string& value) {
        text += fmt::format("{:<28}{}\n", what, value);
    };
    line("Board", fmt::format("{:.1f} x {:.1f} mm", l.width(), l.height()));
    if (!options.panel.single()) {
        line("Panel", fmt::format("{} x {} boards, {:.1f} x {:.1f} mm, parted by {}", options.panel.across,
                                  options.panel.down, panel.width, panel.height,
                                  options.panel.parting == "tabs" ? "tabs with bites" : "V score"));
        line("Panels to order", fmt::format("{:.0f}", std::ceil(options.boards / in_panel)));
    }
    line("Boards wanted", fmt::format("{:.0f}", options.boards));
    line("Layers of copper", std::to_string(l.layers));
    line("Material", material.name);
    line("Thickness", fmt::format("{:.1f} mm", material.thickness));
    line("Copper", fmt::format("{:.0f} um on the outside", material.copper));
    line("Narrowest track", l.tracks.empty() ? std::string("none") : fmt::format("{:.2f} mm", track));
    line("Narrowest gap", fmt::format("{:.2f} mm", l.making.gap));
    line("Smallest hole", fmt::format("{:.2f} mm, finished", hole));
    line("Ring of copper", fmt::format("{:.2f} mm at least", l.making.ring));
    std::string list;
    for (const auto& [d, n] : holes) list += fmt::format("{}{} x {:.2f} mm", list.empty() ? "" : ", ", n, d);
    line("Holes of a board", list);
    if (const auto flat = std::count_if(l.parts.begin(), l.parts.end(),
                                        [](const CopperPart& p) { return p.footprint.surface; });
        flat > 0)
        line("Parts on the surface",
             fmt::format("{}, on the component side; stencil and places are among the files", flat));
    line("Plated", l.making.plated ? "all but those for screws" : "none");
    line("Mask", l.making.mask ? "both sides" : "none");
    line("Legend", l.making.legend ? "component side" : "none");
    line("Finish", "tin, free of lead, or what is cheapest");
    line("Usual limits of houses",
         "track and gap 0.15 mm, hole 0.3 mm, ring 0.13 mm, copper to edge 0.3 mm, groove to copper 0.4 mm");
    line("About",
         fmt::format("{:.0f} days until in hand, {:.2f} for the order, {:.2f} a board, as your methods say",
                     l.making.days, l.making.setup_cost, l.making.area_cost * l.width() * l.height() / 100));
    return text;
}

}  // namespace elkit
