#include "circuit/part_kind.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "formats/parts_reference.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

TEST(PartKinds, AreCompleteAndDoNotContradictThemselves) {
    std::set<std::string> ids;
    for (const PartKind& kind : part_kinds()) {
        EXPECT_TRUE(ids.insert(kind.id).second) << kind.id << " twice";
        EXPECT_FALSE(kind.name.empty() || kind.prefix.empty() || kind.pins.empty()) << kind.id;
        EXPECT_TRUE(kind.value_key.empty() || kind.param(kind.value_key)) << kind.id;
        EXPECT_EQ(std::set(kind.pins.begin(), kind.pins.end()).size(), kind.pins.size()) << kind.id;
        for (const auto& pin : kind.optional_pins)
            EXPECT_NE(std::find(kind.pins.begin(), kind.pins.end(), pin), kind.pins.end())
                << kind.id << " " << pin;
        std::set<std::string> keys;
        for (const ParamInfo& p : kind.params) {
            EXPECT_TRUE(keys.insert(p.key).second) << kind.id << "." << p.key << " twice";
            EXPECT_FALSE(p.label.empty() || p.meaning.empty()) << kind.id << "." << p.key;
            if (const auto* number = std::get_if<double>(&p.standard); number && !std::isnan(*number)) {
                EXPECT_LE(p.low, *number) << kind.id << "." << p.key;
                EXPECT_GE(p.high, *number) << kind.id << "." << p.key;
            }
        }
    }
}

TEST(PartKinds, EveryTypeSetsParametersOfItsKindWithinTheirRange) {
    for (const PartType& type : known_catalogue().types) {
        const PartKind* kind = part_kind(type.kind);
        ASSERT_NE(kind, nullptr) << type.kind;
        EXPECT_FALSE(type.source.empty()) << type.id;
        for (const auto& [key, value] : type.values) {
            const ParamInfo* info = kind->param(key);
            ASSERT_NE(info, nullptr) << type.id << " " << key;
            EXPECT_GE(value, info->low) << type.id << " " << key;
            EXPECT_LE(value, info->high) << type.id << " " << key;
        }
    }
}

/// A parameter without a default must come from every type of its kind.
TEST(PartKinds, WhatATypeShallSayItSays) {
    for (const PartKind& kind : part_kinds()) {
        if (kind.id == "led" || kind.id == "diode" || kind.id == "battery")
            continue;  // from their own tables
        for (const ParamInfo& p : kind.params) {
            const auto* number = std::get_if<double>(&p.standard);
            if (!number || !std::isnan(*number)) continue;
            for (const PartType& type : known_catalogue().types)
                if (type.kind == kind.id && p.key != "trip_power" && p.key != "back_share") {
                    EXPECT_FALSE(std::isnan(type.value(p.key))) << type.id << " " << p.key;
                }
        }
    }
}

struct Word {
    const char *typed, *kind;
};
class Words : public ::testing::TestWithParam<Word> {};
TEST_P(Words, NameAKind) {
    const PartKind* kind = part_kind_from_word(GetParam().typed);
    ASSERT_NE(kind, nullptr) << GetParam().typed;
    EXPECT_EQ(kind->id, GetParam().kind);
}
INSTANTIATE_TEST_SUITE_P(
    Typed, Words,
    ::testing::Values(Word{"r", "resistor"}, Word{"R", "resistor"}, Word{"resistor", "resistor"},
                      Word{"cap", "capacitor"}, Word{"elco", "electrolytic"}, Word{"pot", "potentiometer"},
                      Word{"trimmer", "potentiometer"}, Word{"coil", "inductor"}, Word{"NPN", "npn"},
                      Word{"mosfet", "nmos"}, Word{"ntc", "thermistor"}, Word{"ptc", "fuse"},
                      Word{"led", "led"}, Word{"LED", "led"}, Word{"timer", "timer"}, Word{"cell", "battery"},
                      Word{"pushbutton", "button"}, Word{"relay", "relay"}));

TEST(PartKinds, AnUnknownWordIsNoKind) {
    for (const char* word : {"", "x", "resistors", "470", "r1"})
        EXPECT_EQ(part_kind_from_word(word), nullptr) << word;
}

