#pragma once
#include <string>
#include <string_view>

namespace elkit {

/// The next character of UTF-8 text, from `at`, which moves behind it. U+FFFD for bytes that are no UTF-8.
char32_t next_character(std::string_view text, std::size_t& at);
void append_character(std::string& text, char32_t character);
std::size_t count_characters(std::string_view text);

/// Whether it shows as itself on one line: no control character, no line or paragraph separator, no mark that
/// turns the direction of what follows (Unicode 15, categories Cc, Zl, Zp, and the bidirectional and
/// invisible ones of Cf), no non-character.
bool is_plain(char32_t character);

/// The text as one line of plain characters, of `most` at most: others show as "·", what is cut as "…". For
/// everything that is told to a person and may quote what a stranger wrote.
std::string one_line(std::string_view text, std::size_t most = 200);

/// ASCII letters in one case; the rest as it is.
std::string lower_case(std::string_view text);
std::string upper_case(std::string_view text);

/// What is wrong with a text of at most `most` plain characters, in `lines` also line ends and tabs; empty if
/// nothing.
std::string trouble_of_text(std::string_view text, std::size_t most, bool lines = false);
/// The text without what is_plain() forbids, cut to `most` characters and without spaces at its ends.
std::string cleaned_text(std::string_view text, std::size_t most, bool lines = false);

}  // namespace elkit
