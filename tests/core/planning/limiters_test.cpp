// Ways to keep the current of strings, as circuits that the engine solves.
#include "planning/limiters.hpp"

#include <cmath>

#include "design/delta.hpp"
#include "drawer/import.hpp"
#include "engine/operating_point.hpp"
#include "light/strings.hpp"
#include "planning/lights_place.hpp"
#include "review/findings.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

LimiterQuestion limiters_asked(const Part& source, int count, int per_string, double current,
                               const std::string& led = "amber-5mm") {
    LimiterQuestion q;
    q.array.source = source;
    q.array.led = {"L1", "led", {{"type", led}}, {}, {}};
    q.array.count = count, q.array.current = current;
    q.per_string = per_string;
    return q;
}

Part cells(const std::string& cell, double count) {
    return {"B1", "battery", {{"cell", cell}, {"count", count}}, {{"+", "V+"}, {"-", "GND"}}, {}};
}

Part steady(double volts) {
    return {"PS1", "supply", {{"voltage", volts}, {"max_current", 2.0}}, {{"+", "V+"}, {"-", "GND"}}, {}};
}

const LimiterRow& row(const std::vector<LimiterRow>& rows, const std::string& id) {
    for (const LimiterRow& r : rows)
        if (r.id == id) return r;
    throw std::out_of_range(id);
}

TEST(Limiters, EachIsTheCurrentOfItsArrangement) {
    const LimiterQuestion q = limiters_asked(cells("LR6", 3), 4, 2, 0.012);
    const auto rows = limiters(q);
    ASSERT_TRUE(rows) << rows.error().text();
    const auto arranged = arrangements(q.array);
    for (const Arrangement& a : arranged.value())
        if (a.per_string == 2) {
            const LimiterRow& each = row(rows.value(), "each");
            EXPECT_NEAR(each.current.value, a.strings.front().current.value, 1e-6);
            EXPECT_NEAR(*each.current.high, *a.strings.front().current.high, 1e-5);
            EXPECT_NEAR(each.efficiency.value, a.efficiency.value, 0.2);
        }
}

TEST(Limiters, ACurrentSourceHoldsWhereAResistorDoesNot) {
    const auto rows = limiters(limiters_asked(steady(9), 3, 3, 0.015, "red-5mm"));
    ASSERT_TRUE(rows);
    const LimiterRow &each = row(rows.value(), "each"), &source = row(rows.value(), "transistors");
    ASSERT_TRUE(source.possible) << source.reason;
    EXPECT_NEAR(source.current.value, 0.015, 0.003);
    EXPECT_LT(source.spread.value, each.spread.value);
    EXPECT_NE(source.parts.back().find("2 ×"), std::string::npos) << source.parts.back();
}

TEST(Limiters, ARegulatorNeedsItsVoltsAndHoldsTheCurrent) {
    const auto rows = limiters(limiters_asked(steady(12), 2, 2, 0.015, "white-5mm"));
    const LimiterRow& r = row(rows.value(), "regulator");
    ASSERT_TRUE(r.possible) << r.reason;
    EXPECT_NEAR(r.current.value, 0.015, 0.001);
    EXPECT_LT(r.spread.value, 1.2);
    EXPECT_NEAR(r.headroom.value, 3.3, 0.5) << "its own voltage";
    const auto low = limiters(limiters_asked(steady(9), 2, 2, 0.015, "white-5mm"));
    EXPECT_FALSE(row(low.value(), "regulator").possible);
    EXPECT_NE(row(low.value(), "regulator").reason.find("needs"), std::string::npos);
}

TEST(Limiters, ACoinCellLimitsItselfLargerCellsDoNot) {
    const auto coin = limiters(limiters_asked(cells("CR2032", 1), 1, 1, 0.005, "red-5mm"));
    ASSERT_TRUE(coin);
    EXPECT_TRUE(row(coin.value(), "source").possible);
    EXPECT_EQ(row(coin.value(), "source").reason.find("do not limit"), std::string::npos);
    const auto round = limiters(limiters_asked(cells("LR6", 3), 2, 2, 0.012));
    EXPECT_FALSE(row(round.value(), "source").reason.empty());
}

TEST(Limiters, DiodesTakeWhatIsLeftOver) {
    const auto rows = limiters(limiters_asked(cells("LR6", 2), 1, 1, 0.015, "red-5mm"));
    const LimiterRow& r = row(rows.value(), "diodes");
    ASSERT_TRUE(r.possible) << r.reason;
    EXPECT_NE(r.parts.front().find("diode"), std::string::npos);
    EXPECT_GT(r.current.value, 1e-3);
}

