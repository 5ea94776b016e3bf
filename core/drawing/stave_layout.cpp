#include <algorithm>
#include <cmath>
#include <limits>

#include "circuit/connectivity.hpp"
#include "circuit/part_kind.hpp"
#include "drawing/stave.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

struct Column {
    std::vector<std::string> parts;
    std::vector<int> rows;  // every row a dot of this column stands on
    bool packed = false;    // holds parts that have nothing to do with each other
    int top() const { return *std::min_element(rows.begin(), rows.end()); }
    int bottom() const { return *std::max_element(rows.begin(), rows.end()); }
};

int top_row(const Part& part, const StaveLayout& layout) {
    int top = 1 << 30;
    for (const Pin& pin : part.pins) top = std::min(top, layout.row(pin.net));
    return top;
}

/// Puts a column under or over its left neighbour where both have room: a wide circuit becomes narrower and
/// no line longer. Bodies stand alone.
/// In a picture that a reader knows, only columns that shared one before do so again.
void pack(std::vector<Column>& columns, std::size_t fixed, const Circuit& circuit,
          const StaveLayout* before) {
    const auto strangers = [&](const Column& a, const Column& b) {
        if (!before) return false;
        const int one = before->column(a.parts.back()), other = before->column(b.parts.front());
        return one >= 0 && other >= 0 && one != other;
    };
    const auto alone = [&](const Column& c) {
        return std::any_of(c.parts.begin(), c.parts.end(),
                           [&](const auto& d) { return circuit.find(d)->pins.size() != 2; });
    };
    for (std::size_t k = fixed + 1; k < columns.size();) {
        Column &beside = columns[k - 1], &here = columns[k];
        const bool apart = here.top() >= beside.bottom() || here.bottom() <= beside.top();
        if (!apart || alone(beside) || alone(here) || strangers(beside, here)) {
            ++k;
            continue;
        }
        beside.parts.insert(beside.parts.end(), here.parts.begin(), here.parts.end());
        beside.rows.insert(beside.rows.end(), here.rows.begin(), here.rows.end());
        beside.packed = true;
        columns.erase(columns.begin() + static_cast<std::ptrdiff_t>(k));
    }
}

/// Splits a chain where it turns upwards, so that each piece hangs from high to low in one column.
void add_columns(const std::vector<const Part*>& parts, const std::string& from, const StaveLayout& layout,
                 std::vector<Column>& columns) {
    std::string net = from;
    int direction = 0;
    Column column;
    for (const Part* part : parts) {
        const std::string& next = part->pins[0].net == net ? part->pins[1].net : part->pins[0].net;
        const int a = layout.row(net), b = layout.row(next);
        const int turn = b > a ? 1 : -1;
        if (!column.parts.empty() && turn != direction) {
            columns.push_back(std::move(column));
            column = {};
        }
        direction = turn;
        column.parts.push_back(part->designator);
        column.rows.push_back(a);
        column.rows.push_back(b);
        net = next;
    }
    columns.push_back(std::move(column));
}

/// Sum over nets of the distance between their first and last column.
double line_length(const std::vector<Column>& columns, const std::vector<std::size_t>& order,
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
std::vector<std::size_t> shorten(const std::vector<Column>& columns, std::vector<std::size_t> order,
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

int StaveLayout::column(std::string_view designator) const {
    for (std::size_t i = 0; i < columns.size(); ++i)
        if (std::find(columns[i].begin(), columns[i].end(), designator) != columns[i].end())
            return static_cast<int>(i);
    return -1;
}

namespace {

/// The order to start from: as it stood before, and each new column where it makes the lines least longer.
std::vector<std::size_t> order_like(const StaveLayout& before, const std::vector<Column>& columns,
                                    std::size_t fixed, std::size_t rows) {
    std::vector<std::pair<int, std::size_t>> known;
    std::vector<std::size_t> order, fresh;
    for (std::size_t k = 0; k < columns.size(); ++k) {
        int stood = -1;
        for (const auto& part : columns[k].parts)
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

}  // namespace

StaveLayout lay_out_stave(const Circuit& circuit, const OperatingPoint& reference,
                          const StaveLayout* before) {
    StaveLayout layout;
    layout.rows = circuit.nets();
    // to a millivolt, so that nets on one potential keep the order in which the circuit names them
    const auto level = [&](const std::string& net) { return std::lround(reference.voltage(net) * 1000); };
    std::stable_sort(layout.rows.begin(), layout.rows.end(),
                     [&](const auto& a, const auto& b) { return level(a) > level(b); });
    const std::string rail = circuit.negative_rail();  // the rail stays at the bottom of its potential
    std::stable_partition(layout.rows.begin(), layout.rows.end(),
                          [&](const auto& n) { return n != rail || level(n) > 0; });
    std::vector<Column> columns;
    for (const Part& part : circuit.parts)
        if (is(part, Role::source)) add_columns({&part}, part.pins[0].net, layout, columns);
    const std::size_t sources = columns.size();
    for (const Part& part : circuit.parts) {
        if (part.pins.size() == 2 || part.pins.empty()) continue;
        Column column{{part.designator}, {}};
        for (const Pin& pin : part.pins) column.rows.push_back(layout.row(pin.net));
        columns.push_back(std::move(column));
    }
    for (const Chain& chain : chains(circuit)) add_columns(chain.parts, chain.from, layout, columns);
    std::vector<Column> ordered;
    std::vector<std::size_t> order(columns.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    // a reader who knows the picture is not made to look again for less than a long line
    constexpr double any_gain = 1, worth_moving = 5;
    if (before && !before->columns.empty()) order = order_like(*before, columns, sources, layout.rows.size());
    for (const std::size_t i :
         shorten(columns, std::move(order), sources, layout.rows.size(), before ? worth_moving : any_gain))
        ordered.push_back(std::move(columns[i]));
    pack(ordered, sources, circuit, before && !before->columns.empty() ? before : nullptr);
    for (Column& column : ordered) {
        auto& parts = column.parts;
        if (column.packed)
            std::stable_sort(parts.begin(), parts.end(), [&](const auto& a, const auto& b) {
                return top_row(*circuit.find(a), layout) < top_row(*circuit.find(b), layout);
            });
        else if (top_row(*circuit.find(parts.front()), layout) > top_row(*circuit.find(parts.back()), layout))
            std::reverse(parts.begin(), parts.end());
        layout.columns.push_back(parts);
    }
    return layout;
}

}  // namespace elkit
