#pragma once
#include <set>
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "fabricate/fabricated.hpp"

namespace elkit::test {

using PinGroups = std::multiset<std::set<std::string>>;  ///< "R1.a", the pin's name cut to four characters

/// What the circuit joins, in the same words.
PinGroups circuit_groups(const Circuit& circuit);

/// What Gerber, drill file and netlist join: every shape a polygon of Boost.Geometry, joined where they meet.
PinGroups gerber_groups(const std::vector<FabricatedFile>& files);

/// What is left of a sheet of copper once a disc of the tool's width went along the G-code: on a raster,
/// filled from each pin.
PinGroups milled_groups(const std::vector<FabricatedFile>& files, double width, double board_width,
                        double board_height);

const FabricatedFile* file_ending(const std::vector<FabricatedFile>& files, const std::string& end);

}  // namespace elkit::test
