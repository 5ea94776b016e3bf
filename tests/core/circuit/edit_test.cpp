#include "circuit/edit.hpp"

#include <gtest/gtest.h>

#include "circuit/connectivity.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

Circuit base() {
    return circuit({"battery B1 +=V -=0 count=3", "switch S1 a=V b=X", "resistor R1 a=X b=A value=150",
                    "led L1 a=A k=0", "npn Q1 c=A b=X e=0", "potentiometer RV1 a=V wiper=X b=0"});
}

TEST(Edit, DeletesOnePartAndNothingElse) {
    const Circuit next = delete_part(base(), "R1").value();
    EXPECT_EQ(next.find("R1"), nullptr);
    EXPECT_EQ(next.parts.size(), base().parts.size() - 1);
    EXPECT_EQ(*next.find("L1"), *base().find("L1"));
    const auto none = delete_part(base(), "R9");
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().place, "R9");
}

TEST(Edit, ACopyStandsBesideItsPattern) {
    const Circuit next = duplicate_part(base(), "R1").value();
    ASSERT_NE(next.find("R2"), nullptr);
    EXPECT_EQ(next.find("R2")->params, next.find("R1")->params);
    EXPECT_EQ(next.find("R2")->pins, next.find("R1")->pins);
    EXPECT_EQ(next.parts[3].designator, "R2") << "right after it, where a reader looks";
    EXPECT_FALSE(duplicate_part(base(), ""));
}

TEST(Edit, RenamesUnlessTheNameIsTaken) {
    EXPECT_NE(rename_part(base(), "R1", "R7").value().find("R7"), nullptr);
    EXPECT_EQ(rename_part(base(), "R1", "R1").value(), base()) << "its own name is no clash";
    const auto taken = rename_part(base(), "R1", "L1");
    ASSERT_FALSE(taken);
    EXPECT_NE(taken.error().found.find("already"), std::string::npos);
    EXPECT_FALSE(rename_part(base(), "R1", ""));
    EXPECT_FALSE(rename_part(base(), "R9", "R10"));
}

TEST(Edit, ANetTakesItsPinsAlong) {
    const Circuit next = rename_net(base(), "X", "FEED").value();
    EXPECT_EQ(next.find("S1")->net("b"), "FEED");
    EXPECT_EQ(next.find("R1")->net("a"), "FEED");
    EXPECT_EQ(next.find("Q1")->net("b"), "FEED");
    EXPECT_EQ(next.find("RV1")->net("wiper"), "FEED");
    const Circuit joined = rename_net(base(), "X", "A").value();
    EXPECT_EQ(joined.nets().size(), base().nets().size() - 1) << "two lines become one";
    EXPECT_FALSE(rename_net(base(), "NOWHERE", "A"));
    EXPECT_FALSE(rename_net(base(), "X", ""));
}

TEST(Edit, MovesOnePin) {
    const Circuit next = move_pin(base(), "R1", "b", "NEW").value();
    EXPECT_EQ(next.find("R1")->net("b"), "NEW");
    EXPECT_EQ(next.find("R1")->net("a"), "X");
    EXPECT_EQ(next.find("L1")->net("a"), "A");
    for (const auto& [part, pin] : {std::pair("R9", "a"), std::pair("R1", "z")})
        EXPECT_FALSE(move_pin(base(), part, pin, "NEW")) << part << "." << pin;
}

TEST(Edit, TurnsAPartRoundAndBack) {
    const Circuit once = flip_part(base(), "L1").value();
    EXPECT_EQ(once.find("L1")->net("a"), "0");
    EXPECT_EQ(once.find("L1")->net("k"), "A");
    EXPECT_EQ(flip_part(once, "L1").value(), base());
    EXPECT_FALSE(flip_part(base(), "Q1")) << "three legs have no two ends";
}

TEST(Edit, PutsAPartInARowWithAPin) {
    const Circuit next = insert_at_pin(base(), "B1", "+", {{}, "diode", {}, {}, {}}, "X").value();
    EXPECT_EQ(next.find("B1")->net("+"), "X_2") << "X is taken";
    EXPECT_EQ(next.find("D1")->net("a"), "X_2") << "its first pin is at the part";
    EXPECT_EQ(next.find("D1")->net("k"), "V");
    EXPECT_EQ(next.find("S1")->net("a"), "V") << "all others stay";
    EXPECT_FALSE(insert_at_pin(base(), "B9", "+", {{}, "diode", {}, {}, {}}, "X"));
    EXPECT_FALSE(insert_at_pin(base(), "B1", "z", {{}, "diode", {}, {}, {}}, "X"));
    EXPECT_FALSE(insert_at_pin(base(), "B1", "+", {{}, "npn", {}, {}, {}}, "X")) << "three pins have no row";
}

TEST(Edit, AnotherKindKeepsWhatItShares) {
    const Circuit next = replace_kind(base(), "R1", "potentiometer").value();
    const Part& pot = *next.find("R1");
    EXPECT_EQ(pot.kind, "potentiometer");
    EXPECT_EQ(pot.number("value"), 150);
    EXPECT_EQ(pot.net("a"), "X");
    EXPECT_EQ(pot.net("b"), "A");
    const Circuit with_fet = replace_kind(base(), "Q1", "nmos").value();
    const Part& fet = *with_fet.find("Q1");
    EXPECT_EQ(fet.pins.size(), 3u);
    EXPECT_FALSE(fet.params.contains("gain"));
    EXPECT_FALSE(replace_kind(base(), "R1", "wishbone"));
}

TEST(Edit, FindsNetsWhateverTheCase) {
    EXPECT_EQ(find_net(base(), "a"), "A");
    EXPECT_EQ(find_net(base(), "x"), "X");
    EXPECT_EQ(find_net(base(), "nowhere"), "");
}

/// Whatever is edited, the result is either refused or a circuit whose parts still have all their pins.
TEST(Edit, NothingIsLostOnTheWay) {
    for (const Part& part : base().parts) {
        const std::string& d = part.designator;
        for (const auto& next :
             {duplicate_part(base(), d), rename_part(base(), d, "Z1"), flip_part(base(), d)}) {
            if (!next) continue;
            std::size_t pins = 0;
            for (const Part& p : next.value().parts) pins += p.pins.size();
            std::size_t before = 0;
            for (const Part& p : base().parts) before += p.pins.size();
            EXPECT_GE(pins, before) << d;
        }
    }
}

}  // namespace
}  // namespace elkit::test
