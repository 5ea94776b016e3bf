// Ways of solder over pads, against a slow search of its own: as cheap, over free or own pads only, and every
// net with pads for itself once they agree.
#include "board/pad/ways.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <random>
#include <set>

#include "board/pad/pad_board.hpp"
#include "support/board_circuits.hpp"

namespace elkit::test {
namespace {

constexpr Hole steps[]{{1, 0}, {0, 1}, {-1, 0}, {0, -1}};

/// A grid with legs of some nets at random places.
struct Ground {
    PadGrid grid;
    std::vector<std::vector<Hole>> pads;
    Ground(int columns, int rows, std::size_t nets, std::size_t legs, unsigned seed)
        : grid(columns, rows), pads(nets) {
        std::mt19937 random(seed);
        for (std::size_t k = 0; k < nets * legs;) {
            const Hole h{static_cast<int>(random() % static_cast<unsigned>(columns)),
                         static_cast<int>(random() % static_cast<unsigned>(rows))};
            if (grid.at(h) != -1) continue;
            grid.at(h) = static_cast<int>(k % nets);
            pads[k % nets].push_back(h), ++k;
        }
    }
    bool free_for(Hole h, int net) const { return grid.has(h) && (grid.at(h) == -1 || grid.at(h) == net); }
    /// Of coming to a pad: itself, what is said of it, and what lies beside.
    double cost(Hole h, int net, const std::vector<double>& dear) const {
        double sum = 1 + (dear.empty() ? 0 : dear[grid.index(h)]);
        for (const Hole s : steps) {
            const Hole side{h.column + s.column, h.row + s.row};
            if (grid.has(side) && !free_for(side, net)) sum += 0.3;
        }
        return sum;
    }
    /// From the joined pads to each, by going over all of them until none becomes cheaper (Bellman & Ford).
    std::vector<double> cheapest(int net, const std::vector<Mark>& marks,
                                 const std::vector<double>& dear) const {
        std::vector<double> to(grid.size(), std::numeric_limits<double>::infinity());
        for (std::size_t i = 0; i < to.size(); ++i)
            if (marks[i] == Mark::joined) to[i] = 0;
        for (bool better = true; better;) {
            better = false;
            for (std::size_t i = 0; i < to.size(); ++i) {
                if (std::isinf(to[i])) continue;
                for (const Hole s : steps) {
                    const Hole next{grid.hole(i).column + s.column, grid.hole(i).row + s.row};
                    if (!free_for(next, net)) continue;
                    const double by = to[i] + cost(next, net, dear);
                    if (by < to[grid.index(next)] - 1e-9) to[grid.index(next)] = by, better = true;
                }
            }
        }
        return to;
    }
};

std::vector<Mark> marks_of(const Ground& f, std::size_t net) {
    std::vector<Mark> marks(f.grid.size(), Mark::none);
    for (const Hole h : f.pads[net]) marks[f.grid.index(h)] = Mark::wanted;
    marks[f.grid.index(f.pads[net].front())] = Mark::joined;
    return marks;
}

TEST(Ways, AreAsCheapAsThoseOfASlowSearch) {
    WayScratch scratch;  // one for all: what was found before must not show
    std::mt19937 random(7);
    int ways = 0, walls = 0;
    for (unsigned seed = 1; seed <= 60; ++seed) {
        const int columns = 4 + static_cast<int>(seed % 9), rows = 3 + static_cast<int>(seed % 7);
        const auto nets = static_cast<std::size_t>(columns * rows) / 8 + 1;
        const Ground f(columns, rows, nets, 3, seed);
        std::vector<double> dear;
        if (seed % 2)
            for (std::size_t i = 0; i < f.grid.size(); ++i)
                dear.push_back(0.1 * static_cast<double>(random() % 40));
        for (std::size_t net = 0; net < nets; ++net) {
            const int n = static_cast<int>(net);
            const auto marks = marks_of(f, net);
            const auto to = f.cheapest(n, marks, dear);
            double least = std::numeric_limits<double>::infinity();
            for (const Hole h : f.pads[net])
                if (marks[f.grid.index(h)] == Mark::wanted) least = std::min(least, to[f.grid.index(h)]);
            const auto way = find_way(f.grid, n, marks, dear, scratch);
            if (std::isinf(least)) {
                EXPECT_TRUE(way.empty()) << "seed " << seed << ", net " << net;
                ++walls;
                continue;
            }
            ASSERT_GE(way.size(), 2U) << "seed " << seed << ", net " << net;
            EXPECT_EQ(marks[f.grid.index(way.front())], Mark::wanted);
            EXPECT_EQ(marks[f.grid.index(way.back())], Mark::joined);
            double sum = 0;
            for (std::size_t k = 0; k + 1 < way.size(); ++k) {
                EXPECT_EQ(holes_between(way[k], way[k + 1]), 1);
                EXPECT_TRUE(f.free_for(way[k], n));
                sum += f.cost(way[k], n, dear);
            }
            // it counts in tenths of a hole, cut off
            EXPECT_LE(sum, least + 0.1 * static_cast<double>(way.size()))
                << "seed " << seed << ", net " << net;
            EXPECT_GE(sum, least - 1e-9);
            ++ways;
        }
    }
    EXPECT_GT(ways, 100);
    EXPECT_GT(walls, 5);
}

TEST(Ways, ThoseThatAgreeShareNoPad) {
    WayScratch scratch;
    int agreed = 0, disputes = 0;
    for (unsigned seed = 1; seed <= 40; ++seed) {
        const Ground f(14, 10, 6, 3, seed);
        const Negotiated n = negotiate(f.grid, f.pads, 20, scratch);
        std::set<Hole> taken;
        for (std::size_t net = 0; net < f.pads.size(); ++net) {
            EXPECT_LE(n.ways[net].size(), f.pads[net].size() - 1);
            if (n.disputed[net] > 0) {
                ++disputes;
                continue;
            }
            ++agreed;
            std::set<Hole> own;
            for (const auto& way : n.ways[net]) {
                for (std::size_t k = 1; k < way.size(); ++k) EXPECT_EQ(holes_between(way[k - 1], way[k]), 1);
                for (const Hole h : way) {
                    EXPECT_TRUE(f.free_for(h, static_cast<int>(net)));
                    own.insert(h);
                }
            }
            for (const Hole h : own) EXPECT_TRUE(taken.insert(h).second) << "seed " << seed;
            if (n.ways[net].size() == f.pads[net].size() - 1) {
                for (const Hole h : f.pads[net]) EXPECT_TRUE(own.contains(h)) << "a pad that no way comes to";
            }
        }
    }
    EXPECT_GT(agreed, 40);
    EXPECT_GT(disputes, 0);
}

TEST(Ways, LeadToNothingWhereAllIsWalledIn) {
    PadGrid grid(5, 3);
    for (int row = 0; row < 3; ++row) grid.at({2, row}) = -2;  // legs that lead nowhere
    grid.at({0, 1}) = grid.at({4, 1}) = 0;
    std::vector<Mark> marks(grid.size(), Mark::none);
    marks[grid.index({0, 1})] = Mark::joined, marks[grid.index({4, 1})] = Mark::wanted;
    WayScratch scratch;
    EXPECT_TRUE(find_way(grid, 0, marks, {}, scratch).empty());
    grid.at({2, 2}) = -1;
    EXPECT_EQ(find_way(grid, 0, marks, {}, scratch).size(), 7U);
}

class PadBoards : public testing::TestWithParam<int> {};
TEST_P(PadBoards, HaveNoJointTooMany) {
    const int count = GetParam();
    const Circuit circuit = board_circuit(count, static_cast<unsigned>(70 + count));
    const auto parts = hole_parts(circuit, {});
    ASSERT_TRUE(parts);
    const auto laid = lay_out_pads(parts.value(), {}, {});
    ASSERT_TRUE(laid) << laid.error().text();
    const HoleLayout& l = laid.value();
    EXPECT_EQ(layout_differences(l, circuit), std::vector<std::string>{});
    for (std::size_t k = 0; k < l.bridges.size(); ++k) {
        HoleLayout without = l;
        without.bridges.erase(without.bridges.begin() + static_cast<std::ptrdiff_t>(k));
        EXPECT_FALSE(layout_differences(without, circuit).empty())
            << "the joint " << l.board.name(l.bridges[k].a) << "–" << l.board.name(l.bridges[k].b)
            << " is not needed";
    }
}
INSTANTIATE_TEST_SUITE_P(Random, PadBoards, testing::Values(5, 6, 10, 15, 21));

}  // namespace
}  // namespace elkit::test
