#include "board/copper/router.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>

#include "board/copper/supply_pairs.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

struct Step {
    int column, row;
    float length;
};
constexpr std::array<Step, 8> steps{{{1, 0, 1.F},
                                     {1, 1, 1.41421356F},
                                     {0, 1, 1.F},
                                     {-1, 1, 1.41421356F},
                                     {-1, 0, 1.F},
                                     {-1, -1, 1.41421356F},
                                     {0, -1, 1.F},
                                     {1, -1, 1.41421356F}}};
constexpr std::size_t many_parts = 30;
constexpr float eager = 1.5F;  // weighted A* (Pohl, Artificial Intelligence 1, 1970): at most so much longer
// in steps of the grid
constexpr float bend_price = 0.12F, plated_via_price = 9, wire_via_price = 28, link_end_price = 24;

float octile(int dx, int dy) {
    const auto a = static_cast<float>(std::abs(dx)), b = static_cast<float>(std::abs(dy));
    return std::max(a, b) + 0.41421356F * std::min(a, b);
}

}  // namespace

CopperRouter::CopperRouter(const CopperLayout& placed, std::vector<std::string> nets, double width)
    : names_(std::move(nets)), grid_(placed, names_, width) {
    via_price_ = placed.making.plated ? plated_via_price : wire_via_price;
    if (placed.layers == 1 && placed.parts.size() > many_parts) eager_ = eager;
    nets_.resize(names_.size());
    for (std::size_t k = 0; k < names_.size(); ++k) nets_[k].name = names_[k];
    for (const CopperPad& pad : placed.pads) {
        if (pad.net.empty()) continue;
        const auto at = std::find(names_.begin(), names_.end(), pad.net);
        Net& net = nets_[static_cast<std::size_t>(at - names_.begin())];
        net.ends.push_back(grid_.nodes_of(pad));
    }
    for (const SupplyPair& pair : supply_pairs(placed.parts))
        for (std::size_t k = 0; k < 2; ++k) {
            const auto name = std::find(names_.begin(), names_.end(), pair.nets[k]);
            Net& net = nets_[static_cast<std::size_t>(name - names_.begin())];
            std::size_t end = 0, chip = placed.pads.size(), capacitor = placed.pads.size();
            const auto is_pad = [&](const CopperPad& pad, std::size_t part, const std::string& pin) {
                return pad.designator == placed.parts[part].part->designator && pad.pin == pin;
            };
            for (const CopperPad& pad : placed.pads) {
                if (pad.net != pair.nets[k]) continue;
                if (is_pad(pad, pair.chip, pair.chip_pins[k])) chip = end;
                if (is_pad(pad, pair.capacitor, pair.capacitor_pins[k])) capacitor = end;
                ++end;
            }
            if (chip < end && capacitor < end) net.pairs.emplace_back(chip, capacitor);
        }
    const std::size_t all = grid_.nodes() * static_cast<std::size_t>(grid_.layers());
    visits_.assign(all, {});
}

bool CopperRouter::route(int rounds) {
    std::vector<int> order(nets_.size());
    for (std::size_t k = 0; k < order.size(); ++k) order[k] = static_cast<int>(k);
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
        return nets_[static_cast<std::size_t>(a)].ends.size() <
               nets_[static_cast<std::size_t>(b)].ends.size();
    });
    std::vector<bool> again;
    for (Net& net : nets_) again.push_back(!net.entered || !net.complete || crowded(net, false));
    constexpr int gentle_from = 8, whole_each = 4, patience = 12;  // rounds
    double press = 0.6;
    unfinished_ = nets_.size();
    for (int round = 0, fewest_at = 0; round < rounds && round < fewest_at + patience && !late(); ++round) {
        // once most of them have found their place, only what is in the way of others looks for another
        const bool gently = gently_ || (round >= gentle_from && round % whole_each != 0);
        for (const int n : order) {
            Net& net = nets_[static_cast<std::size_t>(n)];
            if (!again[static_cast<std::size_t>(n)]) continue;
            leave(net);
            if (gently) drop_crowded(net);
            join(n, {press, false});
            enter(net);
        }
        std::size_t left = 0;
        for (std::size_t k = 0; k < nets_.size(); ++k) {
            again[k] = crowded(nets_[k], true) || !nets_[k].complete;
            left += again[k];
        }
        if (left < unfinished_) unfinished_ = left, fewest_at = round;
        if (left == 0) return true;
        press = std::min(press * 1.35, 400.0);
    }
    return false;
}

/// Leaves the grid, by hand only with what lies in the way of others.
void CopperRouter::clear_way(Net& net) {
    leave(net);
    if (gently_)
        drop_crowded(net);
    else
        net.ways.clear();
    if (net.kept) enter(net);  // what is left of it is in no one's way
}

/// The net by ways that are free; false if some of it finds none.
bool CopperRouter::join_freely(int index) {
    Net& net = nets_[static_cast<std::size_t>(index)];
    leave(net);
    join(index, {0, true});
    enter(net);
    return net.complete;
}

