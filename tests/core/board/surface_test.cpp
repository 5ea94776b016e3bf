// Parts that are soldered on the surface: where they lie, what leaves for them, and what cannot have them.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <sstream>

#include "batch/parts_list.hpp"
#include "board/board.hpp"
#include "board/copper/layout.hpp"
#include "board/mount.hpp"
#include "build/trial.hpp"
#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "drawer/import.hpp"
#include "fabricate/fabricated.hpp"
#include "fabricate/read_back.hpp"
#include "quantity/preferred.hpp"
#include "review/findings.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

/// The design with the first footprint on the surface for each part that has one; how many there are.
int put_on_surface(Design& d) {
    int count = 0;
    d.board.method = "ordered", d.board.lights.clear(), d.board.spots.clear();
    const Circuit circuit = d.circuit;
    for (const Part& part : circuit.parts)
        for (const Footprint* f : footprint_choices(*part_kind(part.kind)))
            if (f->surface) {
                d = with_mount(d, {part.designator, f->id, {}, {}, {}}).value();
                ++count;
                break;
            }
    return count;
}

CopperLayout ordered(const Design& d) {
    return lay_out_copper(d.circuit, d.board, *makings().method("ordered")).value();
}

using Texts = std::vector<std::pair<std::string, std::string>>;
Texts files_of(const CopperLayout& l, const Circuit& circuit, const BoardPanel& panel = {}) {
    Texts texts;
    for (const FabricatedFile& f : fabricated(l, circuit, "flat", {panel, false, false, 1}))
        texts.emplace_back(f.name, f.content);
    return texts;
}
std::string& text_of(Texts& files, const std::string& end) {
    return std::find_if(files.begin(), files.end(), [&](const auto& f) { return f.first.ends_with(end); })
        ->second;
}
std::vector<std::string> verified(const Texts& files, const Circuit& circuit) {
    const auto board = read_fabricated(files);
    if (!board) return {board.error().text()};
    return read_differences(board.value(), circuit);
}

class OnTheSurface : public testing::TestWithParam<const char*> {};
TEST_P(OnTheSurface, EveryPartThatCanIsTheCircuitAndSoAreItsFiles) {
    Design d = demo(GetParam());
    const int flat = put_on_surface(d);
    ASSERT_GT(flat, 3);
    const CopperLayout l = ordered(d);
    EXPECT_EQ(l.open, std::vector<std::string>{});
    EXPECT_EQ(copper_differences(l, d.circuit, copper_groups(l)), std::vector<std::string>{});
    for (const RuleFault& f : rule_faults(l)) ADD_FAILURE() << f.rule << ": " << f.text;
    std::size_t legs = 0;
    for (const CopperPart& p : l.parts) legs += p.footprint.surface ? 0 : p.footprint.pads.size();
    EXPECT_EQ(drilled_holes(l).size(), legs + l.vias.size() + l.holes.size());
    for (const Via& v : l.vias)
        for (const CopperPad& p : l.pads)
            EXPECT_TRUE(!p.surface() || p.from(v.at, v.at) > v.hole / 2)
                << "solder runs into the hole at " << p.designator;
    constexpr double iron = 0.7;  // mm
    for (const CopperPad& pad : l.pads)
        for (const CopperPart& other : l.parts)
            if (pad.surface() && other.part->designator != pad.designator) {
                EXPECT_FALSE(Region::polygon(other.body()).touches(pad.copper(iron)))
                    << "no iron comes to " << pad.designator << " beside " << other.part->designator;
            }
    EXPECT_EQ(verified(files_of(l, d.circuit), d.circuit), std::vector<std::string>{});
    EXPECT_EQ(verified(files_of(l, d.circuit, {2, 2, "score"}), d.circuit), std::vector<std::string>{});
}
INSTANTIATE_TEST_SUITE_P(Some, OnTheSurface,
                         testing::Values("harbour-dimmer", "shelf-strip", "twin-blinker", "harbour-beacon",
                                         "frost-guard"),
                         [](const auto& i) {
                             std::string name = i.param;
                             std::replace(name.begin(), name.end(), '-', '_');
                             return name;
                         });

