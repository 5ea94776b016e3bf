// What a person sets of a design, declared once.
#include "design/fields.hpp"

#include <gtest/gtest.h>

#include "command/command.hpp"
#include "design/file.hpp"
#include "quantity/format.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

class Field : public ::testing::TestWithParam<std::string> {
  protected:
    const DesignField& field = *find_field(GetParam());
};

TEST_P(Field, TakesItsRangeAndItsFileTakesItToo) {
    const Design before = pier_lantern();
    std::vector<FieldValue> good{true, false};
    if (std::holds_alternative<double>(field.get(before))) good = {field.least, field.most};
    if (std::holds_alternative<std::string>(field.get(before)))
        good = {std::string(field.lines ? "Quay \"light\"\n%s" : "Quay \"light\" %s")};
    for (const FieldValue& value : good) {
        const auto next = with_field(before, field.id, value);
        ASSERT_TRUE(next.has_value()) << next.error().text();
        const FieldValue now = field.get(next.value());
        ASSERT_EQ(now.index(), value.index());
        if (const double* number = std::get_if<double>(&value))
            EXPECT_DOUBLE_EQ(std::get<double>(now), *number);
        else
            EXPECT_EQ(now, value);
        const auto read = read_design(write_design(next.value()));
        ASSERT_TRUE(read.has_value()) << read.error().text();
        EXPECT_TRUE(read.value() == next.value());
    }
}

TEST_P(Field, RefusesWhatLiesOutsideAndSaysWhatFits) {
    const Design before = pier_lantern();
    std::vector<FieldValue> bad;
    if (std::holds_alternative<double>(field.get(before)))
        bad = {field.least - 1, field.most * 2, std::nan(""), std::string("many"), true};
    else
        bad = {1.0};
    if (std::holds_alternative<std::string>(field.get(before)))
        bad = {1.0, std::string(field.longest + 1, 'x'), std::string("bell\a")};
    for (const FieldValue& value : bad) {
        const auto next = with_field(before, field.id, value);
        ASSERT_FALSE(next.has_value()) << value.index();
        EXPECT_EQ(next.error().place, field.name);
        EXPECT_FALSE(next.error().expected.empty());
    }
}

TEST_P(Field, IsKnownToTheLineByItsWords) {
    const Design before = pier_lantern();
    for (const std::string& word : field.words) {
        const auto done =
            parse_command(word + " = " + format_quantity(field.least, field.unit), before, {}, {});
        ASSERT_TRUE(done.has_value()) << done.error().text();
        ASSERT_TRUE(done.value().design.has_value()) << word;
        EXPECT_DOUBLE_EQ(std::get<double>(field.get(*done.value().design)), field.least);
        EXPECT_FALSE(parse_command(word + " = much", before, {}, {}).has_value());
    }
}

std::vector<std::string> ids() {
    std::vector<std::string> all;
    for (const DesignField& f : design_fields()) all.push_back(f.id);
    return all;
}
INSTANTIATE_TEST_SUITE_P(All, Field, ::testing::ValuesIn(ids()), [](const auto& i) { return i.param; });

TEST(Fields, AnUnknownOneIsAnError) { EXPECT_FALSE(with_field(pier_lantern(), "colour", 1.0).has_value()); }

}  // namespace
}  // namespace elkit::test
