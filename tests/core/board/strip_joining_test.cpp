// How strips are joined where no straight link is free: over strips that nobody uses; and that no wire is
// laid where something lies, whatever the places.
#include <gtest/gtest.h>

#include <algorithm>
#include <map>
#include <set>

#include "board/strip/strip_board.hpp"
#include "board/strip/strips.hpp"
#include "quantity/random.hpp"

namespace elkit::test {
namespace {

PinHole pin(const std::string& part, const std::string& net, int column, int row) {
    return {part, "a", net, {column, row}};
}

HoleLayout board(int columns, int rows, std::vector<PinHole> pins) {
    return {strip_substrate(columns, rows), {}, std::move(pins), {}, {}, {}};
}

HoleLayout joined(HoleLayout l) {
    const Circuit none;
    join_strips(l, {&none, {}, {}});
    return l;
}

/// Two nets joined, one in pieces, a wire over a leg or another wire's end, a cut through a leg: none of it.
std::vector<std::string> faults(const HoleLayout& l) {
    std::vector<std::string> all;
    std::map<std::string, std::string> net_of;
    for (const PinHole& p : l.pins) net_of[p.designator + ".a"] = p.net;
    std::map<std::string, int> groups;  // of each net
    for (const auto& group : extract_groups(l)) {
        ++groups[net_of[group.front()]];
        for (const auto& name : group)
            if (net_of[name] != net_of[group.front()]) all.push_back(name + " is joined to " + group.front());
    }
    for (const auto& [net, count] : groups)
        if (count > 1) all.push_back(net + " is in pieces");
    std::map<Hole, int> filled;
    for (const PinHole& p : l.pins) ++filled[p.hole];
    std::map<Hole, int> under;  // holes that links lie over
    for (const Wire& w : l.wires) {
        if (w.kind != Wire::Kind::link) continue;
        if (w.a.column != w.b.column) all.push_back("a link is not straight");
        for (int row = std::min(w.a.row, w.b.row); row <= std::max(w.a.row, w.b.row); ++row)
            ++under[{w.a.column, row}];
        ++filled[w.a], ++filled[w.b];
    }
    for (const auto& [hole, times] : under)
        if (times > 1) all.push_back("a link lies over another at " + l.board.name(hole));
    for (const PinHole& p : l.pins)
        if (under.contains(p.hole)) all.push_back("a link lies over the leg of " + p.designator);
    for (const auto& [hole, times] : filled)
        if (times > 1) all.push_back("two in the hole " + l.board.name(hole));
    for (const Hole h : l.cuts)
        if (filled.contains(h)) all.push_back("a cut through the hole " + l.board.name(h));
    return all;
}

TEST(StripJoining, GoesOverAStripThatNobodyUses) {
    // A and B have no column in common that is free on both strips; the strip below has
    const HoleLayout l = joined(
        board(8, 3, {pin("A", "N", 0, 0), pin("X", "M", 3, 0), pin("Y", "K", 4, 1), pin("B", "N", 7, 1)}));
    EXPECT_EQ(faults(l), std::vector<std::string>{});
    EXPECT_EQ(l.count(Wire::Kind::jumper), 0u);
    EXPECT_EQ(l.count(Wire::Kind::link), 2u);
}

TEST(StripJoining, GoesOverTheFreeEndOfAnothersStrip) {
    // the third strip has Z at its end: the rest of it is free behind a cut
    const HoleLayout l = joined(board(10, 3,
                                      {pin("A", "N", 0, 0), pin("X", "M", 3, 0), pin("Y", "K", 4, 1),
                                       pin("B", "N", 7, 1), pin("Z", "L", 9, 2)}));
    EXPECT_EQ(faults(l), std::vector<std::string>{});
    EXPECT_EQ(l.count(Wire::Kind::jumper), 0u);
    EXPECT_TRUE(std::any_of(l.cuts.begin(), l.cuts.end(), [](Hole h) { return h.row == 2; }));
}

TEST(StripJoining, NeverThroughTheMidstOfAnothersStrip) {
    // the third strip joins Z and W: what lies between them is theirs
    const HoleLayout l = joined(board(10, 3,
                                      {pin("A", "N", 1, 0), pin("X", "M", 4, 0), pin("Y", "K", 4, 1),
                                       pin("B", "N", 7, 1), pin("Z", "L", 0, 2), pin("W", "L", 9, 2)}));
    EXPECT_EQ(faults(l), std::vector<std::string>{});
    EXPECT_EQ(l.count(Wire::Kind::jumper), 1u);
}

TEST(StripJoining, LaysNothingOverAnythingWhereverLegsAre) {
    Random random(11);
    int links = 0, jumpers = 0, detours = 0;
    for (int round = 0; round < 300; ++round) {
        const int columns = 6 + random.below(14), rows = 3 + random.below(9), legs = 4 + random.below(16);
        std::set<Hole> taken;
        std::vector<PinHole> pins;
        for (int k = 0; k < legs; ++k) {
            const Hole h{random.below(columns), random.below(rows)};
            const std::string net = "N" + std::to_string(random.below(1 + legs / 3));
            // two nets on one strip leave a hole to cut between them
            const bool fits = std::all_of(pins.begin(), pins.end(), [&](const PinHole& p) {
                return p.hole.row != h.row || std::abs(p.hole.column - h.column) > (p.net == net ? 0 : 1);
            });
            if (fits && taken.insert(h).second)
                pins.push_back(pin("P" + std::to_string(k), net, h.column, h.row));
        }
        const HoleLayout l = joined(board(columns, rows, pins));
        EXPECT_EQ(faults(l), std::vector<std::string>{}) << "round " << round;
        links += static_cast<int>(l.count(Wire::Kind::link));
        jumpers += static_cast<int>(l.count(Wire::Kind::jumper));
        const Circuit none;
        HoleLayout placed = l;
        placed.wires.clear(), placed.cuts.clear();
        const Strips strips(placed, {&none, {}, {}});
        for (std::size_t net = 0; net < strips.nets(); ++net)
            detours += !strips.whole(net) && find_detour(strips, net).links.size() > 1;
    }
    EXPECT_GT(links, 4 * jumpers) << "most are joined without insulated wire";
    EXPECT_GT(detours, 20) << "some go round";
}

/// True if a link of this net may end in a hole where it has no piece yet: the nearest legs of the strip are
/// others' and leave a hole to cut, and it does not lie between two of the same net.
bool may_begin(const Strips& strips, int net, Hole here) {
    if (strips.at(here) != Strips::free_hole || strips.covered(here)) return false;
    std::vector<int> beside;
    for (const int step : {-1, 1})
        for (int c = here.column + step; c >= 0 && c < strips.columns(); c += step)
            if (const int other = strips.at({c, here.row}); other != Strips::free_hole) {
                if (other == net || std::abs(c - here.column) < 2) return false;
                beside.push_back(other);
                break;
            }
    return beside.size() < 2 || beside[0] != beside[1] || beside[0] < 0;
}

/// Fewest links from one piece of a net to another, by trying all ways of up to three links.
std::size_t fewest_links(const Strips& strips, std::size_t net) {
    struct End {
        Hole hole;
        std::size_t links;
    };
    std::vector<End> ends;
    std::set<Hole> far;
    const auto& own = strips.segments_of(net);
    for (const std::size_t k : own)
        for (int c = 0; c < strips.columns(); ++c)
            if (strips.may_take(strips.segments()[k], c)) {
                const Hole h{c, strips.segments()[k].row};
                if (strips.joined(k, own.front()))
                    ends.push_back({h, 0});
                else
                    far.insert(h);
            }
    std::set<Hole> seen;
    for (std::size_t k = 0; k < ends.size(); ++k) {
        const End here = ends[k];
        if (here.links == 3) continue;
        for (int row = 0; row < strips.rows(); ++row) {
            const Hole there{here.hole.column, row};
            if (row == here.hole.row || !strips.clear_between(there.column, std::min(row, here.hole.row),
                                                              std::max(row, here.hole.row)))
                continue;
            if (far.contains(there)) return here.links + 1;
            if (!may_begin(strips, static_cast<int>(net), there)) continue;
            for (int c = 0; c < strips.columns(); ++c) {
                const Hole next{c, row};
                bool along = c != there.column && may_begin(strips, static_cast<int>(net), next);
                for (int between = std::min(c, there.column); between <= std::max(c, there.column); ++between)
                    along = along && strips.at({between, row}) == Strips::free_hole;
                if (along && seen.insert(next).second) ends.push_back({next, here.links + 1});
            }
        }
    }
    return 0;
}

TEST(StripJoining, DetoursHaveTheFewestLinks) {
    Random random(5);
    int found = 0;
    const Circuit none;
    for (int round = 0; round < 400; ++round) {
        const int columns = 5 + random.below(9), rows = 3 + random.below(6);
        std::vector<PinHole> pins{pin("A", "N", random.below(columns), 0),
                                  pin("B", "N", random.below(columns), rows - 1)};
        for (int k = 0; k < 8; ++k) {
            const Hole h{random.below(columns), random.below(rows)};
            if (std::none_of(pins.begin(), pins.end(), [&](const PinHole& p) {
                    return p.hole.row == h.row && std::abs(p.hole.column - h.column) < 2;
                }))
                pins.push_back(pin("X" + std::to_string(k), "M" + std::to_string(k), h.column, h.row));
        }
        const Strips strips(board(columns, rows, pins), {&none, {}, {}});
        const auto may = strips.may_begin(0);
        for (int place = 0; place < columns * rows; ++place) {
            const Hole here{place % columns, place / columns};
            EXPECT_EQ(may[static_cast<std::size_t>(place)] != 0, may_begin(strips, 0, here))
                << "round " << round;
        }
        const std::size_t least = fewest_links(strips, 0), links = find_detour(strips, 0).links.size();
        if (least > 0) {
            EXPECT_EQ(links, least) << "round " << round;
        } else {
            EXPECT_TRUE(links == 0 || links > 3) << "round " << round;
        }
        found += least > 1;
    }
    EXPECT_GT(found, 30);
}

}  // namespace
}  // namespace elkit::test