TEST(Surface, WhatIsBoughtIsWhatIsSoldered) {
    Design d = demo("shelf-strip");
    const auto names = [&] {
        std::map<std::string, PartsLine> by_part;
        for (const PartsLine& line : ask(parts_query(d, demo_stock())).value().lines) {
            std::istringstream in(line.designators);
            for (std::string word; std::getline(in, word, ',');)
                by_part[word.substr(word.find_first_not_of(' '))] = line;
        }
        return by_part;
    };
    const auto wired = names();
    d = with_mount(d, {"R1", "chip-0805", {}, {}, {}}).value();
    d.board.method = "ordered";
    const auto flat = names();
    ASSERT_TRUE(flat.contains("R1"));
    EXPECT_NE(flat.at("R1").key, wired.at("R1").key);
    EXPECT_NE(flat.at("R1").name.find("0805"), std::string::npos) << flat.at("R1").name;
    EXPECT_NE(flat.at("R1").name.find("⅛"), std::string::npos) << "as much as its size carries";
    EXPECT_TRUE(wired.at("R1").bands);
    EXPECT_FALSE(flat.at("R1").bands) << "it has figures on it, no bands";
    EXPECT_EQ(flat.at("R1").marking, resistor_code(d.circuit.find("R1")->number("value")));
    for (const auto& [part, line] : wired) EXPECT_TRUE(part == "R1" || flat.at(part).key == line.key) << part;
    // not taken from what the drawer has with legs
    EXPECT_GT(flat.at("R1").to_buy.value, 0);
}

TEST(Surface, ResistorsCarryTheirFigures) {
    for (const auto& [ohm, code] : {std::pair{1000.0, "102"},
                                    {47.0, "470"},
                                    {4.7, "4R7"},
                                    {0.5, "0R5"},
                                    {10200.0, "1022"},
                                    {1e6, "105"},
                                    {10.0, "100"},
                                    {49.9, "49R9"},
                                    {0.0, ""}})
        EXPECT_EQ(resistor_code(ohm), code) << ohm;
}

TEST(Surface, ASmallResistorMayGetTooWarm) {
    int spoke = 0;
    for (const double ohms : {1000.0, 400.0, 260.0, 240.0, 150.0}) {  // 0.1 W at 250 Ω
        Design d;
        d.circuit = circuit({"supply PS1 +=V -=0 resistance=0.001 lead_length=0 voltage=5",
                             "resistor R1 a=V b=0 rating=1 value=" + std::to_string(ohms)});
        d.board.method = "ordered";
        EXPECT_EQ(find(findings(d, "surface-power"), "surface-power"), nullptr) << "it has legs";
        d = with_mount(d, {"R1", "chip-0603", {}, {}, {}}).value();
        const bool hot = find(findings(d, "surface-power"), "surface-power");
        EXPECT_EQ(hot, ohms < 250) << ohms;
        spoke += hot;
        d = with_mount(d, {"R1", "chip-2512", {}, {}, {}}).value();
        EXPECT_EQ(find(findings(d, "surface-power"), "surface-power"), nullptr) << "it is large enough";
    }
    EXPECT_EQ(spoke, 2);
}

TEST(Room, TheHighestPartMustGoIntoTheCase) {
    Design d = demo("harbour-beacon");
    for (const char* method : {"pad", "strip", "milled", "ordered"}) {
        d.board.method = method, d.brief.depth = 0;
        const Board board = ask(BoardQuery{d.circuit, board_choices(d)}).value();
        const BoardPart* highest = board.highest();
        ASSERT_NE(highest, nullptr);
        for (const BoardPart& p : board.parts)
            EXPECT_TRUE(p.place != PartPlace::board || p.footprint.height <= highest->footprint.height);
        EXPECT_NEAR(board.depth(), highest->footprint.height + 3.6, 1e-9);
        EXPECT_EQ(find(findings(d, "too-high"), "too-high"), nullptr) << "no limit";
        d.brief.depth = board.depth() + 0.1;
        EXPECT_EQ(find(findings(d, "too-high"), "too-high"), nullptr);
        d.brief.depth = board.depth() - 0.1;
        const auto found = findings(d, "too-high");
        const Finding* high = find(found, "too-high");
        ASSERT_NE(high, nullptr) << method;
        EXPECT_NE(high->title.find(highest->designator), std::string::npos) << high->title;
    }
    const auto read = read_design(write_design(d));
    ASSERT_TRUE(read);
    EXPECT_DOUBLE_EQ(read.value().brief.depth, d.brief.depth);
}

