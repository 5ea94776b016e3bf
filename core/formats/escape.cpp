#include "formats/escape.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>

#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

/// Calls `put(character)` for each character of UTF-8 text.
template <class Put>
void each_character(std::string_view text, Put put) {
    for (std::size_t at = 0; at < text.size();) put(next_character(text, at));
}

bool is_number(std::string_view text) {
    double value = 0;
    if (text.starts_with('+')) text.remove_prefix(1);
    const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), value);
    return fault == std::errc{} && end == text.data() + text.size();
}

/// Whether a spreadsheet takes the text for a formula.
bool is_formula(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos) return false;
    const char c = text[first];
    const bool sign = c == '+' || c == '-';
    return c == '=' || c == '@' || c == '|' || c == '%' ||
           (sign && !is_number(text) && text.size() > first + 1);
}

}  // namespace

std::string xml_text(std::string_view text) {
    std::string out;
    each_character(text, [&](char32_t c) {
        switch (c) {
            case U'&':
                out += "&amp;";
                break;
            case U'<':
                out += "&lt;";
                break;
            case U'>':
                out += "&gt;";
                break;
            case U'"':
                out += "&quot;";
                break;
            case U'\'':
                out += "&#39;";
                break;
            default:  // production Char of XML 1.0: of the control characters only tab and line ends
                if (c == '\t' || c == '\n' || is_plain(c)) append_character(out, c);
        }
    });
    return out;
}

std::string csv_field(std::string_view text, char separator) {
    std::string field = is_formula(text) ? "'" : "";
    field += text;
    const std::string special = std::string("\"\r\n") + separator;
    if (field.find_first_of(special) == std::string::npos) return field;
    std::string quoted = "\"";
    for (const char c : field) quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
    return quoted + '"';
}

std::string from_csv_field(std::string field) {
    if (field.starts_with('\'') && is_formula(std::string_view(field).substr(1))) field.erase(0, 1);
    return field;
}

std::string vcd_word(std::string_view text) {
    std::string word;
    each_character(text, [&](char32_t c) {
        const bool visible = c > 0x20 && c < 0x7F;
        word += visible && c != U'$' ? static_cast<char>(c) : '_';
    });
    return word.empty() ? "_" : word;
}

std::string vcd_comment(std::string_view text) {
    std::string line = one_line(text);
    std::replace(line.begin(), line.end(), '$', '_');
    return line;
}

std::string file_name(std::string_view text) {
    constexpr std::size_t longest = 100;
    std::string name;
    each_character(text, [&](char32_t c) {
        const bool forbidden =
            !is_plain(c) || (c < 0x80 && std::string_view("/\\:*?\"<>|").find(static_cast<char>(c)) !=
                                             std::string_view::npos);
        std::string shown;
        append_character(shown, forbidden ? U'_' : c);
        if (name.size() + shown.size() <= longest) name += shown;
    });
    name.erase(0, name.find_first_not_of(" .-"));
    name.erase(name.find_last_not_of(" .") + 1);
    // reserved on one system or another, with any ending
    std::string stem = name.substr(0, name.find('.'));
    std::transform(stem.begin(), stem.end(), stem.begin(), [](unsigned char c) { return std::toupper(c); });
    const bool port = stem.size() == 4 && (stem.starts_with("COM") || stem.starts_with("LPT")) &&
                      std::isdigit(static_cast<unsigned char>(stem[3]));
    for (const char* reserved : {"CON", "PRN", "AUX", "NUL"})
        if (stem == reserved || port) return "_" + name;
    return name.empty() ? "design" : name;
}

}  // namespace elkit
