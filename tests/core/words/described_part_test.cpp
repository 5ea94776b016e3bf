// Parts as people say them: what they become, and what is refused rather than misread.
#include "words/described_part.hpp"

#include <gtest/gtest.h>

#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "support/circuits.hpp"
#include "words/vocabulary.hpp"

namespace elkit::test {
namespace {

Circuit small_bench() {
    return circuit({"battery B1 +=V+ -=GND count=3", "resistor R1 a=V+ b=A value=150", "led L1 a=A k=GND"});
}

struct TypedLine {
    const char *line, *described;
};
class Said_ : public ::testing::TestWithParam<TypedLine> {};
TEST_P(Said_, InAnyOrderIsThePartThatWasMeant) {
    const auto part = described_part(GetParam().line, small_bench());
    ASSERT_TRUE(part) << part.error().text();
    ASSERT_TRUE(part.value()) << GetParam().line;
    std::string described = describe(*part.value());
    for (std::size_t at; (at = described.find("\u00a0")) != std::string::npos;) described.replace(at, 2, " ");
    EXPECT_EQ(described, GetParam().described);
}
INSTANTIATE_TEST_SUITE_P(
    Lines, Said_,
    ::testing::Values(
        TypedLine{"white led from vcc to a", "L2: white 5 mm LED, a on V+, k on A"},
        TypedLine{"led white from vcc to a", "L2: white 5 mm LED, a on V+, k on A"},
        TypedLine{"from vcc to a white led", "L2: white 5 mm LED, a on V+, k on A"},
        TypedLine{"3mm blue led L7 from V+ to gnd", "L7: blue 3 mm LED, a on V+, k on GND"},
        TypedLine{"blue 3 mm from V+ to gnd", "L2: blue 3 mm LED, a on V+, k on GND"},
        TypedLine{"ir led from V+ to gnd", "L2: infrared 940 nm 5 mm LED, a on V+, k on GND"},
        TypedLine{"470 resistor from p to q", "R2: 470 Ω resistor ¼ W, a on P, b on Q"},
        TypedLine{"resistor 0.5 3W from p to q", "R2: 0.5 Ω resistor 3 W, a on P, b on Q"},
        TypedLine{"resistor from p to q 4k7 1%", "R2: 4.7 kΩ resistor ¼ W 1 %, a on P, b on Q"},
        TypedLine{"10k from a to gnd", "R2: 10 kΩ resistor ¼ W, a on A, b on GND"},
        TypedLine{"10nF from a to gnd", "C1: 10 nF capacitor, a on A, b on GND"},
        TypedLine{"electrolytic 100u 16V from a to gnd",
                  "C1: 100 µF 16 V electrolytic capacitor, + on A, - on GND"},
        TypedLine{"2M2 resistor from a to gnd", "R2: 2.2 MΩ resistor ¼ W, a on A, b on GND"},
        TypedLine{"coin cell from x to gnd", "B2: 1 × CR2032, CR2032 cell, + on X, - on GND"},
        TypedLine{"3 AA from x to gnd", "B2: 3 × LR6, LR6 cell, + on X, - on GND"},
        TypedLine{"2x AAA nimh from x to gnd", "B2: 2 × NiMH-AAA, NiMH-AAA cell, + on X, - on GND"},
        TypedLine{"battery 9V from x to gnd", "B2: 1 × 6LR61, 6LR61 cell, + on X, - on GND"},
        TypedLine{"momentary switch from a to gnd", "S1: push button, normally open, a on A, b on GND"},
        TypedLine{"button normally closed from a to gnd",
                  "S1: push button, normally closed, a on A, b on GND"},
        TypedLine{"zener 5.1V from gnd to a", "D1: Zener diode 5.1 V, a on GND, k on A"},
        TypedLine{"zener 4V7 from gnd to a", "D1: Zener diode 4.7 V, a on GND, k on A"},
        TypedLine{"linear pot 50k from V+ to gnd wiper w",
                  "RV1: 50 kΩ linear potentiometer, a on V+, wiper on W, b on GND"},
        TypedLine{"npn c IR b piezo e gnd", "Q1: small NPN transistor, c on IR, b on PIEZO, e on GND"},
        TypedLine{"white led from v+ to a, 3mm", "L2: white 3 mm LED, a on V+, k on A"},
        TypedLine{"screw terminal 1 V+ 2 gnd", "X1: 2-pin screw-terminal, connector, 1 on V+, 2 on GND"},
        TypedLine{"330 from p to q", "R2: 330 Ω resistor ¼ W, a on P, b on Q"},
        TypedLine{"slide switch from v+ to vcc", "S1: slide switch, a on V+, b on VCC"},
        TypedLine{"slide switch between vcc and v+", "S1: slide switch, a on VCC, b on V+"},
        TypedLine{"button from minus to gnd", "S1: push button, normally open, a on MINUS, b on GND"},
        TypedLine{"1M from p to q", "R2: 1 MΩ resistor ¼ W, a on P, b on Q"},
        TypedLine{"100u 16V from gnd to p", "C1: 100 µF 16 V electrolytic capacitor, + on P, - on GND"},
        TypedLine{"22uF ceramic from p to gnd", "C1: 22 µF capacitor, a on P, b on GND"},
        TypedLine{"18650 from x to gnd", "B2: 1 × INR19-66, INR19-66 cell, + on X, - on GND"},
        TypedLine{"lipo 350mAh from x to gnd",
                  "B2: 1 × Li-ion-1S, Li-ion-1S cell, capacity of a cell 350 mAh, + on X, - on GND"},
        TypedLine{"lipo 500mAh from x to gnd", "B2: 1 × Li-ion-500, Li-ion-500 cell, + on X, - on GND"},
        TypedLine{"npn collector P base Q emitter gnd", "Q1: small NPN transistor, c on P, b on Q, e on GND"},
        TypedLine{
            "timer ground gnd trigger T output O reset V+ threshold D discharge D control C supply V+",
            "U1: timer, CMOS, gnd on GND, trig on T, out on O, reset on V+, cont on C, thr on D, disch on D, "
            "vcc on V+"},
        TypedLine{"high gain npn c A b B e gnd", "Q1: high-gain NPN transistor, c on A, b on B, e on GND"}));

class Unclear : public ::testing::TestWithParam<TypedLine> {};
TEST_P(Unclear, IsRefusedWithWhatIsWanted) {
    const auto part = described_part(GetParam().line, small_bench());
    ASSERT_FALSE(part) << (part.value() ? describe(*part.value()) : "nothing");
    EXPECT_NE(part.error().text().find(GetParam().described), std::string::npos) << part.error().text();
}
INSTANTIATE_TEST_SUITE_P(Lines, Unclear,
                         ::testing::Values(TypedLine{"pink led from v+ to a", "pink"},
                                           TypedLine{"led white 7mm from v+ to a", "7mm"},
                                           TypedLine{"battery 4.5V from x to gnd", "3 LR6"},
                                           TypedLine{"capacitor 100 from a to gnd", "100 nF"},
                                           TypedLine{"resistor 10 purple from a to gnd", "violet"},
                                           TypedLine{"resistor 4k7 R1 from a to gnd", "there is one already"},
                                           TypedLine{"zener from gnd to a", "which one"},
                                           TypedLine{"resistor 4k7 2k2 from a to gnd", "2k2"},
                                           TypedLine{"resistor 470 0.5A from a to gnd", "0.5a"},
                                           TypedLine{"npn c A b B", "pin e"},
                                           TypedLine{"npn c A", "pins b, e"}));

TEST(DescribedPart, StartsAnEmptyDesign) {
    const auto part = described_part("3 AA", Circuit{});
    ASSERT_TRUE(part && part.value());
    EXPECT_EQ(describe(*part.value()), "B1: 3 × LR6, LR6 cell, + on V+, - on GND");
    EXPECT_FALSE(described_part("white led", small_bench())) << "a light belongs somewhere";
}

TEST(DescribedPart, OfATypeSetsItByItsWordsToo) {
    Design d;
    d.circuit = small_bench();
    const auto said = [&](const char* line) {
        const auto c = parse_command(line, d, {});
        EXPECT_TRUE(c) << line << ": " << (c ? "" : c.error().text());
        return c && c.value().design ? c.value().design->circuit : Circuit{};
    };
    const Circuit white = said("l1 = white 3mm"), small = said("b1 = AAA");
    EXPECT_EQ(white.find("L1") ? white.find("L1")->text("type") : "", "white-3mm");
    EXPECT_EQ(small.find("B1") ? small.find("B1")->text("cell") : "", "LR03");
    EXPECT_FALSE(parse_command("l1 = pink", d, {}));
}

TEST(Sayings, OfOnesOwnGoBeforeOthers) {
    EXPECT_FALSE(read_sayings("{}"));
    EXPECT_FALSE(read_sayings(R"([{"say": "x"}])"));
    EXPECT_FALSE(read_sayings(R"([{"say": "", "means": "led"}])"));
    add_own_sayings(read_sayings(R"([{"say": "lamp of the shed", "means": "white led"}])").value());
    const auto part = described_part("lamp of the shed from v+ to a", small_bench());
    ASSERT_TRUE(part && part.value());
    EXPECT_EQ(part.value()->text("type"), "white-5mm");
}

}  // namespace
}  // namespace elkit::test
