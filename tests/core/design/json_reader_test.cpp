#include "design/json_reader.hpp"

#include <gtest/gtest.h>

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

TEST(JsonReader, ReadsFieldsAndKeepsTheRest) {
    std::vector<Error> errors;
    const Json j = Json::parse(R"({"a": 1.5, "b": "text", "c": true, "later": {"x": [1]}, "more": null})");
    JsonReader r(j, "/top", errors);
    EXPECT_EQ(r.number("a", 0, 0, 10), 1.5);
    EXPECT_EQ(r.text("b", ""), "text");
    EXPECT_TRUE(r.boolean("c", false));
    EXPECT_EQ(r.number("missing", 7, 0, 10), 7) << "a missing field has its default";
    EXPECT_TRUE(errors.empty());
    EXPECT_EQ(r.rest().dump(), R"({"later":{"x":[1]},"more":null})");
}

TEST(JsonReader, NotesEveryFaultWithItsPlace) {
    std::vector<Error> errors;
    const Json j =
        Json::parse(R"({"a": "no", "b": 5, "c": "yes", "d": 99, "e": "purple", "f": [1], "g": 3})");
    JsonReader r(j, "/x", errors);
    r.number("a", 0, 0, 10);
    r.text("b", "");
    r.boolean("c", false);
    r.number("d", 0, 0, 10);
    r.choice("e", "red", {"red", "green"});
    r.object("f", [](JsonReader&) { FAIL() << "a list is no object"; });
    r.list("g", [](JsonReader&) { FAIL() << "a number is no list"; });
    r.require("h", "something");
    const std::vector<std::string> places{"/x/a", "/x/b", "/x/c", "/x/d", "/x/e", "/x/f", "/x/g", "/x/h"};
    ASSERT_EQ(errors.size(), places.size());
    for (std::size_t i = 0; i < places.size(); ++i) {
        EXPECT_EQ(errors[i].place, places[i]);
        EXPECT_FALSE(errors[i].expected.empty()) << errors[i].text();
    }
    EXPECT_NE(errors[4].expected.find("red, green"), std::string::npos);
}

TEST(JsonReader, GoesThroughListsWithTheirIndices) {
    std::vector<Error> errors;
    const Json j = Json::parse(R"({"parts": [{"v": 1}, {"v": "x"}, 5, {"v": 3}]})");
    JsonReader r(j, "", errors);
    double sum = 0;
    r.list("parts", [&](JsonReader& p) { sum += p.number("v", 0, 0, 10); });
    EXPECT_EQ(sum, 4);
    ASSERT_EQ(errors.size(), 2u);
    EXPECT_EQ(errors[0].place, "/parts/1/v");
    EXPECT_EQ(errors[1].place, "/parts/2");
}

TEST(JsonReader, DescribesWhatItFound) {
    EXPECT_EQ(describe(Json("abc")), "found the text \"abc\"");
    EXPECT_EQ(describe(Json(3.5)), "found the number 3.5");
    EXPECT_EQ(describe(Json(false)), "found false");
    EXPECT_EQ(describe(Json::array()), "found a list");
    EXPECT_EQ(describe(Json::object()), "found an object");
    EXPECT_EQ(describe(Json()), "found nothing");
}

}  // namespace
}  // namespace elkit
