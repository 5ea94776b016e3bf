#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "quantity/result.hpp"

namespace elkit {

using CsvTable = std::vector<std::vector<std::string>>;

/// CSV after RFC 4180: comma, CRLF, quotes where a field needs them.
std::string write_csv(const CsvTable& table);
/// Reads RFC 4180 with LF or CRLF, or with another separator as spreadsheets give it. Usage error with the
/// line if a quote is left open.
Result<CsvTable> parse_csv(std::string_view text, char separator = ',');

/// What stands between the columns: comma, semicolon or tab, by the first lines, outside of quotes. Decimal
/// commas are many; so a semicolon counts twice, and a tab beats it.
char separator_in(std::string_view text);

}  // namespace elkit
