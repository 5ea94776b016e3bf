// How parts meet the board: what is chosen, what follows from it, and what cannot be.
#include "board/mount.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <set>

#include "board/board.hpp"
#include "build/steps.hpp"
#include "circuit/edit.hpp"
#include "command/own_parts.hpp"
#include "design/content.hpp"
#include "design/file.hpp"
#include "recipes/blocks.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Design mounted_as(const Design& design, const PartMount& mount) {
    auto next = with_mount(design, mount);
    EXPECT_TRUE(next) << next.error().text();
    return next ? next.value() : design;
}

Mounted of(const Design& d, const std::string& part) {
    const auto all = mounted(d.circuit, d.board);
    EXPECT_TRUE(all) << all.error().text();
    Mounted found = all.value().front();
    for (const Mounted& m : all.value())
        if (m.part->designator == part) found = m;
    return found;
}

TEST(Mount, WithoutAChoiceAPartLiesAsItsValuesAsk) {
    const Design d = demo("harbour-dimmer");
    EXPECT_EQ(of(d, "R1").footprint.id, "axial-10");
    EXPECT_EQ(of(d, "R1").place, PartPlace::board);
    EXPECT_EQ(of(d, "B1").place, PartPlace::leads) << "cells hang on their leads";
    EXPECT_TRUE(of(d, "U1").footprint.socket);
}

TEST(Mount, AFootprintAPlaceAndAnOrderCanBeChosenAndTakenBack) {
    const Design d = demo("harbour-dimmer");
    const Design standing = mounted_as(d, {"R1", "standing-2", "", "", {}});
    EXPECT_EQ(of(standing, "R1").footprint.id, "standing-2");
    EXPECT_NE(content_digest(d.board), content_digest(standing.board)) << "the board is laid out anew";
    EXPECT_EQ(content_digest(d.circuit), content_digest(standing.circuit))
        << "the circuit is not computed anew";
    const Design away = mounted_as(standing, {"R1", "standing-2", "panel", "", {}});
    EXPECT_EQ(of(away, "R1").place, PartPlace::panel);
    EXPECT_EQ(of(away, "R1").footprint.id, "wires-5") << "only its wires come to the board";
    EXPECT_EQ(of(mounted_as(d, {"R1", "", "plug", "", {}}), "R1").footprint.id, "plug");
    EXPECT_EQ(of(mounted_as(d, {"B1", "cells-r6", "", "", {}}), "B1").place, PartPlace::board)
        << "a holder on the board";
    const Design turned = mounted_as(d, {"Q1", "", "", "s d g", {}});
    std::vector<std::string> legs;
    for (const Pad& pad : of(turned, "Q1").footprint.pads) legs.push_back(pad.pin);
    EXPECT_EQ(legs, (std::vector<std::string>{"s", "d", "g"}));
    EXPECT_TRUE(mounted_as(turned, {"Q1", "", "", "", {}}).board.parts.empty());
}

TEST(Mount, WhatCannotBeIsToldAtItsPlace) {
    const Design d = demo("harbour-dimmer");
    const auto fault = [&](const PartMount& mount) {
        const auto next = with_mount(d, mount);
        EXPECT_FALSE(next);
        return next ? std::string() : next.error().text();
    };
    EXPECT_NE(fault({"R1", "gold", "", "", {}}).find("/board/parts/0/footprint"), std::string::npos);
    EXPECT_NE(fault({"R1", "gold", "", "", {}}).find("standing-2"), std::string::npos) << "what there is";
    EXPECT_NE(fault({"R1", "", "roof", "", {}}).find("board, leads, plug or panel"), std::string::npos);
    EXPECT_NE(fault({"Q1", "", "", "s s g", {}}).find("each of"), std::string::npos);
    EXPECT_NE(fault({"U1", "axial-10", "", "", {}}).find("has no pad"), std::string::npos);
    EXPECT_NE(fault({"R99", "", "leads", "", {}}).find("no part R99"), std::string::npos);
    Design broken = d;
    broken.board.parts = {{"R2", "", "", "", {}}, {"R1", "gold", "", "", {}}};
    Store store;
    const auto board = Ask(store)(BoardQuery{broken.circuit, broken.board});
    ASSERT_FALSE(board);
    EXPECT_EQ(board.error().place, "/board/parts/1/footprint") << "which of the choices it is";
}

