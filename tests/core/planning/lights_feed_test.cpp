// What lights get where they hang: arrangements and limiters say what the engine finds once they are taken.
#include "planning/lights_feed.hpp"

#include <cmath>

#include "light/light.hpp"
#include "planning/arrays_by_coil.hpp"
#include "planning/limiters.hpp"
#include "recipes/blocks.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

/// Current of the strings at the place of the lights that were asked about, fresh and lit.
std::optional<double> current_there(const Design& taken, const std::string& plus, const std::string& minus) {
    Store store;
    for (const HungLights& lights : hung_lights(taken.circuit))
        if (lights.plus == plus && lights.minus == minus) return lit_current(Ask(store), taken, lights, {});
    return std::nullopt;
}

Design fed_design(const std::vector<std::string>& lines) {
    Design d;
    d.circuit = test::circuit(lines);
    return d;
}

/// Everything that may stand between a source and its lights.
struct Between {
    const char* name;
    std::vector<std::string> lines;
};

std::vector<Between> betweens() {
    const std::string cells = "battery B1 +=V -=0 cell=LR6 count=4", light = "led L1 a=A k=K type=white-5mm";
    return {
        {"a_diode", {cells, "diode D1 a=V k=F", "resistor R1 a=F b=A value=100", light, "switch S1 a=K b=0"}},
        {"a_transistor",
         {cells, "resistor R1 a=V b=A value=100", light, "resistor R2 a=V b=B value=10000",
          "npn Q1 c=K b=B e=0"}},
        {"a_transistor_that_limits",
         {cells, "resistor R1 a=V b=A value=22", light, "resistor R2 a=V b=B value=47000",
          "npn Q1 c=K b=B e=0"}},
        {"a_long_wire_and_a_load",
         {cells, "resistor R3 a=V b=W value=3.3", "resistor R4 a=W b=0 value=47",
          "resistor R1 a=W b=A value=100", light, "switch S1 a=K b=0"}},
        {"a_converter",
         {"battery B1 +=V -=0 cell=LR6 count=1", "step_up M1 in=V gnd=0 out=W voltage=5",
          "resistor R1 a=W b=A value=150", light, "switch S1 a=K b=0"}},
    };
}

class FedThrough : public ::testing::TestWithParam<Between> {};

TEST_P(FedThrough, ArrangementsSayWhatTheEngineFinds) {
    const Design d = fed_design(GetParam().lines);
    for (const int count : {1, 3}) {
        ArraysQuery query{d, {}, {}};
        query.wishes.count = count;
        if (count > 1) query.wishes.current = 0.004;
        const auto found = test::ask(query);
        ASSERT_TRUE(found) << found.error().text();
        const HungLights was = hung_lights(d.circuit).front();
        int taken = 0;
        for (const Arrangement& a : found.value().list) {
            if (a.verdict == Arrangement::Verdict::impossible) continue;
            const auto next = with_arrangement(d, found.value().question, a);
            ASSERT_TRUE(next) << next.error().text();
            const auto amps = current_there(next.value(), was.plus, was.minus);
            ASSERT_TRUE(amps) << a.name();
            EXPECT_NEAR(a.strings.front().current.value, *amps, 0.02 * *amps) << a.name();
            ++taken;
        }
        EXPECT_GE(taken, 1) << found.value().list.front().reason;
    }
}

TEST_P(FedThrough, LimitersSayWhatTheEngineFinds) {
    const Design d = fed_design(GetParam().lines);
    const auto found = test::ask(LimitersQuery{{d, {}, {}}, 0, std::vector<DrawerItem>{}});
    ASSERT_TRUE(found) << found.error().text();
    const HungLights was = hung_lights(d.circuit).front();
    for (const LimiterRow& row : found.value().rows) {
        if (!row.possible || row.id == "source") continue;
        const auto next = with_limiter(d, found.value().question, row);
        ASSERT_TRUE(next) << next.error().text();
        std::optional<double> amps;
        for (const LedString& s : led_strings(next.value().circuit))
            amps = test::solve(next.value().circuit).part(s.leds.front()->designator).current;
        ASSERT_TRUE(amps) << row.id;
        EXPECT_NEAR(row.current.value, *amps, 0.02 * *amps) << row.id << " between " << was.plus;
    }
}