TEST(PartKinds, SayWhatIsPrintedBesideAPart) {
    const Circuit c = circuit({"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=0 value=4700",
                               "capacitor C1 a=V b=0 value=1e-7", "led L1 a=V k=0 type=red-5mm",
                               "strip LS1 +=V -=0 length=0.5"});
    EXPECT_EQ(value_text(*c.find("B1")), "3 × LR6");
    EXPECT_EQ(value_text(*c.find("R1")), "4.7\u00a0kΩ");
    EXPECT_EQ(value_text(*c.find("C1")), "100\u00a0nF");
    EXPECT_EQ(value_text(*c.find("L1")), "red");
    EXPECT_FALSE(value_text(*c.find("LS1")).empty());
}

TEST(PartKinds, KnowContactsAndSources) {
    const Circuit c = circuit({"switch S1 a=V b=X on=0", "button S2 a=V b=X normally=closed",
                               "jumper JP1 a=V b=X", "changeover S3 common=V a=X b=0", "resistor R1 a=V b=0",
                               "vsource VS1 +=V -=0", "battery B1 +=V -=0", "isource IS1 +=V -=0"});
    for (const char* name : {"S1", "S2", "JP1", "S3"}) EXPECT_TRUE(is(*c.find(name), Role::contact)) << name;
    for (const char* name : {"VS1", "B1"}) EXPECT_TRUE(is(*c.find(name), Role::source)) << name;
    for (const char* name : {"R1", "S1"}) EXPECT_FALSE(is(*c.find(name), Role::source)) << name;
    EXPECT_FALSE(closed_as_drawn(*c.find("S1")));
    EXPECT_TRUE(closed_as_drawn(*c.find("S2")));
    EXPECT_TRUE(closed_as_drawn(*c.find("JP1")));
}

TEST(PartKinds, OfferTheCataloguesIdsForATextParameter) {
    const auto has = [](const char* kind, const char* key, const char* id) {
        const auto all = text_choices(kind, key);
        return std::find(all.begin(), all.end(), id) != all.end();
    };
    EXPECT_TRUE(has("battery", "cell", "CR2032"));
    EXPECT_TRUE(has("led", "type", "red-5mm"));
    EXPECT_TRUE(has("npn", "type", "npn-small"));
    EXPECT_FALSE(has("npn", "type", "pnp-small"));
    EXPECT_TRUE(has("vsource", "wave", "sine"));
    EXPECT_TRUE(has("button", "normally", "closed"));
}

TEST(PartKinds, ATableThatIsWrongSaysWhere) {
    for (const char* text : {"", "[", "[{}]", R"([{"id": "x"}])", R"([{"id": 1, "name": "x"}])"}) {
        const auto kinds = read_kinds(text);
        ASSERT_FALSE(kinds) << text;
        EXPECT_FALSE(kinds.error().found.empty());
    }
}

TEST(PartKinds, APartTakesItsOwnValueBeforeItsTypesBeforeTheDefault) {
    Circuit c = circuit({"npn Q1 c=V b=B e=0 type=npn-small", "resistor R1 a=V b=0"});
    EXPECT_EQ(c.find("Q1")->number("gain"), 200);
    c.find("Q1")->params["gain"] = 90.0;
    EXPECT_EQ(c.find("Q1")->number("gain"), 90);
    EXPECT_EQ(c.find("R1")->number("value"), 1000);
    EXPECT_EQ(c.find("R1")->number("nonsense"), 0);
    EXPECT_EQ(c.find("R1")->net("z"), "");
}

TEST(PartsReference, HasEveryKindParameterAndType) {
    const std::string text = parts_markdown();
    for (const PartKind& kind : part_kinds()) {
        EXPECT_NE(text.find("`" + kind.id + "`"), std::string::npos) << kind.id;
        for (const ParamInfo& p : kind.params)
            EXPECT_NE(text.find("| `" + p.key + "` |"), std::string::npos) << p.key;
    }
    for (const PartType& type : known_catalogue().types)
        EXPECT_NE(text.find("| `" + type.id + "` |"), std::string::npos) << type.id;
}

}  // namespace
}  // namespace elkit::test