std::vector<std::string> CopperRouter::settle() {
    std::deque<int> out;
    for (;;) {  // the shortest go first: they find another way more easily
        int shortest = -1;
        for (std::size_t k = 0; k < nets_.size(); ++k)
            if (nets_[k].entered && crowded(nets_[k], false) &&
                (shortest < 0 ||
                 nets_[k].claim.nodes.size() < nets_[static_cast<std::size_t>(shortest)].claim.nodes.size()))
                shortest = static_cast<int>(k);
        if (shortest < 0) break;
        clear_way(nets_[static_cast<std::size_t>(shortest)]);
        out.push_back(shortest);
    }
    // what finds no free way pushes others out of its own, at a price that rises, and they look again
    std::vector<int> pushed(nets_.size(), 0);
    for (int patience = 2 * static_cast<int>(nets_.size()); patience > 0 && !out.empty() && !late();
         --patience) {
        const int n = out.front();
        out.pop_front();
        if (join_freely(n)) continue;
        Net& net = nets_[static_cast<std::size_t>(n)];
        leave(net);
        join(n, {4.0 * ++pushed[static_cast<std::size_t>(n)], false});
        enter(net);
        std::vector<int> aside;
        for (std::size_t k = 0; k < nets_.size(); ++k)
            if (static_cast<int>(k) != n && nets_[k].entered && crowded(nets_[k], true))
                aside.push_back(static_cast<int>(k));
        for (const int k : aside) clear_way(nets_[static_cast<std::size_t>(k)]);
        out.insert(out.end(), aside.begin(), aside.end());
    }
    for (const int n : out) join_freely(n);
    std::vector<std::string> open;
    for (const Net& net : nets_)
        if (!net.complete) open.push_back(net.name);
    return open;
}

std::vector<CopperRouter::Found> CopperRouter::found() const {
    std::vector<Found> all;
    for (const Net& net : nets_) all.push_back({net.name, net.ways});
    return all;
}

void CopperRouter::leave(Net& net) {
    if (net.entered) grid_.leave(net.claim);
    net.entered = false;
}

void CopperRouter::enter(Net& net) {
    RouteGrid::Claim& claim = net.claim;
    claim.nodes.clear(), claim.diagonals.clear();
    for (const Way& way : net.ways)
        for (std::size_t k = 0; k < way.size(); ++k) {
            claim.nodes.emplace_back(RouteGrid::track, way[k]);
            if (k == 0) continue;
            const int a = way[k - 1], b = way[k];
            if (grid_.layer_of(a) != grid_.layer_of(b)) {
                for (const int end : {a, b})
                    if (!grid_.is_link(grid_.layer_of(end))) claim.nodes.emplace_back(RouteGrid::land, end);
            } else if (grid_.column_of(a) != grid_.column_of(b) && grid_.row_of(a) != grid_.row_of(b)) {
                claim.diagonals.emplace_back(a, b);
            }
        }
    grid_.enter(claim);
    net.entered = true;
}

/// True if it lies too near to another; what is crowded then costs more for all.
bool CopperRouter::crowded(Net& net, bool note) {
    bool any = false;
    const auto look = [&](RouteGrid::Width w, int node) {
        if (grid_.crowd(w, node) <= 1) return;
        any = true;
        if (note) visit(node).worn += 0.6F;
    };
    for (const auto& [w, node] : net.claim.nodes) look(w, node);
    return any;
}

/// Holes of a net keep apart too, and so do its links.
void CopperRouter::mark_own(const Way& way) {
    const auto mark = [&](int layer, int node, int reach) {
        for (int r = grid_.row_of(node) - reach; r <= grid_.row_of(node) + reach; ++r)
            for (int c = grid_.column_of(node) - reach; c <= grid_.column_of(node) + reach; ++c)
                if (r >= 0 && c >= 0 && r < grid_.rows() && c < grid_.columns())
                    visit(grid_.node(layer, c, r)).own = net_mark_;
    };
    for (std::size_t k = 0; k < way.size(); ++k) {
        if (grid_.is_link(grid_.layer_of(way[k])))
            for (int layer = grid_.copper_layers(); layer < grid_.layers(); ++layer) mark(layer, way[k], 1);
        if (k > 0 && grid_.layer_of(way[k]) != grid_.layer_of(way[k - 1]))
            mark(0, way[k], grid_.holes_apart());
    }
}

/// A node where the way drills too near to where it drilled before; −1 if there is none.
int CopperRouter::hole_too_near(const Way& way) const {
    std::vector<int> drilled;
    for (std::size_t k = 1; k < way.size(); ++k) {
        if (grid_.layer_of(way[k]) == grid_.layer_of(way[k - 1])) continue;
        for (const int other : drilled)
            if (std::max(std::abs(grid_.column_of(other) - grid_.column_of(way[k])),
                         std::abs(grid_.row_of(other) - grid_.row_of(way[k]))) <= grid_.holes_apart())
                return way[k];
        drilled.push_back(way[k]);
    }
    return -1;
}

