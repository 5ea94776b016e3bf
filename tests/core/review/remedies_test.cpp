// A design with a planted mistake for each rule: it is found, and every remedy of every finding there cures
// it and brings nothing worse.
#include <gtest/gtest.h>

#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

using Lines = std::vector<std::string>;

struct Mistake {
    const char* rule;
    const char* about;  ///< in the finding's title
    Lines circuit;
    bool curable = true;
};
void PrintTo(const Mistake& m, std::ostream* out) { *out << m.rule; }

const std::vector<Mistake>& mistakes() {
    static const std::vector<Mistake> all{
        {"led-reversed",
         "L1 is reversed",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=150", "led L1 a=0 k=A"}},
        {"no-resistor",
         "Nothing limits",
         {"battery B1 +=V -=0 cell=NiMH-AA count=2", "led L1 a=V k=0 type=red-5mm"}},
        {"led-current",
         "L1 gets",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=22", "led L1 a=A k=0"}},
        {"headroom",
         "to work with",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=10", "led L1 a=A k=B",
          "led L2 a=B k=0"}},
        {"sag",
         "of the current is gone",
         {"battery B1 +=V -=0 cell=LR6 count=2", "resistor R1 a=V b=A value=22",
          "led L1 a=A k=0 type=white-5mm vf=2.75"}},
        {"resistor-rating",
         "R1 takes",
         {"battery B1 +=V -=0 cell=6LR61", "resistor R1 a=V b=A value=330 rating=0.125", "led L1 a=A k=0"}},
        {"shared-resistor",
         "strings share R1",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=82", "led L1 a=A k=0",
          "led L2 a=A k=0"}},
        {"shared-resistor",
         "strings share R1",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=82", "led L1 a=A k=C",
          "led L2 a=A k=D", "switch S1 a=C b=0", "switch S2 a=D b=0"}},
        {"never-lit",
         "Nothing lights",
         {"battery B1 +=V -=0 cell=LR6", "resistor R1 a=V b=A value=47", "led L1 a=A k=0 type=blue-5mm"}},
        {"unequal-colours",
         "L2 gives",
         {"battery B1 +=V -=0 cell=6LR61", "resistor R1 a=V b=A value=680",
          "led L1 a=A k=0 type=yellow-green-5mm", "resistor R2 a=V b=C value=560",
          "led L2 a=C k=0 type=white-5mm"}},
        {"curve-elsewhere",
         "was measured at",
         {"battery B1 +=V -=0 cell=6LR61", "resistor R1 a=V b=A value=560", "led L1 a=A k=0"},
         false},
        {"swapped-supply",
         "supply pins are swapped",
         {"battery B1 +=V -=0 cell=LR6 count=3",
          "comparator U1 in+=A in-=B out=Q vcc=0 gnd=V type=comparator-cmos",
          "resistor R1 a=V b=A value=10000", "resistor R2 a=A b=0 value=10000",
          "resistor R3 a=V b=B value=22000", "resistor R4 a=B b=0 value=10000",
          "resistor R5 a=Q b=L value=1000", "led L1 a=L k=0"}},
        {"no-hysteresis",
         "of hysteresis for LDR1",
         {"battery B1 +=V -=0 cell=LR6 count=3",
          "comparator U1 in+=A in-=B out=Q vcc=V gnd=0 type=comparator-cmos hysteresis=0", "ldr LDR1 a=V b=A",
          "resistor R2 a=A b=0 value=10000", "resistor R3 a=V b=B value=22000",
          "resistor R4 a=B b=0 value=10000", "resistor R5 a=Q b=L value=1000", "led L1 a=L k=0",
          "capacitor C1 a=V b=0 value=1e-7"}},
        {"other-supply",
         "hangs on X",
         {"battery B1 +=V -=0 cell=LR6 count=3", "battery B2 +=X -=0 cell=6LR61",
          "comparator U1 in+=A in-=B out=Q vcc=V gnd=0 type=comparator-cmos",
          "resistor R1 a=X b=A value=47000", "resistor R2 a=A b=0 value=10000",
          "resistor R3 a=V b=B value=22000", "resistor R4 a=B b=0 value=10000",
          "resistor R5 a=Q b=L value=1000", "led L1 a=L k=0", "capacitor C1 a=V b=0 value=1e-7",
          "resistor R6 a=X b=M value=1000", "led L2 a=M k=0"}},
        {"lithium",
         "bare lithium cell",
         {"battery B1 +=V -=0 cell=INR19-66", "resistor R1 a=V b=A value=150", "led L1 a=A k=0"}},
        {"cell-charged",
         "B2 is charged",
         {"battery B1 +=V -=0 cell=LR6 count=3", "battery B2 +=V -=0 cell=LR6 count=2",
          "resistor R1 a=V b=A value=150", "led L1 a=A k=0"}},
        {"outside-energy",
         "from outside",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=0 value=10000",
          "vsource VS1 +=X -=0 value=5", "resistor R2 a=X b=A value=220", "led L1 a=A k=0"},
         false},
        {"coil-held",
         "K1 is held on",
         {"battery B1 +=V -=0 cell=6LR61", "relay K1 coil+=V coil-=0 common=V no=A type=relay-5V",
          "resistor R1 a=A b=B value=680", "led L1 a=B k=0"},
         false},
        {"electrolytic-reversed",
         "the wrong way round",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=150", "led L1 a=A k=0",
          "electrolytic C1 +=0 -=V value=1e-5"}},
        {"part-rating",
         "C1: voltage",
         {"battery B1 +=V -=0 cell=6LR61 count=2", "resistor R1 a=V b=A value=1500", "led L1 a=A k=0",
          "electrolytic C1 +=V -=0 value=1e-5 rating=10"}},
        {"led-reverse",
         "backwards",
         {"supply PS1 +=V -=0 voltage=12", "changeover S1 common=A a=V b=N", "supply PS2 +=0 -=N voltage=12",
          "resistor R1 a=A b=B value=1000", "led L1 a=B k=0"}},
        {"chip-supply",
         "it stands",
         {"battery B1 +=V -=0 cell=LR6 count=5", "touch_switch M1 vcc=V gnd=0 out=Q",
          "resistor R1 a=Q b=A value=1000", "led L1 a=A k=0"}},
        {"coil-diode",
         "no diode across",
         {"battery B1 +=V -=0 cell=6LR61", "relay K1 coil+=V coil-=C common=V no=A type=relay-5V",
          "resistor R1 a=A b=B value=680", "led L1 a=B k=0", "npn Q1 c=C b=G e=0", "button S1 a=V b=H",
          "resistor R2 a=H b=G value=4700", "resistor R3 a=G b=0 value=47000"}},
        {"coil-diode",
         "no diode across",
         {"battery B1 +=V -=0 cell=LR6 count=2", "button S1 a=V b=A", "motor M1 +=A -=0",
          "resistor R1 a=A b=B value=100", "led L1 a=B k=0"}},
        {"gate-floats",
         "floats",
         {"battery B1 +=V -=0 cell=LR6 count=3", "nmos Q1 d=D g=G s=0", "button S1 a=V b=G",
          "resistor R1 a=V b=A value=150", "led L1 a=A k=D"}},
        {"supply-capacitor",
         "no capacitor at its",
         {"battery B1 +=V -=0 cell=LR6 count=4", "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V reset=V",
          "resistor R1 a=V b=D value=10000", "resistor R2 a=D b=T value=470000",
          "capacitor C1 a=T b=0 value=1e-6", "resistor R3 a=OUT b=A value=680", "led L1 a=A k=0"}},
        {"cell-rate",
         "can give about",
         {"battery B1 +=V -=0 cell=LR44 count=3", "resistor R1 a=V b=A value=22", "led L1 a=A k=0"}},
        {"wire-rating",
         "The leads lose",
         {"battery B1 +=V -=0 cell=LR6 count=3 lead_length=19", "resistor R1 a=V b=A value=100",
          "led L1 a=A k=0", "resistor R2 a=V b=B value=100", "led L2 a=B k=0"}},
        {"hot-led",
         "inside",
         {"battery B1 +=V -=0 cell=NiMH-C count=4", "resistor R1 a=V b=A value=4.7 rating=5",
          "led L1 a=A k=0 type=white-1W max_current=0.7"}},
        {"warm-sensor",
         "warms itself",
         {"battery B1 +=V -=0 cell=6LR61", "thermistor TH1 a=V b=M value=470",
          "resistor R1 a=M b=0 value=1000", "resistor R2 a=V b=A value=680", "led L1 a=A k=0"}},
        {"blind-sensor",
         "does not see the infrared",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=150",
          "led L1 a=A k=0 type=infrared-5mm", "ldr LDR1 a=V b=M", "resistor R2 a=M b=0 value=10000"}},
        {"blind-sensor",
         "sees infrared only",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=150", "led L1 a=A k=0",
          "phototransistor Q1 c=V e=M type=phototransistor-infrared", "resistor R2 a=M b=0 value=10000"}},
        {"inner-light-current",
         "red 5 mm LED of L1",
         {"battery B1 +=V -=0 cell=LR6 count=3", "prewired_led L1 a=V k=0 type=red-5mm resistance=20"}},
        {"standby-drain",
         "In standby it still takes",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R9 a=V b=0 value=1000", "switch S1 a=V b=X",
          "resistor R1 a=X b=A value=150", "led L1 a=A k=0"}},
        {"pulsed-led",
         "on average",
         {"battery B1 +=V -=0 cell=LR6 count=4",
          "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V reset=V type=timer-bipolar",
          "resistor R1 a=V b=D value=1000", "resistor R2 a=D b=T value=4700",
          "capacitor C1 a=T b=0 value=1e-6", "capacitor C2 a=V b=0 value=1e-7",
          "resistor R3 a=OUT b=A value=10", "led L1 a=A k=0"}},
        {"charger-cell",
         "M1 charges one lithium cell; B1 is 3 × LR6",
         {"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=150", "led L1 a=A k=0",
          "charger M1 in+=IN in-=0 b+=V", "connector X1 1=IN 2=0"}},
        {"charger-cell",
         "M1 charges one lithium cell; B1 is 2 × ",
         {"battery B1 +=V -=0 cell=Li-ion-1S count=2", "resistor R1 a=V b=A value=470", "led L1 a=A k=0",
          "charger M1 in+=IN in-=0 b+=V", "connector X1 1=IN 2=0"}},
        {"emptied",
         "Left on, it empties",
         {"battery B1 +=V -=0 cell=NiMH-AA count=3", "resistor R1 a=V b=A value=82", "led L1 a=A k=0"},
         false},
        {"warm-neighbours",
         "keep it off B1",
         {"battery B1 +=V -=0 cell=6LR61", "resistor R1 a=V b=0 value=82 rating=3"},
         false},
        {"flicker",
         "flickers at",
         {"battery B1 +=V -=0 cell=LR6 count=4", "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V reset=V",
          "resistor R1 a=V b=D value=10000", "resistor R2 a=D b=T value=100000",
          "capacitor C1 a=T b=0 value=1.5e-7", "capacitor C2 a=V b=0 value=1e-7",
          "resistor R3 a=OUT b=A value=680", "led L1 a=A k=0"}},
        {"flicker",
         "times a second",
         {"battery B1 +=V -=0 cell=LR6 count=4", "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V reset=V",
          "resistor R1 a=V b=D value=10000", "resistor R2 a=D b=T value=100000",
          "capacitor C1 a=T b=0 value=1e-6", "capacitor C2 a=V b=0 value=1e-7",
          "resistor R3 a=OUT b=A value=680", "led L1 a=A k=0"}},
        {"led-reversed",
         "L1 is reversed",
         {"battery B1 +=V -=0 cell=LR6 count=4", "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V reset=V",
          "resistor R1 a=V b=D value=10000", "resistor R2 a=D b=T value=470000",
          "capacitor C1 a=T b=0 value=1e-6", "capacitor C2 a=V b=0 value=1e-7",
          "resistor R3 a=OUT b=A value=680", "led L1 a=0 k=A"}},
        {"controller-pin",
         "nothing hangs on P1",
         {"battery B1 +=V -=0 cell=LR6 count=3", "capacitor C1 a=V b=0 value=1e-7",
          "controller_8 U1 vcc=V gnd=0 P0=OUT P1=FREE", "resistor R1 a=OUT b=A value=330", "led L1 a=A k=0"}},
        {"controller-wavers",
         "to and fro at P2",
         {"battery B1 +=V -=0 cell=LR6 count=3", "capacitor C1 a=V b=0 value=1e-7",
          "controller_8 U1 vcc=V gnd=0 P0=OUT P2=SENSE", "resistor R1 a=OUT b=A value=330", "led L1 a=A k=0",
          "thermistor TH1 a=SENSE b=0", "resistor R2 a=V b=SENSE value=10000"}},
        {"matrix-data",
         "M2 gets no data",
         {"battery B1 +=V -=0 cell=LR6 count=3", "light_matrix M1 vcc=V gnd=0 data=D clock=CL load=LO",
          "light_matrix M2 vcc=V gnd=0", "connector X1 1=0 2=D 3=CL 4=LO"}},
        {"matrix-times",
         "M1 and M2 change their pictures",
         {"battery B1 +=V -=0 cell=LR6 count=3", "light_matrix M1 vcc=V gnd=0 data=D out=E",
          "light_matrix M2 vcc=V gnd=0 data=E", "connector X1 1=0 2=D"}},
        {"matrix-sleep",
         "M1 stands still while U1 sleeps",
         {"battery B1 +=V -=0 cell=LR6 count=3", "capacitor C1 a=V b=0 value=1e-7",
          "controller_8 U1 vcc=V gnd=0 P0=D", "light_matrix M1 vcc=V gnd=0 data=D"}},
        {"matrix-supply",
         "while most lights are on",
         {"supply PS1 +=V -=0 voltage=4.5 resistance=1", "connector X1 1=0 2=D",
          "light_matrix M1 vcc=V gnd=0 data=D out=E brightness=100",
          "light_matrix M2 vcc=V gnd=0 data=E brightness=100"}},
        {"leg-order",
         "Leg order of Q1",
         {"battery B1 +=V -=0 cell=LR6 count=3", "npn Q1 c=C b=B e=0", "resistor R1 a=V b=B value=10000",
          "resistor R2 a=V b=A value=150", "led L1 a=A k=C"},
         false}};
    return all;
}