TEST(Limiters, ResistorsAreRatedForTheirHeatAndOtherPartsKnowTheirLimits) {
    LimiterQuestion q = limiters_asked(steady(12), 1, 1, 0.1, "red-5mm");
    q.array.led.params["max_current"] = 0.5;
    const auto rows = limiters(q);
    EXPECT_EQ(row(rows.value(), "each").parts.front().find("¼ W"), std::string::npos)
        << "a watt of heat: " << row(rows.value(), "each").parts.front();
    EXPECT_NE(row(rows.value(), "transistors").reason.find("bears"), std::string::npos)
        << "a watt in a small transistor: " << row(rows.value(), "transistors").reason;
}

TEST(Limiters, PricesAndImpossibleOnesHaveTheirReasons) {
    LimiterQuestion q = limiters_asked(cells("LR6", 3), 4, 2, 0.012);
    q.drawer = demo_stock();
    const auto rows = limiters(q);
    EXPECT_GT(row(rows.value(), "each").cost.value, 0);
    EXPECT_GT(row(rows.value(), "pairs").cost.value, row(rows.value(), "each").cost.value);
    q.array.count = 2;
    const auto one = limiters(q);
    EXPECT_FALSE(row(one.value(), "shared").possible);
    for (const LimiterRow& r : one.value()) EXPECT_TRUE(r.possible || !r.reason.empty()) << r.id;
    q.per_string = 3;
    EXPECT_EQ(limiters(q).error().place, "in series");
}

TEST(Limiters, TakeTheirResistorsFromWhatIsOwned) {
    LimiterQuestion q = limiters_asked(cells("LR6", 3), 4, 2, 0.012);
    const auto ohms_of = [](const LimiterRow& r) {
        for (const Part& part : r.circuit.parts)
            if (part.kind == "resistor") return part.number("value");
        return 0.0;
    };
    const double any = ohms_of(row(limiters(q).value(), "each"));
    q.array.owned = {any * 0.5, any * 1.3, any * 4};
    EXPECT_DOUBLE_EQ(ohms_of(row(limiters(q).value(), "each")), any * 1.3)
        << "the nearest, never above the current";
    q.array.owned = {any * 0.5, any * 0.9};
    EXPECT_DOUBLE_EQ(ohms_of(row(limiters(q).value(), "each")), any * 0.9) << "there is none above";
    q.array.owned = {any * 3};
    EXPECT_DOUBLE_EQ(ohms_of(row(limiters(q).value(), "each")), any * 3) << "the only one";
}

/// Each limiter taken into a design gives the current that its row told.
void expect_taken(const Design& design, double within) {
    const Conditions fresh_cells;
    Store store;
    const auto found = Ask(store)(LimitersQuery{{design, fresh_cells, {}}, 0, {}});
    ASSERT_TRUE(found) << found.error().text();
    const std::size_t lights = static_cast<std::size_t>(found->question.array.count);
    int taken = 0;
    for (const LimiterRow& r : found->rows) {
        const auto next = with_limiter(design, found->question, r);
        ASSERT_EQ(bool(next), r.possible) << r.id << (next ? "" : ": " + next.error().text());
        if (!next) continue;
        ++taken;
        const Circuit& circuit = next.value().circuit;
        EXPECT_TRUE(check_writable(next.value())) << r.id;
        std::size_t leds = 0;
        for (const Part& part : circuit.parts) leds += part.kind == "led";
        EXPECT_EQ(leds, lights) << r.id;
        const auto op = operating_point(circuit, known_catalogue(), fresh_cells);
        ASSERT_TRUE(op) << r.id << ": " << op.error().text();
        const std::string first = led_strings(circuit).front().leds.front()->designator;
        EXPECT_NEAR(op.value().part(first).current / r.current.value, 1, within) << r.id;
    }
    EXPECT_GE(taken, 3);
}

TEST(Limiters, TakenIntoABlockOfLights) {
    Design d = test::pier_lantern();
    expect_taken(d, 0.02);
    Store store;
    const auto found = Ask(store)(LimitersQuery{{d, {}, {}}, 0, {}});
    const auto kept = with_limiter(d, found->question, row(found->rows, "shared"));
    if (kept) {
        EXPECT_EQ(kept.value().blocks.size(), d.blocks.size()) << "the recipe knows it";
    }
    const auto plain = with_limiter(d, found->question, row(found->rows, "pairs"));
    ASSERT_TRUE(plain) << plain.error().text();
    EXPECT_TRUE(plain.value().blocks.empty()) << "no recipe sizes it";
}

