#pragma once
#include <vector>

#include "build/trial.hpp"
#include "drawing/drawing.hpp"
#include "formats/csv.hpp"

namespace elkit {

/// The trial as A4 pages [mm]: the plan, the wires, the steps with what to expect, what will be different.
std::vector<Drawing> trial_sheet(const Trial& trial, const std::string& name);

/// Wires of any board, numbered: what, from, to, net, length to cut, colour.
CsvTable board_wires_csv(const Board& board);

}  // namespace elkit
