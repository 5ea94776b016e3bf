#include "words/part_values.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/type_words.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"
#include "words/words.hpp"

namespace elkit {
namespace {

std::string_view example_of_value(const PartKind& kind) {
    const ParamInfo* info = kind.param(kind.value_key);
    return info ? example(info->unit) : "its pins and nets";
}

/// Which cells give so many volts: a voltage alone does not say.
Error cells_for(double volts, const std::string& word, const PartKind& kind) {
    std::vector<std::string> ways;
    for (const CellType& cell : known_catalogue().cells) {
        if (cell.endless()) continue;
        const double nominal = cell.open_circuit.at(0.5);
        const double count = std::round(volts / nominal);
        if (count >= 1 && count <= 8 && std::abs(count * nominal / volts - 1) < 0.15)
            ways.push_back(fmt::format("{:.0f} {}", count, cell.id));
    }
    return usage(kind.name, fmt::format("{} of which cells?", upper_case(word)),
                 ways.empty() ? "cells such as 3 AA" : fmt::format("{}", fmt::join(ways, ", ")));
}

}  // namespace

bool says_unit(const std::string& word, Unit unit) {
    if (symbol(unit).empty()) return false;
    const std::string sign = lower_case(std::string(symbol(unit)));
    const auto at = word.find(sign);  // "4v7"
    const bool point = at != std::string::npos && at + sign.size() < word.size() &&
                       (unit == Unit::volt || unit == Unit::watt) &&
                       std::isdigit(static_cast<unsigned char>(word[at + sign.size()]));
    return word.ends_with(sign) || point ||
           (unit == Unit::ohm && (word.ends_with("ohm") || word.ends_with("ohms")));
}

std::string as_typed(const std::string& word, const std::vector<std::string>& line) {
    for (std::size_t k = 0; k < line.size(); ++k) {
        std::string together;
        for (std::size_t n = k; n < line.size() && n < k + 2; ++n) {
            together += line[n];
            if (lower_case(together) == word) return together;
        }
    }
    return word;
}

std::optional<double> pieces_of(const std::string& word, const PartKind& kind) {
    if (!kind.is(Role::cells)) return std::nullopt;
    std::size_t digits = 0;
    while (digits < word.size() && std::isdigit(static_cast<unsigned char>(word[digits]))) ++digits;
    if (digits == 0 || digits > 2) return std::nullopt;
    const std::string rest = word.substr(digits);
    if (!is_among(rest, {"", "x", "×"})) return std::nullopt;
    const double number = std::stod(word.substr(0, digits));
    const ParamInfo* count = kind.param("count");
    return count && number >= count->low && number <= count->high ? std::optional(number) : std::nullopt;
}

Result<void> take_value(const std::string& word, const std::vector<std::string>& line, const PartKind& kind,
                        Part& part) {
    if (kind.is(Role::cells) && word.ends_with("v") && parse_quantity(upper_case(word), Unit::volt))
        return cells_for(parse_quantity(upper_case(word), Unit::volt).value(), word, kind);
    if (kind.is(Role::cells) && word.ends_with("ah"))
        if (const auto ampere_hours = parse_quantity(word.substr(0, word.size() - 2) + "A", Unit::ampere)) {
            const ParamInfo* info = kind.param("capacity");
            if (!info || !(ampere_hours.value() >= info->low && ampere_hours.value() <= info->high))
                return usage(kind.name, "found " + word, "a capacity such as 500 mAh");
            part.params[info->key] = ampere_hours.value();
            return success();
        }
    // the case tells milli from mega: as it was typed
    const std::string typed = as_typed(word, line);
    std::vector<const ParamInfo*> order;
    for (const std::string& first : {kind.value_key, std::string("value"), std::string("vz"),
                                     std::string("rating"), std::string("max_current")})
        if (const ParamInfo* info = kind.param(first)) order.push_back(info);
    for (const ParamInfo& info : kind.params) order.push_back(&info);
    for (const ParamInfo* info : order) {
        if (!std::holds_alternative<double>(info->standard) || part.params.contains(info->key)) continue;
        const bool tolerance = info->key == "tolerance";
        const bool printed = info->key == kind.value_key;
        if (!printed && !says_unit(word, tolerance ? Unit::percent : info->unit)) continue;
        auto value = parse_said(typed, tolerance ? Unit::percent : info->unit);
        if (!value && printed && is_bare_number(word))
            return usage(kind.name, value.error().found, value.error().expected);
        if (!value) continue;
        const double number = tolerance ? value.value() / 100 : value.value();
        if (!(number >= info->low && number <= info->high))
            return usage(kind.name + " " + info->label, "found " + format_quantity(number, info->unit),
                         fmt::format("{} to {}", format_quantity(info->low, info->unit),
                                     format_quantity(info->high, info->unit)));
        part.params[info->key] = number;
        return success();
    }
    std::vector<std::string> more;
    for (const ParamInfo* info : worded_params(kind)) {
        const auto choices = text_choices(kind.id, info->key);
        for (std::size_t k = 0; k < choices.size() && k < 6; ++k) more.push_back(choices[k]);
    }
    return usage(kind.name, "\"" + word + "\" cannot be read here",
                 more.empty() ? "a value such as " + std::string(example_of_value(kind))
                              : fmt::format("a type such as {}", fmt::join(more, ", ")));
}

}  // namespace elkit
