#include "formats/csv.hpp"

#include <array>

#include "formats/escape.hpp"

namespace elkit {

std::string write_csv(const CsvTable& table) {
    std::string out;
    for (const auto& row : table) {
        for (std::size_t i = 0; i < row.size(); ++i) {
            if (i) out += ',';
            out += csv_field(row[i]);
        }
        out += "\r\n";
    }
    return out;
}

Result<CsvTable> parse_csv(std::string_view text, char separator) {
    CsvTable table;
    std::vector<std::string> row;
    std::string field;
    bool quoted = false, any = false;
    std::size_t line = 1, opened = 0;
    const auto end_field = [&] {
        row.push_back(from_csv_field(std::move(field)));
        field.clear();
    };
    const auto end_row = [&] {
        end_field();
        table.push_back(std::move(row));
        row.clear();
        any = false;
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (c == '\n') ++line;
        if (quoted) {
            if (c == '"' && i + 1 < text.size() && text[i + 1] == '"')
                field += '"', ++i;
            else if (c == '"')
                quoted = false;
            else
                field += c;
        } else if (c == '"') {
            quoted = any = true, opened = line;
        } else if (c == separator) {
            end_field();
            any = true;
        } else if (c == '\n') {
            if (any || !field.empty()) end_row();
        } else if (c != '\r') {
            field += c;
            any = true;
        }
    }
    if (quoted)
        return Error{Fault::usage, "line " + std::to_string(opened), "a quote is left open", "a closing \""};
    if (any || !field.empty()) end_row();
    return table;
}

char separator_in(std::string_view text) {
    constexpr std::size_t lines_looked_at = 60;
    std::array<std::size_t, 3> counts{};
    constexpr std::array separators{',', ';', '\t'};
    bool quoted = false;
    std::size_t lines = 0;
    for (const char c : text) {
        if (c == '"') quoted = !quoted;
        if (quoted) continue;
        if (c == '\n' && ++lines == lines_looked_at) break;
        for (std::size_t k = 0; k < separators.size(); ++k) counts[k] += c == separators[k] ? 1 : 0;
    }
    if (counts[2] > 0 && counts[2] >= counts[1]) return '\t';
    return counts[1] > 0 && 2 * counts[1] >= counts[0] ? ';' : ',';  // decimal commas are many
}

}  // namespace elkit
