// Circuits whose least number of jumpers is known: made of two-legged parts in series and side by side, they
// can be drawn without a crossing (Duffin, J. Math. Anal. Appl. 10, 1965), so none is needed.
#include <gtest/gtest.h>

#include <algorithm>
#include <random>

#include "board/board.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Circuit series_parallel(int parts, unsigned seed) {
    std::mt19937 random(seed);
    Circuit c;
    c.parts.push_back(supply("V+", "GND", 5, 1));
    c.parts.push_back(resistor("R1", "V+", "GND", 1000));
    for (int k = 2; k <= parts; ++k) {
        Part& one = c.parts[1 + random() % (c.parts.size() - 1)];
        const std::string name = "R" + std::to_string(k), a = one.pins[0].net, b = one.pins[1].net;
        if (random() % 2) {  // beside it
            c.parts.push_back(resistor(name, a, b, 1000));
        } else {  // behind it
            const std::string middle = "N" + std::to_string(k);
            one.pins[1].net = middle;
            c.parts.push_back(resistor(name, middle, b, 1000));
        }
    }
    return c;
}

class LeastWires : public testing::TestWithParam<int> {};
TEST_P(LeastWires, PartsInSeriesAndSideBySideNeedNoJumper) {
    const int parts = GetParam();
    for (unsigned seed = 1; seed <= (in_depth() ? 3 : 1); ++seed) {
        const Circuit c = series_parallel(parts, seed + 100U * static_cast<unsigned>(parts));
        for (const char* method : {"pad", "strip", "milled"}) {
            BoardChoices choices;
            choices.method = method;
            const auto board = ask(BoardQuery{c, choices});
            ASSERT_TRUE(board) << board.error().text();
            EXPECT_EQ(board.value().differences, std::vector<std::string>{});
            const auto wires = std::count_if(board.value().wires.begin(), board.value().wires.end(),
                                             [](const BoardWire& w) { return w.what == "jumper"; });
            EXPECT_EQ(wires, 0) << method << ", " << parts << " parts, seed " << seed << ": "
                                << board.value().summary;
            if (std::string_view(method) == "milled") {
                EXPECT_TRUE(board.value().wires.empty())
                    << parts << " parts, seed " << seed << ": " << board.value().summary;
            }
        }
    }
}
INSTANTIATE_TEST_SUITE_P(UpToTwelve, LeastWires, testing::Range(2, 13));

/// Circuits of any kind of part: where none is found, it is the least.
class FewParts : public testing::TestWithParam<int> {};
TEST_P(FewParts, NeedNoJumperOnPadsAndNoLinkWhereTheyAreMilled) {
    const int parts = GetParam();
    for (unsigned seed = 1; seed <= 3; ++seed) {
        const Circuit c = board_circuit(parts, 1000U * static_cast<unsigned>(parts) + seed);
        for (const char* method : {"pad", "milled"}) {
            BoardChoices choices;
            choices.method = method;
            const auto board = ask(BoardQuery{c, choices});
            ASSERT_TRUE(board) << board.error().text();
            EXPECT_EQ(board.value().differences, std::vector<std::string>{});
            EXPECT_TRUE(
                std::none_of(board.value().wires.begin(), board.value().wires.end(),
                             [](const BoardWire& w) { return w.what == "jumper" || w.what == "link"; }))
                << method << ", " << parts << " parts, seed " << seed << ": " << board.value().summary;
        }
    }
}
INSTANTIATE_TEST_SUITE_P(UpToEight, FewParts, testing::Range(4, 9));

class MoreParts : public testing::TestWithParam<int> {};
TEST_P(MoreParts, NeedNoWireOnPadsButForOneThatIsNotFound) {
    const int parts = GetParam();
    int wired = 0;
    for (unsigned seed = 1; seed <= (in_depth() ? 3 : 2); ++seed) {
        const Circuit c = board_circuit(parts, 1000U * static_cast<unsigned>(parts) + seed);
        const Board board = ask(BoardQuery{c, BoardChoices{}}).value();
        EXPECT_EQ(board.differences, std::vector<std::string>{});
        wired += !board.wires.empty();
    }
    EXPECT_LE(wired, parts == 9 ? 1 : 0);
}
INSTANTIATE_TEST_SUITE_P(UpToTwelve, MoreParts, testing::Range(9, 13));

}  // namespace
}  // namespace elkit::test
