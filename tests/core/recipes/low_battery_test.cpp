// A light that says the cells are nearly empty, as the engine finds it.
#include <cmath>

#include "engine/operating_point.hpp"
#include "power/life.hpp"
#include "recipes/blocks.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

using std::string_literals::operator""s;

Goals asked(double warn, const char* cell, double cells) {
    Goals g = find_recipe("low-battery")->standard();
    g.values["warn"] = warn, g.values["cell"] = std::string(cell), g.values["cells"] = cells;
    return g;
}

/// A of the warning light with a steady supply in place of the cells.
double glow(const Circuit& of, double volts) {
    Circuit circuit = of;
    for (Part& part : circuit.parts)
        if (part.designator == "B1")
            part.kind = "supply", part.params = {{"voltage", volts}, {"lead_length", 0.0}};
    const auto run = test::ask(RunQuery(Keyed<Circuit>(circuit), Conditions{}));
    EXPECT_TRUE(run) << run.error().text();
    return run ? run.value().mean().part("L1").current : 0;
}

TEST(LowBattery, ComesOnBelowTheWarningAndNotAbove) {
    for (const auto& [warn, cell, cells] :
         {std::tuple(3.6, "LR6", 3.0), std::tuple(2.2, "LR6", 2.0), std::tuple(3.3, "Li-ion-1S", 1.0),
          std::tuple(7.0, "6LR61", 1.0), std::tuple(11.5, "Lead-12V", 1.0), std::tuple(5.2, "LR6", 6.0)}) {
        const auto made = with_block({}, "low-battery", asked(warn, cell, cells));
        ASSERT_TRUE(made) << warn << ": " << made.error().text();
        const Circuit& circuit = made.value().circuit;
        EXPECT_NEAR(glow(circuit, 0.96 * warn), 0.001, 0.0004) << warn;
        EXPECT_LT(glow(circuit, 1.1 * warn), 2e-6) << warn << ": dark while there is enough";
    }
}

TEST(LowBattery, StandsBesideALightOnItsCells) {
    const Design lantern = test::pier_lantern();
    const double low = test::power(lantern).value().warn_at.value;
    const auto with = with_block(lantern, "low-battery", asked(low, "LR6", 3));
    ASSERT_TRUE(with) << with.error().text();
    int cells = 0;
    for (const Part& part : with.value().circuit.parts) cells += part.kind == "battery";
    EXPECT_EQ(cells, 1) << "the lantern's own";
    for (const Finding& f : test::findings(with.value())) EXPECT_NE(f.severity, Severity::error) << f.title;
    const double before = test::power(lantern).value().run_time.value;
    const double after = test::power(with.value()).value().run_time.value;
    EXPECT_LT(after, before);
    EXPECT_GT(after, 0.9 * before) << "its light takes a part of what is left at the end, and nothing before";
    EXPECT_GT(test::power(with.value()).value().standby.value,
              0.9 * test::power(lantern).value().standby.value)
        << "it hangs behind the switch";
    for (const Finding& f : test::findings(with.value(), "never-lit")) ADD_FAILURE() << f.title;
    Goals other = asked(low, "CR2032", 1);
    EXPECT_EQ(with_block(lantern, "low-battery", other).value().circuit, with.value().circuit)
        << "the cells are those that it has, whatever the goals say";
    const auto later = with_goal(with.value(), 1, "warn", 3.0);
    ASSERT_TRUE(later) << later.error().text();
    EXPECT_NE(later.value().circuit, with.value().circuit);
}

TEST(LowBattery, IsSetAnewWhereAnotherSupplyWouldNeverOrAlwaysWarn) {
    const auto with = with_block({}, "low-battery", asked(3.8, "LR6", 3)).value();
    const auto warn = [](const Result<Design>& d) {
        return d ? goals_of(d.value(), d.value().blocks[0]).number("warn") : 0;
    };
    EXPECT_NEAR(warn(with_supply(with, "LR03", 3)), 3.8, 1e-9) << "as good for these";
    EXPECT_NEAR(warn(with_supply(with, "6LR61", 1)), 7.2, 1e-9);
    EXPECT_NEAR(warn(with_supply(with, "CR2032", 1)), 2.4, 1e-9);
}

TEST(LowBattery, SaysWhatCannotBe) {
    EXPECT_FALSE(with_block({}, "low-battery", asked(20, "Lead-12V", 4))) << "51 V is too much for it";
    Design fed;
    fed.circuit = test::circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=0 value=1000"});
    EXPECT_FALSE(with_block(fed, "low-battery", asked(3, "LR6", 3))) << "a supply does not empty";
    const auto never = with_block({}, "low-battery", asked(3, "LR6", 1));
    ASSERT_FALSE(never);
    EXPECT_NE(never.error().text().find("fresh cells"), std::string::npos) << "it would always be lit";
    Goals blue = asked(2.2, "LR6", 2);
    blue.values["warning_led"] = "white-5mm"s;
    const auto refused = with_block({}, "low-battery", blue);
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().text().find("red"), std::string::npos);
}

}  // namespace
}  // namespace elkit
