#include "support/recipes.hpp"

namespace elkit::test {

Result<Design> made(const char* recipe, const Said& said, const Environment& drawer) {
    return with_block({}, recipe, planned(*find_recipe(recipe), said, drawer), {}, drawer);
}

std::string told(const Said& said) {
    std::string words;
    for (const auto& [key, value] : said) {
        words += " " + key + "=";
        if (const auto* text = std::get_if<std::string>(&value)) words += *text;
        if (const double* number = std::get_if<double>(&value)) words += std::to_string(*number);
    }
    return words + " ";
}

void expect_met(const Design& design, const std::string& words) {
    Store store;
    const auto all = Ask(store)(MeasuredQuery(design, 0, {}));
    ASSERT_TRUE(all) << words << all.error().text();
    EXPECT_FALSE(all->empty()) << words;
    for (const Measured& m : *all)
        EXPECT_TRUE(m.met) << words << m.asked.label << ": " << m.found.text() << " " << m.found.spread_text()
                           << " " << m.trouble;
}

void expect_reckoned(const Design& design, const std::string& words) {
    Store store;
    const auto all = Ask(store)(MeasuredQuery(design, 0, {}));
    const auto sized = sized_block(design, 0);
    ASSERT_TRUE(all && sized) << words;
    EXPECT_NEAR(all->front().found.value / sized.value().results.front().value, 1, 0.03) << words;
}

}  // namespace elkit::test