TEST(Mount, ChoicesAreKeptInTheFileAndFollowTheirParts) {
    Design d = mounted_as(demo("harbour-dimmer"), {"Q1", "spread-3", "", "s d g", {}});
    d = mounted_as(d, {"R1", "", "leads", "", {}});
    d.board.breadboard = "full", d.board.wire_colours = "length";
    const auto read = read_design(write_design(d));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read.value(), d);
    EXPECT_TRUE(schema_errors(write_design(d)).empty());
    const Design renamed = with_circuit(d, rename_part(d.circuit, "Q1", "Q7").value());
    EXPECT_EQ(mount_of(renamed.board, "Q7").footprint, "spread-3");
    Circuit fewer = d.circuit;
    std::erase_if(fewer.parts, [](const Part& p) { return p.designator == "Q1"; });
    EXPECT_EQ(with_circuit(d, fewer).board.parts.size(), 1u) << "nothing is said of a part that is gone";
}

TEST(Mount, PlacesInTheFaceFollowARenamedLightToo) {
    Design d = demo("harbour-dimmer");
    d.face.places = {{"L1", 3, 4, {}}};
    const Design renamed = with_circuit(d, rename_part(d.circuit, "L1", "L9").value());
    ASSERT_EQ(renamed.face.places.size(), 1u);
    EXPECT_EQ(renamed.face.places.front().light, "L9");
}

TEST(Mount, APartThatIsNamedTwiceOrNotThereIsTold) {
    Design d = mounted_as(demo("harbour-dimmer"), {"R1", "", "leads", "", {}});
    d.board.parts.push_back(d.board.parts.front());
    EXPECT_EQ(read_design(write_design(d)).error().place, "/board/parts/1/part");
    d.board.parts = {{"X1", "", "leads", "", {}}};
    EXPECT_EQ(mounted(d.circuit, d.board).error().place, "/board/parts/0/part");
}

TEST(Mount, StepsSayWhatIsSolderedAndWhatHangsOnWires) {
    Design d = mounted_as(demo("harbour-dimmer"), {"L1", "", "panel", "", {}});
    d = mounted_as(d, {"U1", "dip-8-direct", "", "", {}});
    d = mounted_as(d, {"RV1", "", "plug", "", {}});
    Store store;
    const auto steps = Ask(store)(StepsQuery{d.circuit, d.board});
    ASSERT_TRUE(steps) << steps.error().text();
    std::map<std::string, const BuildStep*> by_id;
    for (const BuildStep& s : *steps) by_id[s.id] = &s;
    ASSERT_TRUE(by_id.contains("wire.L1"));
    EXPECT_NE(by_id["wire.L1"]->text.find("in the panel"), std::string::npos);
    EXPECT_FALSE(by_id.contains("solder.L1"));
    ASSERT_TRUE(by_id.contains("wire.RV1"));
    EXPECT_NE(by_id["wire.RV1"]->text.find("header"), std::string::npos);
    EXPECT_NE(by_id["wire.RV1"]->text.find("3 leads"), std::string::npos);
    EXPECT_FALSE(by_id.contains("plug.U1")) << "there is no socket to press it into";
    EXPECT_EQ(by_id["solder.U1"]->text.find("socket"), std::string::npos);
}

TEST(Mount, WhoChoseTheLegOrderIsNotWarnedOfIt) {
    const auto warned = [](const Design& d) {
        const auto all = findings(d, "leg-order");
        return all.empty() ? std::string() : all.front().detail;
    };
    const Design d = demo("harbour-dimmer");
    EXPECT_NE(warned(d).find("taken as d g s"), std::string::npos) << warned(d);
    EXPECT_TRUE(warned(mounted_as(d, {"Q1", "", "", "d g s", {}})).empty());
    EXPECT_FALSE(warned(mounted_as(d, {"Q1", "spread-3", "", "", {}})).empty())
        << "of the order nothing was said";
}

TEST(Footprints, EachKindHasSeveralWhereThereAreSeveral) {
    for (const char* kind : {"resistor", "led", "diode", "capacitor", "electrolytic", "npn", "nmos", "timer",
                             "potentiometer", "button", "battery", "regulator", "connector"})
        EXPECT_GE(footprint_choices(*part_kind(kind)).size(), 2u) << kind;
    std::set<std::string> ids;
    for (const Footprint* f : footprints()) EXPECT_TRUE(ids.insert(f->id).second) << f->id;
}

