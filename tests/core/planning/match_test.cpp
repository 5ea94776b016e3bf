// Lights of several colours that are to look equally bright.
#include "planning/match.hpp"

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "light/strings.hpp"
#include "quantity/brightness.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

MatchQuestion match_asked(const std::vector<std::string>& types, double current) {
    MatchQuestion q;
    q.source = {"PS1", "supply", {{"voltage", 5.0}}, {{"+", "V+"}, {"-", "GND"}}, {}};
    for (const std::string& type : types) q.lights.push_back({{"L1", "led", {{"type", type}}, {}, {}}, 1, 1});
    q.current = current, q.series = Series::e192;
    return q;
}

/// The circuit of a match, each kind with its resistor between the supply's nets.
Circuit built(const MatchQuestion& q, const Match& m) {
    Circuit c;
    c.parts.push_back(q.source);
    for (std::size_t k = 0; k < m.rows.size(); ++k) {
        const std::string n = std::to_string(k + 1);
        c.parts.push_back(test::resistor("R" + n, "V+", "A" + n, m.rows[k].resistor.value));
        c.parts.push_back(test::led("L" + n, "A" + n, "GND", m.rows[k].led.text("type")));
    }
    return c;
}

double candela(const Circuit& c, const OperatingPoint& op, const std::string& led) {
    const LedType& type = *known_catalogue().led(c.find(led)->text("type"));
    return type.intensity * op.part(led).current / type.test_current;
}

TEST(Matching, TheEngineFindsThemEquallyBright) {
    const MatchQuestion q = match_asked({"red-5mm", "green-5mm", "blue-5mm", "amber-5mm"}, 0.01);
    const auto m = match_lights(q);
    ASSERT_TRUE(m) << m.error().text();
    const Circuit c = built(q, m.value());
    const OperatingPoint op = test::solve(c);
    double least = HUGE_VAL, most = 0;
    for (std::size_t k = 0; k < 4; ++k) {
        const std::string led = "L" + std::to_string(k + 1);
        const double here = candela(c, op, led);
        least = std::min(least, here), most = std::max(most, here);
        EXPECT_NEAR(m.value().rows[k].current.value, op.part(led).current, 0.02 * op.part(led).current)
            << led;
    }
    EXPECT_LT(most / least, 1.05) << "but for what E192 leaves";
    EXPECT_NEAR(m.value().apart, most / least, 0.03);
    EXPECT_NEAR(m.value().rows[m.value().dimmest].current.value, 0.01, 2e-4);
}

TEST(Matching, CoarseValuesLeaveADifferenceThatIsTold) {
    MatchQuestion q = match_asked({"red-5mm", "green-5mm"}, 0.01);
    q.owned = {100, 10000};
    const auto m = match_lights(q);
    ASSERT_TRUE(m);
    EXPECT_GT(m.value().apart, 1.1);
    for (const MatchRow& row : m.value().rows) {
        EXPECT_TRUE(row.resistor.value == 100 || row.resistor.value == 10000);
        const LedType& type = *known_catalogue().led(row.led.text("type"));
        EXPECT_NEAR(row.light.value, type.intensity * row.current.value / type.test_current, 1e-9);
    }
}

TEST(Matching, BehindADiffuserAllTheLightCounts) {
    MatchQuestion q = match_asked({"red-5mm", "green-5mm"}, 0.01);
    // the same kind with a beam twice as wide gives more light for its candela
    q.lights[1].led = q.lights[0].led;
    q.lights[0].led.params["viewing_angle"] = 20.0;
    q.lights[1].led.params["viewing_angle"] = 40.0;
    const auto straight = match_lights(q);
    q.diffuse = true;
    const auto diffuse = match_lights(q);
    ASSERT_TRUE(straight && diffuse);
    EXPECT_NEAR(straight.value().rows[0].current.value, straight.value().rows[1].current.value, 1e-9);
    const double wider = flux(1, 40) / flux(1, 20);
    EXPECT_NEAR(diffuse.value().rows[0].current.value / diffuse.value().rows[1].current.value, wider, 0.1);
    EXPECT_EQ(diffuse.value().dimmest, 0u);
}

