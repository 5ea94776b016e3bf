// The do-anything line's words for circuits, one line each: what is typed, and what then is.
#include <gtest/gtest.h>

#include "command/circuit_command.hpp"
#include "command/command.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Design bench() {
    Design d;
    d.circuit =
        circuit({"battery B1 +=V+ -=GND count=3", "switch S1 a=V+ b=LAMP", "resistor R1 a=LAMP b=A value=150",
                 "led L1 a=A k=GND", "potentiometer RV1 a=V+ wiper=W b=GND", "button S2 a=W b=GATE",
                 "nmos Q1 d=A g=GATE s=GND", "supply PS1 +=EXT -=GND", "ldr LDR1 a=EXT b=GND"});
    return d;
}

struct Inserted {
    const char *typed, *designator, *kind, *pin, *net;
};
class Insertions : public ::testing::TestWithParam<Inserted> {};
TEST_P(Insertions, AreUnderstood) {
    const Inserted& i = GetParam();
    const auto c = parse_command(i.typed, bench(), {});
    ASSERT_TRUE(c) << c.error().text();
    ASSERT_TRUE(c.value().design) << i.typed;
    const Part* part = c.value().design->circuit.find(i.designator);
    ASSERT_NE(part, nullptr) << i.typed << ": " << c.value().preview;
    EXPECT_EQ(part->kind, i.kind);
    EXPECT_EQ(part->net(i.pin), i.net);
    EXPECT_FALSE(c.value().preview.empty());
    EXPECT_EQ(c.value().design->circuit.parts.size(), bench().circuit.parts.size() + 1);
}
INSTANTIATE_TEST_SUITE_P(
    Lines, Insertions,
    ::testing::Values(Inserted{"r 470 from lamp to gate", "R2", "resistor", "b", "GATE"},
                      Inserted{"r9 4k7 from lamp to gate", "R9", "resistor", "a", "LAMP"},
                      Inserted{"R9 resistor 4k7 from LAMP to NEW", "R9", "resistor", "b", "NEW"},
                      Inserted{"cap 100n across supply", "C1", "capacitor", "a", "V+"},
                      Inserted{"c7 10u from v+ to gnd", "C7", "electrolytic", "-", "GND"},
                      Inserted{"elco 47u from v+ to gnd", "C1", "electrolytic", "+", "V+"},
                      Inserted{"led red from v+ to x", "L2", "led", "k", "X"},
                      Inserted{"l5 white from v+ to x", "L5", "led", "a", "V+"},
                      Inserted{"q7 npn c lamp b gate e gnd", "Q7", "npn", "c", "LAMP"},
                      Inserted{"pnp e v+ b gate c lamp", "Q2", "pnp", "e", "V+"},
                      Inserted{"mosfet d lamp g gate s gnd", "Q2", "nmos", "g", "GATE"},
                      Inserted{"pot 100k a v+ wiper gate b gnd", "RV2", "potentiometer", "wiper", "GATE"},
                      Inserted{"button between v+ and gate", "S3", "button", "b", "GATE"},
                      Inserted{"zener 5.1V across lamp and gnd", "D1", "diode", "a", "LAMP"},
                      Inserted{"d3 from lamp to gnd", "D3", "diode", "k", "GND"},
                      Inserted{"coil 1m from lamp to sw", "LI1", "inductor", "b", "SW"},
                      Inserted{"ntc 10k from v+ to m", "TH1", "thermistor", "b", "M"},
                      Inserted{"timer gnd gnd vcc v+ out gate trig t thr t", "U1", "timer", "out", "GATE"}));

struct Changed {
    const char *typed, *designator, *key;
    double value;
};
class Changes : public ::testing::TestWithParam<Changed> {};
TEST_P(Changes, SetANumber) {
    const auto c = parse_command(GetParam().typed, bench(), {});
    ASSERT_TRUE(c) << c.error().text();
    ASSERT_TRUE(c.value().design);
    EXPECT_NEAR(
        c.value().design->circuit.find(GetParam().designator)->number(GetParam().key) / GetParam().value, 1,
        1e-9);
}
INSTANTIATE_TEST_SUITE_P(Lines, Changes,
                         ::testing::Values(Changed{"r1 = 220", "R1", "value", 220},
                                           Changed{"R1 = 2k2", "R1", "value", 2200},
                                           Changed{"r1 tolerance 1%", "R1", "tolerance", 0.01},
                                           Changed{"r1 rating 1/2", "R1", "rating", 0.5},
                                           Changed{"b1 count 4", "B1", "count", 4},
                                           Changed{"rv1 = 100k", "RV1", "value", 1e5},
                                           Changed{"b1 capacity 1.8", "B1", "capacity", 1.8}));

