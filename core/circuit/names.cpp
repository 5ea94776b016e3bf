#include "circuit/names.hpp"

#include <fmt/format.h>

#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr std::string_view separators = " \"'`<>&=,;:\\|(){}[]%?!";

bool fits(char32_t c) {
    return is_plain(c) && c != 0xA0 && c != 0x3000 && !(c >= 0x2000 && c <= 0x200A) &&
           !(c < 0x80 && separators.find(static_cast<char>(c)) != std::string_view::npos);
}

}  // namespace

std::string trouble_of_name(std::string_view name) {
    if (name.empty()) return "is empty";
    if (count_characters(name) > longest_name)
        return fmt::format("has more than {} characters", longest_name);
    for (std::size_t at = 0; at < name.size();) {
        const char32_t c = next_character(name, at);
        if (!is_plain(c)) return "has a control or invisible character";
        if (!fits(c)) {
            std::string shown;
            append_character(shown, c);
            return c == ' ' ? "has a space" : fmt::format("has the character {}", shown);
        }
    }
    return {};
}

std::string expected_name() {
    return fmt::format("1 to {} characters, no spaces and none of {}", longest_name, separators.substr(1));
}

std::string cleaned_name(std::string_view name, std::string_view otherwise) {
    std::string clean;
    std::size_t count = 0;
    for (std::size_t at = 0; at < name.size() && count < longest_name;) {
        const char32_t c = next_character(name, at);
        if (!is_plain(c)) continue;
        append_character(clean, fits(c) ? c : U'_');
        ++count;
    }
    return clean.empty() ? std::string(otherwise) : clean;
}

}  // namespace elkit
