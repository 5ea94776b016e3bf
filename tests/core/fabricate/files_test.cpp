// Files for machines: read by others than Elkit's own readers, and with faults planted in them.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "board/copper/check.hpp"
#include "board/copper/layout.hpp"
#include "board/copper/words.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "fabricate/fabricated.hpp"
#include "fabricate/gerber.hpp"
#include "fabricate/milling.hpp"
#include "fabricate/read_back.hpp"
#include "formats/zip.hpp"
#include "support/board_files.hpp"

namespace elkit::test {
namespace {

struct Made {
    Design design;
    CopperLayout layout;
};
Made made(
    const char* demo, const char* method, void (*choose)(BoardChoices&) = [](BoardChoices&) {}) {
    Design d = read_design(find_demo(demo)->text).value();
    choose(d.board);
    auto l = lay_out_copper(d.circuit, d.board, *makings().method(method));
    EXPECT_TRUE(l) << (l ? "" : l.error().text());
    // parts point into the design that is returned: kept alive by the caller
    Made m{std::move(d), std::move(l).value()};
    for (std::size_t k = 0; k < m.layout.parts.size(); ++k)
        m.layout.parts[k].part = &m.design.circuit.parts[k];
    return m;
}

std::vector<std::pair<std::string, std::string>> contents(const std::vector<FabricatedFile>& files) {
    std::vector<std::pair<std::string, std::string>> all;
    for (const FabricatedFile& f : files) all.emplace_back(f.name, f.content);
    return all;
}

class OrderedFiles : public testing::TestWithParam<const char*> {};
TEST_P(OrderedFiles, JoinWhatTheCircuitJoins) {
    const Made m = made(GetParam(), "ordered");
    const auto files = fabricated(m.layout, m.design.circuit, m.design.name, {});
    EXPECT_EQ(gerber_groups(files), circuit_groups(m.design.circuit));
    const auto read = read_fabricated(contents(files));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read_differences(read.value(), m.design.circuit), std::vector<std::string>{});
}
INSTANTIATE_TEST_SUITE_P(Some, OrderedFiles,
                         testing::Values("shelf-strip", "harbour-dimmer", "coat-badge", "bunk-lamp",
                                         "tide-board"));

TEST(OrderedFiles, WithAnAreaJoinTheSame) {
    const Made m = made("frost-guard", "ordered", [](BoardChoices& c) {
        c.area = "GND";
        c.corner_holes = 3;
        c.width = 45;
        c.height = 40;
    });
    ASSERT_FALSE(m.layout.areas.empty());
    const auto files = fabricated(m.layout, m.design.circuit, m.design.name, {});
    EXPECT_EQ(gerber_groups(files), circuit_groups(m.design.circuit));
    EXPECT_NE(file_ending(files, "unplated.xnc"), nullptr) << "holes for screws";
}

class MilledFiles : public testing::TestWithParam<const char*> {};
TEST_P(MilledFiles, LeaveTheCopperThatTheCircuitAsksFor) {
    const Made m = made(GetParam(), "milled");
    const auto files = fabricated(m.layout, m.design.circuit, m.design.name, {});
    const double width = makings().tool(m.layout.making.isolate)->width();
    EXPECT_EQ(milled_groups(files, width, m.layout.width(), m.layout.height()),
              circuit_groups(m.design.circuit));
    const auto read = read_fabricated(contents(files));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read_differences(read.value(), m.design.circuit), std::vector<std::string>{});
}
INSTANTIATE_TEST_SUITE_P(Some, MilledFiles,
                         testing::Values("harbour-beacon", "frost-guard", "twin-blinker", "moth-jar"));

TEST(MilledFiles, AToolWiderThanAGapLeavesItJoined) {
    Made m = made("harbour-beacon", "milled");
    ASSERT_TRUE(fabrication_faults(m.layout, m.design.circuit).empty());
    m.layout.making.isolate = "mill-0.8";  // 0.83 mm into gaps of 0.4 mm
    const auto faults = fabrication_faults(m.layout, m.design.circuit);
    ASSERT_FALSE(faults.empty());
    EXPECT_EQ(faults.front().rfind("after milling: ", 0), 0u) << faults.front();
    const auto files = fabricated(m.layout, m.design.circuit, m.design.name, {});
    EXPECT_NE(files.front().content.find("DIFFERS FROM THE CIRCUIT"), std::string::npos)
        << "the sheet itself says so";
    EXPECT_NE(milled_groups(files, 0.83, m.layout.width(), m.layout.height()),
              circuit_groups(m.design.circuit));
}

