#include <algorithm>
#include <cmath>
#include <limits>
#include <set>
#include <unordered_map>

#include "drawing/stave.hpp"
#include "drawing/stave_columns.hpp"
#include "drawing/stave_runs.hpp"
#include "drawing/stave_tracks.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

/// Puts a column under or over its left neighbour where both have room: a wide circuit becomes narrower and
/// no line longer. In a picture that a reader knows, only columns that shared one before do so again.
void pack(std::vector<PlacedColumn>& columns, std::size_t fixed, const StaveLayout* before) {
    const auto strangers = [&](const PlacedColumn& a, const PlacedColumn& b) {
        if (!before) return false;
        const int one = before->column(a.drawn.parts.back()), other = before->column(b.drawn.parts.front());
        return one >= 0 && other >= 0 && one != other;
    };
    for (std::size_t k = fixed + 1; k < columns.size();) {
        PlacedColumn &beside = columns[k - 1], &here = columns[k];
        const bool below = here.top() >= beside.bottom(), above = here.bottom() <= beside.top();
        if ((!below && !above) || beside.alone || here.alone || strangers(beside, here)) {
            ++k;
            continue;
        }
        auto& parts = beside.drawn.parts;
        parts.insert(below ? parts.end() : parts.begin(), here.drawn.parts.begin(), here.drawn.parts.end());
        beside.rows.insert(beside.rows.end(), here.rows.begin(), here.rows.end());
        columns.erase(columns.begin() + static_cast<std::ptrdiff_t>(k));
    }
}

/// Sum over nets of the distance between their first and last column.
double line_length(const std::vector<PlacedColumn>& columns, const std::vector<std::size_t>& order,
                   std::size_t rows) {
    std::vector<int> first(rows, -1), last(rows, -1);
    for (std::size_t at = 0; at < order.size(); ++at)
        for (const int row : columns[order[at]].rows) {
            const auto r = static_cast<std::size_t>(row);
            if (first[r] < 0) first[r] = static_cast<int>(at);
            last[r] = static_cast<int>(at);
        }
    double sum = 0;
    for (std::size_t r = 0; r < rows; ++r) sum += last[r] - first[r];
    return sum;
}

/// Moves one column at a time to where the lines get shorter by `gain`, until none does; sources stay first.
std::vector<std::size_t> shorten(const std::vector<PlacedColumn>& columns, std::vector<std::size_t> order,
                                 std::size_t fixed, std::size_t rows, double gain) {
    double best = line_length(columns, order, rows);
    // in a wide circuit a column moves to its neighbourhood only: trying every place would cost its cube
    constexpr std::size_t wide = 80;
    const std::size_t reach = order.size() <= wide ? order.size() : wide * wide / order.size() / 4;
    for (bool better = true; better;) {
        better = false;
        for (std::size_t from = fixed; from < order.size(); ++from) {
            stop_point();
            const std::size_t begin = std::max(fixed, from - std::min(from, reach));
            for (std::size_t to = begin; to < std::min(order.size(), from + reach + 1); ++to) {
                auto trial = order;
                const std::size_t moved = trial[from];
                trial.erase(trial.begin() + static_cast<std::ptrdiff_t>(from));
                trial.insert(trial.begin() + static_cast<std::ptrdiff_t>(to), moved);
                const double length = line_length(columns, trial, rows);
                if (length <= best - gain) {
                    order = trial, best = length, better = true;
                }
            }
        }
    }
    return order;
}

}  // namespace

int StaveLayout::row(std::string_view net) const {
    const auto found = std::find(rows.begin(), rows.end(), net);
    return found == rows.end() ? -1 : static_cast<int>(found - rows.begin());
}

namespace {

bool among(const std::vector<std::string>& parts, std::string_view designator) {
    return std::find(parts.begin(), parts.end(), designator) != parts.end();
}

bool stands_in(const StaveColumn& column, std::string_view designator) {
    return among(column.parts, designator) ||
           std::any_of(column.alike.begin(), column.alike.end(),
                       [&](const auto& parts) { return among(parts, designator); }) ||
           std::any_of(column.hung.begin(), column.hung.end(),
                       [&](const auto& hung) { return among(hung.parts, designator); });
}

}  // namespace

int StaveLayout::column(std::string_view designator) const {
    for (std::size_t i = 0; i < columns.size(); ++i)
        if (stands_in(columns[i], designator)) return static_cast<int>(i);
    return -1;
}

std::string StaveLayout::group_of(std::string_view designator) const {
    const int at = column(designator);
    if (at < 0) return {};
    const StaveColumn& c = columns[static_cast<std::size_t>(at)];
    return c.alike.empty() ? std::string() : c.parts.front();
}

std::vector<std::string> StaveLayout::like(std::string_view designator) const {
    std::vector<std::string> all{std::string(designator)};
    const int at = column(designator);
    if (at < 0) return all;
    const StaveColumn& c = columns[static_cast<std::size_t>(at)];
    std::vector<std::vector<std::string>> group = c.alike;
    group.insert(group.begin(), c.parts);
    std::size_t place = 0;
    for (const auto& parts : group)
        for (std::size_t k = 0; k < parts.size(); ++k)
            if (parts[k] == designator) place = k;
    if (!c.alike.empty())
        for (const auto& parts : group)
            if (parts[place] != designator) all.push_back(parts[place]);
    return all;
}

