// Grids of lights: resistors that are shared, patterns, scanning.
#include "planning/grid.hpp"

#include <cmath>
#include <set>

#include "engine/operating_point.hpp"
#include "planning/grid_patterns.hpp"
#include "planning/grid_picture.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

GridQuestion grid_asked(int rows, int columns, GridResistor resistor, double volts = 5) {
    GridQuestion q;
    q.array.source = {
        "PS1", "supply", {{"voltage", volts}, {"max_current", 0.5}}, {{"+", "V+"}, {"-", "GND"}}, {}};
    q.array.led = {"L1", "led", {{"type", std::string("red-5mm")}}, {}, {}};
    q.array.current = 0.01;
    q.rows = rows, q.columns = columns, q.resistor = resistor;
    return q;
}

/// The whole grid as a circuit of its own, rows and columns closed as said, to ask the engine for one light.
double whole_grid(const GridQuestion& q, double ohms, int rows_closed, int columns_closed) {
    Circuit c;
    c.parts.push_back(q.array.source);
    const auto two = [&](const std::string& name, const char* kind, const std::string& a,
                         const std::string& b, double value) {
        c.parts.push_back({name, kind, {{"value", value}}, {{"a", a}, {"b", b}}, {}});
    };
    for (int r = 0; r < rows_closed; ++r) {
        const std::string n = std::to_string(r);
        two("R" + n, "resistor", "V+", "ROW" + n, q.resistor == GridResistor::row ? ohms : 1e-3);
        for (int k = 0; k < columns_closed; ++k) {
            const std::string at = n + "x" + std::to_string(k);
            const bool own = q.resistor == GridResistor::light;
            if (own) two("RL" + at, "resistor", "ROW" + n, "M" + at, ohms);
            c.parts.push_back({"L" + at,
                               "led",
                               q.array.led.params,
                               {{"a", own ? "M" + at : "ROW" + n}, {"k", "COL" + std::to_string(k)}},
                               {}});
        }
    }
    for (int k = 0; k < columns_closed; ++k)
        two("RC" + std::to_string(k), "resistor", "COL" + std::to_string(k), "GND",
            q.resistor == GridResistor::column ? ohms : 1e-3);
    Conditions at_the_bench;
    at_the_bench.celsius = 21;
    const auto op = operating_point(c, known_catalogue(), at_the_bench, {});
    EXPECT_TRUE(op) << op.error().text();
    return op.value().part("L0x0").current;
}

TEST(Grid, CurrentsAreThoseOfTheWholeGrid) {
    for (const GridResistor where : {GridResistor::row, GridResistor::column, GridResistor::light}) {
        const GridQuestion q = grid_asked(3, 4, where);
        const auto grid = plan_grid(q);
        ASSERT_TRUE(grid) << grid.error().text();
        const double ohms = grid.value().resistor.value;
        EXPECT_NEAR(grid.value().alone.value, whole_grid(q, ohms, 1, 1), 2e-5);
        EXPECT_NEAR(grid.value().all.value, whole_grid(q, ohms, 3, 4), 2e-5);
        for (int lit = 1; where == GridResistor::row && lit <= 4; ++lit) {
            EXPECT_NEAR(grid.value().by_lit[static_cast<std::size_t>(lit - 1)].value,
                        whole_grid(q, ohms, 1, lit), 2e-5);
        }
        EXPECT_NEAR(grid.value().total.value, 12 * grid.value().all.value, 1e-9);
    }
}

TEST(Grid, AResistorForEachLightKeepsThemAlike) {
    const auto each = plan_grid(grid_asked(4, 4, GridResistor::light));
    ASSERT_TRUE(each);
    EXPECT_EQ(each.value().sharing, 1);
    EXPECT_TRUE(each.value().remarks.empty()) << each.value().remarks.front();
    const auto row = plan_grid(grid_asked(4, 4, GridResistor::row));
    EXPECT_LT(row.value().seen.back().value, 65) << "four share what one has alone";
    EXPECT_NEAR(row.value().by_lit.back().value, row.value().by_lit.front().value / 4, 0.001);
}

TEST(Grid, ValuesForAllOverloadTheOneThatIsLitAlone) {
    GridQuestion q = grid_asked(2, 8, GridResistor::row);
    q.for_all = true;
    const auto grid = plan_grid(q);
    ASSERT_TRUE(grid);
    EXPECT_NEAR(grid.value().all.value, 0.01, 0.001);
    ASSERT_FALSE(grid.value().remarks.empty());
    EXPECT_NE(grid.value().remarks.front().find("bears"), std::string::npos);
    EXPECT_GT(grid.value().rating, 0.25) << "it takes the heat of one alone too";
}

TEST(Grid, ScanningTakesFewerLinesAndHigherPeaks) {
    const auto grid = plan_grid(grid_asked(4, 6, GridResistor::row));
    ASSERT_TRUE(grid);
    const auto& [direct, scanned, pairs] =
        std::tie(grid.value().schemes[0], grid.value().schemes[1], grid.value().schemes[2]);
    EXPECT_EQ(direct.lines, 24);
    EXPECT_EQ(scanned.lines, 10);
    EXPECT_EQ(pairs.lines, 6) << "6 × 5 = 30 lights, 5 × 4 = 20 are too few";
    EXPECT_DOUBLE_EQ(scanned.duty, 0.25);
    EXPECT_NEAR(scanned.peak.value, 0.04, 1e-12);
    EXPECT_NEAR(scanned.allowed.value, 0.1, 1e-12) << "10/3 × 30 mA, and 30 mA / 0.25 = 120 mA";
    EXPECT_NE(scanned.remark.find("transistors"), std::string::npos);
    GridQuestion slow = grid_asked(4, 6, GridResistor::row);
    slow.refresh = 50;
    EXPECT_EQ(plan_grid(slow).value().flicker, Flicker::seen);
    EXPECT_NE(plan_grid(slow).value().schemes[1].remark.find("not calm"), std::string::npos);
}

