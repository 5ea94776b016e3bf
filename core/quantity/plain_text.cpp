#include "quantity/plain_text.hpp"

#include <algorithm>

namespace elkit {
namespace {

constexpr char32_t no_character = 0xFFFD;

bool is_line_end(char32_t c) { return c == '\n' || c == '\t' || c == '\r'; }

}  // namespace

// UTF-8 as RFC 3629 has it: no overlong forms, no surrogates, nothing above U+10FFFF.
char32_t next_character(std::string_view text, std::size_t& at) {
    const auto byte = [&](std::size_t k) { return static_cast<unsigned char>(text[k]); };
    const unsigned char first = byte(at++);
    if (first < 0x80) return first;
    const int more = first >= 0xF0 ? 3 : first >= 0xE0 ? 2 : 1;
    if (first < 0xC2 || first > 0xF4) return no_character;
    char32_t c = first & (0x3F >> more);
    std::size_t k = at;
    for (int n = 0; n < more; ++n, ++k) {
        if (k >= text.size() || (byte(k) & 0xC0) != 0x80) return no_character;
        c = (c << 6) | (byte(k) & 0x3F);
    }
    constexpr char32_t least[] = {0, 0x80, 0x800, 0x10000};
    if (c < least[more] || c > 0x10FFFF || (c >= 0xD800 && c <= 0xDFFF)) return no_character;
    at = k;
    return c;
}

void append_character(std::string& text, char32_t c) {
    const auto put = [&](char32_t byte) { text += static_cast<char>(byte); };
    if (c < 0x80) return put(c);
    if (c < 0x800)
        put(0xC0 | (c >> 6));
    else if (c < 0x10000)
        put(0xE0 | (c >> 12)), put(0x80 | ((c >> 6) & 0x3F));
    else
        put(0xF0 | (c >> 18)), put(0x80 | ((c >> 12) & 0x3F)), put(0x80 | ((c >> 6) & 0x3F));
    put(0x80 | (c & 0x3F));
}

std::size_t count_characters(std::string_view text) {
    std::size_t count = 0;
    for (std::size_t at = 0; at < text.size(); ++count) next_character(text, at);
    return count;
}

bool is_plain(char32_t c) {
    const auto in = [c](char32_t low, char32_t high) { return c >= low && c <= high; };
    return !(c < 0x20 || in(0x7F, 0x9F) || c == 0xAD || c == 0x61C || in(0x200B, 0x200F) ||
             in(0x2028, 0x202E) || in(0x2060, 0x206F) || c == 0xFEFF || in(0xFFF9, 0xFFFB) ||
             in(0xFDD0, 0xFDEF) || (c & 0xFFFE) == 0xFFFE || in(0xE0000, 0xE007F) || c == no_character);
}

std::string one_line(std::string_view text, std::size_t most) {
    std::string line;
    std::size_t count = 0;
    for (std::size_t at = 0; at < text.size(); ++count) {
        if (count == most) return line + "…";
        const char32_t c = next_character(text, at);
        append_character(line, is_plain(c) ? c : is_line_end(c) ? U' ' : U'·');
    }
    return line;
}

std::string trouble_of_text(std::string_view text, std::size_t most, bool lines) {
    if (text.size() > most && count_characters(text) > most)
        return "has more than " + std::to_string(most) + " characters";
    for (std::size_t at = 0; at < text.size();) {
        if (text[at] >= ' ' && text[at] <= '~') {  // most of all text
            ++at;
            continue;
        }
        const char32_t c = next_character(text, at);
        if (!is_plain(c) && !(lines && is_line_end(c))) return "has a control or invisible character";
    }
    return {};
}

std::string cleaned_text(std::string_view text, std::size_t most, bool lines) {
    std::string clean;
    std::size_t count = 0;
    for (std::size_t at = 0; at < text.size() && count < most;) {
        const char32_t c = next_character(text, at);
        if (!is_plain(c) && !(lines && is_line_end(c))) continue;
        append_character(clean, c);
        ++count;
    }
    const auto first = clean.find_first_not_of(' ');
    if (first == std::string::npos) return {};
    return clean.substr(first, clean.find_last_not_of(' ') - first + 1);
}

std::string lower_case(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
    return out;
}

std::string upper_case(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (c >= 'a' && c <= 'z') c = static_cast<char>(c - 'a' + 'A');
    return out;
}

}  // namespace elkit