namespace {

/// The order to start from: as it stood before, and each new column where it makes the lines least longer.
std::vector<std::size_t> order_like(const StaveLayout& before, const std::vector<PlacedColumn>& columns,
                                    std::size_t fixed, std::size_t rows) {
    std::vector<std::pair<int, std::size_t>> known;
    std::vector<std::size_t> order, fresh;
    for (std::size_t k = 0; k < columns.size(); ++k) {
        int stood = -1;
        for (const auto& part : columns[k].drawn.parts)
            if (const int at = before.column(part); at >= 0 && (stood < 0 || at < stood)) stood = at;
        if (k < fixed)
            order.push_back(k);
        else if (stood >= 0)
            known.emplace_back(stood, k);
        else
            fresh.push_back(k);
    }
    std::stable_sort(known.begin(), known.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [stood, k] : known) order.push_back(k);
    for (const std::size_t k : fresh) {
        std::vector<std::size_t> best_order;
        double best = std::numeric_limits<double>::infinity();
        for (std::size_t at = fixed; at <= order.size(); ++at) {
            auto trial = order;
            trial.insert(trial.begin() + static_cast<std::ptrdiff_t>(at), k);
            const double length = line_length(columns, trial, rows);
            if (length < best) best = length, best_order = std::move(trial);
        }
        order = std::move(best_order);
    }
    return order;
}

/// Nets by their voltage, high to low, the negative rail at the bottom of its potential.
std::vector<std::string> by_voltage(std::vector<std::string> nets, const Circuit& circuit,
                                    const OperatingPoint& reference) {
    std::unordered_map<std::string_view, double> volts;
    for (std::size_t k = 0; k < reference.nets.size(); ++k)
        volts.emplace(reference.nets[k], reference.voltages[k]);
    // to a millivolt, so that nets on one potential keep the order in which the circuit names them
    const auto level = [&](const std::string& net) {
        const auto found = volts.find(net);
        return found == volts.end() ? 0 : std::lround(found->second * 1000);
    };
    std::stable_sort(nets.begin(), nets.end(),
                     [&](const auto& a, const auto& b) { return level(a) > level(b); });
    const std::string rail = circuit.negative_rail();
    std::stable_partition(nets.begin(), nets.end(), [&](const auto& n) { return n != rail || level(n) > 0; });
    return nets;
}

/// Below this many, every line has a track of its own, which is the clearer picture.
constexpr std::size_t few_lines = 9;

std::vector<int> tracks_of(const StaveLayout& layout, const std::vector<PlacedColumn>& columns,
                           const std::vector<StaveRun>& runs, const OperatingPoint& reference) {
    std::vector<LineSpan> spans(layout.rows.size());
    double highest = 0;
    for (const double v : reference.voltages) highest = std::max(highest, v);
    for (std::size_t r = 0; r < spans.size(); ++r)
        spans[r].height = highest > 0 ? std::clamp(reference.voltage(layout.rows[r]) / highest, 0.0, 1.0)
                                      : 1 - static_cast<double>(r) / static_cast<double>(spans.size());
    for (std::size_t c = 0; c < columns.size(); ++c)
        for (const int row : columns[c].rows) {
            LineSpan& span = spans[static_cast<std::size_t>(row)];
            if (span.last < span.first) span.first = static_cast<int>(c);
            span.last = static_cast<int>(c);
        }
    if (spans.size() < few_lines) {
        for (LineSpan& span : spans) span.first = 0, span.last = static_cast<int>(columns.size());
        return share_tracks(spans);
    }
    std::vector<HangingParts> hanging;
    for (const StaveRun& run : runs) {
        const int a = layout.row(run.from), b = layout.row(run.to);
        if (a >= 0 && b >= 0)
            hanging.push_back({static_cast<std::size_t>(std::min(a, b)),
                               static_cast<std::size_t>(std::max(a, b)), static_cast<int>(run.parts.size())});
    }
    return share_tracks(spans, hanging);
}

/// The nets that are lines: all but the joints and the legs on which a run hangs.
std::vector<std::string> lines_of(const Circuit& circuit, const std::vector<StaveRun>& runs) {
    std::set<std::string> joints;
    for (const StaveRun& run : runs) {
        for (auto& net : joints_of(run)) joints.insert(std::move(net));
        if (run.host) joints.insert(run.from);
    }
    std::vector<std::string> lines = circuit.nets();
    std::erase_if(lines, [&](const auto& net) { return joints.contains(net); });
    return lines;
}

}  // namespace

StaveLayout lay_out_stave(const Circuit& circuit, const OperatingPoint& reference,
                          const StaveLayout* before) {
    if (before && before->columns.empty()) before = nullptr;
    StaveLayout layout;
    const std::vector<StaveRun> runs = runs_of(circuit);
    layout.rows = by_voltage(lines_of(circuit, runs), circuit, reference);
    auto [columns, sources] = stave_columns(circuit, runs, layout);
    std::vector<PlacedColumn> ordered;
    std::vector<std::size_t> order(columns.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    // a reader who knows the picture is not made to look again for less than a long line
    constexpr double any_gain = 1, worth_moving = 5;
    if (before) order = order_like(*before, columns, sources, layout.rows.size());
    for (const std::size_t i :
         shorten(columns, std::move(order), sources, layout.rows.size(), before ? worth_moving : any_gain))
        ordered.push_back(std::move(columns[i]));
    pack(ordered, sources, before);
    layout.tracks = tracks_of(layout, ordered, runs, reference);
    for (PlacedColumn& column : ordered) layout.columns.push_back(std::move(column.drawn));
    return layout;
}

}  // namespace elkit