bool CopperRouter::reach(int index, const std::vector<int>& tree, const std::vector<bool>& reached,
                         Press press, Way& way, std::size_t& end) {
    const Net& net = nets_[static_cast<std::size_t>(index)];
    ++search_;
    int c0 = 1 << 20, c1 = 0, r0 = 1 << 20, r1 = 0;
    for (std::size_t k = 0; k < net.ends.size(); ++k) {
        if (reached[k]) continue;
        for (const int n : net.ends[k]) {
            visit(n).target = search_;
            c0 = std::min(c0, grid_.column_of(n)), c1 = std::max(c1, grid_.column_of(n));
            r0 = std::min(r0, grid_.row_of(n)), r1 = std::max(r1, grid_.row_of(n));
        }
    }
    const auto ahead = [&](int c, int r) {
        return eager_ * octile(std::max({0, c0 - c, c - c1}), std::max({0, r0 - r, r - r1}));
    };
    open_.clear();
    const auto offer = [&](int n, int column, int row, float cost, int from) {
        Visit& v = visit(n);
        if (v.seen == search_ && v.cost <= cost) return;
        v.seen = search_, v.cost = cost, v.from = from;
        open_.push(cost + ahead(column, row), {cost, n});
    };
    const auto no_better = [&](int n, float least) {  // than how it was reached before
        const Visit& v = visit(n);
        return v.seen == search_ && v.cost <= least;
    };
    for (const int n : tree) offer(n, grid_.column_of(n), grid_.row_of(n), 0, -1);
    const auto price = [&](RouteGrid::Width w, int n) -> float {  // below 0: no way
        if (!grid_.may_lie(w, n, index) || visit(n).shut == shut_mark_) return -1;
        const int crowd = grid_.crowd(w, n);
        if (crowd > 0 && press.strict) return -1;
        return visit(n).worn + static_cast<float>(press.price) * static_cast<float>(crowd);
    };
    const auto direction = [&](int from, int to) {
        const int dc = grid_.column_of(to) - grid_.column_of(from),
                  dr = grid_.row_of(to) - grid_.row_of(from);
        constexpr std::array<int, 9> of{5, 6, 7, 4, -1, 0, 3, 2, 1};  // of the steps, by row, then column
        return of[static_cast<std::size_t>(3 * (dr + 1) + dc + 1)];
    };
    while (!open_.empty()) {
        const auto [cost, n] = open_.pop();
        if (cost > visit(n).cost) continue;
        ++looks_;
        if (visit(n).target == search_) {
            for (int step = n; step >= 0; step = visit(step).from) way.push_back(step);
            std::reverse(way.begin(), way.end());
            for (std::size_t k = 0; k < net.ends.size(); ++k)
                if (!reached[k] && std::find(net.ends[k].begin(), net.ends[k].end(), n) != net.ends[k].end())
                    end = k;
            return true;
        }
        const int layer = grid_.layer_of(n), column = grid_.column_of(n), row = grid_.row_of(n);
        const int from = visit(n).from;
        const int came = from >= 0 && grid_.layer_of(from) == layer ? direction(from, n) : -1;
        for (int d = 0; d < 8; ++d) {
            const Step& s = steps[static_cast<std::size_t>(d)];
            const int c = column + s.column, r = row + s.row;
            if (c < 0 || r < 0 || c >= grid_.columns() || r >= grid_.rows()) continue;
            if (grid_.is_link(layer) && d % 4 != (layer == grid_.copper_layers() ? 0 : 2)) continue;
            const int next = grid_.node(layer, c, r);
            if (no_better(next, cost + s.length)) continue;
            const float extra = price(RouteGrid::track, next);
            if (extra < 0 || (grid_.is_link(layer) && visit(next).own == net_mark_)) continue;
            float bend = 0;
            if (came >= 0) {
                const int turn = std::min((d - came + 8) % 8, (came - d + 8) % 8);
                bend = bend_price * static_cast<float>(turn * turn);
            }
            offer(next, c, r, cost + s.length + bend + extra, n);
        }
        // to another layer
        for (int other = 0; other < grid_.layers(); ++other) {
            if (other == layer || (grid_.is_link(layer) && grid_.is_link(other))) continue;
            const bool link = grid_.is_link(layer) || grid_.is_link(other);
            const int link_layer = grid_.is_link(layer) ? layer : grid_.is_link(other) ? other : -1;
            const int next = grid_.node(other, column, row);
            if (no_better(next, cost + (link ? link_end_price : via_price_))) continue;
            if (visit(grid_.node(0, column, row)).own == net_mark_ || !grid_.may_drill(n, link_layer))
                continue;
            float extra = 0;
            bool free = true;
            for (int copper = 0; copper < grid_.copper_layers() && free; ++copper) {
                const float p = price(RouteGrid::land, grid_.node(copper, column, row));
                free = p >= 0, extra += std::max(p, 0.F);
            }
            if (link && free) {
                const float p = price(RouteGrid::track, grid_.node(link_layer, column, row));
                free = p >= 0, extra += std::max(p, 0.F);
            }
            if (!free) continue;
            offer(next, column, row, cost + extra + (link ? link_end_price : via_price_), n);
        }
    }
    return false;
}

}  // namespace elkit
