// Tracks that stay while parts are moved by hand, and what a file may say of them.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "board/board.hpp"
#include "board/by_hand.hpp"
#include "board/copper/check.hpp"
#include "board/copper/layout.hpp"
#include "design/file.hpp"
#include "recipes/blocks.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

CopperLayout laid(const Design& d) {
    return lay_out_copper(d.circuit, board_choices(d), *makings().method(d.board.method)).value();
}

bool alike(const TrackWay& a, const TrackWay& b) {
    return a.net == b.net && std::equal(a.corners.begin(), a.corners.end(), b.corners.begin(),
                                        b.corners.end(), [](const WayCorner& x, const WayCorner& y) {
                                            return x.on == y.on && std::abs(x.x - y.x) < 1e-3 &&
                                                   std::abs(x.y - y.y) < 1e-3;
                                        });
}
std::size_t kept(const std::vector<TrackWay>& before, const std::vector<TrackWay>& after,
                 const std::vector<std::string>& but = {}) {
    return static_cast<std::size_t>(std::count_if(before.begin(), before.end(), [&](const TrackWay& way) {
        return std::find(but.begin(), but.end(), way.net) == but.end() &&
               std::any_of(after.begin(), after.end(), [&](const TrackWay& w) { return alike(w, way); });
    }));
}

class KeptTracks : public testing::TestWithParam<std::pair<const char*, const char*>> {};
TEST_P(KeptTracks, StayWhereNothingPressesThemAndTheBoardStaysTheCircuit) {
    const auto [id, method] = GetParam();
    const auto [design, board] = board_of_demo(id, method);
    std::size_t all = 0, stayed = 0, moves = 0, sound = 0;
    for (const BoardPart& p : board.parts)
        for (const auto& [dx, dy] : {std::pair{1.27, 0.0}, {0.0, 1.27}}) {
            const Design next = moved_by_hand(design, board, p.designator, dx, dy).value();
            ASSERT_EQ(next.board.ways.size(), board.ways.size());
            const CopperLayout l = laid(next);
            ++moves;
            const auto faults = fabrication_faults(l, design.circuit);
            sound += faults.empty();
            EXPECT_EQ(faults.empty(), l.open.empty()) << p.designator << ": only for want of a way";
            all += board.ways.size(), stayed += kept(board.ways, l.ways);
        }
    EXPECT_GE(sound, moves - moves / 16) << "moves that found ways for all nets";
    EXPECT_GE(stayed, all / 3) << "of " << all;
}
INSTANTIATE_TEST_SUITE_P(Demos, KeptTracks,
                         testing::Values(std::pair{"harbour-beacon", "milled"},
                                         std::pair{"pier-lantern", "milled"},
                                         std::pair{"letterbox-flag", "milled"},
                                         std::pair{"twin-blinker", "ordered"},
                                         std::pair{"diorama-switcher", "ordered"}),
                         demo_and_method);

TEST(KeptTracks, AreAllThereWhenNothingMoves) {
    for (const char* method : {"milled", "ordered"}) {
        const auto [design, board] = board_of_demo("letterbox-flag", method);
        const CopperLayout l = laid(with_spots(design, board));
        EXPECT_EQ(kept(board.ways, l.ways), board.ways.size()) << method;
        EXPECT_EQ(l.ways.size(), board.ways.size());
    }
}

TEST(KeptTracks, AreInTheFileAndComeBackTheSame) {
    const auto [design, board] = board_of_demo("harbour-beacon", "milled");
    const Design put = with_spots(design, board);
    const auto read = read_design(write_design(put));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read.value().board, put.board);
    EXPECT_EQ(read.value().board.ways_by, "milled");
    EXPECT_EQ(laid(read.value()).ways, laid(put).ways);
}

TEST(KeptTracks, AreForTheirMethodOnlyAndGoWhenTracksAreLaidAnew) {
    const auto [design, board] = board_of_demo("harbour-beacon", "milled");
    Design other = with_spots(design, board);
    other.board.method = "ordered";
    Design without = other;
    without.board.ways.clear();
    EXPECT_EQ(laid(other).ways, laid(without).ways);
    const Design anew = tracks_anew(with_spots(design, board));
    EXPECT_TRUE(anew.board.ways.empty());
    EXPECT_TRUE(anew.board.ways_by.empty());
    EXPECT_EQ(anew.board.spots.size(), board.parts.size()) << "parts stay";
    EXPECT_TRUE(arranged_anew(with_spots(design, board)).board.ways.empty());
}

TEST(KeptTracks, FollowANetThatGetsAnotherName) {
    const auto [design, board] = board_of_demo("harbour-beacon", "milled");
    const Design put = with_spots(design, board);
    const std::string net = board.ways.front().net;
    Circuit renamed = put.circuit;
    for (Part& part : renamed.parts)
        for (Pin& pin : part.pins)
            if (pin.net == net) pin.net = "another name";
    const Design next = with_circuit(put, renamed);
    EXPECT_EQ(next.board.ways.front().net, "another name");
    EXPECT_EQ(kept(next.board.ways, laid(next).ways), board.ways.size());
}