TEST(Words, MoveRenameReplaceTurnAndDelete) {
    const auto after = [](const char* line) {
        const auto c = parse_command(line, bench(), {});
        EXPECT_TRUE(c) << line << ": " << (c ? "" : c.error().text());
        return c && c.value().design ? c.value().design->circuit : Circuit{};
    };
    EXPECT_EQ(after("r1.b to gate").find("R1")->net("b"), "GATE");
    EXPECT_NE(after("rename r1 to r8").find("R8"), nullptr);
    EXPECT_EQ(after("rename net lamp to glow").find("R1")->net("a"), "glow");
    EXPECT_EQ(after("replace r1 with potentiometer").find("R1")->kind, "potentiometer");
    EXPECT_EQ(after("flip l1").find("L1")->net("k"), "A");
    EXPECT_EQ(after("delete l1").find("L1"), nullptr);
    EXPECT_NE(after("duplicate l1").find("L2"), nullptr);
}

struct World {
    const char* typed;
    bool (*holds)(const Conditions&);
};
class Worlds : public ::testing::TestWithParam<World> {};
TEST_P(Worlds, ChangeConditionsAndNotTheDesign) {
    const auto c = parse_command(GetParam().typed, bench(), {});
    ASSERT_TRUE(c) << c.error().text();
    EXPECT_FALSE(c.value().design);
    ASSERT_TRUE(c.value().conditions);
    EXPECT_TRUE(GetParam().holds(*c.value().conditions)) << GetParam().typed;
}
INSTANTIATE_TEST_SUITE_P(
    Lines, Worlds,
    ::testing::Values(World{"rv1 at 30 %", [](const Conditions& c) { return c.knobs.at("RV1") == 0.3; }},
                      World{"rv1 at 0.3", [](const Conditions& c) { return c.knobs.at("RV1") == 0.3; }},
                      World{"press s2", [](const Conditions& c) { return c.events.at(0).on; }},
                      World{"release s2", [](const Conditions& c) { return !c.events.at(0).on; }},
                      World{"s1 off", [](const Conditions& c) { return !c.switches.at("S1"); }},
                      World{"lux 200", [](const Conditions& c) { return c.lux == 200; }},
                      World{"infrared 3", [](const Conditions& c) { return c.infrared == 3; }},
                      World{"ps1 at 3V3", [](const Conditions& c) { return c.levels.at("PS1") == 3.3; }},
                      World{"battery 62 %",
                            [](const Conditions& c) { return std::abs(c.battery - 0.62) < 1e-9; }},
                      World{"temperature 5", [](const Conditions& c) { return c.celsius == 5; }}));

class Refused : public ::testing::TestWithParam<const char*> {};
TEST_P(Refused, WithWhatWasExpected) {
    const auto c = parse_command(GetParam(), bench(), {});
    ASSERT_FALSE(c) << GetParam();
    EXPECT_FALSE(c.error().expected.empty()) << GetParam();
}
INSTANTIATE_TEST_SUITE_P(Lines, Refused,
                         ::testing::Values("r lots from lamp to gate", "r 470 from lamp",
                                           "q7 npn c lamp b gate", "r1 = much", "delete r99", "duplicate",
                                           "flip q1", "replace r1 with wishbone", "rename r1 to l1",
                                           "rv1 at 140 %", "press r1", "lux bright", "ps1 at 100",
                                           "r1.z to gate", "b1 = XX9", "l1 = purple-elephant", "wibble",
                                           "r1 tolerance 900%"));

TEST(Completions, ContinueWhatIsTyped) {
    const auto has = [](const char* typed, const char* wanted) {
        const auto all = completed(typed, bench());
        return std::find(all.begin(), all.end(), wanted) != all.end();
    };
    EXPECT_TRUE(has("r 470 from la", "r 470 from LAMP"));
    EXPECT_TRUE(has("r 470 from lamp to g", "r 470 from lamp to GATE"));
    EXPECT_TRUE(has("cap 100n across s", "cap 100n across supply"));
    EXPECT_TRUE(has("del", "delete R1"));
    EXPECT_TRUE(has("press", "press S2"));
    EXPECT_TRUE(has("rv1", "RV1 at 50 %"));
    EXPECT_FALSE(has("r 470 from la", "r 470 from GATE"));
}

}  // namespace
}  // namespace elkit::test