TEST_P(FedThrough, WhatIsThereIsAmongTheAnswers) {
    const Design d = fed_design(GetParam().lines);
    const auto found = test::ask(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_EQ(found.value().list.front().strings.front().resistance, d.circuit.find("R1")->number("value"));
}

INSTANTIATE_TEST_SUITE_P(All, FedThrough, ::testing::ValuesIn(betweens()),
                         [](const auto& of) { return std::string(of.param.name); });

class FedInDemos : public ::testing::TestWithParam<std::string> {};

TEST_P(FedInDemos, TheBestArrangementGivesWhatItSays) {
    const Design d = test::demo(GetParam());
    const auto found = test::ask(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(found) << found.error().text();
    if (found.value().question.by_coil) {
        EXPECT_TRUE(d.circuit.find("T1")) << "only a coil feeds by pulses";
        return;  // LightsByCoil looks at it
    }
    const Arrangement& best = found.value().list.front();
    ASSERT_NE(best.verdict, Arrangement::Verdict::impossible) << best.reason;
    const auto next = with_arrangement(d, found.value().question, best);
    ASSERT_TRUE(next) << next.error().text();
    const auto place = found.value().question.at.empty()
                           ? without_lights(next.value().circuit)
                           : without_lights(d.circuit, found.value().question.at);
    ASSERT_TRUE(place) << place.error().text();
    const auto amps = current_there(next.value(), place.value().plus, place.value().minus);
    ASSERT_TRUE(amps) << place.value().plus << " to " << place.value().minus;
    EXPECT_NEAR(best.strings.front().current.value, *amps, 0.02 * *amps);
}

INSTANTIATE_TEST_SUITE_P(All, FedInDemos, ::testing::ValuesIn(test::demo_ids()), test::demo_name);

TEST(LightsFeed, FollowsItsPointsAndGoesOnStraight) {
    const LightsFeed feed(9, {{0.1, 8, 0.11}, {0.2, 6, 0.21}, {0.1, 8, 0.11}, {0.3, 1, 0.31}});
    EXPECT_NEAR(feed.volts(0.15), 7, 1e-12);
    EXPECT_NEAR(feed.volts(0.05), 9, 1e-12) << "before the first, on the first line";
    EXPECT_NEAR(feed.volts(0.25), 3.5, 1e-12);
    EXPECT_NEAR(feed.at(0.15).resistance, 20, 1e-9);
    EXPECT_NEAR(feed.drawn(0.15), 0.16, 1e-12);
    EXPECT_NEAR(feed.highest(), 0.32, 1e-12) << "1 V at 50 Ω are left after 0.3 A";
    EXPECT_EQ(LightsFeed().volts(0.5), 0);
    EXPECT_TRUE(std::isinf(LightsFeed({5, 0}, 0).highest()));
    EXPECT_NEAR(LightsFeed({5, 1}, 1.5).volts(0.4), 4, 1e-12) << "1 Ω inside, 1.5 Ω before the lights";
}

TEST(LightsFeed, OfALightThatIsDarkEverywhereIsItsSource) {
    const Design d = fed_design({"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=100",
                                 "led L1 a=A k=K", "resistor R2 a=K b=0 value=10000000"});
    const auto found = test::ask(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_FALSE(found.value().question.feeds);
    EXPECT_NE(found.value().question.fed.find("dark"), std::string::npos) << found.value().question.fed;
    EXPECT_FALSE(found.value().list.empty());
}

TEST(LightsFeed, OfAThermistorsLightHoldsWhereItIsLit) {
    const Design d = fed_design(
        {"battery B1 +=ON -=0 cell=LR6 count=2", "resistor R1 a=ON b=T value=10000", "thermistor TH1 a=T b=0",
         "resistor R2 a=ON b=M value=33000", "resistor R3 a=M b=0 value=100000",
         "comparator U1 in+=M in-=T out=O vcc=ON gnd=0", "resistor R4 a=ON b=A value=220", "led L1 a=A k=O"});
    const auto found = test::ask(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(found) << found.error().text();
    const ArrayQuestion& q = found.value().question;
    ASSERT_TRUE(q.feeds) << q.fed;
    EXPECT_LT(q.usual, 10) << "lit in the cold";
    EXPECT_NE(q.fed.find("cold"), std::string::npos) << q.fed;
    EXPECT_EQ(found.value().list.front().strings.front().resistance, 220);
}

TEST(LightsFeed, OfALatchIsThatOfItsLights) {
    Design d;
    d.circuit = test::held_pair();  // lets go below its holding current
    const auto found = test::ask(ArraysQuery{d, {}, {}});
    ASSERT_TRUE(found) << found.error().text();
    ASSERT_TRUE(found.value().question.feeds) << found.value().question.fed;
    const Arrangement& now = found.value().list.front();
    EXPECT_EQ(now.strings.front().resistance, d.circuit.find("R1")->number("value")) << now.reason;
    EXPECT_NEAR(now.strings.front().current.value, found.value().question.current,
                0.01 * found.value().question.current);
}

TEST(LightsByCoil, AreFollowedThroughTimeInEachWay) {
    const Design jar = test::demo("firefly-jar");
    ArraysQuery query{jar, {}, {}};
    query.wishes.count = 2;
    const auto found = test::ask(query);
    ASSERT_TRUE(found) << found.error().text();
    ASSERT_EQ(found.value().list.size(), 2u);
    const Arrangement& best = found.value().list.front();
    EXPECT_EQ(best.per_string, 2) << "one string: every LED gets the whole pulse";
    EXPECT_EQ(best.verdict, Arrangement::Verdict::sound) << best.reason;
    EXPECT_EQ(best.strings.front().resistance, 0);
    EXPECT_LT(best.flat.value, best.half.value);
    for (const Arrangement& a : found.value().list) {
        const auto next = with_arrangement(jar, found.value().question, a);
        ASSERT_TRUE(next) << next.error().text();
        Store store;
        const auto run = Ask(store)(RunQuery(Keyed<Circuit>(next.value().circuit), {}));
        ASSERT_TRUE(run) << run.error().text();
        const auto strings = led_strings(next.value().circuit);
        ASSERT_EQ(strings.size(), static_cast<std::size_t>(2 / a.per_string));
        const double amps = run->mean().part(strings.front().leds.front()->designator).current;
        EXPECT_NEAR(a.strings.front().current.value, amps, 0.02 * amps) << a.name();
        EXPECT_LT(a.efficiency.value, 100) << "energy is not made";
    }
    query.wishes.count = most_by_coil + 1;
    EXPECT_EQ(test::ask(query).error().place, "lights");
    const auto limited = test::ask(LimitersQuery{{jar, {}, {}}, 0, std::vector<DrawerItem>{}});
    ASSERT_FALSE(limited);
    EXPECT_NE(limited.error().text().find("pulses"), std::string::npos) << limited.error().text();
}

TEST(LightsPlace, OfASecondBlockChangeThatBlockAlone) {
    const Design one = test::pier_lantern();
    Goals goals = goals_of(one, one.blocks[0]);
    goals.values["led"] = std::string("red-5mm");
    const auto two = with_block(one, "steady-light", goals);
    ASSERT_TRUE(two) << two.error().text();
    ASSERT_EQ(two.value().blocks.size(), 2u);
    const std::string light = two.value().blocks[1].parts.at("L1");
    EXPECT_EQ(lights_block(two.value(), light), 1u);
    ArraysQuery query{two.value(), {}, {}};
    query.wishes.light = light;
    const auto found = test::ask(query);
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_EQ(found.value().question.led.text("type"), "red-5mm");
    const auto next = with_arrangement(two.value(), found.value().question, found.value().list.front());
    ASSERT_TRUE(next) << next.error().text();
    EXPECT_EQ(next.value().blocks.size(), 2u);
    EXPECT_EQ(next.value().blocks[0], two.value().blocks[0]);
}

TEST(LightsPlace, SeveralPlacesCanBeMeant) {
    const Design d =
        fed_design({"battery B1 +=V -=0 cell=LR6 count=4", "switch S1 a=V b=A", "switch S2 a=V b=B",
                    "resistor R1 a=A b=C value=220", "led L1 a=C k=0", "led L3 a=D k=0",
                    "resistor R2 a=B b=E value=33", "led L2 a=E k=0", "resistor R3 a=A b=D value=220"});
    const auto all = hung_lights(d.circuit);
    ASSERT_EQ(all.size(), 2u);
    const HungLights one = without_lights(d.circuit, "L2").value(),
                     two = without_lights(d.circuit, "L3").value();
    EXPECT_EQ(two.name(), "L1 and 1 more");
    EXPECT_EQ(two.plus, "A");
    EXPECT_EQ(one.strings, std::vector<std::string>{"L2"});
    const auto asked = [&](const std::string& light) {
        ArraysQuery query{d, {}, {}};
        query.wishes.light = light;
        return test::ask(query);
    };
    const auto first = asked("L1"), second = asked("L2");
    ASSERT_TRUE(first && second);
    EXPECT_EQ(first.value().question.count, 2);
    EXPECT_EQ(second.value().question.count, 1);
    EXPECT_GT(second.value().question.current, 2 * first.value().question.current);
    const auto next = with_arrangement(d, second.value().question, second.value().list.front());
    ASSERT_TRUE(next) << next.error().text();
    EXPECT_EQ(*next.value().circuit.find("L1"), *d.circuit.find("L1")) << "the others stay";
    EXPECT_EQ(hung_lights(next.value().circuit).size(), 2u);
    EXPECT_EQ(asked("R9").error().fault, Fault::usage);
}

TEST(LightsPlace, TellsWhatHangsOtherwise) {
    const auto error = [](std::vector<std::string> lines) {
        lines.insert(lines.begin(), "battery B1 +=V -=0 cell=LR6 count=3");
        const auto place = without_lights(test::circuit(lines));
        return place ? std::string() : place.error().text();
    };
    EXPECT_NE(error({"resistor R1 a=V b=F value=33", "led L1 a=F k=0 type=red-5mm",
                     "led L2 a=F k=0 type=green-5mm"})
                  .find("another type"),
              std::string::npos);
    EXPECT_NE(error({"resistor R1 a=V b=F value=33", "led L1 a=F k=X", "led L2 a=F k=Y",
                     "resistor R2 a=X b=0 value=10", "resistor R3 a=Y b=0 value=10",
                     "capacitor C1 a=X b=Y value=1e-6"})
                  .find("hangs between"),
              std::string::npos);
}

}  // namespace
}  // namespace elkit
