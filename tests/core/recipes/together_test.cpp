// Blocks on one supply take what they take alone: what one does in the long run is not lost beside another,
// however much slower or quicker that goes.
#include <gtest/gtest.h>

#include <cmath>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "engine/queries.hpp"
#include "recipes/blocks.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

/// A out of the source in the long run.
double mean(const Design& design) {
    const auto run =
        long_run(design.circuit, known_catalogue(), as_seen(design.circuit, fresh(design.circuit, {})));
    EXPECT_TRUE(run) << (run ? "" : run.error().text());
    return run ? run.value().mean().supply_current() : 0;
}

struct Two {
    const char *first, *second;
};
class Together : public ::testing::TestWithParam<Two> {};

TEST_P(Together, TakeTheSumOfWhatEachTakesAlone) {
    const Recipe &first = *find_recipe(GetParam().first), &second = *find_recipe(GetParam().second);
    const auto one = with_block(Design{}, first.id, planned(first, {}));
    ASSERT_TRUE(one);
    const auto both = with_block(one.value(), second.id, planned(second, {}));
    ASSERT_TRUE(both) << both.error().text();
    const auto without_first = without_block(both.value(), 0),
               without_second = without_block(both.value(), 1);
    ASSERT_TRUE(without_first && without_second);
    const double sum = mean(without_first.value()) + mean(without_second.value());
    EXPECT_NEAR(mean(both.value()), sum, 0.05 * sum);
}

std::vector<Two> pairs() {
    std::vector<Two> all{{"timer-flasher", "timer-dimmer"},     // 2 a second, 1000 a second
                         {"timer-dimmer", "warmth-flasher"},    // the slower one last
                         {"pattern-lights", "pattern-lights"},  // two clocks alike
                         {"warmth-watch", "pattern-lights"},    // one looks, one breathes
                         {"timer-flasher", "dark-wake"}};
    if (test::in_depth()) {  // they take long
        all.push_back({"pattern-lights", "timer-dimmer"});
        all.push_back({"lamp-switcher", "timer-dimmer"});  // begins late, goes round in 20 s
    }
    return all;
}
INSTANTIATE_TEST_SUITE_P(Of, Together, ::testing::ValuesIn(pairs()), [](const auto& of) {
    std::string name = std::string(of.param.first) + "_and_" + of.param.second;
    std::erase(name, '-');
    return name;
});

}  // namespace
}  // namespace elkit
