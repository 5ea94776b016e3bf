#pragma once
#include <nlohmann/json.hpp>

#include "design/design.hpp"
#include "design/json_reader.hpp"

namespace elkit {

/// The choices of a board as they stand in a file; what is wrong goes to the reader's errors.
void read_board(JsonReader& b, BoardChoices& board);
/// Likewise out; what is as usual is left out.
nlohmann::ordered_json write_board(const BoardChoices& board);

}  // namespace elkit
