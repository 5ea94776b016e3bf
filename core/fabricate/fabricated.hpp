#pragma once
#include <filesystem>
#include <string>
#include <vector>

#include "board/copper/layout.hpp"
#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A file for a machine or a board house.
struct FabricatedFile {
    std::string name;   ///< without a folder
    std::string about;  ///< "solder side, isolation"
    std::string content;
};

/// Several boards in one piece.
struct BoardPanel {
    int across = 1, down = 1;
    /// Between boards: "score" (a groove, boards touch) or "tabs" (a slot with bridges that break).
    std::string parting = "score";
    bool single() const { return across == 1 && down == 1; }
};

/// As the design has it.
BoardPanel panel_of(const BoardChoices& choices);

struct FabricateOptions {
    BoardPanel panel;  ///< of ordered boards
    bool pause_for_tools =
        false;           ///< one file of drilling that stops for each drill, instead of a file for each
    bool clear = false;  ///< mill away the copper that joins nothing
    double boards = 1;   ///< to order
};

/// All files that a layout leaves by its method, named after the design. What differs from the circuit stands
/// at the head of each.
std::vector<FabricatedFile> fabricated(const CopperLayout& layout, const Circuit& circuit,
                                       const std::string& name, const FabricateOptions& options);

/// Places of the boards of a panel: each one's upper left corner, in mm from the panel's; and the panel's
/// size.
struct PanelPlan {
    std::vector<Point> boards;
    double width = 0, height = 0;
    std::vector<std::pair<Point, Point>> scores;  ///< lines to groove
    std::vector<std::pair<Point, Point>> tabs;    ///< bridges, from board to board or frame
    std::vector<Point> bites;                     ///< small holes along the bridges
};
PanelPlan panel_plan(double width, double height, const BoardPanel& panel);

}  // namespace elkit
