#pragma once
#include <string>
#include <string_view>

/// The one place for each kind of writing a stranger's text into a format of ours.
namespace elkit {

/// Character data of XML 1.0, for text and for attribute values: without the characters that XML forbids.
std::string xml_text(std::string_view text);
/// A field of CSV after RFC 4180 with `separator`. A text that a spreadsheet would run as a formula gets a '
/// in front; numbers do not.
std::string csv_field(std::string_view text, char separator = ',');
/// The text that csv_field() wrote, once the quotes are off.
std::string from_csv_field(std::string field);
/// One word of a value change dump (IEEE 1364): visible ASCII; other characters as _.
std::string vcd_word(std::string_view text);
/// The text of a value change dump's comment: one line, without the $end that would end it.
std::string vcd_comment(std::string_view text);
/// A file's name without its folder: no separators, no leading dot or dash, no name that some system
/// reserves, 100 bytes at most. "design" if nothing is left.
std::string file_name(std::string_view text);

}  // namespace elkit
