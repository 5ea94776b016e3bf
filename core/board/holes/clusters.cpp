#include "board/holes/clusters.hpp"

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
    int pins_right = 0;  ///< column of its last leg
};

/// The part standing upright with the leg that hangs on `net` above, or nothing if it does not lie in a line.
std::optional<Placement> upright(const HolePart& part, const std::string& net) {
    const GridFootprint& shape = part.shapes.front();
    if (shape.edge || shape.pins.size() != 2 || shape.pins[1].second.row != 0) return std::nullopt;
    const bool first_above = part.part->net(shape.pins[0].first) == net;
    return Placement{part.part->designator,
                     {0, first_above ? 0 : std::abs(shape.pins[1].second.column)},
                     first_above ? 1 : 3};
}

/// Moves a part to the right until it is clear of those above: their bodies, and the holes of its own row.
void step_aside(Placement& at, const GridFootprint& shape, const std::vector<Box>& bodies) {
    const auto meets = [&] {
        const Box body = placed_body(shape, at);
        return std::any_of(bodies.begin(), bodies.end(), [&](const Box& b) { return b.overlaps(body); });
    };
    while (meets()) ++at.at.column;
}

std::optional<Column> column_of(const Chain& chain, const HoleParts& parts, StringShape way) {
    Column column{{}, chain.from, chain.to, {}, 0, 0, 0, 0};
    std::string net = chain.from;
    double below = -10;  // where the body above ends
    std::vector<Box> bodies;
    for (const Part* part : chain.parts) {
        const HolePart& lying = parts.of(*part);
        auto at = upright(lying, net);
        if (!at) return std::nullopt;
        const GridFootprint& shape = lying.shapes.front();
        const int span = std::abs(shape.pins[1].second.column);
        if (way == StringShape::stairs) {
            at->at.row += std::max(0, column.height - 1);  // on the row of the leg that it hangs on
            step_aside(*at, shape, bodies);
            column.pins_right = std::max(column.pins_right, at->at.column);
        } else {
            const Box body = placed_body(shape, *at);
            at->at.row += std::max(column.height, static_cast<int>(std::ceil(below - body.y0 - 1e-6)));
        }
        const Box there = placed_body(shape, *at);
        below = there.y1;
        bodies.push_back(there);
        column.left = std::min(column.left, there.x0), column.right = std::max(column.right, there.x1);
        column.height = at->at.row + (at->turn == 1 ? span : 0) + 1;
        column.parts += part->kind + lying.footprint.id + (at->turn == 1 ? "v " : "^ ");
        column.members.push_back({&lying, *at});
        net = part->pins.front().net == net ? part->pins.back().net : part->pins.front().net;
    }
    return column;
}

/// Columns in rows; between two rows a row of holes stays free, since other rails meet there.
Cluster in_rows(const std::vector<const Column*>& columns, int widest, StringShape way) {
    double width = 0;
    int height = 0;
    for (const Column* c : columns)
        width = std::max(width, c->right - c->left), height = std::max(height, c->height);
    int pitch = std::max(1, static_cast<int>(std::ceil(width - 1e-6)));
    if (way == StringShape::stairs)  // room for a cut between
        for (const Column* c : columns) pitch = std::max(pitch, c->pins_right + 2);
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

Pose placed_within(const Placement& member, const Pose& whole) {
    return {placed_hole(member.at, whole), (member.turn + whole.turn) & 3, member.shape + whole.shape};
}

std::vector<Cluster> clusters(const HoleParts& parts, int widest, StringShape shape) {
    std::vector<Column> columns;
    const bool by_hand = std::any_of(parts.all.begin(), parts.all.end(), [](const auto& p) { return p.put; });
    if (!by_hand)
        for (const Chain& chain : chains(*parts.circuit))
            if (chain.count(Role::diode_light) > 0)
                if (auto column = column_of(chain, parts, shape)) columns.push_back(std::move(*column));
    // first those that share both rails, then what is left with one in common
    std::vector<Cluster> all;
    std::set<const HolePart*> placed;
    using Key = std::string (*)(const Column&);
    for (const Key key : {Key([](const Column& c) { return c.parts + c.from + " " + c.to; }),
                          Key([](const Column& c) { return c.parts + "to " + c.to; }),
                          Key([](const Column& c) { return c.parts + "from " + c.from; })}) {
        std::map<std::string, std::vector<const Column*>> alike;
        for (const Column& c : columns)
            if (!placed.contains(c.members.front().part)) alike[key(c)].push_back(&c);
        for (const auto& [what, group] : alike) {
            if (group.size() < 2) continue;
            all.push_back(in_rows(group, widest, shape));
            for (const Cluster::Member& m : all.back().members) placed.insert(m.part);
        }
    }
    for (const HolePart& p : parts.all)
        if (!placed.contains(&p)) all.push_back({{{&p, {p.part->designator, {}}}}});
    return all;
}

std::vector<Cluster> single_parts(const HoleParts& parts) {
    std::vector<Cluster> all;
    for (const HolePart& p : parts.all)
        if (!p.shapes.front().pins.empty()) all.push_back({{{&p, {p.part->designator, {}}}}});
    return all;
}

}  // namespace elkit