TEST(Limiters, TakenIntoACircuitByHandInPlaceOfItsLights) {
    Design d;
    d.circuit =
        test::circuit({"battery B1 +=V -=0 cell=LR6 count=4", "switch S1 a=V b=SW", "led L1 a=SW k=M",
                       "led L2 a=M k=X", "resistor R1 a=X b=0 value=150", "led L3 a=SW k=N", "led L4 a=N k=Y",
                       "resistor R2 a=Y b=0 value=150", "resistor R9 a=V b=0 value=100000"});
    expect_taken(d, 0.08);  // a diode is steep enough to feel the contact of the switch
    Store store;
    const auto found = Ask(store)(LimitersQuery{{d, {}, {}}, 0, {}});
    const auto next = with_limiter(d, found->question, row(found->rows, "diodes"));
    ASSERT_TRUE(next) << next.error().text();
    const Circuit& circuit = next.value().circuit;
    EXPECT_NE(circuit.find("S1"), nullptr);
    EXPECT_NE(circuit.find("R9"), nullptr);
    EXPECT_EQ(circuit.find("R1"), nullptr) << "its resistors went with the lights";
    EXPECT_EQ(circuit.find("D1")->net("a"), "SW") << "behind the switch, as the lights were";
}

TEST(Limiters, ARegulatorHasItsCapacitorsAndRunsBesideWhatSwitches) {
    const Design strip = test::demo("shelf-strip");
    const auto found = test::ask(LimitersQuery{{strip, {}, {}}, 0, std::vector<DrawerItem>{}});
    ASSERT_TRUE(found) << found.error().text();
    const LimiterRow& regulator = row(found.value().rows, "regulator");
    ASSERT_TRUE(regulator.possible) << regulator.reason;
    const auto next = with_limiter(strip, found.value().question, regulator);
    ASSERT_TRUE(next) << next.error().text();
    Store store;
    const Keyed<Circuit> circuit(next.value().circuit);
    const auto run = Ask(store)(RunQuery(circuit, {}));
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_TRUE(run->moves());
    const std::string light = led_strings(*circuit).front().leds.front()->designator;
    EXPECT_NEAR(run->mean().part(light).current, regulator.current.value, 0.03 * regulator.current.value);
    for (const Finding& f : review(Ask(store), next.value(), {}, std::vector<DrawerItem>{}))
        EXPECT_NE(f.rule, "supply-capacitor") << f.title;
}

TEST(Limiters, NoneThatLeavesTheLightsDark) {
    const auto rows = limiters(limiters_asked(cells("LR6", 1), 1, 1, 0.01, "white-5mm"));
    ASSERT_TRUE(rows) << rows.error().text();
    for (const LimiterRow& r : rows.value()) EXPECT_FALSE(r.possible) << r.id << " " << r.current.text();
    EXPECT_NE(row(rows.value(), "source").reason.find("dark"), std::string::npos);
}

TEST(LightsPlace, IsFoundByRailsOrByTheWayTheLightsPoint) {
    const auto place = [](std::vector<std::string> lines) {
        lines.insert(lines.begin(), "battery B1 +=V -=0 cell=LR6 count=3");
        return without_lights(test::circuit(lines));
    };
    auto shared = place({"resistor R1 a=V b=F value=33", "led L1 a=F k=0", "led L2 a=F k=0"});
    ASSERT_TRUE(shared) << shared.error().text();
    EXPECT_EQ(shared.value().plus, "V");
    EXPECT_EQ(shared.value().minus, "0");
    EXPECT_EQ(shared.value().circuit.parts.size(), 1u);
    auto turned = place({"resistor R1 a=V b=F value=33", "led L1 a=0 k=F"});
    ASSERT_TRUE(turned);
    EXPECT_EQ(turned.value().plus, "V") << "the light is the wrong way round, not its place";
    auto between =
        place({"resistor R8 a=V b=Z value=10", "resistor R9 a=A b=0 value=10",
               "capacitor C1 a=Z b=A value=1e-6", "led L1 a=Z k=M", "resistor R1 a=M b=A value=33"});
    ASSERT_TRUE(between) << between.error().text();
    EXPECT_EQ(between.value().plus, "Z");
    EXPECT_EQ(between.value().minus, "A");
    auto apart = place({"switch S1 a=V b=A", "switch S2 a=V b=B", "resistor R1 a=A b=C value=33",
                        "led L1 a=C k=0", "resistor R2 a=B b=D value=33", "led L2 a=D k=0"});
    ASSERT_TRUE(apart) << apart.error().text();
    EXPECT_EQ(apart.value().plus, "A") << "the first of two places";
    EXPECT_FALSE(without_lights(Circuit{}));
}

}  // namespace
}  // namespace elkit
