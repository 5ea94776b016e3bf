// Letters as lines, for machines that draw with a round tip.
#include <cctype>
#include <map>
#include <string_view>

#include "board/copper/words.hpp"

namespace elkit {
namespace {

/// Strokes on a grid of 4 × 6 fields, "xy xy xy|xy xy": x 0…4 to the right, y 0…6 upwards.
const std::map<char, std::string_view> letters{{'0', "10 01 05 16 36 45 41 30 10|11 35"},
                                               {'1', "05 26 20|00 40"},
                                               {'2', "05 16 36 45 44 00 40"},
                                               {'3', "06 46 24 43 41 30 10 01"},
                                               {'4', "30 36 02 42"},
                                               {'5', "46 06 04 34 43 41 30 00"},
                                               {'6', "36 16 05 01 10 30 41 43 34 03"},
                                               {'7', "06 46 10"},
                                               {'8', "14 05 16 36 45 34 14 03 01 10 30 41 43 34"},
                                               {'9', "10 30 41 45 36 16 05 03 12 43"},
                                               {'A', "00 26 40|12 32"},
                                               {'B', "00 06 36 45 44 33 03|33 42 41 30 00"},
                                               {'C', "45 36 16 05 01 10 30 41"},
                                               {'D', "00 06 26 44 42 20 00"},
                                               {'E', "46 06 00 40|03 33"},
                                               {'F', "46 06 00|03 33"},
                                               {'G', "45 36 16 05 01 10 30 41 43 23"},
                                               {'H', "00 06|40 46|03 43"},
                                               {'I', "10 30|16 36|20 26"},
                                               {'J', "46 41 30 10 01"},
                                               {'K', "00 06|46 03 40"},
                                               {'L', "06 00 40"},
                                               {'M', "00 06 23 46 40"},
                                               {'N', "00 06 40 46"},
                                               {'O', "10 01 05 16 36 45 41 30 10"},
                                               {'P', "00 06 36 45 44 33 03"},
                                               {'Q', "10 01 05 16 36 45 41 30 10|22 40"},
                                               {'R', "00 06 36 45 44 33 03|23 40"},
                                               {'S', "45 36 16 05 04 13 33 42 41 30 10 01"},
                                               {'T', "06 46|26 20"},
                                               {'U', "06 01 10 30 41 46"},
                                               {'V', "06 20 46"},
                                               {'W', "06 10 23 30 46"},
                                               {'X', "00 46|06 40"},
                                               {'Y', "06 23 46|23 20"},
                                               {'Z', "06 46 00 40"},
                                               {'+', "03 43|21 25"},
                                               {'-', "03 43"},
                                               {'.', "20 21"},
                                               {',', "21 10"},
                                               {'/', "00 46"},
                                               {':', "21 22|24 25"},
                                               {'(', "36 15 11 30"},
                                               {')', "16 35 31 10"},
                                               {'=', "02 42|04 44"},
                                               {' ', ""}};

}  // namespace

std::vector<std::vector<Point>> stroke_letter(char letter) {
    const auto known = letters.find(static_cast<char>(std::toupper(static_cast<unsigned char>(letter))));
    const std::string_view strokes =
        known == letters.end() ? std::string_view("00 06 46 40 00") : known->second;
    std::vector<std::vector<Point>> lines;
    bool fresh = true;
    for (std::size_t k = 0; k + 1 < strokes.size(); k += 3) {
        if (fresh) lines.emplace_back();
        lines.back().push_back({(strokes[k] - '0') / 4.0 * 0.6, (strokes[k + 1] - '0') / 6.0});
        fresh = k + 2 < strokes.size() && strokes[k + 2] == '|';
    }
    return lines;
}

}  // namespace elkit