TEST(Matching, RefusesWhatIsNotSeen) {
    EXPECT_FALSE(match_lights(match_asked({}, 0.01)));
    std::string infrared;
    for (const LedType& type : known_catalogue().leds)
        if (!type.visible) infrared = type.id;
    ASSERT_FALSE(infrared.empty());
    EXPECT_EQ(match_lights(match_asked({"red-5mm", infrared}, 0.01)).error().place, infrared);
    EXPECT_EQ(match_lights(match_asked({"red-5mm", "green-5mm"}, 0)).error().place, "current");
}

TEST(Matching, ADesignsOwnColours) {
    Design d;
    d.circuit.parts = {match_asked({}, 0).source,
                       test::resistor("R1", "V+", "A", 150),
                       test::led("L1", "A", "GND", "red-5mm"),
                       test::resistor("R2", "V+", "B", 150),
                       test::led("L2", "B", "GND", "green-5mm"),
                       test::resistor("R3", "V+", "C", 150),
                       test::led("L3", "C", "GND", "green-5mm")};
    Store store;
    const auto q = match_question(Ask(store), d, {});
    ASSERT_TRUE(q) << q.error().text();
    ASSERT_EQ(q.value().lights.size(), 2u);
    EXPECT_EQ(q.value().lights[1].strings, 2);
    const auto m = match_lights(q.value());
    ASSERT_TRUE(m);
    const Design next = with_match(d, m.value());
    const OperatingPoint op = test::solve(next.circuit);
    EXPECT_NEAR(candela(next.circuit, op, "L1") / candela(next.circuit, op, "L2"), 1, 0.15) << "E24";
    EXPECT_EQ(next.circuit.find("R2")->number("value"), next.circuit.find("R3")->number("value"));
    EXPECT_FALSE(match_question(Ask(store), test::pier_lantern(), {})) << "one colour";
    // a string of two of the same kind has another resistor than one alone
    std::erase_if(d.circuit.parts, [](const Part& p) { return p.designator == "L3"; });
    d.circuit.parts.front().params["voltage"] = 12.0;
    d.circuit.parts.push_back(test::led("L3", "C", "D", "green-5mm"));
    d.circuit.parts.push_back(test::led("L4", "D", "GND", "green-5mm"));
    const auto three = match_lights(match_question(Ask(store), d, {}).value());
    ASSERT_EQ(three.value().rows.size(), 3u);
    const Design mixed = with_match(d, three.value());
    EXPECT_GT(mixed.circuit.find("R2")->number("value"), 1.2 * mixed.circuit.find("R3")->number("value"));
}

TEST(Matching, CountsWhatStandsBetween) {
    Design d;
    d.circuit = test::circuit({"battery B1 +=V -=0 cell=LR6 count=4", "diode D1 a=V k=F",
                               "resistor R1 a=F b=A value=150", "led L1 a=A k=K type=red-5mm",
                               "resistor R2 a=F b=B value=150", "led L2 a=B k=K type=green-5mm",
                               "resistor R3 a=V b=G value=4700", "npn Q1 c=K b=G e=0"});
    Store store;
    const auto q = match_question(Ask(store), d, {});
    ASSERT_TRUE(q) << q.error().text();
    const auto m = match_lights(q.value());
    ASSERT_TRUE(m) << m.error().text();
    const Design next = with_match(d, m.value());
    const OperatingPoint op = test::solve(next.circuit);
    for (const MatchRow& row : m.value().rows) {
        const double amps = op.part(row.led.designator).current;
        EXPECT_NEAR(row.current.value, amps, 0.03 * amps)
            << row.led.designator << ": a diode and a transistor";
    }
}

}  // namespace
}  // namespace elkit
