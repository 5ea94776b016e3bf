#include "formats/discharge_file.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <optional>

#include "engine/models.hpp"
#include "formats/csv.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

constexpr std::size_t least_rows = 10;

std::optional<double> number_in(std::string text) {
    std::erase(text, ' ');
    if (text.empty()) return std::nullopt;
    const auto value = parse_quantity(text, Unit::none);
    return value ? std::optional(value.value()) : std::nullopt;
}

/// Hours in one of the unit that a heading names; 0 if it names none.
double unit_of(const std::string& heading, std::string& told) {
    const std::string h = lower_case(heading);
    const auto ends = [&h](std::string_view unit) {
        const auto at = h.rfind(unit);
        if (at == std::string::npos) return false;
        const auto letter = [](char c) { return c >= 'a' && c <= 'z'; };
        const bool before = at > 0 && letter(h[at - 1]);
        const bool after = at + unit.size() < h.size() && letter(h[at + unit.size()]);
        return !before && !after;
    };
    for (const auto& [units, hours, word] :
         {std::tuple(std::vector<std::string_view>{"min", "minutes", "minute", "mins"}, 1.0 / 60, "minutes"),
          std::tuple(std::vector<std::string_view>{"h", "hours", "hour", "hrs"}, 1.0, "hours"),
          std::tuple(std::vector<std::string_view>{"s", "sec", "seconds", "secs"}, 1.0 / 3600, "seconds")})
        if (std::any_of(units.begin(), units.end(), ends)) return told = word, hours;
    return 0;
}

bool names_volts(const std::string& heading) {
    const std::string h = lower_case(heading);
    return h.find("volt") != std::string::npos || (!h.empty() && (h[0] == 'v' || h[0] == 'u'));
}

}  // namespace

Result<MeasuredDischarge> read_discharge(std::string_view csv) {
    auto table = parse_csv(csv, separator_in(csv));
    if (!table) return table.error();
    const CsvTable& rows = table.value();
    std::size_t first = 0, time = 0, volts = 1;
    double hours_each = 0;
    std::string unit;
    const auto bad = [](std::size_t row, const std::string& found, const char* expected) {
        return Error{Fault::usage, fmt::format("line {}", row + 1), "found " + found, expected};
    };
    if (!rows.empty() && !rows[0].empty() && !number_in(rows[0][0])) {
        first = 1;
        for (std::size_t c = 0; c < rows[0].size(); ++c)
            if (names_volts(rows[0][c])) {
                volts = c, time = c == 0 ? 1 : 0;
                break;
            }
        if (time < rows[0].size()) hours_each = unit_of(rows[0][time], unit);
    }
    MeasuredDischarge out;
    for (std::size_t r = first; r < rows.size(); ++r) {
        if (rows[r].size() == 1 && rows[r][0].empty()) continue;
        if (rows[r].size() <= std::max(time, volts))
            return bad(r, fmt::format("{} columns", rows[r].size()), "time and volts");
        const auto t = number_in(rows[r][time]), v = number_in(rows[r][volts]);
        if (!t || !v)
            return bad(r, "\"" + one_line(!t ? rows[r][time] : rows[r][volts], 40) + "\"",
                       !t ? "a time" : "volts");
        if (!(*v >= 0 && *v <= highest_supply)) return bad(r, fmt::format("{} V", *v), "0 to 60 V");
        if (!out.points.empty() && *t < out.points.back().hours)
            return bad(r, "a time before the one above it", "times that go on");
        out.points.push_back({*t, *v});
    }
    if (out.points.size() < least_rows)
        return Error{Fault::usage, "discharge", fmt::format("found {} points", out.points.size()),
                     fmt::format("{} or more", least_rows)};
    const double span = out.points.back().hours - out.points.front().hours;
    if (!(span > 0)) return Error{Fault::usage, "discharge", "all at one time", "times that go on"};
    const bool by_heading = hours_each > 0;
    if (!by_heading)
        hours_each = span <= 100    ? 1
                     : span <= 6000 ? 1.0 / 60
                                    : 1.0 / 3600,
        unit = span <= 100    ? "hours"
               : span <= 6000 ? "minutes"
                              : "seconds";
    const double start = out.points.front().hours;
    for (auto& p : out.points) p.hours = (p.hours - start) * hours_each;
    out.told = fmt::format("{} rows, time in {} ({})", out.points.size(), unit,
                           by_heading ? "by its heading" : "by its length");
    return out;
}

Result<FitLoad> read_load(std::string_view text) {
    FitLoad load;
    const std::string words = cleaned_text(text, 40);
    const bool amps = !words.empty() && (words.back() == 'A' || words.back() == 'a');
    const auto value = parse_quantity(words, amps ? Unit::ampere : Unit::ohm);
    if (!value || !(value.value() > 0))
        return Error{Fault::usage, "load", "found \"" + words + "\"",
                     "a current such as 50mA, or a resistance such as 10R"};
    (amps ? load.amps : load.ohms) = value.value();
    return load;
}

Digest CellFitQuery::key() const {
    Digester d;
    d << *csv << cell << count << load.amps << load.ohms;
    return d.digest();
}

Result<CellFitQuery::Value> CellFitQuery::compute(const Ask&) const {
    const CellType* type = known_catalogue().cell(cell);
    if (!type) return Error{Fault::usage, "cell", "there is no \"" + cell + "\"", "a cell of the catalogue"};
    auto measured = read_discharge(*csv);
    if (!measured) return measured.error();
    auto fit = fit_cell(*type, count, load, measured.value());
    if (!fit) return fit.error();
    return Value{std::move(measured).value(), std::move(fit).value()};
}

}  // namespace elkit