TEST(Grid, BadQuestionsSayWhatIsExpected) {
    EXPECT_FALSE(plan_grid(grid_asked(0, 3, GridResistor::row)));
    EXPECT_FALSE(plan_grid(grid_asked(3, 33, GridResistor::row)));
    EXPECT_FALSE(plan_grid(grid_asked(3, 3, GridResistor::row, 1.2))) << "no volts for a red LED";
    GridQuestion q = grid_asked(3, 3, GridResistor::row);
    q.refresh = 0;
    EXPECT_FALSE(plan_grid(q));
}

TEST(Grid, IsFoundInADesign) {
    const auto seats = test::demo("seat-finder");
    const auto shape = grid_of(seats.circuit);
    ASSERT_TRUE(shape);
    EXPECT_EQ(shape->rows * shape->columns, 25);
    EXPECT_FALSE(grid_of(test::demo("herbarium-ring").circuit));
}

/// The fewest rectangles that cover a small pattern, by trying all.
int fewest(const GridPattern& wish) {
    const unsigned cells = static_cast<unsigned>(wish.rows * wish.columns);
    unsigned target = 0;
    for (unsigned k = 0; k < cells; ++k) target |= wish.lit[k] ? 1U << k : 0U;
    std::set<unsigned> all;
    for (unsigned r = 1; r < 1U << wish.rows; ++r)
        for (unsigned c = 1; c < 1U << wish.columns; ++c) {
            unsigned bits = 0;
            for (int i = 0; i < wish.rows; ++i)
                for (int k = 0; k < wish.columns; ++k)
                    if ((r >> i & 1U) && (c >> k & 1U)) bits |= 1U << (i * wish.columns + k);
            if ((bits & ~target) == 0) all.insert(bits);
        }
    std::set<unsigned> reached{0};
    for (int steps = 0;; ++steps) {
        if (reached.count(target)) return steps;
        std::set<unsigned> next;
        for (const unsigned a : reached)
            for (const unsigned b : all) next.insert(a | b);
        reached = std::move(next);
    }
}

TEST(GridPatterns, EveryPatternOfThreeByThreeIsShownInTheFewestSteps) {
    for (unsigned bits = 0; bits < 512; ++bits) {
        auto wish = GridPattern::dark(3, 3);
        for (unsigned k = 0; k < 9; ++k) wish.lit[k] = bits >> k & 1U;
        const PatternAnswer answer = answer_pattern(wish);
        auto shown = GridPattern::dark(3, 3);
        for (const GridStep& step : answer.scan)
            for (const int r : step.rows)
                for (const int c : step.columns) {
                    EXPECT_TRUE(wish.at(r, c)) << bits << ": lights what is not wished";
                    shown.set(r, c, true);
                }
        EXPECT_EQ(shown, wish) << bits;
        EXPECT_EQ(static_cast<int>(answer.scan.size()), fewest(wish)) << bits;
        EXPECT_EQ(answer.reachable(), answer.scan.size() <= 1) << bits;
        EXPECT_EQ(answer.lights.count(), wish.count() + static_cast<int>(answer.others.size())) << bits;
    }
}

TEST(GridPatterns, AreReadFromWords) {
    const auto read = read_pattern("x..,.x.,..x");
    ASSERT_TRUE(read);
    EXPECT_EQ(read.value().count(), 3);
    EXPECT_EQ(answer_pattern(read.value()).others.size(), 6U);
    EXPECT_EQ(answer_pattern(read.value()).scan.size(), 3U);
    for (const char* bad : {"", "x.,x", "xq", ","}) EXPECT_FALSE(read_pattern(bad)) << bad;
    EXPECT_FALSE(read_pattern(std::string(65, 'x')));
    EXPECT_TRUE(read_pattern(std::string(64, 'x')));
}

TEST(GridPatterns, ThePictureHasEachLightOnceToBeTapped) {
    const auto wish = read_pattern("x.\n.x").value();
    const Drawing d = draw_pattern(wish, answer_pattern(wish), 200, 200);
    EXPECT_EQ(d.refs().size(), 4U);
    EXPECT_EQ(d.hit(d.bounds("light:2,1").x0 + 4, d.bounds("light:2,1").y0 + 4), "light:2,1");
    EXPECT_NE(pattern_text(wish, answer_pattern(wish)).find("2 steps"), std::string::npos);
}

TEST(FlickerVerdict, FollowsTheStandard) {
    EXPECT_EQ(judge_flicker(3001, 100), Flicker::no_effect);
    EXPECT_EQ(judge_flicker(2900, 100), Flicker::low_risk);
    EXPECT_EQ(judge_flicker(1251, 100), Flicker::low_risk);
    EXPECT_EQ(judge_flicker(1249, 100), Flicker::noticed);
    EXPECT_EQ(judge_flicker(100, 100), Flicker::noticed);
    EXPECT_EQ(judge_flicker(100, 7.9), Flicker::low_risk) << "0.08 × 100 = 8 %";
    EXPECT_EQ(judge_flicker(100, 3.3), Flicker::no_effect);
    EXPECT_EQ(judge_flicker(50, 100), Flicker::seen);
    EXPECT_EQ(judge_flicker(50, 1.2), Flicker::low_risk) << "0.025 × 50 = 1.25 %";
    EXPECT_EQ(judge_flicker(0, 100), Flicker::steady);
    EXPECT_EQ(judge_flicker(50, 0), Flicker::steady);
}

}  // namespace
}  // namespace elkit
