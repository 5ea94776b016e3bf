#pragma once
#include <map>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "board/copper/geometry.hpp"
#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A drilled hole of a file.
struct ReadHole {
    Point at;
    double diameter = 0;
    bool plated = false;
};

/// A pin of a netlist, or a via or link of one.
struct ReadPin {
    std::string net, part, pin;  ///< net empty: none; part "VIA" or "LINK" for what is no pin
    Point at;
    double hole = 0;
    bool plated = false;
    bool surface = false;  ///< no hole: a land on the component side
};

/// A part of a placement list: the middle of its body.
struct ReadPlacement {
    std::string part;
    Point at;
    double turn = 0;  ///< degrees, counter-clockwise
};

/// What files for machines say, in mm, y upwards.
struct ReadBoard {
    std::map<int, Region> copper;  ///< by layer: 0 the solder side, 1 the component side
    std::vector<ReadHole> holes;
    std::vector<ReadPin> pins;
    std::vector<ReadPlacement> placed;
    double width = 0, height = 0;  ///< where a file says it
    bool milled = false;
    std::vector<std::string> files;  ///< that were read
};

/// Copper of one Gerber layer, and which file function it states. Linear, round, square and obround
/// apertures, regions, dark and clear: file error with its line for anything else.
struct ReadGerber {
    std::string function;
    Region copper;
};
Result<ReadGerber> read_gerber(std::string_view text, const std::string& file);
Result<std::vector<ReadHole>> read_xnc(std::string_view text, const std::string& file);
Result<std::vector<ReadPin>> read_netlist(std::string_view text, const std::string& file);

Result<std::vector<ReadPlacement>> read_placement(std::string_view text, const std::string& file);

/// Ways of a tool below the surface, and where it only went down.
struct ReadMilling {
    Region swept;
    std::vector<Point> plunges;   ///< that moved nowhere: holes
    double width = 0, drill = 0;  ///< as its remarks say; 0: they do not
    bool mirrored = false;
    double board_width = 0, board_height = 0;
    std::vector<std::pair<double, Point>> holes;  ///< plunges by drill
};
Result<ReadMilling> read_gcode(std::string_view text, const std::string& file);

/// All files of a folder's fabrication, by name and content; those that are none of it are left out. File
/// errors.
Result<ReadBoard> read_fabricated(const std::vector<std::pair<std::string, std::string>>& files);

/// How what was read differs from the circuit, a sentence each with its place; empty: it is the same.
std::vector<std::string> read_differences(const ReadBoard& board, const Circuit& circuit);

}  // namespace elkit
