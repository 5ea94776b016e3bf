#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Parts as a table for a spreadsheet: part, kind, nets ("V+ OUT" in the order of the pins, "-" for one left
/// open), and a column for each parameter that any of them sets.
std::string parts_as_csv(const std::vector<Part>& parts);

/// What to do with a designator that the design has already.
enum class Merge { replace, rename };

/// The design with the parts of a table put in; commas, semicolons or tabs. The first row names the columns:
/// part and kind, nets (or from and to, or pin names), value, and any parameter. Without such a row the
/// columns are part, kind, value, nets. Usage error that names row and column and what was expected.
Result<Design> with_parts_from_table(const Design& design, std::string_view text, Merge merge);

}  // namespace elkit