/// What is told once one thing is changed in the files.
std::vector<std::string> told(const Made& m, std::vector<FabricatedFile> files, const std::string& end,
                              const std::string& from, const std::string& to) {
    for (FabricatedFile& f : files)
        if (f.name.ends_with(end)) {
            const auto at = f.content.find(from);
            EXPECT_NE(at, std::string::npos) << from;
            f.content.replace(at, from.size(), to);
        }
    const auto read = read_fabricated(contents(files));
    EXPECT_TRUE(read) << (read ? "" : read.error().text());
    return read ? read_differences(read.value(), m.design.circuit) : std::vector<std::string>{};
}

TEST(Verify, FindsWhatWasChangedInTheFiles) {
    const Made m = made("shelf-strip", "ordered", [](BoardChoices& c) { c = {}; });
    const auto files = fabricated(m.layout, m.design.circuit, m.design.name, {});
    const FabricatedFile* copper = file_ending(files, "copper-solder-side.gbr");
    ASSERT_NE(copper, nullptr);
    const auto first = copper->content.find("D01*");  // the end of the first track goes
    const auto line = copper->content.rfind('\n', first) + 1;
    const auto open =
        told(m, files, "copper-solder-side.gbr", copper->content.substr(line, first + 4 - line), "D02*");
    EXPECT_TRUE(std::any_of(open.begin(), open.end(),
                            [](auto& d) { return d.find(" is open between ") != std::string::npos; }));
    const auto shorted = told(
        m, files, "copper-solder-side.gbr", "M02*",
        "G36*\nX0Y0D02*\nX90000000Y0D01*\nX90000000Y90000000D01*\nX0Y90000000D01*\nX0Y0D01*\nG37*\nM02*");
    EXPECT_TRUE(std::any_of(shorted.begin(), shorted.end(),
                            [](auto& d) { return d.find(" are joined, at ") != std::string::npos; }));
    const auto undrilled = told(m, files, "plated.xnc", "T01\nX", "T01\nX9");
    EXPECT_TRUE(std::any_of(undrilled.begin(), undrilled.end(),
                            [](auto& d) { return d.find("no plated hole of ") == 0; }));
    const auto swapped =
        told(m, files, "netlist.ipc", "31712V              PS1   -+", "317GND              PS1   -+");
    EXPECT_FALSE(swapped.empty()) << "a pin on another net";
    EXPECT_FALSE(told(m, files, "plated.xnc", "TF.FileFunction,Plated", "TF.FileFunction,NonPlated").empty())
        << "without plating";
}

TEST(Verify, FindsAMirroredSide) {
    const Made m = made("harbour-beacon", "milled");
    const auto files = fabricated(m.layout, m.design.circuit, m.design.name, {});
    auto wrong = files;
    for (FabricatedFile& f : wrong)
        for (auto at = f.content.find(", mirrored"); at != std::string::npos;
             at = f.content.find(", mirrored"))
            f.content.erase(at, 10);
    const auto read = read_fabricated(contents(wrong));
    ASSERT_TRUE(read);
    EXPECT_FALSE(read_differences(read.value(), m.design.circuit).empty());
}

TEST(Panels, LieBesideEachOtherWithinTheirFrame) {
    for (const char* parting : {"score", "tabs"})
        for (const auto& [across, down] : {std::pair{1, 1}, {2, 3}, {5, 1}}) {
            const PanelPlan p = panel_plan(30, 20, {across, down, parting});
            ASSERT_EQ(p.boards.size(), static_cast<std::size_t>(across * down));
            double area = 0;
            for (const Point a : p.boards) {
                EXPECT_TRUE(a.x >= 0 && a.y >= 0);
                EXPECT_TRUE(a.x + 30 <= p.width + 1e-9 && a.y + 20 <= p.height + 1e-9);
                for (const Point b : p.boards)
                    EXPECT_TRUE(a == b || std::abs(a.x - b.x) >= 30 - 1e-9 ||
                                std::abs(a.y - b.y) >= 20 - 1e-9);
                area += 600;
            }
            EXPECT_LE(area, p.width * p.height + 1e-6);
        }
}

class PanelFiles : public testing::TestWithParam<const char*> {};
TEST_P(PanelFiles, HoldEveryBoard) {
    const Made m = made("coat-badge", "ordered");
    FabricateOptions options;
    options.panel = {2, 2, GetParam()};
    const auto files = fabricated(m.layout, m.design.circuit, m.design.name, options);
    const auto read = read_fabricated(contents(files));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read_differences(read.value(), m.design.circuit), std::vector<std::string>{});
    const auto holes =
        std::count_if(read.value().holes.begin(), read.value().holes.end(), [](auto& h) { return h.plated; });
    EXPECT_EQ(static_cast<std::size_t>(holes), 4 * m.layout.pads.size() + 4 * m.layout.vias.size());
    EXPECT_EQ(gerber_groups(files).size(), 4 * circuit_groups(m.design.circuit).size())
        << "boards do not touch";
}
INSTANTIATE_TEST_SUITE_P(Both, PanelFiles, testing::Values("score", "tabs"));

