// Arrangements of N LEDs: against the engine on real circuits, against hand-checked cases, and their order.
#include "planning/arrays.hpp"

#include "catalogue/catalogue.hpp"
#include "design/delta.hpp"
#include "drawer/import.hpp"
#include "engine/models.hpp"
#include "light/strings.hpp"
#include "planning/arrays_of_design.hpp"
#include "quantity/brightness.hpp"
#include "recipes/blocks.hpp"
#include "recipes/steady_light.hpp"
#include "review/findings.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

ArrayQuestion array_asked(int count, double current, const std::string& led = "amber-5mm", int cells = 3) {
    ArrayQuestion q;
    q.source = {"B1", "battery", {}, {{"+", "V+"}, {"-", "GND"}}, {}};
    q.source.params["cell"] = std::string("LR6");
    q.source.params["count"] = static_cast<double>(cells);
    q.led = {"L1", "led", {}, {}, {}};
    q.led.params["type"] = led;
    q.count = count, q.current = current;
    return q;
}

const Arrangement* of(const std::vector<Arrangement>& all, int per_string) {
    for (const Arrangement& a : all)
        if (a.per_string == per_string) return &a;
    return nullptr;
}

TEST(Arrays, EverySplitIsThereOnce) {
    const auto all = arrangements(array_asked(10, 0.01));
    ASSERT_TRUE(all);
    EXPECT_EQ(all.value().size(), 10u);
    for (int m = 1; m <= 10; ++m) {
        const Arrangement* a = of(all.value(), m);
        ASSERT_NE(a, nullptr) << m;
        int lights = 0;
        for (const auto& s : a->strings) lights += s.leds * s.strings;
        EXPECT_EQ(lights, 10) << m;
        if (a->verdict == Arrangement::Verdict::impossible) continue;
        std::vector<int> lengths;
        for (const auto& s : a->strings)
            for (int k = 0; k < s.strings; ++k) lengths.push_back(s.leds);
        EXPECT_EQ(lengths, string_lengths(10, m)) << "as the recipe splits them";
    }
    EXPECT_EQ(of(all.value(), 3)->name(), "3 × 3 + 1 × 1");
}

/// Every arrangement as a circuit, solved by the engine: currents, at corners too, are the same.
class ArraysAgainstEngine : public ::testing::TestWithParam<std::pair<const char*, int>> {};

TEST_P(ArraysAgainstEngine, CurrentsAreTheEngines) {
    const auto& [led, cells] = GetParam();
    const ArrayQuestion q = array_asked(7, 0.015, led, cells);
    const auto all = arrangements(q);
    ASSERT_TRUE(all) << all.error().text();
    int possible = 0;
    for (const Arrangement& a : all.value()) {
        if (a.verdict == Arrangement::Verdict::impossible) continue;
        ++possible;
        Design d;
        d.circuit.parts = {q.source};
        const auto built = with_arrangement(d, q, a);
        ASSERT_TRUE(built) << built.error().text();
        const Circuit& c = built.value().circuit;
        for (const auto& s : a.strings) {
            const Part* first = nullptr;  // of a string of this length
            for (const LedString& string : led_strings(c))
                if (static_cast<int>(string.leds.size()) == s.leds) first = string.leds.front();
            ASSERT_NE(first, nullptr);
            const auto at = [&](double battery, double celsius, double bin, double tolerance) {
                Circuit copy = c;
                for (Part& p : copy.parts)
                    if (p.kind == "resistor") p.params["value"] = p.number("value") * (1 + tolerance);
                Conditions now;
                now.battery = battery, now.celsius = celsius;
                Corner corner;
                corner.led_vf = bin;
                return test::solve(copy, now, corner).part(first->designator).current;
            };
            const double typical = at(1, 21, 0, 0);
            EXPECT_NEAR(s.current.value, typical, 1e-6 * typical) << a.name();
            double low = typical, high = typical;
            for (const double celsius : {q.cold, q.hot})
                for (const double bin : {-1.0, 1.0})
                    for (const double t : {-q.tolerance, q.tolerance}) {
                        const double amps = at(1, celsius, bin, t);
                        low = std::min(low, amps), high = std::max(high, amps);
                    }
            EXPECT_NEAR(*s.current.low, low, 1e-5 * low + 1e-10) << a.name();
            EXPECT_NEAR(*s.current.high, high, 1e-5 * high) << a.name();
            if (a.strings.size() == 1) {
                EXPECT_NEAR(a.half.value, 100 * perceived(at(0.5, 21, 0, 0) / typical), 0.01) << a.name();
            }
        }
    }
    EXPECT_GE(possible, 1);
}
INSTANTIATE_TEST_SUITE_P(All, ArraysAgainstEngine,
                         ::testing::Values(std::pair("amber-5mm", 3), std::pair("red-5mm", 6),
                                           std::pair("white-5mm", 3), std::pair("white-5mm", 6)));

