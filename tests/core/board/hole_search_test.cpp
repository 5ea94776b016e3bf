// The search for a board of holes: the same every time, told as it goes on, ended when told to, and its
// boards made wider and narrower by a line.
#include <gtest/gtest.h>

#include "board/holes/candidate.hpp"
#include "board/holes/reshape.hpp"
#include "board/pad/pad_board.hpp"
#include "board/pad/pad_placer.hpp"
#include "board/strip/strip_board.hpp"
#include "board/trial/trial_board.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

using LayOut = Result<HoleLayout> (*)(const HoleParts&, const BoardChoices&, const Progress&);
constexpr LayOut methods[]{lay_out_pads, lay_out_strips};

TEST(HoleSearch, TheSameCircuitGivesTheSameBoardThoughSeveralAreTriedAtATime) {
    const Circuit circuit = board_circuit(9, 5);
    const auto parts = hole_parts(circuit, {});
    ASSERT_TRUE(parts);
    for (const LayOut lay_out : methods) {
        const auto first = lay_out(parts.value(), {}, {}), again = lay_out(parts.value(), {}, {});
        ASSERT_TRUE(first && again);
        EXPECT_EQ(first.value().placements, again.value().placements);
        EXPECT_EQ(first.value().bridges, again.value().bridges);
        EXPECT_EQ(first.value().wires, again.value().wires);
    }
}

TEST(HoleSearch, ATrialOfManyPartsFitsAndItsChipsStandOffTheRails) {
    const Circuit circuit = board_circuit(46, 146);
    const auto parts = trial_parts(circuit, {});
    ASSERT_TRUE(parts);
    const auto layout = lay_out_trial(parts.value(), {});
    ASSERT_TRUE(layout) << layout.error().text();
    EXPECT_TRUE(layout_differences(layout.value(), circuit).empty());
    const Substrate& board = layout.value().board;
    std::size_t chips = 0;
    for (const PinHole& pin : layout.value().pins)
        if (circuit.find(pin.designator)->pins.size() > 3) {
            ++chips;
            for (const std::size_t rail : board.rails)
                EXPECT_EQ(std::count(board.groups[rail].begin(), board.groups[rail].end(), pin.hole), 0)
                    << pin.designator;
        }
    EXPECT_GE(chips, 16u);
}

TEST(HoleSearch, TellsHowFarItIsAndOnlyGoesOn) {
    for (const int count : {5, 12, 24}) {
        const Circuit circuit = board_circuit(count, 3);
        const auto parts = hole_parts(circuit, {});
        ASSERT_TRUE(parts);
        for (const LayOut lay_out : methods) {
            double last = 0;
            int told = 0;
            const auto layout = lay_out(parts.value(), {}, [&](std::string_view, double done) {
                EXPECT_GE(done, last - 1e-9);
                EXPECT_LE(done, 1 + 1e-9);
                last = done;
                return ++told > 0;
            });
            EXPECT_TRUE(layout);
            EXPECT_GT(told, 10) << count << " parts";
        }
    }
}

TEST(HoleSearch, EndsWhereverItIsToldTo) {
    const Circuit circuit = board_circuit(12, 4);
    const auto parts = hole_parts(circuit, {});
    ASSERT_TRUE(parts);
    for (const LayOut lay_out : methods)
        for (const int after : {1, 3, 10, 60}) {
            int told = 0;
            const auto layout =
                lay_out(parts.value(), {}, [&](std::string_view, double) { return ++told < after; });
            ASSERT_FALSE(layout) << after;
            EXPECT_EQ(layout.error().found, "stopped before a layout was found");
            EXPECT_EQ(told, after) << "it asked again after it was told to stop";
        }
}