/// A screwdriver and a wire come to a clamp from outside.
TEST(Clamps, LookOffTheBoard) {
    int looked = 0;
    for (const char* id : {"shelf-strip", "diorama-switcher", "harbour-dimmer"})
        for (const char* method : {"milled", "ordered"}) {
            Design d = demo(id);
            const Part& source = d.circuit.parts.front();
            const auto mounted = with_mount(d, {source.designator, "clamp-2", "board", {}, {}});
            ASSERT_TRUE(mounted) << mounted.error().text();
            const CopperLayout l =
                lay_out_copper(d.circuit, mounted.value().board, *makings().method(method)).value();
            const CopperPart& clamp = l.parts.front();
            ASSERT_EQ(clamp.footprint.opens, "down");
            const Box& body = clamp.footprint.body;
            const Point rim = clamp.at + turned({(body.x0 + body.x1) / 2, body.y1}, clamp.turn);
            const Point out = turned({0, 1}, clamp.turn);
            const double left = std::abs(out.x) > 0.5 ? (out.x > 0 ? l.width() - rim.x : rim.x)
                                                      : (out.y > 0 ? l.height() - rim.y : rim.y);
            EXPECT_LT(left, 4) << id << " " << method << ": a track may pass, no part";
            for (const CopperPart& p : l.parts) {
                if (&p == &clamp) continue;
                const Box b = p.bounds();
                const Region before = Region::stroke(rim, rim + Point{6 * out.x, 6 * out.y}, 2);
                EXPECT_FALSE(before.touches(Region::box(b.x0, b.y0, b.x1, b.y1)))
                    << id << " " << method << ": " << p.part->designator << " stands before it";
            }
            ++looked;
        }
    EXPECT_EQ(looked, 6);
}

TEST(Surface, FilesHoldStencilMaskAndPlaces) {
    Design d = demo("shelf-strip");
    const int flat = put_on_surface(d);
    const CopperLayout l = ordered(d);
    Texts files = files_of(l, d.circuit);
    const auto paste = read_gerber(text_of(files, "paste-component-side.gbr"), "paste").value();
    const auto mask = read_gerber(text_of(files, "mask-component-side.gbr"), "mask").value(),
               below = read_gerber(text_of(files, "mask-solder-side.gbr"), "mask").value();
    for (const CopperPad& p : l.pads) {
        const Point up{p.at.x, l.height() - p.at.y};
        EXPECT_EQ(paste.copper.contains(up), p.surface()) << p.designator << p.pin;
        EXPECT_TRUE(mask.copper.contains(up)) << p.designator << p.pin;
        EXPECT_EQ(below.copper.contains(up), !p.surface()) << p.designator << p.pin;
    }
    const auto placed = read_placement(text_of(files, "placement.csv"), "places").value();
    ASSERT_EQ(placed.size(), static_cast<std::size_t>(flat));
    for (const ReadPlacement& p : placed) {
        const auto part = std::find_if(l.parts.begin(), l.parts.end(),
                                       [&](const CopperPart& c) { return c.part->designator == p.part; });
        ASSERT_NE(part, l.parts.end());
        EXPECT_TRUE(Region::polygon(part->body()).contains({p.at.x, l.height() - p.at.y})) << p.part;
        EXPECT_NEAR(std::fmod(p.turn + part->turn, 360), 0, 1e-9) << "one turns the other way";
    }
    EXPECT_NE(text_of(files, "order-sheet.txt").find("Parts on the surface"), std::string::npos);
}

TEST(Surface, APlaceThatIsWrongOrMissingIsFound) {
    Design d = demo("shelf-strip");
    put_on_surface(d);
    const CopperLayout l = ordered(d);
    Texts files = files_of(l, d.circuit);
    std::string& places = text_of(files, "placement.csv");
    const std::string whole = places;
    const auto line = places.find("\r\nR1,"), end = places.find("\r\n", line + 2);
    places.erase(line, end - line);
    auto found = verified(files, d.circuit);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NE(found.front().find("R1 is not in the placement list"), std::string::npos);
    places = whole;
    places.insert(places.find(',', places.find("mm (0805)", line)) + 1, "9");  // 9 mm became 99
    found = verified(files, d.circuit);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NE(found.front().find("away from its lands"), std::string::npos) << found.front();
    for (const char* wrong :
         {"", "Designator,Value\r\nR1,2\r\n", "Designator,X mm,Y mm,Rotation\r\nR1,1,up,0\r\n",
          "Designator,X mm,Y mm,Rotation\r\nR1,1\r\n", "Designator,\"X mm,Y mm\n"})
        EXPECT_FALSE(read_placement(wrong, "places")) << wrong;
}

