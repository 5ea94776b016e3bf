#pragma once
#include <nlohmann/json_fwd.hpp>
#include <string_view>

#include "circuit/extra.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Deepest nesting of lists and objects that is read.
inline constexpr int deepest_json = 32;

/// Parses JSON text (RFC 8259) in time that grows with its length only. The keys keep their order. Design
/// error with line and column for text that is no JSON, nests deeper than `deepest_json` or holds a number
/// that no double holds; with the JSON pointer for a key that stands twice in an object. `what` says in words
/// what the text should be.
Result<nlohmann::ordered_json> parse_json(std::string_view text, std::string_view what);

/// Appends a key that is not there yet. The library's own way looks through all keys for each.
void append_key(nlohmann::ordered_json& object, std::string_view key, nlohmann::ordered_json value);
/// The keys that this version did not know, at the end.
void append_extra(nlohmann::ordered_json& object, const Extra& extra);
/// A number of the file: whole ones are written without ".0".
nlohmann::ordered_json json_number(double value);

}  // namespace elkit
