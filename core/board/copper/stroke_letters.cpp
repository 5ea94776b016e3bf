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

constexpr char unknown = '\x7f';  // no letter: drawn as a box

/// What is written without its accents, and a few signs of the trade.
const std::map<char32_t, std::string_view> written_as{
    {U'Ä', "A"},      {U'À', "A"},      {U'Á', "A"}, {U'Â', "A"}, {U'Ã', "A"},        {U'Å', "A"},
    {U'Æ', "AE"},     {U'Ç', "C"},      {U'È', "E"}, {U'É', "E"}, {U'Ê', "E"},        {U'Ë', "E"},
    {U'Ì', "I"},      {U'Í', "I"},      {U'Î', "I"}, {U'Ï', "I"}, {U'Ñ', "N"},        {U'Ò', "O"},
    {U'Ó', "O"},      {U'Ô', "O"},      {U'Õ', "O"}, {U'Ö', "O"}, {U'Ø', "O"},        {U'Ù', "U"},
    {U'Ú', "U"},      {U'Û', "U"},      {U'Ü', "U"}, {U'Ý', "Y"}, {U'ß', "SS"},       {U'Œ', "OE"},
    {U'Š', "S"},      {U'Ž', "Z"},      {U'Č', "C"}, {U'Ł', "L"}, {U'\u03a9', "OHM"}, {U'\u2126', "OHM"},
    {U'\u00b5', "U"}, {U'\u03bc', "U"}, {U'–', "-"}, {U'—', "-"}, {U'−', "-"},        {U'×', "X"},
    {U'\u00a0', " "}};

/// Capitals of the letters above: in Latin-1 32 below, in the next block one below.
char32_t capital(char32_t c) {
    if (c >= U'à' && c <= U'þ' && c != U'÷') return c - 32;
    return c == U'œ' || c == U'š' || c == U'ž' || c == U'č' || c == U'ł' ? c - 1 : c;
}

/// The next character of a text in UTF-8; a byte that begins none counts for itself.
char32_t next_character(const std::string& text, std::size_t& at) {
    const auto byte = [&](std::size_t k) { return static_cast<unsigned char>(text[k]); };
    const unsigned char first = byte(at++);
    const int more = first >= 0xf0 ? 3 : first >= 0xe0 ? 2 : first >= 0xc0 ? 1 : 0;
    char32_t c = more == 0 ? first : first & (0x3fU >> more);
    for (int k = 0; k < more && at < text.size() && (byte(at) & 0xc0U) == 0x80; ++k)
        c = (c << 6) | (byte(at++) & 0x3fU);
    return c;
}

}  // namespace

std::string in_stroke_letters(const std::string& text) {
    std::string out;
    for (std::size_t at = 0; at < text.size();) {
        const char32_t c = next_character(text, at);
        if (c < 0x80) {
            out += static_cast<char>(c);
            continue;
        }
        const auto known = written_as.find(capital(c));
        out += known == written_as.end() ? std::string_view(&unknown, 1) : known->second;
    }
    return out;
}

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
