#include "drawing/stave_slots.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace elkit {

StaveSlots::StaveSlots(std::size_t rows) : gaps_(std::max<std::size_t>(rows, 2) - 1) {}

void StaveSlots::need(int from_row, int to_row, std::size_t count) {
    const auto from = static_cast<std::size_t>(std::max(0, std::min(from_row, to_row)));
    const auto to = std::min(gaps_.size(), static_cast<std::size_t>(std::max({0, from_row, to_row})));
    if (from >= to) return;
    std::size_t there = 0;
    for (std::size_t g = from; g < to; ++g) there += gaps_[g].holds();
    for (; there < count; ++there) {  // the emptiest grows: lines stay evenly spaced
        const auto emptiest =
            std::min_element(gaps_.begin() + static_cast<std::ptrdiff_t>(from),
                             gaps_.begin() + static_cast<std::ptrdiff_t>(to),
                             [](const Gap& a, const Gap& b) { return a.holds() < b.holds(); });
        emptiest->slots = emptiest->holds() + 1;
    }
}

std::size_t StaveSlots::shortest_gap(const std::vector<Leg>& legs) const {
    constexpr double new_gap = 0.25, new_slot = 4;  // in rows: for each leg, for each slot more
    std::size_t best = 0;
    double shortest = std::numeric_limits<double>::infinity();
    for (std::size_t g = 0; g < gaps_.size(); ++g) {
        double sum = gaps_[g].body ? 0 : new_gap * static_cast<double>(legs.size());
        for (const Leg& leg : legs) {
            sum += std::abs(leg.row - (static_cast<double>(g) + 0.5));
            const auto at = static_cast<int>(g);
            const int between = leg.row <= at ? at - leg.row : leg.row - at - 1;
            sum += new_slot * std::max(0, static_cast<int>(leg.parts) - between);
        }
        if (sum < shortest) shortest = sum, best = g;
    }
    return best;
}

void StaveSlots::need_beside_body(std::size_t gap, bool above, int to, std::size_t count) {
    std::size_t there = above ? gaps_[gap].above : gaps_[gap].below;
    const auto row = static_cast<std::size_t>(std::max(0, to));
    if (above)
        for (std::size_t g = row; g < gap; ++g) there += gaps_[g].holds();
    else
        for (std::size_t g = gap + 1; g < row && g < gaps_.size(); ++g) there += gaps_[g].holds();
    if (there < count) (above ? gaps_[gap].above : gaps_[gap].below) += count - there;
}

double StaveSlots::least_of(const Gap& gap, const StaveHeights& least) {
    const double body = gap.body ? least.body + least.slot * static_cast<double>(gap.above + gap.below) : 0;
    return std::max({least.gap, least.slot * static_cast<double>(gap.slots), body});
}

double StaveSlots::least_height(const StaveHeights& least) const {
    double sum = 0;
    for (const Gap& gap : gaps_) sum += least_of(gap, least);
    return sum;
}

std::vector<double> StaveSlots::gaps(const StaveHeights& least, double widest, double height) const {
    double low_sum = 0, high_sum = 0;
    std::vector<double> low, high;
    for (const Gap& gap : gaps_) {
        low.push_back(least_of(gap, least));
        const double slots = static_cast<double>(std::max<std::size_t>(gap.slots, gap.above + gap.below));
        high.push_back(std::max({low.back(), widest, 1.5 * least.slot * slots}));
        low_sum += low.back(), high_sum += high.back();
    }
    const double share =
        high_sum > low_sum ? std::clamp((height - low_sum) / (high_sum - low_sum), 0.0, 1.0) : 0;
    for (std::size_t g = 0; g < low.size(); ++g) low[g] += share * (high[g] - low[g]);
    return low;
}

double StaveSlots::body_middle(std::size_t gap, double upper, double lower, double slot,
                               double height) const {
    const Gap& g = gaps_[gap];
    const double above = slot * static_cast<double>(g.above), below = slot * static_cast<double>(g.below);
    const double spare = lower - upper - above - below - height;
    return spare < 0 ? (upper + lower) / 2 : upper + above + spare / 2 + height / 2;
}

namespace {

/// How far `count` symbols in one stretch are from where they would stand without lines.
double off_by(double from, double to, std::size_t count, const double* ideal) {
    double sum = 0;
    for (std::size_t j = 0; j < count; ++j)
        sum += std::abs(from + (static_cast<double>(j) + 0.5) * (to - from) / static_cast<double>(count) -
                        ideal[j]);
    return sum;
}

}  // namespace

std::vector<double> spread_between(double top, double bottom, const std::vector<double>& lines,
                                   std::size_t count, double slot) {
    std::vector<double> ideal(count);
    for (std::size_t k = 0; k < count; ++k)
        ideal[k] = top + (static_cast<double>(k) + 0.5) * (bottom - top) / static_cast<double>(count);
    std::vector<double> edges{top};
    edges.insert(edges.end(), lines.begin(), lines.end());
    edges.push_back(bottom);
    const std::size_t stretches = edges.size() - 1;
    // cheapest[k]: the first k symbols in the stretches so far; taken[s][k]: how many of them in stretch s
    constexpr double never = std::numeric_limits<double>::infinity();
    std::vector<double> cheapest(count + 1, never);
    cheapest[0] = 0;
    std::vector<std::vector<std::size_t>> taken(stretches, std::vector<std::size_t>(count + 1, 0));
    for (std::size_t s = 0; s < stretches; ++s) {
        const double length = edges[s + 1] - edges[s];
        const auto holds = static_cast<std::size_t>(std::max(0.0, std::floor(length / slot + 1e-6)));
        std::vector<double> next(count + 1, never);
        for (std::size_t k = 0; k <= count; ++k)
            for (std::size_t here = 0; here <= std::min(holds, k); ++here) {
                if (cheapest[k - here] == never) continue;
                const double cost =
                    cheapest[k - here] + (here ? off_by(edges[s], edges[s + 1], here, &ideal[k - here]) : 0);
                if (cost < next[k]) next[k] = cost, taken[s][k] = here;
            }
        cheapest = std::move(next);
    }
    if (cheapest[count] == never) return ideal;  // no room beside the lines
    std::vector<double> middles(count);
    std::size_t left = count;
    for (std::size_t s = stretches; s-- > 0;) {
        const std::size_t here = taken[s][left];
        for (std::size_t j = 0; j < here; ++j)
            middles[left - here + j] = edges[s] + (static_cast<double>(j) + 0.5) * (edges[s + 1] - edges[s]) /
                                                      static_cast<double>(here);
        left -= here;
    }
    return middles;
}

}  // namespace elkit
