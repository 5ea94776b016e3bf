#include "fabricate/fabricated.hpp"

#include <fmt/format.h>

#include <cctype>

#include "board/copper/check.hpp"
#include "fabricate/gerber.hpp"
#include "fabricate/milling.hpp"
#include "fabricate/order_sheet.hpp"
#include "formats/svg.hpp"

namespace elkit {
namespace {

/// A name that every machine can read.
std::string file_name(const std::string& name) {
    std::string out;
    for (const char c : name) {
        const auto byte = static_cast<unsigned char>(c);
        if (std::isalnum(byte) && byte < 128)
            out += static_cast<char>(std::tolower(byte));
        else if (!out.empty() && out.back() != '-')
            out += '-';
    }
    while (!out.empty() && out.back() == '-') out.pop_back();
    return out.empty() ? "board" : out.substr(0, 60);
}

/// At the head of a file for a machine.
std::string gcode_remarks(const std::vector<std::string>& faults) {
    std::string text;
    for (std::string f : faults) {
        for (char& c : f)
            if (c == '(' || c == ')' || static_cast<unsigned char>(c) > 126) c = ' ';
        text += "(" + f.substr(0, 180) + ")\n";
    }
    return text;
}

}  // namespace

std::vector<FabricatedFile> fabricated(const CopperLayout& l, const Circuit& circuit,
                                       const std::string& design_name, const FabricateOptions& options) {
    const std::string name = file_name(design_name);
    std::vector<std::string> faults = fabrication_faults(l, circuit), remarks;
    if (!faults.empty()) {
        remarks.push_back("THIS BOARD DIFFERS FROM THE CIRCUIT:");
        remarks.insert(remarks.end(), faults.begin(), faults.end());
    }
    std::vector<FabricatedFile> files;
    const auto take = [&](std::vector<FabricatedFile> more) {
        for (FabricatedFile& f : more) files.push_back(std::move(f));
    };
    if (l.making.milled()) {
        take(gcode_files(l, name, options));
        for (FabricatedFile& f : files) f.content = gcode_remarks(remarks) + f.content;
        files.push_back(netlist_file(l, name, panel_plan(l.width(), l.height(), {})));
    } else {
        const PanelPlan panel = panel_plan(l.width(), l.height(), options.panel);
        take(gerber_files(l, name, panel, remarks));
        take(drill_files(l, name, panel));
        files.push_back(netlist_file(l, name, panel));
        if (has_surface_parts(l)) files.push_back(placement_file(l, name, panel));
        files.push_back(
            {name + "-order-sheet.txt", "order sheet", order_sheet(l, design_name, options, panel, faults)});
    }
    Board board;
    board.sides = copper_sides(l), board.differences = faults;
    for (std::size_t k = 0; k < board.sides.size(); ++k)
        files.push_back({fmt::format("{}-side-{}.svg", name, k + 1), board.sides[k].title + ", true size",
                         write_svg(side_on_paper(board, k))});
    return files;
}

}  // namespace elkit
