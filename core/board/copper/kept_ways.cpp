// Ways that were laid before: taken up where they still join pins, and written down again.
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <map>
#include <numeric>
#include <set>

#include "board/copper/router.hpp"

namespace elkit {

/// The nodes from corner to corner; empty if some corner lies off the grid, or on a side that the board
/// lacks.
CopperRouter::Way CopperRouter::nodes_of(const TrackWay& way) const {
    constexpr double off_grid = 0.05;  // mm
    Way nodes;
    for (std::size_t k = 0; k < way.corners.size(); ++k) {
        const WayCorner& c = way.corners[k];
        const Point origin = grid_.point(0);
        const int column = static_cast<int>(std::lround((c.x - origin.x) / RouteGrid::pitch)),
                  row = static_cast<int>(std::lround((c.y - origin.y) / RouteGrid::pitch));
        if (column < 0 || row < 0 || column >= grid_.columns() || row >= grid_.rows()) return {};
        if (distance(grid_.point(grid_.node(0, column, row)), {c.x, c.y}) > off_grid) return {};
        int layer = c.on == WayCorner::On::component ? component_side : solder_side;
        if (c.on == WayCorner::On::link) {  // along x, or along y, as its other end lies
            const bool begins = k + 1 < way.corners.size() && way.corners[k + 1].on == WayCorner::On::link;
            const WayCorner& other = way.corners[begins ? k + 1 : k == 0 ? 0 : k - 1];
            layer = grid_.copper_layers() + (std::abs(other.y - c.y) > std::abs(other.x - c.x) ? 1 : 0);
        }
        if (layer >= grid_.layers() || (c.on != WayCorner::On::link && layer >= grid_.copper_layers()))
            return {};
        if (nodes.empty() || grid_.layer_of(nodes.back()) != layer) {
            const bool there = nodes.empty() ||
                               (grid_.column_of(nodes.back()) == column && grid_.row_of(nodes.back()) == row);
            if (!there) return {};
            nodes.push_back(grid_.node(layer, column, row));
            continue;
        }
        const int dc = column - grid_.column_of(nodes.back()), dr = row - grid_.row_of(nodes.back());
        if (dc != 0 && dr != 0 && std::abs(dc) != std::abs(dr)) return {};
        const int c0 = grid_.column_of(nodes.back()), r0 = grid_.row_of(nodes.back());
        const int sc = (dc > 0) - (dc < 0), sr = (dr > 0) - (dr < 0);
        for (int step = 1; step <= std::max(std::abs(dc), std::abs(dr)); ++step)
            nodes.push_back(grid_.node(layer, c0 + step * sc, r0 + step * sr));
    }
    return nodes;
}

/// True if the net's copper may lie there, and its holes be drilled.
bool CopperRouter::may_be_way(int net, const Way& way) const {
    if (way.size() < 2 || hole_too_near(way) >= 0) return false;
    for (std::size_t k = 0; k < way.size(); ++k) {
        if (!grid_.may_lie(RouteGrid::track, way[k], net)) return false;
        if (k == 0 || grid_.layer_of(way[k]) == grid_.layer_of(way[k - 1])) continue;
        const int a = grid_.layer_of(way[k - 1]), b = grid_.layer_of(way[k]);
        if (grid_.is_link(a) && grid_.is_link(b)) return false;
        if (!grid_.may_drill(way[k], -1))
            return false;  // links keep their lengths, wherever the board begins
        for (int copper = 0; copper < grid_.copper_layers(); ++copper)
            if (!grid_.may_lie(RouteGrid::land,
                               grid_.node(copper, grid_.column_of(way[k]), grid_.row_of(way[k])), net))
                return false;
    }
    // a link hangs between two holes
    return !grid_.is_link(grid_.layer_of(way.front())) && !grid_.is_link(grid_.layer_of(way.back()));
}

/// Takes away what ends at no pin and on no other way: where a part was moved away.
void CopperRouter::drop_spurs(Net& net) const {
    for (bool dropped = true; dropped;) {
        std::map<int, int> there;  // how many lie at this node
        for (const auto& end : net.ends)
            for (const int n : end) ++there[n];
        for (const Way& way : net.ways)
            for (const int n : std::set<int>(way.begin(), way.end()))
                if (!grid_.is_link(grid_.layer_of(n))) ++there[n];
        const auto before = net.ways.size();
        std::erase_if(net.ways,
                      [&](const Way& way) { return there[way.front()] < 2 || there[way.back()] < 2; });
        dropped = net.ways.size() < before;
    }
}

/// What the ways of a net join already.
CopperRouter::Passed CopperRouter::taken_up(const Net& net) const {
    Passed passed(net.ends.size());
    constexpr std::size_t nothing = static_cast<std::size_t>(-1);
    // ends first, then ways: those that touch are one group
    std::vector<std::size_t> group(net.ends.size() + net.ways.size());
    std::iota(group.begin(), group.end(), std::size_t{0});
    std::map<int, std::size_t> at;
    const auto touch = [&](int node, std::size_t who) {
        if (grid_.is_link(grid_.layer_of(node))) return;
        const auto [was, fresh] = at.emplace(node, who);
        if (fresh) return;
        const std::size_t from = group[who], to = group[was->second];
        std::replace(group.begin(), group.end(), from, to);
    };
    for (std::size_t k = 0; k < net.ends.size(); ++k)
        for (const int n : net.ends[k]) touch(n, k);
    for (std::size_t w = 0; w < net.ways.size(); ++w)
        for (const int n : net.ways[w]) touch(n, net.ends.size() + w);
    std::map<std::size_t, std::size_t> first;  // end of each group
    for (std::size_t k = net.ends.size(); k-- > 0;) first[group[k]] = k;
    for (std::size_t k = 0; k < net.ends.size(); ++k) passed.group[k] = first[group[k]];
    for (std::size_t w = 0; w < net.ways.size(); ++w) {
        const auto end = first.find(group[net.ends.size() + w]);
        passed.way_of.push_back(end == first.end() ? nothing : end->second);
    }
    return passed;
}

/// Says whether the ways of a net are worth keeping, and whether they join all of it.
void CopperRouter::take_up(Net& net) const {
    drop_spurs(net);
    net.kept = false;
    if (net.ways.empty()) return;
    const Passed passed = taken_up(net);
    bool sound = std::all_of(passed.way_of.begin(), passed.way_of.end(),
                             [&](std::size_t end) { return end < net.ends.size(); });
    // one that does not pass where it was pulled to is laid anew
    for (std::size_t p = net.ends.size() - net.pulled; p < net.ends.size(); ++p)
        sound &= std::count(passed.group.begin(), passed.group.end(), passed.group[p]) > 1;
    if (!sound) return net.ways.clear();
    net.kept = true;
    net.complete = std::all_of(passed.group.begin(), passed.group.end(),
                               [&](std::size_t g) { return g == passed.group.front(); });
}

/// Takes away the ways of a net that lie too near to others; to be asked when it has left the grid.
void CopperRouter::drop_crowded(Net& net) const {
    std::erase_if(net.ways, [&](const Way& way) {
        for (std::size_t k = 0; k < way.size(); ++k) {
            if (grid_.crowd(RouteGrid::track, way[k]) > 0) return true;
            if (k == 0 || grid_.layer_of(way[k]) == grid_.layer_of(way[k - 1])) continue;
            for (const int end : {way[k - 1], way[k]})
                if (!grid_.is_link(grid_.layer_of(end)) && grid_.crowd(RouteGrid::land, end) > 0) return true;
        }
        return false;
    });
    take_up(net);
}

void CopperRouter::keep(const std::vector<TrackWay>& ways) {
    for (const TrackWay& way : ways) {
        const auto name = std::find(names_.begin(), names_.end(), way.net);
        if (name == names_.end()) continue;
        const auto index = static_cast<int>(name - names_.begin());
        Way nodes = nodes_of(way);
        if (may_be_way(index, nodes)) nets_[static_cast<std::size_t>(index)].ways.push_back(std::move(nodes));
    }
    for (Net& net : nets_) {
        take_up(net);
        if (!net.kept) continue;
        gently_ = true;
        enter(net);
    }
}

std::vector<TrackWay> CopperRouter::ways() const {
    std::vector<TrackWay> all;
    for (const Net& net : nets_)
        for (const Way& way : net.ways) {
            TrackWay written{net.name, {}};
            for (std::size_t k = 0; k < way.size(); ++k) {
                const auto step = [&](std::size_t from) {
                    return std::array{grid_.layer_of(way[from + 1]) - grid_.layer_of(way[from]),
                                      grid_.column_of(way[from + 1]) - grid_.column_of(way[from]),
                                      grid_.row_of(way[from + 1]) - grid_.row_of(way[from])};
                };
                if (k > 0 && k + 1 < way.size() && step(k - 1) == step(k)) continue;
                const int layer = grid_.layer_of(way[k]);
                const Point p = grid_.point(way[k]);
                written.corners.push_back({grid_.is_link(layer)      ? WayCorner::On::link
                                           : layer == component_side ? WayCorner::On::component
                                                                     : WayCorner::On::solder,
                                           p.x, p.y});
            }
            if (written.corners.size() > 1) all.push_back(std::move(written));
        }
    return all;
}

}  // namespace elkit