TEST(Arrays, AHandWorkedString) {
    // 2 amber LEDs on 3 fresh LR6 at 12 mA: the recipe's own resistor
    Design d = test::pier_lantern();
    Store store;
    const auto q = array_question(Ask(store), d, {});
    ASSERT_TRUE(q);
    EXPECT_EQ(q.value().count, 4);
    const auto all = arrangements(q.value());
    const Arrangement* a = of(all.value(), 2);
    EXPECT_EQ(a->strings.front().resistance, d.circuit.find("R1")->number("value"));
    EXPECT_NEAR(a->strings.front().current.value, test::solve(d.circuit).part("L1").current, 1e-8);
    EXPECT_EQ(of(all.value(), 3)->verdict, Arrangement::Verdict::impossible) << "3 × 2 V of 4.8 V";
    EXPECT_NE(of(all.value(), 3)->reason.find("needed"), std::string::npos) << of(all.value(), 3)->reason;
}

TEST(Arrays, TheBestIsSoundAndTellsWhy) {
    ArrayQuestion q = array_asked(24, 0.02, "white-5mm", 1);
    q.source = {"PS1", "supply", {}, {{"+", "V+"}, {"-", "GND"}}, {}};
    q.source.params["voltage"] = 12.0, q.source.params["max_current"] = 2.0;
    const auto all = arrangements(q);
    ASSERT_TRUE(all);
    const auto& list = all.value();
    EXPECT_EQ(list.front().verdict, Arrangement::Verdict::sound);
    EXPECT_EQ(list.front().name(), "8 × 3") << "2.7 V of 12 V for the resistor, the most light for the power";
    EXPECT_NE(list.front().reason.find("%"), std::string::npos);
    for (std::size_t k = 1; k < list.size(); ++k) {
        EXPECT_GE(list[k].verdict, list[k - 1].verdict);
        if (list[k].verdict == Arrangement::Verdict::sound) {
            EXPECT_LE(list[k].efficiency.value, list[k - 1].efficiency.value + 0.11);
        }
    }
    EXPECT_EQ(list.front().wiring.front(),
              "8 times: plus → " + format_quantity(list.front().strings.front().resistance, Unit::ohm) +
                  " ¼ W → 3 LEDs → minus");
    q.source.params["max_current"] = 0.1;
    const auto starved = arrangements(q);
    for (const Arrangement& a : starved.value()) EXPECT_NE(a.verdict, Arrangement::Verdict::sound);
}

/// What is called sound here is not warned of once it is taken.
TEST(Arrays, SoundOnesHaveNoFindingOfTheirOwn) {
    for (const auto& [count, cells] : {std::pair{4, 3}, std::pair{6, 4}, std::pair{9, 6}}) {
        ArrayQuestion q = array_asked(count, 0.012, "amber-5mm", cells);
        const auto all = arrangements(q);
        int sound = 0;
        for (const Arrangement& a : all.value()) {
            if (a.verdict != Arrangement::Verdict::sound) continue;
            ++sound;
            Design d;
            d.circuit.parts = {q.source};
            const auto built = with_arrangement(d, q, a);
            ASSERT_TRUE(built);
            Store store;
            for (const Finding& f : review(Ask(store), built.value(), {}, demo_stock()))
                for (const char* rule : {"headroom", "sag", "led-current"})
                    EXPECT_NE(f.rule, rule) << a.name() << " on " << cells << " cells: " << f.title;
        }
        EXPECT_GE(sound, 1) << count;
    }
}

TEST(Arrays, HeatBeyondEveryCommonResistorIsDoubtful) {
    ArrayQuestion q = array_asked(1, 1, "amber-5mm", 1);
    q.source = {"PS1", "supply", {{"voltage", 12.0}, {"max_current", 5.0}}, {{"+", "V+"}, {"-", "GND"}}, {}};
    q.led.params["max_current"] = 2.0;
    const auto all = arrangements(q);
    EXPECT_EQ(all.value().front().verdict, Arrangement::Verdict::doubtful);
    EXPECT_NE(all.value().front().reason.find("heat"), std::string::npos) << all.value().front().reason;
}

TEST(Arrays, OnlyFromTheDrawer) {
    ArrayQuestion q = array_asked(4, 0.012);
    q.owned = {47, 100, 330};
    const auto some = arrangements(q);
    for (const Arrangement& a : some.value())
        for (const auto& s : a.strings)
            if (a.verdict != Arrangement::Verdict::impossible) {
                EXPECT_TRUE(s.resistance == 47 || s.resistance == 100 || s.resistance == 330);
            }
    q.owned = {1};
    const auto none = arrangements(q);
    for (const Arrangement& a : none.value()) {
        EXPECT_EQ(a.verdict, Arrangement::Verdict::impossible);
        if (a.per_string < 3) {
            EXPECT_NE(a.reason.find("drawer"), std::string::npos) << a.reason;
        }
    }
}

