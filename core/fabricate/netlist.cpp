// Every pin with its net and place, for the house's tester (IPC-D-356A), and where a machine puts parts.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "circuit/part_kind.hpp"
#include "fabricate/gerber.hpp"
#include "formats/csv.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

/// As these formats turn: degrees from 0 to 360, the other way round than a picture whose y runs down.
double counter_clockwise(double turn) { return std::fmod(720 - turn, 360); }

}  // namespace

std::string plain_name(const std::string& text) {
    std::string out;
    for (const char c : one_line(text, 100))
        out += std::string_view("%*,\\").find(c) != std::string_view::npos ? '_' : c;
    return out;
}

bool has_surface_parts(const CopperLayout& l) {
    return std::any_of(l.parts.begin(), l.parts.end(),
                       [](const CopperPart& p) { return p.footprint.surface; });
}

FabricatedFile netlist_file(const CopperLayout& l, const std::string& name, const PanelPlan& panel) {
    std::string text =
        "C  Every pin and its net\nP  JOB   " + plain_name(name).substr(0, 60) + "\nP  UNITS CUST 1\n";
    // names longer than their field stand in full at the head, as the format has it
    std::map<std::string, std::string> short_of;
    const auto field = [&](const std::string& net, std::size_t board) {
        std::string whole = plain_name(net) + (board > 0 ? fmt::format("#{}", board + 1) : "");
        if (whole.size() <= 14) return whole;
        const auto [at, fresh] = short_of.emplace(whole, fmt::format("NNAME{}", short_of.size() + 1));
        if (fresh) text += fmt::format("P  {} {}\n", at->second, whole);
        return at->second;
    };
    std::string records;
    for (std::size_t board = 0; board < panel.boards.size(); ++board) {
        const Point origin = panel.boards[board];
        const auto record = [&](const std::string& net, const std::string& part, const std::string& pin,
                                Point at, double hole, double width, double height, double turn,
                                bool middle) {
            // a land on the surface has no hole, and is reached from the first side
            const std::string drilled =
                hole > 0 ? fmt::format("D{:04}{}A00", std::llround(hole * 1000), l.making.plated ? 'P' : 'U')
                         : std::string("      A01");
            records += fmt::format(
                "{}{:<14}   {:<6}-{:<4}{}{}X{:+07}Y{:+07}X{:04}Y{:04}R{:03}\n", hole > 0 ? "317" : "327",
                net.empty() ? "N/C" : field(net, board), plain_name(part).substr(0, 6),
                plain_name(pin).substr(0, 4), middle ? 'M' : ' ', drilled,
                std::llround((at.x + origin.x) * 1000), std::llround((panel.height - at.y - origin.y) * 1000),
                std::llround(width * 1000), std::llround(height * 1000), std::lround(turn));
        };
        for (const CopperPad& p : l.pads)
            record(p.net, p.designator, p.pin, p.at, p.hole, p.surface() ? p.width : p.land,
                   p.surface() ? p.height : p.land, counter_clockwise(p.turn), false);
        for (const Via& v : l.vias) record(v.net, "VIA", "", v.at, v.hole, v.land, v.land, 0, true);
        for (const WireLink& w : l.links)
            for (const Point end : {w.a, w.b})
                record(w.net, "LINK", "", end, w.hole, w.land, w.land, 0, false);
    }
    return {name + "-netlist.ipc", "netlist", text + records + "999\n"};
}

FabricatedFile placement_file(const CopperLayout& l, const std::string& name, const PanelPlan& panel) {
    CsvTable table{{"Designator", "Value", "Footprint", "X mm", "Y mm", "Rotation", "Side"}};
    for (const Point origin : panel.boards)
        for (const CopperPart& p : l.parts) {
            if (!p.footprint.surface) continue;
            const Box& b = p.footprint.body;
            const Point middle = p.at + turned({(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2}, p.turn) + origin;
            table.push_back({p.part->designator, value_text(*p.part), p.footprint.name,
                             fmt::format("{:.3f}", middle.x), fmt::format("{:.3f}", panel.height - middle.y),
                             fmt::format("{:.0f}", counter_clockwise(p.turn)), "top"});
        }
    return {name + "-placement.csv", "where the parts on the surface lie", write_csv(table)};
}

}  // namespace elkit