/// What a stranger, or another version, may have written: the board is the circuit all the same.
TEST(KeptTracks, ThatAreWrongAreLaidAnew) {
    const auto [design, board] = board_of_demo("harbour-beacon", "milled");
    const Design put = with_spots(design, board);
    std::vector<std::vector<TrackWay>> wrong;
    const auto with = [&](auto change) {
        auto ways = put.board.ways;
        for (TrackWay& w : ways) change(w);
        wrong.push_back(std::move(ways));
    };
    with([](TrackWay& w) { w.net = "nowhere"; });
    with([&](TrackWay& w) { w.net = put.board.ways.back().net; });
    with([](TrackWay& w) {
        for (WayCorner& c : w.corners) c.x += 0.3;
    });
    with([](TrackWay& w) {
        for (WayCorner& c : w.corners) c.x += 6.35, c.y += 2.54;
    });
    with([](TrackWay& w) { w.corners.back().y = 499; });
    with([](TrackWay& w) { w.corners.resize(1); });
    with([](TrackWay& w) { w.corners.clear(); });
    with([](TrackWay& w) { w.corners.insert(w.corners.end(), w.corners.begin(), w.corners.end()); });
    with([](TrackWay& w) { std::reverse(w.corners.begin(), w.corners.end()); });
    for (const auto on : {WayCorner::On::component, WayCorner::On::link})
        with([on](TrackWay& w) {
            for (WayCorner& c : w.corners) c.on = on;
        });
    with([on = WayCorner::On::link](TrackWay& w) { w.corners.front().on = on; });
    auto twice = put.board.ways;
    twice.insert(twice.end(), put.board.ways.begin(), put.board.ways.end());
    wrong.push_back(twice);
    wrong.push_back({{put.board.ways.front().net,
                      {{WayCorner::On::solder, 1.27, 1.27}, {WayCorner::On::solder, 5.08, 1.27}}}});
    for (std::size_t k = 0; k < wrong.size(); ++k) {
        Design d = put;
        d.board.ways = wrong[k];
        const CopperLayout l = laid(d);
        EXPECT_EQ(fabrication_faults(l, d.circuit), std::vector<std::string>{}) << "case " << k;
    }
}

TEST(KeptTracks, ThatCannotBeReadAreNamed) {
    const auto [design, board] = board_of_demo("pier-lantern", "milled");
    const std::string good = write_design(with_spots(design, board));
    const std::string way = "\"way\": \"solder ";
    ASSERT_NE(good.find(way), std::string::npos);
    for (const char* bad : {"\"way\": \"under ", "\"way\": \"solder one ", "\"way\": \"solder -5 3 ",
                            "\"way\": \"solder 3 9999 ", "\"way\": \"5 "}) {
        std::string text = good;
        text.replace(text.find(way), way.size(), bad);
        const auto read = read_design(text);
        ASSERT_FALSE(read) << bad;
        EXPECT_NE(read.error().place.find("/board/ways/0/way"), std::string::npos) << read.error().text();
    }
}

TEST(KeptTracks, PullsAndFreeAreasChangeOnlyWhatTheyMust) {
    const auto [design, board] = board_of_demo("letterbox-flag", "milled");
    const Design free = kept_free_by_hand(design, board, {board.width - 3.04, -1, 9, 2.5, {}}).value();
    ASSERT_EQ(free.board.keep_out.size(), 1u);
    const KeepOut& area = free.board.keep_out.front();
    EXPECT_DOUBLE_EQ(area.y, 0);
    EXPECT_NEAR(area.x + area.width, board.width, 0.1);
    EXPECT_DOUBLE_EQ(area.height, 1.5);
    EXPECT_FALSE(kept_free_by_hand(design, board, {-9, -9, 5, 5, {}}));
    EXPECT_FALSE(pull_moved_by_hand(design, board, 0, 5, 5)) << "nothing was pulled";
    const std::string net = board.ways.front().net;
    const Design pulled = pulled_by_hand(design, board, {net, 10, 10, false, {}}).value();
    const Design elsewhere = pull_moved_by_hand(pulled, board, 0, 14, 12).value();
    ASSERT_EQ(elsewhere.board.pulls.size(), 1u);
    EXPECT_NEAR(elsewhere.board.pulls.front().x, 14, hand_grid);
    const CopperLayout l = laid(pulled);
    EXPECT_GE(kept(board.ways, l.ways, {net}), board.ways.size() / 3);
    EXPECT_EQ(fabrication_faults(l, design.circuit), std::vector<std::string>{});
}

}  // namespace
}  // namespace elkit::test
