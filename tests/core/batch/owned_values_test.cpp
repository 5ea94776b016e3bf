#include "batch/owned_values.hpp"

#include <gtest/gtest.h>

#include "circuit/part_words.hpp"
#include "drawer/import.hpp"

namespace elkit {
namespace {

std::vector<DrawerItem> resistors() {
    return with_changes({}, {{"resistor/68", DrawerItem{"resistor/68", "68 Ω", 95}},
                             {"resistor/75", DrawerItem{"resistor/75", "75 Ω", 0}},
                             {"resistor/82", DrawerItem{"resistor/82", "82 Ω", 160}},
                             {"resistor/82/1%", DrawerItem{"resistor/82/1%", "82 Ω 1 %", 12}},
                             {"resistor/91/0.5W", DrawerItem{"resistor/91/0.5W", "91 Ω ½ W", 3}},
                             {"capacitor/1e-07", DrawerItem{"capacitor/1e-07", "100 nF", 40}},
                             {"own/felt", DrawerItem{"own/felt", "felt", 40}}});
}

Part resistor(double ohms) {
    Part part;
    part.kind = "resistor", part.designator = "R1", part.params["value"] = ohms;
    return part;
}

std::vector<std::string> keys(const std::vector<OwnedValue>& owned) {
    std::vector<std::string> out;
    for (const OwnedValue& one : owned) out.push_back(drawer_key(one.part));
    return out;
}
using Keys = std::vector<std::string>;

TEST(OwnedValues, TheNearestInRatioFirst) {
    EXPECT_EQ(keys(owned_values(resistors(), resistor(75), "")),
              (Keys{"resistor/82", "resistor/82/1%", "resistor/68", "resistor/91/0.5W"}))
        << "82/75 is nearer than 75/68; none of 75 Ω are left";
    EXPECT_EQ(owned_values(resistors(), resistor(75), "").front().part.designator, "R1")
        << "it stands in the part's place";
}

TEST(OwnedValues, BearAtLeastAsMuch) {
    Part strong = resistor(75);
    strong.params["rating"] = 0.5;
    EXPECT_EQ(keys(owned_values(resistors(), strong, "")), Keys{"resistor/91/0.5W"});
    Part exact = resistor(75);
    exact.params["tolerance"] = 0.01;
    EXPECT_EQ(keys(owned_values(resistors(), exact, "")), Keys{"resistor/82/1%"});
}

TEST(OwnedValues, AreEnoughAndNotPromisedToOthers) {
    auto items = resistors();
    EXPECT_EQ(keys(owned_values(items, resistor(75), "", 100)), Keys{"resistor/82"});
    for (DrawerItem& item : items)
        if (item.key == "resistor/82") item.reserved["Harbour beacon"] = 100;
    EXPECT_TRUE(owned_values(items, resistor(75), "Pier lantern", 100).empty());
    EXPECT_EQ(keys(owned_values(items, resistor(75), "Harbour beacon", 100)), Keys{"resistor/82"})
        << "promised to this one";
}

TEST(OwnedValues, StepUpAndDown) {
    const auto owned = owned_values(resistors(), resistor(75), "");
    EXPECT_EQ(next_owned(owned, 75, 1)->value, 82);
    EXPECT_EQ(next_owned(owned, 82, 1)->value, 91);
    EXPECT_EQ(next_owned(owned, 91, 1), nullptr);
    EXPECT_EQ(next_owned(owned, 75, -1)->value, 68);
    EXPECT_EQ(next_owned(owned, 68, -1), nullptr);
}

TEST(OwnedValues, OfWhatHasNoNumberThereAreNone) {
    Part led;
    led.kind = "led";
    EXPECT_TRUE(owned_values(demo_stock(), led, "").empty());
    EXPECT_TRUE(owned_values({}, resistor(75), "").empty());
}

TEST(OwnedChoices, AreThoseInStock) {
    EXPECT_TRUE(owns_choice(demo_stock(), "leds", "amber-5mm"));
    EXPECT_FALSE(owns_choice(demo_stock(), "leds", "infrared-5mm"));
    EXPECT_TRUE(owns_choice(demo_stock(), "cells", "CR2032"));
    EXPECT_FALSE(owns_choice(demo_stock(), "cells", "CR2450")) << "none left";
    EXPECT_TRUE(owns_choice(demo_stock(), "", "anything")) << "no list that the drawer knows";
}

TEST(DescribedItems, AreKnownByTheirWords) {
    EXPECT_EQ(described_item("4k7 resistor 1 %").key, "resistor/4700/1%");
    EXPECT_EQ(described_item("red 3mm led").key, "led/red-3mm");
    EXPECT_EQ(described_item("CR2032").key, "cell/CR2032");
    EXPECT_EQ(described_item("Felt feet / 10 mm").key, "own/felt feet   10 mm");
    EXPECT_EQ(described_item("Felt feet").name, "Felt feet");
}

TEST(Items, AreCheckedBeforeTheyAreKept) {
    DrawerItem item{"resistor/75", "75 Ω", 1};
    EXPECT_TRUE(check(item));
    const auto refused = [&](auto change) {
        DrawerItem bad = item;
        change(bad);
        return !check(bad);
    };
    EXPECT_TRUE(refused([](DrawerItem& i) { i.stock = -1; }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.least = 1e12; }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.pack = 0; }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.place = std::string(300, 'x'); }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.note = "two\nlines"; }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.counted = "yesterday"; }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.counted = "2026-13-01"; }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.reserved[""] = 3; }));
    EXPECT_TRUE(refused([](DrawerItem& i) { i.reserved["a"] = -3; }));
    EXPECT_FALSE(refused([](DrawerItem& i) { i.counted = "2026-11-27"; }));
}

TEST(Items, ChangesLeadThereAndBack) {
    const auto items = resistors();
    const std::vector<DrawerChange> changes{{"resistor/68", std::nullopt},
                                            {"resistor/70", DrawerItem{"resistor/70", "70 Ω", 1}},
                                            {"resistor/82", DrawerItem{"resistor/82", "82 Ω", 1}},
                                            {"resistor/82", DrawerItem{"resistor/82", "82 Ω", 2}}};
    const auto after = with_changes(items, changes);
    EXPECT_EQ(find_item(after, "resistor/68"), nullptr);
    EXPECT_EQ(find_item(after, "resistor/82")->stock, 2) << "the last word on it";
    EXPECT_TRUE(std::is_sorted(after.begin(), after.end(),
                               [](const DrawerItem& a, const DrawerItem& b) { return a.key < b.key; }));
    EXPECT_EQ(with_changes(after, inverse(items, changes)), items);
}

TEST(Items, LowStockLeavesOutWhatIsPromised) {
    DrawerItem item{"resistor/75", "75 Ω", 30};
    EXPECT_FALSE(item.low()) << "nothing is wanted";
    item.least = 20;
    EXPECT_FALSE(item.low());
    item.reserved["Pier lantern"] = 15;
    EXPECT_TRUE(item.low());
    EXPECT_EQ(item.free_for("Pier lantern"), 30);
    EXPECT_EQ(item.free_for("another"), 15);
}

}  // namespace
}  // namespace elkit
