#include "board/pad/clusters.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "circuit/connectivity.hpp"

namespace elkit {
namespace {

/// A string from its first net down, hole under hole.
struct Column {
    std::vector<Cluster::Member> members;
    std::string from, to, parts;  ///< its end nets; what it is made of
    double left = 0, right = 0;   ///< holes that its bodies take to both sides
    int height = 0;
};

/// The part standing upright with the leg that hangs on `net` above, or nothing if it does not lie in a line.
std::optional<Placement> upright(const Part& part, const std::string& net) {
    const GridFootprint shape = on_grid(footprint(part));
    if (shape.edge || shape.pins.size() != 2 || shape.pins[1].second.row != 0) return std::nullopt;
    const bool first_above = part.net(shape.pins[0].first) == net;
    return Placement{
        part.designator, {0, first_above ? 0 : std::abs(shape.pins[1].second.column)}, first_above ? 1 : 3};
}

std::optional<Column> column_of(const Chain& chain) {
    Column column{{}, chain.from, chain.to, {}, 0, 0, 0};
    std::string net = chain.from;
    double below = -10;  // where the body above ends
    for (const Part* part : chain.parts) {
        auto at = upright(*part, net);
        if (!at) return std::nullopt;
        const GridFootprint shape = on_grid(footprint(*part));
        const int span = std::abs(shape.pins[1].second.column);
        const Box body = placed_body(shape, *at);
        at->at.row += std::max(column.height, static_cast<int>(std::ceil(below - body.y0 - 1e-6)));
        const Box there = placed_body(shape, *at);
        below = there.y1;
        column.left = std::min(column.left, there.x0), column.right = std::max(column.right, there.x1);
        column.height = at->at.row + (at->turn == 1 ? span : 0) + 1;
        column.parts += part->kind + footprint(*part).id + (at->turn == 1 ? "v " : "^ ");
        column.members.push_back({part, *at});
        net = part->pins.front().net == net ? part->pins.back().net : part->pins.front().net;
    }
    return column;
}

/// Columns in rows; between two rows a row of holes stays free, since other rails meet there.
Cluster in_rows(const std::vector<const Column*>& columns, int widest) {
    double width = 0;
    int height = 0;
    for (const Column* c : columns)
        width = std::max(width, c->right - c->left), height = std::max(height, c->height);
    const int pitch = std::max(1, static_cast<int>(std::ceil(width - 1e-6)));
    const auto count = static_cast<int>(columns.size());
    const int most = std::max(1, (widest - 2) / pitch), rows = (count + most - 1) / most,
              in_a_row = (count + rows - 1) / rows;
    Cluster cluster;
    for (int k = 0; k < count; ++k)
        for (Cluster::Member m : columns[static_cast<std::size_t>(k)]->members) {
            m.placement.at.column += k % in_a_row * pitch;
            m.placement.at.row += k / in_a_row * (height + 1);
            cluster.members.push_back(m);
        }
    return cluster;
}

}  // namespace

Placement placed_within(const Placement& member, const Placement& whole) {
    return {member.designator, placed_hole(member.at, whole), (member.turn + whole.turn) & 3};
}

std::vector<Cluster> clusters(const Circuit& circuit, int widest) {
    std::vector<Column> columns;
    for (const Chain& chain : chains(circuit))
        if (chain.count(Role::diode_light) > 0)
            if (auto column = column_of(chain)) columns.push_back(std::move(*column));
    // first those that share both rails, then what is left with one in common
    std::vector<Cluster> all;
    std::set<const Part*> placed;
    using Key = std::string (*)(const Column&);
    for (const Key key : {Key([](const Column& c) { return c.parts + c.from + " " + c.to; }),
                          Key([](const Column& c) { return c.parts + "to " + c.to; }),
                          Key([](const Column& c) { return c.parts + "from " + c.from; })}) {
        std::map<std::string, std::vector<const Column*>> alike;
        for (const Column& c : columns)
            if (!placed.contains(c.members.front().part)) alike[key(c)].push_back(&c);
        for (const auto& [what, group] : alike) {
            if (group.size() < 2) continue;
            all.push_back(in_rows(group, widest));
            for (const Cluster::Member& m : all.back().members) placed.insert(m.part);
        }
    }
    for (const Part& part : circuit.parts)
        if (!placed.contains(&part)) all.push_back({{{&part, {part.designator, {}, 0}}}});
    return all;
}

}  // namespace elkit
