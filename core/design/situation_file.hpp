#pragma once
#include <nlohmann/json.hpp>

#include "design/design.hpp"
#include "design/json_reader.hpp"

/// Situations and the day plan in a design file.
namespace elkit {

inline constexpr std::size_t longest_situation = 60;  ///< characters of a situation's name

void read_situation(JsonReader& r, Design& design);
void read_use(JsonReader& r, Design& design);
nlohmann::ordered_json write_situation(const Situation& situation);
nlohmann::ordered_json write_use(const DayUse& use);

}  // namespace elkit
