// Each kind of part against what its datasheet or textbook says.
#include <gtest/gtest.h>

#include <cmath>

#include "engine/models.hpp"
#include "engine/operating_point.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

const char* const five_volts = "supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0";

TEST(Devices, APotentiometerDivides) {
    const Circuit c = circuit(
        {five_volts, "potentiometer RV1 a=V wiper=W b=0 value=10000 position=0.3", "testpoint TP1 1=W"});
    EXPECT_NEAR(solve(c).voltage("W"), 5 * 0.7, 0.01);
    Conditions turned;
    turned.knobs["RV1"] = 0.9;
    EXPECT_NEAR(solve(c, turned).voltage("W"), 0.5, 0.01);
}

TEST(Devices, ATransistorSwitchSaturates) {
    const Circuit c = circuit({five_volts, "resistor R1 a=V b=C value=470", "resistor R2 a=V b=B value=4700",
                               "npn Q1 c=C b=B e=0 type=npn-small"});
    const auto op = solve(c);
    EXPECT_LT(op.voltage("C"), 0.15);
    EXPECT_NEAR(op.voltage("B"), 0.75, 0.1);
    EXPECT_NEAR(op.part("Q1").pins[0], (5 - op.voltage("C")) / 470, 1e-6);
    EXPECT_NEAR(op.part("Q1").pins[0] + op.part("Q1").pins[1] + op.part("Q1").pins[2], 0, 1e-9);
}

TEST(Devices, GainIsTheRatioOfTheCurrents) {
    for (const char* kind : {"npn", "pnp"}) {
        const bool npn = std::string(kind) == "npn";
        const std::string q =
            npn ? "npn Q1 c=C b=B e=0 gain=150 early=1000" : "pnp Q1 c=C b=B e=V gain=150 early=1000";
        const Circuit c =
            circuit({five_volts, npn ? "resistor R1 a=V b=C value=100" : "resistor R1 a=C b=0 value=100",
                     npn ? "resistor R2 a=V b=B value=430000" : "resistor R2 a=B b=0 value=430000", q});
        const auto op = solve(c, {1, 25, {}});
        EXPECT_NEAR(op.part("Q1").pins[0] / op.part("Q1").pins[1], 150, 5) << kind;
    }
}

TEST(Devices, AMosfetHasItsOnResistanceAtItsDrive) {
    const Circuit c =
        circuit({"supply PS1 +=G -=0 voltage=4.5 lead_length=0", "isource IS1 +=D -=0 value=0.1",
                 "nmos Q1 d=D g=G s=0 type=nmos-small", "resistor R1 a=D b=0 value=1000000"});
    EXPECT_NEAR(solve(c, {1, 25, {}}).voltage("D") / 0.1, 2.0, 0.25) << "2 Ω at 4.5 V";
}

TEST(Devices, AMosfetBelowItsThresholdFollowsTheExponential) {
    double before = 0;
    for (const double v : {0.7, 0.785, 0.87}) {
        const Circuit c = circuit(
            {"supply PS1 +=D -=0 voltage=3 lead_length=0", "vsource VS1 +=G -=0 value=" + std::to_string(v),
             "nmos Q1 d=D g=G s=0 threshold=1.3 leakage=0 on_resistance=0.5 gate_drive=4.5"});
        const double i = solve(c, {1, 25, {}}).part("Q1").current;
        if (before > 0) {
            EXPECT_NEAR(i / before, 10, 2) << "about a decade in 85 mV";
        }
        before = i;
    }
}

TEST(Devices, MosfetPointsFitThresholdAndSlope) {
    Part q{"Q1", "nmos", {}, {{"d", "D"}, {"g", "G"}, {"s", "0"}}, {}};
    q.params["points"] = PointList{{2.0, 0.05}, {2.5, 0.2}, {3.0, 0.45}};
    const auto fit = mosfet_fit(q);
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit.value().threshold, 1.5, 1e-9);
    EXPECT_NEAR(fit.value().beta / (2 * mosfet_slope), 0.2, 1e-9);
    q.params["points"] = PointList{{2.0, 0.5}, {3.0, 0.1}};
    EXPECT_FALSE(mosfet_fit(q));
}

TEST(Devices, AZenerHoldsItsVoltage) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=9 lead_length=0", "resistor R1 a=V b=Z value=780",
                               "diode D1 a=0 k=Z type=zener-5V1"});
    EXPECT_NEAR(solve(c).voltage("Z"), 5.1, 0.03);
}

