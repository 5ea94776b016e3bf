// A layout stays while only values change that it does not depend on; what is drawn of them is drawn anew.
#include <gtest/gtest.h>

#include "board/board.hpp"
#include "board/layout_key.hpp"
#include "build/trial.hpp"
#include "formats/svg.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

class KeptLayout : public testing::TestWithParam<const char*> {
  protected:
    Design design = [] {
        Design d = demo("firefly-jar");
        d.board.method = GetParam();
        return d;
    }();
    Store store;
    std::size_t laid() const { return store.computed("holes") + store.computed("copper"); }
    Board made(const Design& d) { return *Ask(store)(BoardQuery{d.circuit, board_choices(d)}); }
    static std::string first(const Design& d, const char* kind) {
        for (const Part& p : d.circuit.parts)
            if (p.kind == kind) return p.designator;
        return {};
    }
};

TEST_P(KeptLayout, IsLaidOnceForAllValuesInTheSameBodies) {
    const Board before = made(design);
    EXPECT_EQ(laid(), 1u);
    const std::string resistor = first(design, "resistor");
    Design other = design;
    other.circuit.find(resistor)->params["value"] = 12345.0;
    const Board after = made(other);
    EXPECT_EQ(laid(), 1u);
    EXPECT_EQ(after.differences, std::vector<std::string>{});
    EXPECT_EQ(after.size, before.size);
    for (const BoardPart& p : before.parts) {
        EXPECT_EQ(after.part(p.designator)->x, p.x);
        EXPECT_EQ(after.part(p.designator)->y, p.y);
    }
    EXPECT_NE(write_svg(after.sides.front().picture), write_svg(before.sides.front().picture))
        << "it has other bands";
}

TEST_P(KeptLayout, IsLaidAnewForWhatItDependsOn) {
    made(design);
    std::size_t before = laid();
    const auto expect_anew = [&](const Design& d, const char* what) {
        EXPECT_EQ(made(d).differences, std::vector<std::string>{}) << what;
        EXPECT_GT(laid(), before) << what;
        before = laid();
    };
    Design other = design;
    other.circuit.find(first(design, "electrolytic"))->params["value"] = 2200e-6;
    expect_anew(other, "a larger body");
    other = design;
    auto& pins = other.circuit.find(first(design, "resistor"))->pins;
    std::swap(pins.front().net, pins.back().net);
    expect_anew(other, "other nets");
    other = design;
    other.circuit.find(first(design, "resistor"))->designator = "R77";
    expect_anew(other, "another name");
    other = design;
    other.board.parts.push_back({first(design, "resistor"), "standing-2", "", "", {}});
    expect_anew(other, "another footprint");
}

INSTANTIATE_TEST_SUITE_P(Methods, KeptLayout, testing::Values("pad", "strip", "milled"));

TEST(KeptTrial, IsNotPluggedAnewForWhatIsChosenForTheBoardToCome) {
    Design design = demo("firefly-jar");
    Store store;
    const auto made = [&](const Design& d) {
        return Ask(store)(TrialQuery{d.circuit, board_choices(d), d.situations});
    };
    const auto before = made(design);
    ASSERT_TRUE(before);
    design.board.keep_out = {{0, 0, 10, 10, {}}};
    design.board.columns = 30, design.board.method = "milled";
    const auto after = made(design);
    ASSERT_TRUE(after);
    EXPECT_EQ(store.computed("trial"), 1u);
    EXPECT_EQ(store.computed("holes"), 1u);
}

}  // namespace
}  // namespace elkit::test