class Reshaped : public testing::Test {
  protected:
    const Circuit circuit = board_circuit(8, 2);
    const HoleParts parts = hole_parts(circuit, {}).value();
    const HoleSearch search{
        {},
        [this](const BoardTry& t, std::uint64_t seed) {
            return std::make_unique<PadPlacer>(parts, single_parts(parts), t.board, t.airy, seed);
        },
        [this](HoleLayout l, const HoleSearch::Care& care) {
            route_board(l, {RouteEffort::quick, care.wires, {}});
            crop(l, parts, true, true, pad_substrate);
            return l;
        },
        [](const HoleLayout& l) { return double(l.columns()) * l.rows() + 40.0 * double(l.wires.size()); },
        pad_substrate};
    std::unique_ptr<Candidate> laid(int columns, int rows) const {
        auto candidate =
            std::make_unique<Candidate>(parts, search, BoardTry{pad_substrate(columns, rows), 1.5, columns});
        return candidate->place(20000) ? std::move(candidate) : nullptr;
    }
};

TEST_F(Reshaped, ALineMoreOrLessIsStillTheCircuit) {
    const auto candidate = laid(18, 14);
    ASSERT_TRUE(candidate);
    int fits = 0;
    for (const bool column : {true, false})
        for (int line = 0; line < (column ? candidate->layout.columns() : candidate->layout.rows()) - 1;
             ++line)
            for (const int by : {-1, 1}) {
                const auto other = candidate->reshaped({column, line, by}, by > 0 ? 0 : 400);
                if (!other) continue;
                ++fits;
                EXPECT_EQ(layout_differences(other->layout, circuit), std::vector<std::string>{});
                EXPECT_EQ(other->layout.placements.size(), candidate->layout.placements.size());
                EXPECT_LE(other->layout.columns(), candidate->layout.columns() + (column && by > 0));
                EXPECT_LE(other->layout.rows(), candidate->layout.rows() + (!column && by > 0));
            }
    EXPECT_GT(fits, 20);
}

TEST_F(Reshaped, ALineThatIsPutInBetweenPartsMovesThemApartByIt) {
    const auto candidate = laid(18, 14);
    ASSERT_TRUE(candidate);
    const HoleLayout& before = candidate->layout;
    const int line = before.columns() / 2;
    const auto wider = candidate->reshaped({true, line, 1}, 0);
    ASSERT_TRUE(wider);
    EXPECT_EQ(wider->layout.columns(), before.columns() + 1);
    int stay = 0, move = 0;
    for (const Placement& p : before.placements) {
        const Placement* there = wider->layout.placement(p.designator);
        ASSERT_TRUE(there);
        EXPECT_EQ(there->at.row, p.at.row);
        (there->at.column == p.at.column ? stay : move) += 1;
        EXPECT_LE(there->at.column - p.at.column, 1);
    }
    EXPECT_GT(stay, 0);
    EXPECT_GT(move, 0);
}

TEST_F(Reshaped, BecomesBetterOrStaysAndEndsWhenTold) {
    auto candidate = laid(20, 16);
    ASSERT_TRUE(candidate);
    const double before = candidate->score();
    EXPECT_FALSE(reshape(candidate, search, 100, 400, [](double) { return false; }));
    EXPECT_EQ(candidate->score(), before);
    EXPECT_TRUE(reshape(candidate, search, 100, 400, [](double) { return true; }));
    EXPECT_LE(candidate->score(), before);
    EXPECT_EQ(layout_differences(candidate->layout, circuit), std::vector<std::string>{});
}

TEST_F(Reshaped, ABoardOfFixedSidesIsLeft) {
    auto candidate = laid(20, 16);
    ASSERT_TRUE(candidate);
    HoleSearch fixed = search;
    fixed.columns_free = fixed.rows_free = false;
    const auto before = candidate->layout.placements;
    int told = 0;
    EXPECT_TRUE(reshape(candidate, fixed, 100, 400, [&](double) { return ++told > 0; }));
    EXPECT_EQ(told, 0);
    EXPECT_EQ(candidate->layout.placements, before);
}

}  // namespace
}  // namespace elkit::test
