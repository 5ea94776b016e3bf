// Designators on a board's pictures can be read: none lies over another.
#include "board/names.hpp"

#include "board/board.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

std::vector<Box> designators(const Drawing& drawing, const Circuit& circuit) {
    std::vector<Box> all;
    for (const Item& item : drawing.items)
        if (const Text* t = std::get_if<Text>(&item.shape))
            for (const Part& part : circuit.parts)
                if (t->text == part.designator && item.ref == "part:" + part.designator)
                    all.push_back(bounds(item.shape));
    return all;
}

class NamesOfDemos : public ::testing::TestWithParam<std::string> {};

TEST_P(NamesOfDemos, AreAllThereAndNoneOverAnother) {
    const Design d = test::demo(GetParam());
    const auto board = test::ask(BoardQuery{d.circuit, d.board});
    ASSERT_TRUE(board) << board.error().text();
    for (const auto& side : board.value().sides) {
        const auto names = designators(side.picture, d.circuit);
        EXPECT_EQ(names.size(), d.circuit.parts.size()) << side.picture.title;
        for (std::size_t i = 0; i < names.size(); ++i)
            for (std::size_t k = 0; k < i; ++k)
                EXPECT_FALSE(names[i].overlaps(names[k]))
                    << side.picture.title << " at " << names[i].x0 << ", " << names[i].y0;
    }
}
INSTANTIATE_TEST_SUITE_P(All, NamesOfDemos, ::testing::ValuesIn(test::demo_ids()), test::demo_name);

TEST(Names, TakeTheFirstSpotThatIsFree) {
    Drawing d;
    d.width = d.height = 40;
    const auto at = [](double x, double y) { return BoardName::Spot{x, y, 2}; };
    write_names(d,
                {{"R1", "part:R1", Ink::ink, false, {at(10, 10), at(20, 20)}},
                 {"R2", "part:R2", Ink::ink, false, {at(10, 10), at(20, 20), at(30, 30)}},
                 {"R3", "part:R3", Ink::ink, false, {at(10, 10), at(30, 30)}}},
                {{{28, 28, 32, 32}, "part:R3"}, {{18, 18, 22, 22}, ""}});
    const auto middle = [&](const std::string& ref) { return (d.bounds(ref).x0 + d.bounds(ref).x1) / 2; };
    EXPECT_NEAR(middle("part:R1"), 10, 0.01);
    EXPECT_NEAR(middle("part:R3"), 30, 0.01) << "on its own body";
    EXPECT_NEAR(middle("part:R2"), 20, 0.01) << "over a pad rather than over a name";
}

TEST(Names, ReadUpwardsAlongAnUprightPart) {
    const Text upward{5, 8, "R10", 2, Anchor::middle, true, true};
    const Box box = bounds(upward);
    EXPECT_GT(box.y1 - box.y0, box.x1 - box.x0);
    EXPECT_NEAR((box.y0 + box.y1) / 2, 8, 1e-9);
    EXPECT_LT(box.x0, 5) << "letters stand to the left of their line";
}

}  // namespace
}  // namespace elkit
