#pragma once
#include <string>
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

/// Lines of a letter of 1 × 1 (its capitals' height), its baseline at 0, y upwards: digits, capitals, a few
/// signs; small letters as capitals, what is unknown as a box.
std::vector<std::vector<Point>> stroke_letter(char letter);
/// A text (UTF-8) in the letters that there are: accents are left out, "Ω" is "OHM", "µ" is "U"; what is
/// unknown is one letter that draws a box.
std::string in_stroke_letters(const std::string& text);
inline constexpr double stroke_advance = 0.85;  ///< from letter to letter

/// Lines of a text on the board, as a round tip draws it. Milled boards have their words in the copper of the
/// solder side, to be read when it is turned over.
std::vector<std::vector<Point>> word_strokes(const CopperLayout& layout, const BoardText& text);
double words_width(const BoardText& text);  ///< mm

/// Gives each text that may stand anywhere a place where it covers nothing: on the legend clear of lands and
/// bodies, on a milled board in copper that joins nothing. What finds none goes from `texts` to `unplaced`.
void place_words(CopperLayout& layout);

}  // namespace elkit