TEST(Devices, AThermistorFollowsBetaOrThreePairs) {
    Part t{"TH1", "thermistor", {}, {{"a", "A"}, {"b", "0"}}, {}};
    EXPECT_NEAR(thermistor_resistance(t, 25).value(), 10000, 1e-6);
    EXPECT_NEAR(thermistor_resistance(t, 50).value(), 10000 * std::exp(3950 * (1 / 323.15 - 1 / 298.15)),
                1e-6);
    t.params["points"] = PointList{{0, 32650}, {25, 10000}, {60, 2488}};
    for (const auto& [celsius, ohms] : std::get<PointList>(t.params["points"]))
        EXPECT_NEAR(thermistor_resistance(t, celsius).value() / ohms, 1, 1e-6) << celsius;
    t.params["points"] = PointList{{0, 10000}, {25, 10000}, {60, 10000}};
    EXPECT_FALSE(thermistor_resistance(t, 25));
}

TEST(Devices, LightSensorsFollowTheLight) {
    const Circuit c = circuit({five_volts, "ldr LDR1 a=V b=X", "resistor R1 a=X b=0 value=10000",
                               "phototransistor Q1 c=V e=Y", "resistor R2 a=Y b=0 value=1000"});
    Conditions ten, dark, bright;
    ten.lux = 10, dark.lux = 0, bright.lux = 1000;
    EXPECT_NEAR(solve(c, ten).voltage("X"), 2.5, 0.01) << "R10 = 10 kΩ";
    EXPECT_LT(solve(c, dark).voltage("X"), 0.1);
    EXPECT_NEAR(solve(c, bright).voltage("Y"), 0.5, 0.02) << "0.5 mA at 1000 lx";
}

TEST(Devices, APhotoresistorFollowsItsPowerLaw) {
    for (const double lux : {1.0, 10.0, 100.0, 1000.0, 50000.0}) {
        const Circuit c = circuit({five_volts, "ldr LDR1 a=V b=X value=20000 gamma=0.7 dark=1e7",
                                   "resistor R1 a=X b=0 value=10000"});
        Conditions at;
        at.lux = lux;
        const double own = std::min(1e7, 20000 * std::pow(10 / lux, 0.7));
        EXPECT_NEAR(solve(c, at).voltage("X"), 5 * 10e3 / (10e3 + own), 2e-4) << lux;
    }
}

TEST(Devices, APhototransistorLeaksTwiceAsMuchEveryTenDegrees) {
    const Circuit c = circuit(
        {five_volts, "phototransistor Q1 c=V e=Y dark_current=1e-7", "resistor R1 a=Y b=0 value=10000"});
    for (const double celsius : {5.0, 25.0, 35.0, 45.0, 60.0}) {
        Conditions at;
        at.celsius = celsius, at.lux = 0;
        EXPECT_NEAR(solve(c, at).part("R1").current / (1e-7 * std::pow(2, (celsius - 25) / 10)), 1, 0.01)
            << celsius;
    }
}

TEST(Devices, ARegulatorHoldsThenLetsGo) {
    for (const double volts : {5.0, 3.0}) {
        const Circuit c = circuit(
            {"supply PS1 +=V -=0 lead_length=0 resistance=0.001 voltage=" + std::to_string(volts),
             "regulator U1 in=V gnd=0 out=OUT type=regulator-3V3", "resistor R1 a=OUT b=0 value=330"});
        EXPECT_NEAR(solve(c).voltage("OUT"), volts > 4 ? 3.3 : 3.0 - 0.05 - 0.009, 0.01) << volts;
    }
}

TEST(Devices, AComparatorRemembersWithinItsHysteresis) {
    const std::vector<std::string> lines{
        five_volts,
        "vsource VS1 +=P -=0 value=2.5",
        "resistor R1 a=V b=M value=10000",
        "resistor R2 a=M b=0 value=10000",
        "comparator U1 in+=P in-=M out=OUT vcc=V gnd=0 type=comparator-cmos hysteresis=0.2",
        "resistor R3 a=OUT b=0 value=100000"};
    for (const double v : {2.3, 2.7}) {
        Circuit c = circuit(lines);
        c.find("VS1")->params["value"] = v;
        EXPECT_NEAR(solve(c).voltage("OUT"), v > 2.5 ? 5.0 : 0.0, 0.05) << v;
    }
}

TEST(Devices, ARelayPullsItsContactOver) {
    for (const double volts : {2.0, 5.0}) {
        const Circuit c =
            circuit({"supply PS1 +=V -=0 lead_length=0 resistance=0.001 voltage=" + std::to_string(volts),
                     "resistor R3 a=V b=COIL value=0.001", "relay K1 coil+=COIL coil-=0 common=V no=NO nc=NC",
                     "resistor R1 a=NO b=0 value=1000", "resistor R2 a=NC b=0 value=1000"});
        const auto op = solve(c);
        EXPECT_NEAR(op.voltage("NO"), volts > 3.5 ? volts : 0, 0.01);
        EXPECT_NEAR(op.voltage("NC"), volts > 3.5 ? 0 : volts, 0.01);
        EXPECT_NEAR(op.part("K1").current, volts / 70, 1e-3);
    }
}

