#include "command/parts_table.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <sstream>

#include "circuit/names.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "formats/csv.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"
#include "recipes/blocks.hpp"
#include "words/described_part.hpp"

namespace elkit {
namespace {

std::string cell_text(const PartKind& kind, const std::string& key, const ParamValue& value) {
    if (const auto* number = std::get_if<double>(&value)) {
        const ParamInfo* info = kind.param(key);
        const std::string bare = fmt::format("{}", *number);
        // a bare number that might be meant in another size is asked back for: such as 1.5 for a current
        return info && !parse_said(bare, info->unit) ? bare + " " + std::string(symbol(info->unit)) : bare;
    }
    if (const auto* text = std::get_if<std::string>(&value)) return *text;
    const ParamInfo* info = kind.param(key);
    return info ? points_text(std::get<PointList>(value), info->axes) : "";
}

Error at(std::size_t row, const std::string& column, std::string found, std::string expected) {
    return {Fault::usage, fmt::format("row {}, column {}", row + 1, column), std::move(found),
            std::move(expected)};
}

/// One row as cells by column name.
using Row = std::map<std::string, std::string>;

Result<void> set_nets(Part& part, const PartKind& kind, const Row& row, std::size_t index) {
    const auto put = [&](const std::string& pin, const std::string& net) {
        if (!net.empty() && net != "-") part.pins.push_back({pin, net});
    };
    if (const auto nets = row.find("nets"); nets != row.end()) {
        std::istringstream words(nets->second);
        std::size_t k = 0;
        for (std::string net; words >> net; ++k) {
            if (k >= kind.pins.size())
                return at(index, "nets", "found more than " + std::to_string(kind.pins.size()),
                          "a net for each of " + fmt::format("{}", fmt::join(kind.pins, ", ")));
            put(kind.pins[k], net);
        }
    }
    const bool by_nets = !part.pins.empty();
    for (std::size_t k = 0; k < kind.pins.size(); ++k)
        for (const std::string& column : {lower_case(kind.pins[k]), std::string(k == 0   ? "from"
                                                                                : k == 1 ? "to"
                                                                                         : "")})
            // beside nets a column named as a pin may mean a parameter
            if (const auto cell = row.find(column);
                cell != row.end() && !column.empty() && !(by_nets && kind.param(column)))
                put(kind.pins[k], cell->second);
    for (const std::string& pin : kind.pins)
        if (part.net(pin).empty() && !kind.optional(pin))
            return at(index, "nets", "pin " + pin + " of " + part.designator + " has no net",
                      "a net for each of " + fmt::format("{}", fmt::join(kind.pins, ", ")));
    return success();
}

Result<Part> part_of_row(const Circuit& circuit, const Row& row, std::size_t index, Merge merge) {
    const auto cell = [&](const char* name) {
        const auto found = row.find(name);
        return found == row.end() ? std::string() : found->second;
    };
    const PartKind* kind = part_kind_from_word(cell("kind"));
    Design alone;
    Part& part = alone.circuit.parts.emplace_back();
    if (!kind) {  // "white led", "3 AA"
        const auto said = described_kind(cell("kind"));
        if (!said || !said.value())
            return at(index, "kind", "found \"" + cell("kind") + "\"",
                      said ? "one of " + known_kinds() : said.error().found + ", " + said.error().expected);
        part = *said.value();
        kind = part_kind(part.kind);
    }
    part.kind = kind->id, part.designator = cell("part");
    const bool taken = circuit.find(part.designator) != nullptr;
    if (part.designator.empty() || (taken && merge == Merge::rename))
        part.designator = circuit.free_designator(kind->prefix);
    if (std::string trouble = trouble_of_name(part.designator); !trouble.empty())
        return at(index, "part", "\"" + one_line(part.designator, 40) + "\" " + trouble, expected_name());
    if (auto nets = set_nets(part, *kind, row, index); !nets) return nets.error();
    for (const Pin& pin : part.pins)
        if (std::string trouble = trouble_of_name(pin.net); !trouble.empty())
            return at(index, "nets", "\"" + one_line(pin.net, 40) + "\" " + trouble, expected_name());
    for (const auto& [column, text] : row) {
        const std::string key = column == "value" ? kind->value_key : column;
        if (text.empty() || key.empty() || !kind->param(key)) continue;
        if (column == "value" && text.find(' ') != std::string::npos) {  // "100u 16V", "blue 3mm"
            const auto said = described_kind(kind->id + " " + text);
            if (said && said.value() && said.value()->kind == kind->id) {
                for (const auto& [name, value] : said.value()->params)
                    alone.circuit.parts[0].params[name] = value;
                continue;
            }
        }
        auto set = set_parameter(alone, alone.circuit.parts[0].designator, key, text);
        if (!set) return at(index, column, set.error().found, set.error().expected);
        alone = std::move(set).value();
    }
    return alone.circuit.parts[0];
}

}  // namespace

std::string parts_as_csv(const std::vector<Part>& parts) {
    std::vector<std::string> keys;
    for (const Part& part : parts)
        for (const auto& [key, value] : part.params)
            if (std::find(keys.begin(), keys.end(), key) == keys.end()) keys.push_back(key);
    CsvTable table{{"part", "kind", "nets"}};
    table[0].insert(table[0].end(), keys.begin(), keys.end());
    for (const Part& part : parts) {
        std::string nets;
        const PartKind* kind = part_kind(part.kind);
        if (!kind) continue;
        for (const std::string& pin : kind->pins)
            nets += (nets.empty() ? "" : " ") + (part.net(pin).empty() ? "-" : part.net(pin));
        std::vector<std::string> row{part.designator, part.kind, nets};
        for (const std::string& key : keys)
            row.push_back(part.params.contains(key) ? cell_text(*kind, key, part.params.at(key)) : "");
        table.push_back(std::move(row));
    }
    return write_csv(table);
}

Result<Design> with_parts_from_table(const Design& design, std::string_view text, Merge merge) {
    auto table = parse_csv(text, separator_in(text));
    if (!table) return table.error();
    const CsvTable& rows = table.value();
    if (rows.empty())
        return Error{Fault::usage, "table", "it is empty", "rows such as  R1, resistor, 4k7, V+ OUT"};
    std::vector<std::string> columns;
    for (const auto& name : rows[0]) columns.push_back(lower_case(name));
    const bool named = std::find(columns.begin(), columns.end(), "kind") != columns.end();
    if (!named) columns = {"part", "kind", "value", "nets"};
    Design next = design;
    for (std::size_t r = named ? 1 : 0; r < rows.size(); ++r) {
        Row row;
        for (std::size_t c = 0; c < rows[r].size() && c < columns.size(); ++c) row[columns[c]] = rows[r][c];
        if (rows[r].size() > columns.size())
            return at(r, std::to_string(columns.size() + 1), "found \"" + rows[r][columns.size()] + "\"",
                      "no more than " + std::to_string(columns.size()) + " columns");
        auto part = part_of_row(next.circuit, row, r, merge);
        if (!part) return part.error();
        if (Part* old = next.circuit.find(part.value().designator))
            *old = std::move(part).value();
        else
            next.circuit.parts.push_back(std::move(part).value());
    }
    return with_circuit(design, next.circuit);
}

}  // namespace elkit
