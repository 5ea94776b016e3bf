#include "command/circuit_command.hpp"

#include <gtest/gtest.h>

#include "circuit/edit.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Command understood(const std::string& line, const Design& d = pier_lantern()) {
    auto c = parse_command(line, d, {});
    EXPECT_TRUE(c) << line << ": " << (c ? "" : c.error().text());
    return c ? c.value() : Command{};
}

const Part& made(const std::string& line, const std::string& name) {
    static Circuit circuit;
    const Command c = understood(line);
    EXPECT_TRUE(c.design) << line;
    circuit = c.design ? c.design->circuit : Circuit{};
    const Part* p = circuit.find(name);
    EXPECT_NE(p, nullptr) << line;
    static const Part none;
    return p ? *p : none;
}

TEST(CircuitCommand, InsertsPartsInPlainWords) {
    const Part& r = made("r 470 from lamp to gate", "R3");
    EXPECT_EQ(r.kind, "resistor");
    EXPECT_EQ(r.number("value"), 470);
    EXPECT_EQ(r.net("a"), "LAMP") << "an existing net in its own spelling";
    EXPECT_EQ(r.net("b"), "GATE") << "a new net in capitals";
    const Part& c = made("cap 100n across supply", "C1");
    EXPECT_EQ(c.net("a"), "V+");
    EXPECT_EQ(c.net("b"), "GND");
    EXPECT_NEAR(c.number("value"), 100e-9, 1e-15);
    EXPECT_EQ(made("led red from v+ to x", "L5").text("type"), "red-5mm");
    const Part& q = made("q1 npn c lamp b drive e gnd", "Q1");
    EXPECT_EQ(q.net("c"), "LAMP");
    EXPECT_EQ(q.net("b"), "DRIVE");
    EXPECT_EQ(q.net("e"), "GND");
    EXPECT_EQ(made("c 10u across l1", "C1").net("+"), "A1") << "across a part";
    EXPECT_EQ(made("timer timer-cmos gnd gnd vcc v+ out x trig t thr t", "U1").pins.size(), 5u)
        << "the rest left open";
}

TEST(CircuitCommand, EditsWhatIsThere) {
    EXPECT_EQ(understood("delete l4").design->circuit.find("L4"), nullptr);
    EXPECT_NE(understood("duplicate r1").design->circuit.find("R3"), nullptr);
    EXPECT_NE(understood("rename r1 to R9").design->circuit.find("R9"), nullptr);
    EXPECT_EQ(understood("rename net lamp to LIGHT").design->circuit.find("R1")->net("a"), "LIGHT");
    EXPECT_EQ(understood("r1.a to v+").design->circuit.find("R1")->net("a"), "V+");
    EXPECT_EQ(understood("flip l1").design->circuit.find("L1")->net("k"), "A1");
    const Command replaced = understood("replace r1 with potentiometer");
    const Part& pot = *replaced.design->circuit.find("R1");
    EXPECT_EQ(pot.kind, "potentiometer");
    EXPECT_EQ(pot.net("a"), "LAMP");
    EXPECT_EQ(pot.net("b"), "A1");
}

TEST(CircuitCommand, MovesAPinByAnyOfItsNames) {
    for (const char* line : {"r1.a to gate", "r1.a = gate", "connect r1.a to gate", "r1 a to gate"}) {
        const Command c = understood(line);
        ASSERT_TRUE(c.design) << line;
        EXPECT_EQ(c.design->circuit.find("R1")->net("a"), "GATE") << line;
    }
    const Command led = understood("l1 cathode to gate");
    EXPECT_EQ(led.design->circuit.find("L1")->net("k"), "GATE");
    EXPECT_EQ(understood("r1 = 82").design->circuit.find("R1")->number("value"), 82) << "not a pin";
}

TEST(CircuitCommand, SaysWhatItDoesNotUnderstand) {
    for (const char* line :
         {"r 470 from lamp", "q1 npn c lamp", "delete r77", "r lots from a to b", "replace r1 with wings",
          "rename r1 to r2", "r1.z to gnd", "press r1", "led pink from a to b"}) {
        auto c = parse_command(line, pier_lantern(), {});
        if (c && c.value().design) {
            ADD_FAILURE() << line << " was taken for: " << c.value().preview;
        }
        if (!c) {
            EXPECT_FALSE(c.error().expected.empty()) << line;
        }
    }
}

TEST(CircuitCommand, CompletesNetsAndParts) {
    const auto lines = completed("r 470 from l", pier_lantern());
    EXPECT_NE(std::find(lines.begin(), lines.end(), "r 470 from LAMP"), lines.end());
    const auto verbs = completed("delete", pier_lantern());
    EXPECT_NE(std::find(verbs.begin(), verbs.end(), "delete R1"), verbs.end());
}

TEST(WorldCommand, PressesTurnsAndLights) {
    Design d = pier_lantern();
    d.circuit.parts.push_back({"RV1", "potentiometer", {}, {{"a", "V+"}, {"wiper", "W"}, {"b", "GND"}}, {}});
    EXPECT_TRUE(understood("press s1", d).conditions->switches.at("S1"));
    EXPECT_NEAR(understood("rv1 at 30 %", d).conditions->knobs.at("RV1"), 0.3, 1e-12);
    EXPECT_NEAR(understood("rv1 at 0.3", d).conditions->knobs.at("RV1"), 0.3, 1e-12);
    d.circuit.parts.push_back({"S9", "button", {}, {{"a", "W"}, {"b", "GND"}}, {}});
    d.circuit.parts.push_back({"Q9", "npn", {}, {{"c", "V+"}, {"b", "W"}, {"e", "GND"}}, {}});
    EXPECT_EQ(understood("press s9", d).conditions->events.size(), 1u) << "what remembers is pressed in time";
    EXPECT_EQ(understood("lux 120", d).conditions->lux, 120);
    EXPECT_FALSE(parse_command("rv1 at 130 %", d, {}));
    EXPECT_FALSE(parse_command("lux -3", d, {}));
}

}  // namespace
}  // namespace elkit::test
