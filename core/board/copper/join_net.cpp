// The tree of one net: from end to nearest end, through what was pulled by hand.
#include <algorithm>
#include <cmath>
#include <numeric>

#include "board/copper/router.hpp"
#include "quantity/stop.hpp"

namespace elkit {

CopperRouter::Passed::Passed(std::size_t ends) : group(ends), left_out(ends, false) {
    std::iota(group.begin(), group.end(), std::size_t{0});
}

void CopperRouter::pull(const std::vector<TrackPull>& pulls) {
    for (const TrackPull& p : pulls) {
        const auto name = std::find(names_.begin(), names_.end(), p.net);
        const auto index = static_cast<int>(name - names_.begin());
        const int layer = p.component_side && grid_.copper_layers() > 1 ? component_side : solder_side;
        int nearest = -1;
        double least = pull_reach;
        for (int r = 0; r < grid_.rows(); ++r)
            for (int c = 0; c < grid_.columns(); ++c) {
                const int n = grid_.node(layer, c, r);
                const double far = distance(grid_.point(n), {p.x, p.y});
                if (far < least && grid_.may_lie(RouteGrid::track, n, index)) least = far, nearest = n;
            }
        if (name == names_.end() || nearest < 0 || nets_[static_cast<std::size_t>(index)].ends.size() < 2)
            continue;
        Net& net = nets_[static_cast<std::size_t>(index)];
        net.ends.push_back({nearest}), ++net.pulled;
    }
}

std::vector<Unjoined> CopperRouter::missing() const {
    std::vector<Unjoined> all;
    for (const Net& net : nets_) {
        if (net.complete) continue;
        Passed passed = taken_up(net);
        const std::size_t pads = net.ends.size() - net.pulled;
        for (;;) {
            Unjoined shortest{net.name, {}, {}};
            std::size_t from = 0, to = 0;
            double least = 1e9;
            for (std::size_t i = 0; i < pads; ++i)
                for (std::size_t k = 0; k < i; ++k) {
                    if (passed.group[i] == passed.group[k]) continue;
                    const Point a = grid_.point(net.ends[i].front()), b = grid_.point(net.ends[k].front());
                    if (const double mm = distance(a, b); mm < least)
                        least = mm, from = i, to = k, shortest.a = a, shortest.b = b;
                }
            if (from == to) break;
            passed.join(from, to);
            all.push_back(std::move(shortest));
        }
    }
    return all;
}

/// As reach(), and again where the way has drilled too near to itself: a single search does not see its own
/// holes.
bool CopperRouter::reach_clear(int index, const std::vector<int>& tree, const std::vector<bool>& reached,
                               Press press, Way& way, std::size_t& end) {
    constexpr int patience = 8;
    bool found = reach(index, tree, reached, press, way, end);
    for (int tries = 0; tries < patience && found; ++tries) {
        const int hole = hole_too_near(way);
        if (hole < 0) break;
        visit(grid_.node(0, grid_.column_of(hole), grid_.row_of(hole))).own = net_mark_;
        way.clear();
        found = reach(index, tree, reached, press, way, end);
    }
    return found;
}

/// A way from each chip to its capacitor before all others, so that it is short.
void CopperRouter::join_pairs(int index, Press press, Passed& passed) {
    Net& net = nets_[static_cast<std::size_t>(index)];
    for (const auto& [chip, capacitor] : net.pairs) {
        if (passed.group[chip] == passed.group[capacitor]) continue;
        std::vector<bool> reached(net.ends.size(), true);
        reached[capacitor] = false;
        Way way;
        std::size_t end = 0;
        if (!reach_clear(index, net.ends[chip], reached, press, way, end)) continue;
        mark_own(way);
        net.ways.push_back(std::move(way)), passed.way_of.push_back(chip);
        passed.join(chip, capacitor);
    }
}

/// Two ways from each pull, to ends that are not joined yet; the second keeps off the first, so that the pull
/// lies between and not at the end of a spur.
void CopperRouter::pass_pulls(int index, Press press, Passed& passed) {
    Net& net = nets_[static_cast<std::size_t>(index)];
    for (std::size_t p = net.ends.size() - net.pulled; p < net.ends.size(); ++p) {
        const int middle = net.ends[p].front();
        std::vector<Way> ways;
        Passed joined = passed;
        for (int side = 0; side < 2; ++side) {
            std::vector<bool> reached(net.ends.size());
            for (std::size_t k = 0; k < reached.size(); ++k) reached[k] = joined.group[k] == joined.group[p];
            if (std::find(reached.begin(), reached.end(), false) == reached.end()) break;
            ++shut_mark_;
            if (!ways.empty())
                for (const int n : ways.front())
                    if (n != middle) visit(n).shut = shut_mark_;
            Way way;
            std::size_t end = 0;
            if (!reach_clear(index, {middle}, reached, press, way, end)) break;
            mark_own(way);
            ways.push_back(std::move(way));
            joined.join(p, end);
        }
        const bool met =
            std::count(passed.group.begin(), passed.group.end(), passed.group[p]) > 1;  // by a pull before
        if (ways.size() + (met ? 1 : 0) < 2) {
            passed.left_out[p] = !met;
            continue;
        }
        passed = std::move(joined);
        for (Way& way : ways) net.ways.push_back(std::move(way)), passed.way_of.push_back(p);
    }
    ++shut_mark_;
}

void CopperRouter::join(int index, Press press) {
    Net& net = nets_[static_cast<std::size_t>(index)];
    if (!net.kept) net.ways.clear();
    net.complete = true;
    ++net_mark_;
    if (net.ends.size() < 2) return;
    Passed passed = net.kept ? taken_up(net) : Passed(net.ends.size());
    net.kept = false;
    for (const Way& way : net.ways) mark_own(way);
    join_pairs(index, press, passed);
    pass_pulls(index, press, passed);
    std::vector<bool> reached = passed.left_out;
    std::vector<int> tree;
    const auto take_way = [&](const Way& way) {
        for (const int n : way)
            if (!grid_.is_link(grid_.layer_of(n))) tree.push_back(n);
    };
    const auto take = [&](std::size_t end) {  // with all that is joined to it already
        for (std::size_t k = 0; k < net.ends.size(); ++k)
            if (passed.group[k] == passed.group[end] && !reached[k]) {
                reached[k] = true;
                tree.insert(tree.end(), net.ends[k].begin(), net.ends[k].end());
            }
        for (std::size_t w = 0; w < passed.way_of.size(); ++w)
            if (passed.group[passed.way_of[w]] == passed.group[end]) take_way(net.ways[w]);
    };
    take(0);
    for (;;) {
        stop_point();
        const auto left = std::find(reached.begin(), reached.end(), false);
        if (left == reached.end()) return;
        Way way;
        std::size_t end = 0;
        if (!reach_clear(index, tree, reached, press, way, end)) {
            net.complete = false;
            // what is left may still be joined among itself: the next begins a tree of its own
            tree.clear();
            take(static_cast<std::size_t>(left - reached.begin()));
            continue;
        }
        take(end);
        take_way(way);
        mark_own(way);
        if (!way.empty()) net.ways.push_back(std::move(way));
    }
}

}  // namespace elkit
