// What the answers of Power make of a design can be written to a file and comes back the same.
#include <gtest/gtest.h>

#include "design/delta.hpp"
#include "design/file.hpp"
#include "embedded.hpp"
#include "power/charging.hpp"
#include "power/protection.hpp"
#include "recipes/low_battery.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

class Written : public ::testing::TestWithParam<std::string_view> {
  protected:
    void expect_written(const Design& next, const std::string& answer) {
        const auto written = check_writable(delta_between(design, next));
        EXPECT_TRUE(written) << answer << ": " << written.error().text();
        const auto all = check_writable(next);
        EXPECT_TRUE(all) << answer << ": " << all.error().text();
        ++answers;
    }
    Design design = read_design(GetParam()).value();
    int answers = 0;
};

TEST_P(Written, EveryWayOfProtection) {
    const auto found = test::ask(ProtectionQuery{design, {}});
    ASSERT_TRUE(found) << found.error().text();
    for (const ProtectionWay& way : found.value().ways) {
        Design next = design;
        if (way.circuit) next.circuit = *way.circuit, expect_written(next, way.id);
    }
    for (const FuseWay& fuse : found.value().fuses) {
        Design next = design;
        next.circuit = fuse.circuit;
        expect_written(next, fuse.name);
    }
    EXPECT_GE(answers, 5);
}

TEST_P(Written, EverySupplyWithAndWithoutAConverter) {
    for (const SupplyScope scope : {SupplyScope::usual, SupplyScope::converted}) {
        const auto rows = test::ask(SuppliesQuery{design, {}, SupplyPolicy::sized_anew, scope});
        ASSERT_TRUE(rows) << rows.error().text();
        for (const SupplyRow& row : rows.value())
            if (const auto next = with_supply_row(design, row, SupplyPolicy::sized_anew))
                expect_written(next.value(), row.name);
    }
    EXPECT_GE(answers, 5);
}

TEST_P(Written, AChargerAndALowBatteryLight) {
    if (const auto next = with_charger(design, 0.2)) expect_written(next.value(), "charger");
    if (const auto next = with_low_battery_light(design, 2.2)) expect_written(next.value(), "low battery");
    EXPECT_GE(answers, 1);
}

INSTANTIATE_TEST_SUITE_P(Answers, Written,
                         ::testing::Values(embedded::demo_pier_lantern, embedded::demo_rock_pool_torch,
                                           embedded::demo_letterbox_flag, embedded::demo_coat_badge));

}  // namespace
}  // namespace elkit