TEST(Devices, APtcTripsAndHoldsItsPower) {
    const Circuit c = circuit({"supply PS1 +=V -=0 lead_length=0 resistance=0.01 voltage=9",
                               "fuse F1 a=V b=OUT type=ptc-100mA", "resistor R1 a=OUT b=0 value=10"});
    const auto op = solve(c);
    EXPECT_LT(op.part("F1").current, 0.1) << "tripped: 0.7 A would flow otherwise";
    EXPECT_GT(op.part("F1").voltage, 8.5) << "nearly the whole supply";
    EXPECT_NEAR(op.part("F1").power(), 0.38, 0.04) << "what it gives off when tripped";
    const Circuit light = circuit({"supply PS1 +=V -=0 lead_length=0 resistance=0.01 voltage=9",
                                   "fuse F1 a=V b=OUT type=ptc-100mA", "resistor R1 a=OUT b=0 value=200"});
    EXPECT_NEAR(solve(light).part("F1").current, 9 / 202.5, 2e-3) << "cold below its hold current";
}

TEST(Devices, APtcHoldsItsHoldCurrentAndTripsAtItsTripCurrent) {
    const auto resistance_at = [](const char* type, double amps, double celsius) {
        const auto c = circuit(
            {five_volts, "resistor R2 a=V b=0 value=1e6", "isource I1 +=A -=0 value=" + std::to_string(amps),
             "fuse F1 a=A b=0 type=" + std::string(type), "resistor R1 a=A b=0 value=1000"});
        Conditions there;
        there.celsius = celsius;
        const auto op = solve(c, there);
        return op.part("F1").voltage / op.part("F1").current;
    };
    for (const auto& [type, cold, hold, trip] :
         {std::tuple("ptc-100mA", 2.5, 0.1, 0.25), std::tuple("ptc-500mA", 0.5, 0.5, 1.0)}) {
        EXPECT_LT(resistance_at(type, hold, 20), 4 * cold) << type;
        EXPECT_GT(resistance_at(type, trip, 20), 20 * cold) << type;
        EXPECT_GT(resistance_at(type, 1.2 * hold, 85), 20 * cold) << type << ": in heat it trips sooner";
        EXPECT_LT(resistance_at(type, 1.2 * hold, -20), 4 * cold) << type;
    }
}

TEST(Devices, APtcWhoseDataContradictEachOtherIsRefused) {
    const Circuit c = circuit(
        {five_volts, "fuse F1 a=V b=OUT type=ptc-100mA resistance=200", "resistor R1 a=OUT b=0 value=10"});
    const auto refused = operating_point(c, known_catalogue(), {});
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().text().find("F1"), std::string::npos);
    EXPECT_NE(refused.error().expected.find("a tripped power of at least"), std::string::npos);
}

TEST(Devices, StripsAndPrewiredLedsAreLedsWithResistors) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=12 lead_length=0 resistance=0.001",
                               "strip LS1 +=V -=0 length=0.5 track=0",
                               "prewired_led L1 a=V k=0 resistance=470 type=red-5mm"});
    const Circuit same = circuit({"supply PS1 +=V -=0 voltage=12 lead_length=0 resistance=0.001",
                                  "resistor R1 a=V b=A value=150", "led L1 a=A k=B type=white-5mm",
                                  "led L2 a=B k=C type=white-5mm", "led L3 a=C k=0 type=white-5mm",
                                  "resistor R2 a=V b=D value=470", "led L4 a=D k=0 type=red-5mm"});
    const auto strip = solve(c), parts = solve(same);
    EXPECT_NEAR(strip.part("LS1").current, 10 * parts.part("L1").current, 1e-5);
    EXPECT_NEAR(strip.part("L1").current, parts.part("L4").current, 1e-6);
}

TEST(Devices, ALatchHasTwoStatesOfRest) {
    const Circuit c =
        circuit({five_volts, "resistor R1 a=V b=C1 value=1000", "resistor R2 a=V b=C2 value=1000",
                 "resistor R3 a=C1 b=B2 value=10000", "resistor R4 a=C2 b=B1 value=10000",
                 "npn Q1 c=C1 b=B1 e=0", "npn Q2 c=C2 b=B2 e=0"});
    const auto states = operating_points(c, known_catalogue(), {});
    ASSERT_TRUE(states) << states.error().text();
    ASSERT_EQ(states.value().size(), 2u);
    for (const auto& s : states.value()) {
        const double low = std::min(s.voltage("C1"), s.voltage("C2")),
                     high = std::max(s.voltage("C1"), s.voltage("C2"));
        EXPECT_LT(low, 0.2);
        EXPECT_GT(high, 4);
    }
    EXPECT_GT(std::abs(states.value()[0].voltage("C1") - states.value()[1].voltage("C1")), 3);
}

}  // namespace
}  // namespace elkit::test
