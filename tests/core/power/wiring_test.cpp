// Leads by gauge: drop, heat, and the thinnest that is enough.
#include "power/wiring.hpp"

#include <cmath>

#include "batch/owned_values.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

WireQuestion twelve() {
    WireQuestion q;
    q.volts = 12, q.amps = 1, q.metres = 2, q.celsius = 20;
    return q;
}

TEST(Wiring, AHandWorkedPair) {
    const auto w = plan_wires(twelve());
    ASSERT_TRUE(w) << w.error().text();
    for (const WireRow& row : w.value().rows) {
        EXPECT_NEAR(row.resistance.value, 4 * 0.0172 / row.area, 1e-12) << "out and back";
        EXPECT_NEAR(row.drop.value, row.resistance.value, 1e-12) << "at 1 A";
        EXPECT_NEAR(row.heat.value, row.resistance.value, 1e-12);
        EXPECT_NEAR(row.share.value, 100 * row.drop.value / 12, 1e-12);
        EXPECT_EQ(row.enough, row.drop.value <= 0.36 && row.bears.value >= 1) << row.area;
    }
    ASSERT_GE(w.value().best, 0);
    EXPECT_DOUBLE_EQ(w.value().rows[static_cast<std::size_t>(w.value().best)].area, 0.5)
        << "0.34 mm² carries 0.92 A";
    EXPECT_NEAR(w.value().longest.value, 0.36 / (2 * 0.0172 / 0.5), 1e-9);
}

TEST(Wiring, TheLongestIsWhereThreePercentAreLost) {
    WireQuestion q = twelve();
    const double longest = plan_wires(q).value().longest.value;
    q.metres = 0.999 * longest;
    EXPECT_TRUE(plan_wires(q).value().rows[5].enough);
    q.metres = 1.001 * longest;
    EXPECT_FALSE(plan_wires(q).value().rows[5].enough);
}

TEST(Wiring, TheBestOfTheWiresInTheDrawer) {
    std::vector<DrawerItem> items(6);
    items[0].name = "hookup wire 1,5 mm²", items[1].name = "stranded wire AWG 18",
    items[2].name = "Litze 0.14mm2", items[3].name = "drill 0.75 mm²", items[4].name = "wire 0.5 mm²",
    items[5].name = "wire, tinned";
    for (DrawerItem& item : items) item.stock = 3;
    items[4].stock = 0;
    const auto owned = owned_wires(items);
    ASSERT_EQ(owned.size(), 3u);
    EXPECT_DOUBLE_EQ(owned[0], 0.14);
    EXPECT_NEAR(owned[1], 0.823, 0.001) << "AWG 18 of ASTM B258";
    EXPECT_DOUBLE_EQ(owned[2], 1.5);
    WireQuestion q = twelve();
    q.owned = owned;
    const Wiring w = plan_wires(q).value();
    ASSERT_GE(w.best, 0);
    const WireRow& best = w.rows[static_cast<std::size_t>(w.best)];
    EXPECT_DOUBLE_EQ(best.area, 0.75) << "AWG 18; 0.5 mm² would do but is gone";
    EXPECT_TRUE(best.owned);
    q.owned = {0.14};
    EXPECT_EQ(plan_wires(q).value().best, -1) << "too thin";
}

TEST(Wiring, RefusesWhatIsNoQuestion) {
    for (double WireQuestion::*field : {&WireQuestion::volts, &WireQuestion::amps, &WireQuestion::metres})
        for (const double bad : {0.0, -1.0, 1e6, std::nan("")}) {
            WireQuestion q = twelve();
            q.*field = bad;
            EXPECT_FALSE(plan_wires(q)) << bad;
        }
}

TEST(Wiring, AsksForADesignsOwnCurrent) {
    const Design lantern = test::demo("pier-lantern");
    Store store;
    const Keyed<Circuit> circuit(lantern.circuit);
    const auto found = Ask(store)(WiringQuery(circuit, {}, 0));
    ASSERT_TRUE(found) << found.error().text();
    const auto op = Ask(store)(RestQuery(circuit, fresh(*circuit, {})));
    EXPECT_NEAR(found->question.amps, op->supply_current(), 1e-9);
    EXPECT_NEAR(found->question.metres, lantern.circuit.source()->number("lead_length"), 1e-12);
    ASSERT_EQ(found->contacts.size(), 1u) << "its switch";
    const double ohms = lantern.circuit.find("S1")->number("on_resistance");
    EXPECT_NEAR(found->contacts.front().drop.value, ohms * op->supply_current(), 1e-6);
    EXPECT_NEAR(found->contacts.front().heat.value, ohms * std::pow(op->supply_current(), 2), 1e-8);
    EXPECT_NEAR(found->connector.value, 0.04 * found->question.amps, 1e-12);
    const auto next = with_leads(lantern, 1.5, 0.34);
    ASSERT_TRUE(next);
    EXPECT_EQ(next.value().circuit.source()->number("lead_area"), 0.34);
    EXPECT_FALSE(with_leads(Design{}, 1, 1));
}

}  // namespace
}  // namespace elkit