TEST(Arrays, ACoinCellNeedsNoResistorWhereNothingIsLeftForOne) {
    ArrayQuestion q = array_asked(2, 0.005, "white-5mm", 1);
    q.source.params["cell"] = std::string("CR2032");
    const auto all = arrangements(q);
    ASSERT_TRUE(all);
    const Arrangement* singles = of(all.value(), 1);
    ASSERT_NE(singles->verdict, Arrangement::Verdict::impossible) << singles->reason;
    EXPECT_EQ(singles->strings.front().resistance, 0);
    EXPECT_NE(singles->reason.find("the cell limits"), std::string::npos) << singles->reason;
    EXPECT_EQ(singles->wiring.front(), "2 times: plus → 1 LED → minus");
    EXPECT_EQ(of(all.value(), 2)->verdict, Arrangement::Verdict::impossible) << "6 V of 3 V stay dark";
    Design d;
    d.circuit.parts = {q.source};
    const auto built = with_arrangement(d, q, *singles);
    ASSERT_TRUE(built) << built.error().text();
    const double amps = test::solve(built.value().circuit).part("L1").current;
    EXPECT_NEAR(singles->strings.front().current.value, amps, 1e-6 * amps);
}

TEST(Arrays, AppliedToABlockItStaysABlock) {
    const Design d = test::pier_lantern();
    Store store;
    ArrayQuestion q = array_question(Ask(store), d, {}).value();
    q.count = 6;
    const auto all = arrangements(q);
    const auto next = with_arrangement(d, q, *of(all.value(), 1));
    ASSERT_TRUE(next) << next.error().text();
    EXPECT_EQ(led_strings(next.value().circuit).size(), 6u);
    EXPECT_EQ(next.value().blocks.size(), 1u);
    EXPECT_EQ(goals_of(next.value(), next.value().blocks[0]).number("per_string"), 1);
    EXPECT_FALSE(with_arrangement(d, q, *of(all.value(), 6))) << "impossible";
}

TEST(Arrays, TakenByACircuitByHandReplaceItsLights) {
    Design d;
    d.circuit = test::circuit({"battery B1 +=V -=0 cell=LR6 count=4", "resistor R1 a=V b=A value=150",
                               "led L1 a=A k=B", "led L2 a=B k=0", "resistor R2 a=V b=C value=150",
                               "led L3 a=C k=D", "led L4 a=D k=0"});
    Store store;
    const auto found = Ask(store)(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(found);
    for (const Arrangement& a : found->list) {
        if (a.verdict == Arrangement::Verdict::impossible) continue;
        const auto built = with_arrangement(d, found->question, a);
        ASSERT_TRUE(built) << built.error().text();
        EXPECT_TRUE(check_writable(built.value())) << a.name();
        const auto strings = led_strings(built.value().circuit);
        std::size_t leds = 0;
        for (const LedString& s : strings) leds += s.leds.size();
        EXPECT_EQ(leds, 4u) << a.name();
        EXPECT_EQ(built.value().blocks.size(), 1u) << a.name() << ": sized anew with the cells from now on";
        const double amps = test::solve(built.value().circuit).part("L1").current;
        EXPECT_NEAR(a.strings.front().current.value, amps, 1e-6 * amps) << a.name();
    }
}

TEST(Arrays, RefuseWhatIsNoQuestion) {
    EXPECT_EQ(arrangements(array_asked(0, 0.01)).error().place, "lights");
    EXPECT_EQ(arrangements(array_asked(4, 0)).error().place, "current");
    EXPECT_FALSE(arrangements(array_asked(4, 0.01, "no such LED")));
    Store store;
    EXPECT_FALSE(array_question(Ask(store), Design{}, {})) << "without a source";
}

TEST(ArraysOfDesign, CellsInARowCountTogether) {
    Design d;
    d.circuit = test::circuit({"battery B1 +=V -=0 cell=LR6 count=2", "battery B2 +=W -=V cell=LR6 count=2",
                               "switch S1 a=W b=ON", "resistor R1 a=ON b=A value=150", "led L1 a=A k=0"});
    Store store;
    const auto whole = Ask(store)(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(whole) << whole.error().text();
    EXPECT_EQ(whole->question.source.number("count"), 4);
    const auto built = with_arrangement(d, whole->question, whole->list.front());
    ASSERT_TRUE(built) << built.error().text();
    EXPECT_NEAR(test::solve(built.value().circuit).part("L1").current,
                whole->list.front().strings.front().current.value, 5e-4);
    d.circuit.find("S1")->pins.front().net = "V";  // the lights at the first two only
    const auto half = Ask(store)(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(half) << half.error().text();
    EXPECT_EQ(half->question.source.number("count"), 2);
}

}  // namespace
}  // namespace elkit
