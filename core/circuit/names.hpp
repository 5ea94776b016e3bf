#pragma once
#include <string>
#include <string_view>

namespace elkit {

// The characters and lengths of names and texts in a design; data/schema states the same.
inline constexpr std::size_t longest_name = 32;     ///< of a part or net
inline constexpr std::size_t longest_title = 100;   ///< of a design
inline constexpr std::size_t longest_word = 200;    ///< ids of findings and steps, goals
inline constexpr std::size_t longest_prose = 4000;  ///< purpose, notes, reasons: with line ends

/// What is wrong with the name of a part or net: it is 1 to `longest_name` plain characters, without spaces
/// and without what separates names elsewhere. Empty if nothing is.
std::string trouble_of_name(std::string_view name);
/// "1 to 32 characters without spaces …".
std::string expected_name();
/// The name with "_" for what it must not have, and cut; `otherwise` if nothing is left.
std::string cleaned_name(std::string_view name, std::string_view otherwise);

}  // namespace elkit