/// A track on the other side, and a land that lost its track.
TEST(Surface, CopperOnTheWrongSideIsFound) {
    Design d = demo("harbour-dimmer");
    put_on_surface(d);
    CopperLayout l = ordered(d);
    const auto track = std::find_if(l.tracks.begin(), l.tracks.end(), [&](const Track& t) {
        return std::any_of(l.pads.begin(), l.pads.end(), [&](const CopperPad& p) {
            return p.surface() && p.net == t.net && t.layer == component_side && p.from(t.a, t.b) == 0 &&
                   std::max(p.from(t.a, t.a), p.from(t.b, t.b)) > 1;
        });
    });
    ASSERT_NE(track, l.tracks.end());
    track->layer = solder_side;
    EXPECT_FALSE(copper_differences(l, d.circuit, copper_groups(l)).empty());
    EXPECT_FALSE(verified(files_of(l, d.circuit), d.circuit).empty());
}

TEST(Surface, BoardsWithoutLandsAboveSayWhichPart) {
    Design d = demo("twin-blinker");
    put_on_surface(d);
    for (const char* method : {"pad", "strip", "milled"}) {
        d.board.method = method;
        const auto board = ask(BoardQuery{d.circuit, d.board});
        ASSERT_FALSE(board) << method;
        EXPECT_NE(board.error().found.find("soldered on the surface"), std::string::npos)
            << board.error().text();
        EXPECT_NE(board.error().expected.find("footprint with legs"), std::string::npos);
    }
    d.board.method = "ordered", d.board.layers = 1;
    EXPECT_FALSE(ask(BoardQuery{d.circuit, d.board}));
}

TEST(Surface, TheTrialTakesTheSamePartsWithLegsAndSaysSo) {
    Design d = demo("twin-blinker");
    put_on_surface(d);
    const auto trial = ask(TrialQuery{d.circuit, d.board, d.situations});
    ASSERT_TRUE(trial) << trial.error().text();
    EXPECT_EQ(trial.value().board.differences, std::vector<std::string>{});
    EXPECT_TRUE(
        std::any_of(trial.value().differs.begin(), trial.value().differs.end(),
                    [](const std::string& text) { return text.find("with legs") != std::string::npos; }));
    for (const BoardPart& p : trial.value().board.parts) EXPECT_FALSE(p.footprint.surface) << p.designator;
}

TEST(Surface, ThreeLegsHaveTheOrderThatMakersAgreeOn) {
    const Design d = demo("twin-blinker");
    const auto transistor = std::find_if(d.circuit.parts.begin(), d.circuit.parts.end(),
                                         [](const Part& p) { return p.kind == "npn"; });
    ASSERT_NE(transistor, d.circuit.parts.end());
    const Footprint& shape = *find_footprint("sot-23");
    EXPECT_EQ(usual_legs(*part_kind("npn"), shape), "b e c");
    EXPECT_EQ(usual_legs(*part_kind("nmos"), shape), "g s d");
    EXPECT_EQ(leg_orders(*part_kind("npn"), shape).front(), "b e c");
    EXPECT_EQ(leg_orders(*part_kind("npn"), shape).size(), 6u);
    const auto pins = [&](const std::string& legs) {
        Design next = with_mount(d, {transistor->designator, "sot-23", {}, legs, {}}).value();
        next.board.method = "ordered";
        std::string all;
        for (const PlacedPin& p : ask(BoardQuery{next.circuit, next.board}).value().pins)
            if (p.designator == transistor->designator) all += p.pin;
        return all;
    };
    EXPECT_EQ(pins(""), "bec");
    EXPECT_EQ(pins("e b c"), "ebc") << "chosen by hand, in the order of its lands";
}

TEST(Surface, FootprintsOfOnesOwnSaySizeOrNone) {
    const auto read = [](const std::string& pads, const std::string& more = "") {
        return read_footprints(R"([{"id": "x", "name": "X", "pads": [)" + pads +
                               R"(], "body": [0, -1, 2, 1], "height": 1, "picture": "flat")" + more + "}]");
    };
    const auto good =
        read(R"({"pin": "1", "at": [0, 0], "size": [1, 1]}, {"pin": "2", "at": [2, 0], "size": [1, 1]})");
    ASSERT_TRUE(good) << good.error().text();
    EXPECT_TRUE(good.value().front().surface);
    EXPECT_FALSE(read(R"({"pin": "1", "at": [0, 0], "size": [1, 1]}, {"pin": "2", "at": [2, 0]})"));
    EXPECT_FALSE(read(R"({"pin": "1", "at": [0, 0], "size": [0, 1]})"));
    EXPECT_FALSE(read(R"({"pin": "1", "at": [0, 0], "size": [1]})"));
    EXPECT_FALSE(read(R"({"pin": "1", "at": [0, 0]})", R"(, "usual": [2, 2])"));
}

}  // namespace
}  // namespace elkit::test
