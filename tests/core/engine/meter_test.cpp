// What a hand meter shows: its own load, its ranges and rounding, what it cannot do.
#include "engine/meter.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "support/circuits.hpp"

namespace elkit::test {
namespace {

MeterReading read(const Circuit& c, const Probing& p, const Conditions& q = {}) {
    auto r = read_meter(c, known_catalogue(), q, p);
    EXPECT_TRUE(r) << (r ? "" : r.error().text());
    return r ? r.value() : MeterReading{};
}

Circuit divider(const std::string& ohms) {
    return circuit({"supply PS1 +=V -=0 voltage=10 resistance=0.01 lead_length=0",
                    "resistor R1 a=V b=M value=" + ohms, "resistor R2 a=M b=0 value=" + ohms});
}

class Load : public ::testing::TestWithParam<double> {};
TEST_P(Load, OfTenMegohmsPullsADividerDown) {
    std::ostringstream ohms;
    ohms << GetParam();
    const double source = GetParam() / 2, expected = 5 * 1e7 / (1e7 + source);
    const MeterReading r = read(divider(ohms.str()), {"M", "0", MeterMode::volts_dc, {}});
    EXPECT_NEAR(r.value.value, expected, 0.006 + 0.001 * expected);
}
INSTANTIATE_TEST_SUITE_P(Dividers, Load, ::testing::Values(1e3, 1e5, 1e6, 1e7));

struct Resistance {
    double ohms, range;
};
class Ohms : public ::testing::TestWithParam<Resistance> {};
TEST_P(Ohms, AreReadOnTheSmallestRangeThatHoldsThem) {
    std::ostringstream value;
    value << GetParam().ohms;
    const Circuit c =
        circuit({"battery B1 +=V -=0", "switch S1 a=V b=A on=0", "resistor R1 a=A b=0 value=" + value.str()});
    const MeterReading r = read(c, {"A", "0", MeterMode::ohms, {}});
    EXPECT_NEAR(r.value.value / GetParam().ohms, 1, 0.006);
    EXPECT_EQ(r.range, GetParam().range);
    EXPECT_FALSE(r.overload);
}
INSTANTIATE_TEST_SUITE_P(Ranges, Ohms,
                         ::testing::Values(Resistance{150, 200}, Resistance{1500, 2000},
                                           Resistance{15e3, 20e3}, Resistance{150e3, 200e3}));

TEST(Meter, SaysOverloadForAnOpenCircuit) {
    const Circuit c =
        circuit({"battery B1 +=V -=0", "switch S1 a=V b=A on=0", "resistor R1 a=A b=0 value=1e9"});
    EXPECT_TRUE(read(c, {"A", "0", MeterMode::ohms, {}}).overload);
    EXPECT_EQ(read(c, {"A", "0", MeterMode::ohms, {}}).display.find("OL"), 0u);
}

TEST(Meter, BeepsOnlyBelowItsLimit) {
    const auto beeps = [](const char* ohms) {
        return read(circuit({"battery B1 +=V -=0", "switch S1 a=V b=A on=0",
                             "resistor R1 a=A b=0 value=" + std::string(ohms)}),
                    {"A", "0", MeterMode::beep, {}})
            .beeps;
    };
    EXPECT_TRUE(beeps("1"));
    EXPECT_TRUE(beeps("40"));
    EXPECT_FALSE(beeps("70"));
    EXPECT_FALSE(beeps("1000"));
}

TEST(Meter, ASwitchBeepsWhenItIsClosed) {
    const Circuit c = circuit({"battery B1 +=V -=0", "button S1 a=V b=A", "resistor R1 a=A b=0 value=1000"});
    EXPECT_FALSE(read(c, {"V", "A", MeterMode::beep, {}}).beeps);
    Conditions pressed;
    pressed.switches["S1"] = true;
    EXPECT_TRUE(read(c, {"V", "A", MeterMode::beep, {}}, pressed).beeps);
}

TEST(Meter, AmperesAddTheShunt) {
    const Circuit c = circuit(
        {"supply PS1 +=V -=0 voltage=1 resistance=0.001 lead_length=0", "resistor R1 a=V b=0 value=10"});
    EXPECT_NEAR(read(c, {"", "", MeterMode::amps, "R1.a"}).value.value, 1.0 / 11, 1e-3)
        << "one ohm more on the small range";
    const Circuit strong =
        circuit({"supply PS1 +=V -=0 voltage=5 max_current=5 resistance=0.001 lead_length=0",
                 "resistor R1 a=V b=0 value=10 rating=5"});
    EXPECT_NEAR(read(strong, {"", "", MeterMode::amps, "R1.a"}).value.value, 5 / 10.05, 5e-3);
}

TEST(Meter, RoundsToItsLastDigit) {
    const MeterReading r = read(divider("1000"), {"V", "0", MeterMode::volts_dc, {}});
    const double digit = r.range / 2000;
    EXPECT_NEAR(r.value.value / digit, std::round(r.value.value / digit), 1e-6);
    EXPECT_FALSE(r.value.working.empty());
}

TEST(Meter, ReadsThePulseAsMeanAndAsRms) {
    const Circuit c =
        circuit({"vsource VS1 +=V -=0 wave=pulse value=0 high=4 width=5e-4 period=1e-3 edge=1e-7",
                 "resistor R1 a=V b=0 value=1000"});
    EXPECT_NEAR(read(c, {"V", "0", MeterMode::volts_dc, {}}).value.value, 2, 0.02);
    EXPECT_NEAR(read(c, {"V", "0", MeterMode::volts_ac, {}}).value.value, 2, 0.03)
        << "what swings about the mean";
}

TEST(Meter, NamesWhatIsNotThere) {
    const Circuit c = divider("1000");
    for (const Probing& p :
         {Probing{"NO", "0", MeterMode::volts_dc, {}}, Probing{"M", "NO", MeterMode::ohms, {}},
          Probing{"", "", MeterMode::amps, "R9.a"}, Probing{"", "", MeterMode::amps, "R1.z"},
          Probing{"", "", MeterMode::amps, "R1"}}) {
        const auto r = read_meter(c, known_catalogue(), {}, p);
        ASSERT_FALSE(r);
        EXPECT_FALSE(r.error().place.empty());
    }
    for (const char* word : {"V", "V~", "A", "ohm", "beep"}) EXPECT_TRUE(meter_mode(word)) << word;
    EXPECT_FALSE(meter_mode("furlong"));
}

TEST(Meter, ShowsTheDigitsThatItsStepsAllow) {
    const std::pair<const char*, const char*> shown[]{{"0.1234", "123.4\u00a0mV"},
                                                      {"1.2348", "1.235\u00a0V"},
                                                      {"12.348", "12.35\u00a0V"},
                                                      {"-3.3", "−3.30\u00a0V"},
                                                      {"0", "0.0\u00a0mV"}};
    for (const auto& [volts, text] : shown)
        EXPECT_EQ(read(circuit({"supply PS1 +=V -=0 voltage=5", "resistor R2 a=V b=0 value=1000",
                                "vsource VS1 +=A -=0 value=" + std::string(volts),
                                "resistor R1 a=A b=0 value=1e6"}),
                       {"A", "0", MeterMode::volts_dc, {}})
                      .display,
                  text);
}

TEST(Meter, ChipsWithoutPowerDoNotBeep) {
    const Circuit c = circuit({"battery B1 +=V -=0 cell=LR6 count=3",
                               "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V reset=V",
                               "touch_switch M1 vcc=V gnd=0 out=Q", "resistor R1 a=V b=D value=10000",
                               "resistor R2 a=D b=T value=10000", "capacitor C1 a=T b=0 value=1e-6",
                               "resistor R3 a=OUT b=0 value=1000", "resistor R4 a=Q b=0 value=1000"});
    for (const char* net : {"D", "OUT", "Q", "V"})
        EXPECT_FALSE(read(c, {net, "0", MeterMode::beep, {}}).beeps) << net;
}

}  // namespace
}  // namespace elkit::test
