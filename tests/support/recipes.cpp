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

std::vector<Said> combined(const std::map<std::string, std::vector<ParamValue>>& values) {
    std::vector<Said> all{{}};
    for (const auto& [key, choices] : values) {
        std::vector<Said> more;
        for (const Said& said : all)
            for (const ParamValue& choice : choices) {
                more.push_back(said);
                more.back()[key] = choice;
            }
        all = std::move(more);
    }
    return all;
}

Swept sweep(const char* recipe, const std::vector<Said>& all) {
    Swept swept;
    for (const Said& said : all) {
        const std::string words = recipe + told(said);
        const auto design = made(recipe, said);
        if (design) {
            ++swept.met;
            expect_met(design.value(), words);
            continue;
        }
        swept.refused.push_back(said);
        EXPECT_FALSE(design.error().place.empty()) << words;
        EXPECT_FALSE(design.error().expected.empty()) << words;
    }
    return swept;
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
