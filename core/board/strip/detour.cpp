#include <algorithm>
#include <cstdlib>
#include <functional>
#include <limits>
#include <queue>
#include <utility>

#include "board/strip/strips.hpp"

namespace elkit {
namespace {

constexpr std::size_t nowhere = std::numeric_limits<std::size_t>::max();
constexpr int link_price = 100, along_price = 1;  // for each link, and for each hole it or the strip is long

class DetourSearch {
  public:
    DetourSearch(const Strips& strips, std::size_t net)
        : strips_(strips),
          net_(static_cast<int>(net)),
          may_begin_(strips.may_begin(net_)),
          states_(2 * static_cast<std::size_t>(strips.rows() * strips.columns())) {}

    Detour find() {
        const auto& own = strips_.segments_of(static_cast<std::size_t>(net_));
        const std::size_t from = own.front();
        for (const std::size_t k : own) {
            const bool near = strips_.joined(k, from);
            for (int c = 0; c < strips_.columns(); ++c)
                if (const auto& s = strips_.segments()[k]; strips_.may_take(s, c)) {
                    State& leaves = states_[index({c, s.row}, true)];
                    (near ? leaves.segment : states_[index({c, s.row}, false)].segment) = k;
                    if (near) reach(index({c, s.row}, true), 0, nowhere);
                }
        }
        while (!waiting_.empty()) {
            const auto [cost, i] = waiting_.top();
            waiting_.pop();
            if (cost > states_[i].cost) continue;
            if (i % 2 == 0 && states_[i].segment != nowhere) return way_to(i);
            if (i % 2 == 1)
                drop(i);
            else
                go_along(i);
        }
        return {};
    }

  private:
    /// A hole where a link ends, or one where the next begins.
    struct State {
        int cost = std::numeric_limits<int>::max();
        std::size_t before = nowhere;
        std::size_t segment = nowhere;  // of the net, that one may leave from or come to here
    };
    std::size_t index(Hole h, bool leaves) const {
        return 2 * static_cast<std::size_t>(h.row * strips_.columns() + h.column) + (leaves ? 1 : 0);
    }
    Hole hole(std::size_t i) const {
        const int place = static_cast<int>(i / 2);
        return {place % strips_.columns(), place / strips_.columns()};
    }
    void reach(std::size_t i, int cost, std::size_t before) {
        if (cost >= std::min(states_[i].cost, arrives_)) return;
        states_[i].cost = cost, states_[i].before = before;
        if (i % 2 == 0 && states_[i].segment != nowhere) arrives_ = cost;
        waiting_.emplace(cost, i);
    }
    /// Links up and down to where the net has a piece, or may begin one.
    void drop(std::size_t i) {
        const Hole here = hole(i);
        for (const int step : {-1, 1})
            for (int row = here.row + step; row >= 0 && row < strips_.rows(); row += step) {
                if (strips_.covered({here.column, row})) break;
                const std::size_t there = index({here.column, row}, false);
                if (states_[there].segment == nowhere && !may_begin_[there / 2]) continue;
                reach(there, states_[i].cost + link_price + along_price * std::abs(row - here.row), i);
            }
    }
    /// Along a strip to where another link may begin.
    void go_along(std::size_t i) {
        const Hole here = hole(i);
        for (const int step : {-1, 1})
            for (int c = here.column + step; c >= 0 && c < strips_.columns(); c += step) {
                if (strips_.at({c, here.row}) != Strips::free_hole) break;
                if (const std::size_t there = index({c, here.row}, true); may_begin_[there / 2])
                    reach(there, states_[i].cost + along_price * std::abs(c - here.column), i);
            }
    }
    Detour way_to(std::size_t end) const {
        Detour d{nowhere, states_[end].segment, {}};
        for (std::size_t i = end; i != nowhere; i = states_[i].before) {
            if (i % 2 == 1 && states_[i].before == nowhere) d.from = states_[i].segment;
            if (i % 2 == 0) d.links.push_back({hole(i).column, hole(states_[i].before).row, hole(i).row});
        }
        std::reverse(d.links.begin(), d.links.end());
        return d;
    }

    const Strips& strips_;
    int net_;
    std::vector<char> may_begin_;  // by hole
    std::vector<State> states_;
    int arrives_ = std::numeric_limits<int>::max();  // the cheapest way so far
    std::priority_queue<std::pair<int, std::size_t>, std::vector<std::pair<int, std::size_t>>, std::greater<>>
        waiting_;
};

}  // namespace

Detour find_detour(const Strips& strips, std::size_t net) { return DetourSearch(strips, net).find(); }

}  // namespace elkit