class Mistakes : public ::testing::TestWithParam<Mistake> {};

TEST_P(Mistakes, AreFoundAndTheirRemediesCureWithoutWorse) {
    const Mistake& m = GetParam();
    Design d;
    d.circuit = circuit(m.circuit);
    if (m.rule == std::string("curve-elsewhere"))
        d.circuit.find("L1")->params["points"] = PointList{{0.0005, 1.7}};
    if (m.rule == std::string("controller-pin"))
        d.circuit.find("U1")->params["behaviour"] =
            std::string("state a; P0 on; P1 on; press P3 to b; state b; P0 P1 chase 1s; after 5s to a");
    if (m.rule == std::string("controller-wavers"))
        d.circuit.find("U1")->params["behaviour"] =
            std::string("state a; P0 on; below P2 48% to b; state b; above P2 48% to a");
    if (m.rule == std::string("matrix-times"))
        d.circuit.find("M2")->params["pattern"] = std::string("1s 00000000000000ff; 1s 00000000000000fe");
    if (m.rule == std::string("matrix-sleep")) {
        d.circuit.find("U1")->params["behaviour"] =
            std::string("state shows; P0 off; after 60s to rest; state rest sleeps; press P3 to shows");
        d.circuit.find("M1")->params["pattern"] = std::string("1s 00000000000000ff; 1s 00000000000000fe");
    }
    if (m.rule == std::string("matrix-supply"))
        for (const char* one : {"M1", "M2"})
            d.circuit.find(one)->params["pattern"] = std::string("1s ffffffffffffffff; 1s 00000000000000ff");
    const auto before = findings(d);
    const auto found = std::find_if(before.begin(), before.end(), [&](const Finding& f) {
        return f.rule == m.rule && f.title.find(m.about) != std::string::npos;
    });
    std::string all;
    for (const Finding& f : before) all += "\n  " + f.rule + ": " + f.title;
    ASSERT_NE(found, before.end()) << "found only:" << all;
    EXPECT_EQ(!found->remedies.empty(), m.curable) << found->title;
    for (const Finding& f : before)
        for (const Remedy& remedy : f.remedies) {
            const auto next = remedy.apply(d);
            if (!next) {
                EXPECT_FALSE(next.error().expected.empty()) << remedy.label;
                continue;  // told why it cannot be done
            }
            for (const Finding& g : findings(next.value())) {
                EXPECT_NE(g.id, f.id) << "still there after \"" << remedy.label << "\": " << g.title;
                const bool known = std::any_of(before.begin(), before.end(), [&](const Finding& h) {
                    return h.id == g.id && h.severity <= g.severity;
                });
                EXPECT_TRUE(known || g.severity >= f.severity)
                    << "\"" << remedy.label << "\" against \"" << f.title << "\" brought: " << g.title;
            }
        }
}

INSTANTIATE_TEST_SUITE_P(Rules, Mistakes, ::testing::ValuesIn(mistakes()), [](const auto& instance) {
    std::string name = std::to_string(instance.index) + "_";
    for (const char c : std::string(instance.param.rule)) name += c == '-' ? "_" : std::string(1, c);
    return name;
});

}  // namespace
}  // namespace elkit::test