TEST(Gcode, CutsTheOutlineThroughButForItsTabs) {
    const Made m = made("coat-badge", "milled");
    const auto files = gcode_files(m.layout, "b", {});
    const std::string& text = file_ending(files, "outline.nc")->content;
    EXPECT_NE(text.find("G1 Z-1.8000"), std::string::npos) << "below the board of 1.6 mm";
    std::size_t raised = 0;
    for (auto at = text.find("G1 Z-1.3000"); at != std::string::npos; at = text.find("G1 Z-1.3000", at + 1))
        ++raised;
    EXPECT_EQ(raised % 4, 0u);
    EXPECT_GE(raised, 4u);
    EXPECT_EQ(text.find("G0 X", text.find("G1 Z-")), std::string::npos) << "no rapid move in the material";
}

TEST(Gcode, DrillsOnceForEachHole) {
    const Made m = made("coat-badge", "milled");
    FabricateOptions pause;
    pause.pause_for_tools = true;
    for (const bool one_file : {false, true}) {
        std::size_t plunges = 0, stops = 0;
        for (const FabricatedFile& f : gcode_files(m.layout, "b", one_file ? pause : FabricateOptions{})) {
            if (f.name.find("drill") == std::string::npos) continue;
            for (auto at = f.content.find("G1 Z-"); at != std::string::npos;
                 at = f.content.find("G1 Z-", at + 1))
                ++plunges;
            for (auto at = f.content.find("M0\n"); at != std::string::npos;
                 at = f.content.find("M0\n", at + 1))
                ++stops;
        }
        EXPECT_EQ(plunges, drilled_holes(m.layout).size());
        EXPECT_EQ(stops, one_file ? 1u : 0u) << "two drills";
    }
}

TEST(Gcode, ClearingLeavesOnlyWhatBelongsToANet) {
    const Made m = made("coat-badge", "milled");
    const Region thin = copper_left(m.layout, mill_plan(m.layout, solder_side, false)),
                 cleared = copper_left(m.layout, mill_plan(m.layout, solder_side, true));
    EXPECT_LT(cleared.area(), 0.8 * thin.area());
    EXPECT_EQ(copper_groups(m.layout, {cleared}), copper_groups(m.layout));
}

struct Broken {
    const char *name, *text, *place, *expected;
};
class BrokenGerber : public testing::TestWithParam<Broken> {};
TEST_P(BrokenGerber, IsNamedWithItsLine) {
    const auto read = read_gerber(GetParam().text, "x.gbr");
    ASSERT_FALSE(read);
    EXPECT_EQ(read.error().place, GetParam().place);
    EXPECT_NE(read.error().expected.find(GetParam().expected), std::string::npos) << read.error().text();
}
INSTANTIATE_TEST_SUITE_P(
    All, BrokenGerber,
    testing::Values(
        Broken{"empty", "", "x.gbr, line 1", "M02"},
        Broken{"cut", "%FSLAX46Y46*%\n%MOMM*%\nX1", "x.gbr, line 3", "*"},
        Broken{"arc", "%FSLAX46Y46*%\n%MOMM*%\nG02X0Y0D01*\nM02*", "x.gbr, line 3", "straight"},
        Broken{"aperture", "%FSLAX46Y46*%\n%MOMM*%\nD10*\nM02*", "x.gbr, line 3", "defined before"},
        Broken{"unit", "%FSLAX46Y46*%\n%ADD10C,1*%\nD10*\nX0Y0D03*\nM02*", "x.gbr, line 4", "unit"},
        Broken{"inch", "%MOIN*%\nM02*", "x.gbr, line 1", "command"},
        Broken{"size", "%FSLAX46Y46*%\n%MOMM*%\n%ADD10C,-1*%\nM02*", "x.gbr, line 3", "size"}),
    [](const auto& i) { return std::string(i.param.name); });

TEST(Gerber, ReadsWhatIsClearedAndDrawnAgain) {
    const auto read = read_gerber(
        "%FSLAX46Y46*%\n%MOMM*%\n%ADD10C,2*%\n%LPD*%\nG36*\nX0Y0D02*\nX10000000Y0D01*\nX10000000Y10000000D01*"
        "\nX0Y10000000D01*\n"
        "X0Y0D01*\nG37*\n%LPC*%\nD10*\nX5000000Y5000000D03*\n%LPD*%\nX20000000Y5000000D03*\nM02*\n",
        "x");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_NEAR(read.value().copper.area(), 100 - 3.1416 + 3.1416, 0.03);
    EXPECT_EQ(read.value().copper.pieces().size(), 2u);
    EXPECT_FALSE(read.value().copper.contains({5, 5}));
}

