#include <algorithm>
#include <map>
#include <numeric>
#include <queue>

#include "board/pad/layout.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

/// Which net owns each pad; −1 free, −2 a lead without a net.
class Grid {
  public:
    Grid(int columns, int rows)
        : columns_(columns), rows_(rows), owner_(static_cast<std::size_t>(columns * rows), -1) {}
    bool has(Hole h) const { return h.column >= 0 && h.row >= 0 && h.column < columns_ && h.row < rows_; }
    int& at(Hole h) { return owner_[index(h)]; }
    int at(Hole h) const { return owner_[index(h)]; }
    std::size_t index(Hole h) const {
        return static_cast<std::size_t>(h.row) * static_cast<std::size_t>(columns_) +
               static_cast<std::size_t>(h.column);
    }
    Hole hole(std::size_t i) const {
        return {static_cast<int>(i) % columns_, static_cast<int>(i) / columns_};
    }
    std::size_t size() const { return owner_.size(); }

  private:
    int columns_, rows_;
    std::vector<int> owner_;
};

constexpr Hole directions[]{{1, 0}, {0, 1}, {-1, 0}, {0, -1}};
Hole operator+(Hole a, Hole b) { return {a.column + b.column, a.row + b.row}; }

/// What a pad is to the net being routed.
enum class Mark : char { none, joined, wanted };

/// Shortest way over free or own pads from the joined pads to any wanted one (Dijkstra); pads beside another
/// net cost more, since solder may creep there. Empty if there is none.
std::vector<Hole> find_way(const Grid& grid, int net, const std::vector<Mark>& marks) {
    std::vector<double> distance(grid.size(), 1e9);
    std::vector<std::size_t> before(grid.size(), grid.size());
    using Entry = std::pair<double, std::size_t>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    for (std::size_t i = 0; i < marks.size(); ++i)
        if (marks[i] == Mark::joined) {
            distance[i] = 0;
            open.emplace(0, i);
        }
    while (!open.empty()) {
        const auto [d, i] = open.top();
        open.pop();
        if (d > distance[i]) continue;
        const Hole here = grid.hole(i);
        if (marks[i] == Mark::wanted) {
            std::vector<Hole> way;
            for (std::size_t k = i; k != grid.size(); k = before[k]) way.push_back(grid.hole(k));
            return way;
        }
        for (const Hole step : directions) {
            const Hole next = here + step;
            if (!grid.has(next) || (grid.at(next) != -1 && grid.at(next) != net)) continue;
            double cost = 1;
            for (const Hole side : directions)
                if (const Hole n = next + side; grid.has(n) && grid.at(n) != -1 && grid.at(n) != net)
                    cost += 0.3;
            if (d + cost < distance[grid.index(next)]) {
                distance[grid.index(next)] = d + cost;
                before[grid.index(next)] = i;
                open.emplace(d + cost, grid.index(next));
            }
        }
    }
    return {};
}

struct Attempt {
    std::vector<Bridge> bridges;
    std::vector<Jumper> jumpers;
    std::vector<std::size_t> failed;  ///< nets with a jumper, in the order they were tried
};

/// Routes the nets in the given order; what finds no way gets a jumper.
Attempt attempt(Grid grid, const std::vector<std::vector<Hole>>& pads,
                const std::vector<std::size_t>& order) {
    Attempt out;
    std::vector<Mark> marks(grid.size());
    for (const std::size_t net : order) {
        stop_point();
        std::fill(marks.begin(), marks.end(), Mark::none);
        for (const Hole h : pads[net]) marks[grid.index(h)] = Mark::wanted;
        marks[grid.index(pads[net].front())] = Mark::joined;
        const auto lone = [&] {
            return std::find_if(pads[net].begin(), pads[net].end(),
                                [&](Hole h) { return marks[grid.index(h)] == Mark::wanted; });
        };
        while (lone() != pads[net].end()) {
            const auto way = find_way(grid, static_cast<int>(net), marks);
            if (way.empty()) {
                const Hole to = *lone();
                Hole nearest = pads[net].front();
                const auto far = [&](Hole h) {
                    return std::abs(h.column - to.column) + std::abs(h.row - to.row);
                };
                for (const Hole h : pads[net])
                    if (marks[grid.index(h)] == Mark::joined && far(h) < far(nearest)) nearest = h;
                out.jumpers.push_back({nearest, to});
                if (out.failed.empty() || out.failed.back() != net) out.failed.push_back(net);
                marks[grid.index(to)] = Mark::joined;
                continue;
            }
            for (std::size_t k = 1; k < way.size(); ++k) out.bridges.push_back({way[k - 1], way[k]});
            for (const Hole h : way) {
                grid.at(h) = static_cast<int>(net);
                marks[grid.index(h)] = Mark::joined;
            }
        }
    }
    return out;
}

}  // namespace

void route_board(PadLayout& layout) {
    Grid grid(layout.columns, layout.rows);
    std::map<std::string, std::size_t> index;
    std::vector<std::vector<Hole>> pads;
    for (const auto& pin : layout.pins) {
        if (pin.net.empty()) {
            grid.at(pin.hole) = -2;
            continue;
        }
        const auto [at, fresh] = index.emplace(pin.net, pads.size());
        if (fresh) pads.emplace_back();
        pads[at->second].push_back(pin.hole);
        grid.at(pin.hole) = static_cast<int>(at->second);
    }
    std::vector<std::size_t> order(pads.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto reach = [&](std::size_t n) {
        int c0 = 1 << 20, c1 = -1, r0 = 1 << 20, r1 = -1;
        for (const Hole h : pads[n])
            c0 = std::min(c0, h.column), c1 = std::max(c1, h.column), r0 = std::min(r0, h.row),
            r1 = std::max(r1, h.row);
        return c1 - c0 + r1 - r0;
    };
    std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return reach(a) < reach(b); });
    // Short nets first; then every net once moved to the front, as rip-up would do. The best attempt counts.
    Attempt best = attempt(grid, pads, order);
    const auto score = [](const Attempt& a) { return 10 * a.jumpers.size() + a.bridges.size(); };
    const auto first = [&](std::size_t k) {  // the k-th net moved to the front
        auto trial = order;
        std::rotate(trial.begin(), trial.begin() + static_cast<std::ptrdiff_t>(k),
                    trial.begin() + static_cast<std::ptrdiff_t>(k) + 1);
        Attempt a = attempt(grid, pads, trial);
        if (score(a) < score(best)) best = std::move(a), order = trial;
    };
    constexpr std::size_t few = 16, most_failed = 8;
    if (order.size() <= few)
        for (int pass = 0; pass < 2; ++pass)
            for (std::size_t k = 1; k < order.size(); ++k) first(k);
    else  // of many nets only those that found no way
        for (std::size_t n = 0; n < std::min(best.failed.size(), most_failed); ++n)
            first(static_cast<std::size_t>(std::find(order.begin(), order.end(), best.failed[n]) -
                                           order.begin()));
    layout.bridges = std::move(best.bridges);
    layout.jumpers = std::move(best.jumpers);
}

}  // namespace elkit