TEST(Footprints, EveryChoiceOfEveryKindHasAPadForEachPin) {
    for (const PartKind& kind : part_kinds()) {
        Part part{"X1", kind.id, {}, {}, {}};
        for (const std::string& pin : kind.pins) part.pins.push_back({pin, "N" + pin});
        for (const Footprint* f : footprint_choices(kind)) {
            const Footprint own = footprint(part, *f);
            for (const Pin& pin : part.pins)
                EXPECT_TRUE(std::any_of(own.pads.begin(), own.pads.end(),
                                        [&](const Pad& pad) { return pad.pin == pin.name; }))
                    << kind.id << " on " << f->id << ": " << pin.name;
        }
    }
}

TEST(Footprints, AnOwnOneIsOfferedAndUsed) {
    const auto taken = take_up_own_parts(std::string_view(R"({"footprints": [{"id": "shed-resistor",
        "name": "lying, 17.78 mm", "pads": [{"pin": "1", "at": [0, 0]}, {"pin": "2", "at": [17.78, 0]}],
        "body": [-1, -2, 18.8, 2], "height": 5, "picture": "axial", "kinds": ["resistor"]}]})"));
    ASSERT_TRUE(taken) << taken.error().text();
    EXPECT_EQ(taken.value().footprints, 1u);
    const auto choices = footprint_choices(*part_kind("resistor"));
    EXPECT_EQ(choices.back()->id, "shed-resistor");
    const Design d = mounted_as(demo("pier-lantern"), {"R1", "shed-resistor", "", "", {}});
    Store store;
    const auto board = Ask(store)(BoardQuery{d.circuit, d.board});
    ASSERT_TRUE(board) << board.error().text();
    EXPECT_TRUE(board->differences.empty());
}

struct BadFootprint {
    const char *json, *told;
};
class BadFootprints : public ::testing::TestWithParam<BadFootprint> {};
TEST_P(BadFootprints, AreToldByTheirIdAndNothingIsTakenUp) {
    const std::size_t before = footprints().size();
    const auto taken = take_up_own_parts(std::string_view(GetParam().json));
    ASSERT_FALSE(taken);
    EXPECT_NE(taken.error().text().find(GetParam().told), std::string::npos) << taken.error().text();
    EXPECT_EQ(footprints().size(), before);
}
INSTANTIATE_TEST_SUITE_P(
    Files, BadFootprints,
    ::testing::Values(
        BadFootprint{R"({"footprints": [{"id": "axial-10", "name": "n", "pads": [{"pin": "1", "at": [0, 0]}],
            "body": [-1, -1, 1, 1], "height": 2, "picture": "axial"}]})",
                     "already"},
        BadFootprint{R"({"footprints": [{"id": "f", "name": "n", "pads": [{"pin": "1", "at": [0, 0]},
            {"pin": "2", "at": [0, 0]}], "body": [-1, -1, 1, 1], "height": 2, "picture": "axial"}]})",
                     "two pads in one place"},
        BadFootprint{
            R"({"footprints": [{"id": "f", "name": "n", "pads": [], "body": [-1, -1, 1, 1], "height": 2,
            "picture": "axial"}]})",
            "no pads"},
        BadFootprint{R"({"footprints": [{"id": "f", "name": "n", "pads": [{"pin": "1", "at": [0, 1e9]}],
            "body": [-1, -1, 1, 1], "height": 2, "picture": "axial"}]})",
                     "mm"},
        BadFootprint{R"({"footprints": [{"id": "f", "name": "n", "pads": [{"pin": "1", "at": [0, 0]}],
            "body": [1, 1, -1, -1], "height": 2, "picture": "axial"}]})",
                     "no area"},
        BadFootprint{R"({"footprints": [{"id": "f", "name": "n", "pads": [{"pin": "1", "at": [0, 0]}],
            "body": [-1, -1, 1, 1], "height": 2, "picture": "cloud"}]})",
                     "no picture \"cloud\""},
        BadFootprint{R"({"footprints": [{"id": "f", "name": "n", "pads": [{"pin": "1", "at": [0, 0]}],
            "body": [-1, -1, 1, 1], "height": 2, "picture": "axial", "kinds": ["teapot"]}]})",
                     "teapot"},
        BadFootprint{R"({"footprints": [{"name": "n"}]})", "entry 1"}));

}  // namespace
}  // namespace elkit::test
