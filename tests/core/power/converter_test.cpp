// Supplies behind a converter module.
#include "power/converter.hpp"

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "power/supplies.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

TEST(Converters, AreChosenByTheVoltsOnEitherSide) {
    const PartKind *up = converter_for(3.2, 4.5), *down = converter_for(9.6, 4.5);
    ASSERT_TRUE(up && down);
    EXPECT_TRUE(steps_up(*up));
    EXPECT_FALSE(steps_up(*down));
    EXPECT_EQ(converter_for(4.4, 4.5), nullptr) << "too near";
    EXPECT_EQ(converter_for(4.7, 4.5), nullptr);
}

TEST(Converters, StandBehindTheSwitchWhereOneStandsAlone) {
    const Circuit switched = test::circuit({"battery B1 +=V -=0 cell=LR6 count=2", "switch S1 a=V b=ON",
                                            "resistor R1 a=ON b=A value=100", "led L1 a=A k=0"});
    const auto with = with_converter(switched, *converter_for(3.2, 5), 5);
    ASSERT_TRUE(with) << with.error().text();
    const Part& converter = with.value().parts.back();
    EXPECT_EQ(converter.net("in"), with.value().find("S1")->net("b"));
    EXPECT_EQ(converter.net("out"), with.value().find("R1")->net("a"));
    EXPECT_EQ(with.value().find("B1")->net("+"), "V");
    const Circuit both = test::circuit({"battery B1 +=V -=0 cell=LR6 count=2", "switch S1 a=V b=ON",
                                        "resistor R1 a=ON b=A value=100", "led L1 a=A k=0",
                                        "resistor R2 a=V b=0 value=1000000"});
    const auto fed = with_converter(both, *converter_for(3.2, 5), 5);
    ASSERT_TRUE(fed);
    EXPECT_EQ(fed.value().parts.back().net("in"), fed.value().find("B1")->net("+"));
    EXPECT_EQ(fed.value().parts.back().net("out"), "V") << "what always hangs at the cells stays fed";
    EXPECT_FALSE(with_converter(Circuit{}, *converter_for(3.2, 5), 5));
}

TEST(Converters, GiveTheSameLightAndEmptyTheCellsByTheirEfficiency) {
    const Design lantern = test::pier_lantern();
    const auto rows =
        test::ask(SuppliesQuery(lantern, {}, SupplyPolicy::sized_anew, SupplyScope::converted)).value();
    int converted = 0;
    for (const SupplyRow& row : rows) {
        if (row.converted == 0) continue;
        ++converted;
        const CellType& cell = *known_catalogue().cell(row.cell);
        const double module = row.cost.value - row.count * cell.price,
                     mass = row.mass.value - row.count * cell.mass;
        EXPECT_GT(module, 0.5) << row.name << ": the module is paid too";
        EXPECT_GT(mass, 1) << row.name;
        if (!row.possible || !row.reason.empty()) continue;
        EXPECT_NEAR(row.start.value, 100, 2) << row.name;
        EXPECT_TRUE(row.scaled.empty()) << row.name << ": all parts stay as they are";
        const auto next = with_supply_row(lantern, row, SupplyPolicy::sized_anew);
        ASSERT_TRUE(next) << row.name << next.error().text();
        EXPECT_TRUE(has_converter(next.value().circuit));
        EXPECT_TRUE(next.value().blocks.empty()) << "the recipe would size for the cells";
        EXPECT_EQ(next.value().circuit.find("R1")->number("value"),
                  lantern.circuit.find("R1")->number("value"));
        const auto life =
            test::ask(DischargeQuery(Keyed<Circuit>(next.value().circuit), {}, lantern.brief.end_brightness));
        ASSERT_TRUE(life);
        EXPECT_NEAR(life.value().hours / row.run_time.value, 1, 1e-3) << row.name;
    }
    EXPECT_GE(converted, 6);
    const auto usual = test::ask(SuppliesQuery(lantern, {}, SupplyPolicy::sized_anew)).value();
    EXPECT_EQ(rows.size(), usual.size() + static_cast<std::size_t>(converted));
}

}  // namespace
}  // namespace elkit
