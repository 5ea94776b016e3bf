#include "board/pad/kept_joints.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <map>
#include <utility>

namespace elkit {
namespace {

constexpr int furthest = 1000;  // holes: what lies beyond is on no board

double middle(int hole) { return (hole + 0.5) * hole_pitch; }

WayCorner corner(WayCorner::On on, Hole h) { return {on, middle(h.column), middle(h.row)}; }

Hole hole(const WayCorner& c, Hole shift) {
    const auto of = [](double mm) {
        return static_cast<int>(
            std::lround(std::clamp(mm / hole_pitch - 0.5, -1.0 * furthest, 1.0 * furthest)));
    };
    return {of(c.x) + shift.column, of(c.y) + shift.row};
}

/// From hole to hole of a straight run; nothing if it is none.
std::vector<Bridge> steps(Hole a, Hole b) {
    std::vector<Bridge> all;
    if ((a.column != b.column) == (a.row != b.row) || holes_between(a, b) > furthest) return all;
    const Hole step{(b.column > a.column) - (b.column < a.column), (b.row > a.row) - (b.row < a.row)};
    for (Hole at = a; at != b;) {
        const Hole next{at.column + step.column, at.row + step.row};
        all.push_back({at, next});
        at = next;
    }
    return all;
}

}  // namespace

std::vector<TrackWay> ways_of_pads(const HoleLayout& l) {
    const auto nets = hole_nets(l);
    // runs along rows, then along columns: from each line, the steps in it by where they begin
    std::map<std::pair<std::string, int>, std::vector<int>> rows, columns;
    for (const Bridge& b : l.bridges) {
        const std::string& net = nets.at(b.a);
        if (b.a.row == b.b.row)
            rows[{net, b.a.row}].push_back(std::min(b.a.column, b.b.column));
        else
            columns[{net, b.a.column}].push_back(std::min(b.a.row, b.b.row));
    }
    std::vector<TrackWay> ways;
    const auto runs = [&](auto& lines, bool along_rows) {
        for (auto& entry : lines) {
            const auto& line = entry.first;
            auto& begins = entry.second;
            std::sort(begins.begin(), begins.end());
            for (std::size_t k = 0; k < begins.size();) {
                std::size_t end = k + 1;
                while (end < begins.size() && begins[end] == begins[end - 1] + 1) ++end;
                const int from = begins[k], to = begins[end - 1] + 1;
                const auto at = [&](int along) {
                    return along_rows ? Hole{along, line.second} : Hole{line.second, along};
                };
                ways.push_back(
                    {line.first,
                     {corner(WayCorner::On::solder, at(from)), corner(WayCorner::On::solder, at(to))}});
                k = end;
            }
        }
    };
    runs(rows, true), runs(columns, false);
    for (const Wire& w : l.wires) {
        const auto on = w.kind == Wire::Kind::link ? WayCorner::On::component : WayCorner::On::link;
        ways.push_back({nets.at(w.a), {corner(on, w.a), corner(on, w.b)}});
    }
    return ways;
}

KeptJoints read_pad_ways(const std::vector<TrackWay>& ways, Hole shift) {
    KeptJoints kept;
    for (const TrackWay& way : ways)
        for (std::size_t k = 1; k < way.corners.size(); ++k) {
            const Hole from = hole(way.corners[k - 1], shift), to = hole(way.corners[k], shift);
            const auto straight = steps(from, to);
            switch (way.corners[k].on) {
                case WayCorner::On::link:
                    ++kept.jumpers;
                    break;
                case WayCorner::On::component:
                    if (straight.size() > 1) kept.links.push_back({way.net, from, to});
                    break;
                case WayCorner::On::solder:
                    for (const Bridge& b : straight) kept.joints.push_back({way.net, b});
                    break;
            }
        }
    return kept;
}

}  // namespace elkit