TEST(Drill, AndGcodeAndNetlistNameTheLineOfWhatIsWrong) {
    EXPECT_EQ(read_xnc("M48\nMETRIC\nT01C0.8\n%\nT02\nM30\n", "h.xnc").error().place, "h.xnc, line 5");
    EXPECT_EQ(read_xnc("M48\nMETRIC\nT01C0.8\n%\nT01\nX1Y1\n", "h.xnc").error().expected, "M30 at its end");
    EXPECT_EQ(read_xnc("M48\nT01C0.8\n%\nT01\nX1Y1\nM30\n", "h.xnc").error().place, "h.xnc, line 5")
        << "inches or mm?";
    EXPECT_EQ(read_gcode("G21 G90\nG0 X0 Y0\nG1 Z-1 F60\nG0 X9 Y9\nM2\n", "a.nc").error().place,
              "a.nc, line 4");
    EXPECT_EQ(read_gcode("G0 X0 Y0\nM2\n", "a.nc").error().place, "a.nc, line 1");
    EXPECT_EQ(read_netlist("317short\n999\n", "n.ipc").error().place, "n.ipc, line 1");
    EXPECT_EQ(read_netlist("C  nothing\n", "n.ipc").error().expected, "999 at its end");
}

TEST(OrderSheet, SaysFirstThatABoardDiffers) {
    Made m = made("shelf-strip", "ordered", [](BoardChoices& c) { c = {}; });
    const auto good = fabricated(m.layout, m.design.circuit, m.design.name, {});
    EXPECT_EQ(file_ending(good, "order-sheet.txt")->content.find("DIFFERS"), std::string::npos);
    m.layout.tracks.pop_back();
    const auto bad = fabricated(m.layout, m.design.circuit, m.design.name, {});
    EXPECT_LT(file_ending(bad, "order-sheet.txt")->content.find("DIFFERS FROM THE CIRCUIT"), 60u);
    EXPECT_NE(file_ending(bad, "copper-solder-side.gbr")->content.find("DIFFERS"), std::string::npos);
}

TEST(Zip, HoldsEveryFileAndIsTheSameEachTime) {
    const std::vector<std::pair<std::string, std::string>> files{{"a.txt", "first"},
                                                                 {"b.txt", std::string(5000, 'x')}};
    const auto one = zip_of(files), two = zip_of(files);
    ASSERT_TRUE(one && two);
    EXPECT_EQ(one.value(), two.value());
    // the end of the central directory, as the format has it: its count of entries
    const auto end = one.value().rfind("PK\5\6");
    ASSERT_NE(end, std::string::npos);
    EXPECT_EQ(one.value()[end + 10], 2);
    EXPECT_NE(one.value().find("b.txt"), std::string::npos);
    EXPECT_LT(one.value().size(), 1000u) << "packed";
}

TEST(Letters, OfOtherScriptsAreWrittenWithThoseThereAre) {
    EXPECT_EQ(in_stroke_letters("plain 1.2"), "plain 1.2");
    EXPECT_EQ(in_stroke_letters("Hafenlöwe, Größe É"), "HafenlOwe, GrOSSe E");
    EXPECT_EQ(in_stroke_letters("4.7 k\u03a9 10 \u00b5F"), "4.7 kOHM 10 UF");
    EXPECT_EQ(in_stroke_letters("\u6e2f\U0001F506").size(), 2u) << "one box for each, not for each byte";
    EXPECT_EQ(in_stroke_letters(std::string("a\xc3")).size(), 2u) << "cut inside a character";
    EXPECT_EQ(in_stroke_letters(std::string("\xff\x80") + "b").back(), 'b');
    BoardText plain, accents;
    plain.text = "OO", accents.text = "ÖÖ";
    EXPECT_DOUBLE_EQ(words_width(plain), words_width(accents));
}

TEST(Letters, AreDrawnWithinTheirHeight) {
    for (int c = 32; c < 127; ++c)
        for (const auto& stroke : stroke_letter(static_cast<char>(c))) {
            EXPECT_GE(stroke.size(), 2u);
            for (const Point p : stroke) EXPECT_TRUE(p.x >= 0 && p.x <= 0.61 && p.y >= 0 && p.y <= 1.01) << c;
        }
}

}  // namespace
}  // namespace elkit::test
