#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "design/file.hpp"
#include "face/template.hpp"
#include "formats/svg.hpp"
#include "outline/outline.hpp"
#include "outline/svg_path.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

FaceDrawing read(const std::string& inside,
                 const std::string& head = "width=\"100mm\" height=\"100mm\" viewBox=\"0 0 100 100\"") {
    const auto drawing =
        read_face_svg("<svg xmlns=\"http://www.w3.org/2000/svg\" " + head + ">" + inside + "</svg>");
    EXPECT_TRUE(drawing) << drawing.error().text();
    return drawing ? drawing.value() : FaceDrawing{};
}

double area(const std::string& path) { return area_of(read("<path d=\"" + path + "\"/>").outline); }

TEST(SvgPath, HasTheAreaOfItsShape) {
    EXPECT_NEAR(area("M10 10 H40 V30 H10 Z"), 600, 1e-9);
    EXPECT_NEAR(area("m10,10 h30 v20 h-30 z"), 600, 1e-9);
    EXPECT_NEAR(area("M10 10 40 10 40 30 10 30Z"), 600, 1e-9) << "more pairs behind a move are lines";
    EXPECT_NEAR(area("M20 50 A30 30 0 0 1 80 50 A30 30 0 0 1 20 50 Z"), std::numbers::pi * 900, 6);
    EXPECT_NEAR(area("M20 50 a30 20 0 1 0 60 0 a30 20 0 1 0 -60 0"), std::numbers::pi * 600, 6);
    // a quarter of a circle by a cubic of the usual handles: within 0.03 % of the arc
    EXPECT_NEAR(area("M50 50 L80 50 C80 66.5685 66.5685 80 50 80 Z"), std::numbers::pi * 900 / 4, 3);
    EXPECT_NEAR(area("M0 0 Q50 100 100 0 Z"), 2.0 / 3 * 100 * 50, 2) << "Archimedes: two thirds of its box";
    EXPECT_NEAR(area("M0 0Q25 50 50 50T100 0Z"), area("M0 0 Q25 50 50 50 Q75 50 100 0 Z"), 1e-6);
    EXPECT_NEAR(area("M0 0C0 30 20 30 20 30S40 30 40 0Z"), area("M0 0C0 30 20 30 20 30C20 30 40 30 40 0Z"),
                1e-6);
}

TEST(SvgPath, UnreadableOnesAreNamed) {
    for (const char* bad : {"M", "M1", "L 1 x", "M0 0 A1 1 0 2 0 3 3", "M0 0 C1 1 2 2", "X1 2"}) {
        const auto lines = lines_of_path(bad, 0.1);
        EXPECT_FALSE(lines && !lines.value().empty()) << bad;
    }
    EXPECT_NE(lines_of_path("M0 0 L10 ten", 0.1).error().text().find("ten"), std::string::npos);
}

TEST(FaceSvg, KnowsUnitsAndTransforms) {
    const char* square = "<rect width=\"50\" height=\"20\"/>";
    EXPECT_NEAR(area_of(read(square).outline), 1000, 1e-9);
    EXPECT_NEAR(area_of(read(square, "width=\"10cm\" height=\"10cm\" viewBox=\"0 0 50 50\"").outline), 4000,
                1e-9);
    EXPECT_NEAR(area_of(read(square, "").outline), 1000 * std::pow(25.4 / 96, 2), 1e-9) << "pixels";
    EXPECT_NEAR(
        area_of(read(std::string("<g transform=\"translate(9,9) rotate(30) scale(2)\">") + square + "</g>")
                    .outline),
        4000, 1e-6);
    const FaceDrawing holes = read(
        "<rect x=\"10\" y=\"10\" width=\"80\" height=\"60\"/><circle id=\"L2\" cx=\"30\" cy=\"20\" "
        "r=\"2.5\"/>"
        "<g data-ref=\"light:L1\"><circle cx=\"50\" cy=\"40\" r=\"1.5\"/></g>"
        "<circle cx=\"99\" cy=\"99\" r=\"1\"/><defs><circle cx=\"50\" cy=\"50\" r=\"1\"/></defs>");
    ASSERT_EQ(holes.holes.size(), 2u) << "one is outside, one is only defined";
    EXPECT_EQ(holes.holes[0].name, "L2");
    EXPECT_NEAR(holes.holes[0].x, 20, 1e-9);
    EXPECT_NEAR(holes.holes[0].diameter, 5, 1e-9);
    EXPECT_EQ(holes.holes[1].name, "light:L1");
}

TEST(FaceSvg, StrangersFilesEndInOneLine) {
    std::string deep = "<svg>";
    for (int k = 0; k < 5000; ++k) deep += "<g>";
    const std::string bad[] = {
        "",
        "no drawing",
        "<svg></svg>",
        "<svg><path d=\"M0 0 L1 z2\"/></svg>",
        "<svg><path d=\"M0 0 L1 1 z 2\"/></svg>",
        "<svg><rect width=\"1e9\" height=\"5\"/></svg>",
        "<svg><rect width=\"0.1\" height=\"0.1\"/></svg>",
        "<svg><rect width=\"5\"></svg>",
        deep,
        "<!DOCTYPE a [<!ENTITY b \"cccccccccc\"><!ENTITY d \"&b;&b;&b;&b;&b;&b;&b;&b;\">]><svg>&d;</svg>"};
    for (const std::string& text : bad) {
        const auto drawing = read_face_svg(text);
        ASSERT_FALSE(drawing) << text.substr(0, 60);
        EXPECT_EQ(drawing.error().fault, Fault::usage);
        EXPECT_EQ(drawing.error().text().find('\n'), std::string::npos);
    }
}

TEST(FaceSvg, BrokenBytesEndInOneLineOrAFace) {
    const std::string whole =
        write_svg(draw_drill_template(with_pattern(test::pier_lantern(), FacePattern::grid, 20).value()));
    std::mt19937 random(11);
    for (int round = 0; round < 300; ++round) {
        std::string text = whole;
        for (auto hits = 1 + random() % 6; hits > 0; --hits)
            text[random() % text.size()] = static_cast<char>(random() % 256);
        if (round % 3 == 0) text.resize(random() % text.size());
        const auto drawing = read_face_svg(text);
        if (!drawing) {
            EXPECT_EQ(drawing.error().text().find('\n'), std::string::npos);
            continue;
        }
        EXPECT_GE(drawing.value().outline.size(), 3u);
        for (const auto& [x, y] : drawing.value().outline) EXPECT_TRUE(std::isfinite(x) && std::isfinite(y));
        const Design taken = with_face_drawing(test::pier_lantern(), drawing.value());
        const auto again = read_design(write_design(taken));
        EXPECT_TRUE(again) << again.error().text();
    }
}

TEST(Face, UnplacedLightsStandInRowsAndAreSaidSo) {
    const Design d = test::pier_lantern();
    const auto spots = face_spots(d);
    ASSERT_EQ(spots.size(), 4u);
    for (const FaceSpot& spot : spots) EXPECT_FALSE(spot.placed);
    EXPECT_TRUE(face_faults(spots, face_outline(d, spots)).empty());
    const auto moved = face_spots(with_place(d, "L3", -5, 10));
    EXPECT_TRUE(moved[2].placed);
    const auto faults = face_faults(moved, face_outline(d, moved));
    ASSERT_EQ(faults.size(), 1u);
    EXPECT_EQ(faults[0], "L3 is not on the face");
    const auto edge = face_spots(with_place(d, "L3", 3, 30));
    EXPECT_NE(face_faults(edge, face_outline(d, edge)).at(0).find("0.5 mm to the edge"), std::string::npos);
}

TEST(Face, AHoleFollowsBodyMaterialAndFit) {
    Face face;
    const auto hole = [&](double body) { return hole_for(body, face).diameter.value * 1000; };
    EXPECT_NEAR(hole(5), 5.0, 1e-9);
    face.material = "acrylic";
    EXPECT_NEAR(hole(5), 5.1, 1e-9) << "does not yield";
    face.fit = "glue";
    EXPECT_NEAR(hole(3), 3.4, 1e-9);
    face.fit = "bezel";
    EXPECT_NEAR(hole(5), 8, 1e-9);
    face.thickness = 5;
    EXPECT_NE(hole_for(5, face).remark.find("clip"), std::string::npos);
    face = with_measured_hole(face, 5, 5.2);
    EXPECT_NEAR(hole(5), 5.2, 1e-9) << "what was measured goes first";
    EXPECT_NEAR(hole(3), 6, 1e-9);
    EXPECT_EQ(with_measured_hole(face, 5, 0).measured.size(), 0u);
    const auto strip = test_holes(5, Face{});
    ASSERT_EQ(strip.size(), 8u);
    EXPECT_NEAR(strip.front(), 4.8, 1e-9);
    EXPECT_NEAR(strip.back(), 5.5, 1e-9);
}

TEST(Face, PatternsAreWhereTheySay) {
    const Design d = test::pier_lantern();
    const Design ring = with_pattern(d, FacePattern::circle, 60).value();
    const auto spots = face_spots(ring);
    ASSERT_EQ(spots.size(), 4u);
    for (const FaceSpot& spot : spots) {
        EXPECT_TRUE(spot.placed);
        EXPECT_NEAR(std::hypot(spot.x - 42, spot.y - 42), 30, 0.02);
    }
    EXPECT_TRUE(face_faults(spots, face_outline(ring, spots)).empty());
    const auto row = face_spots(with_pattern(d, FacePattern::row, 4).value());
    EXPECT_NEAR(row[3].x - row[0].x, 12, 0.02);
    EXPECT_EQ(face_faults(row, face_outline(d, row)).size(), 3u) << "4 mm between 5 mm holes";
    Design sized = d;
    sized.face.width = 100, sized.face.height = 60;
    for (const FaceSpot& spot : face_spots(with_pattern(sized, FacePattern::edge, 8).value())) {
        const double edge = std::min({spot.x, spot.y, 100 - spot.x, 60 - spot.y});
        EXPECT_NEAR(edge, 8, 0.02);
    }
    Design dark = d;
    std::erase_if(dark.circuit.parts, [](const Part& part) { return part.kind == "led"; });
    EXPECT_FALSE(with_pattern(dark, FacePattern::row, 10));
}

TEST(Face, TheTemplateReadsBackAsTheFace) {
    Design d = test::pier_lantern();
    d.face.outline = "M0 0 L80 0 L80 50 L40 70 L0 50 Z";
    d = with_pattern(d, FacePattern::grid, 20).value();
    const auto drawing = read_face_svg(write_svg(draw_drill_template(d)));
    ASSERT_TRUE(drawing) << drawing.error().text();
    EXPECT_NEAR(area_of(drawing.value().outline), area_of(read_outline(d.face.outline).value()), 0.1);
    const auto read_design_spots = face_spots(with_face_drawing(test::pier_lantern(), drawing.value()));
    const auto spots = face_spots(d);
    for (std::size_t k = 0; k < spots.size(); ++k) {
        EXPECT_EQ(read_design_spots[k].light, spots[k].light);
        EXPECT_NEAR(read_design_spots[k].x, spots[k].x, 0.01);
        EXPECT_NEAR(read_design_spots[k].y, spots[k].y, 0.01);
    }
    const auto strip = read_face_svg(write_svg(draw_test_strip(d)));
    EXPECT_TRUE(strip) << "holes are shapes too";
}

TEST(Face, IsKeptInTheFile) {
    Design d = with_place(test::pier_lantern(), "L2", 12.345, 20);
    d.face.material = "acrylic", d.face.fit = "bezel", d.face.thickness = 2, d.face.width = 90;
    d.face.outline = "M0 0 L80 0 L80 60 Z";
    d.face = with_measured_hole(d.face, 5, 5.1);
    const auto again = read_design(write_design(d));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again.value(), d);
    std::string broken = write_design(d);
    broken.replace(broken.find("M0 0 L80"), 8, "M0 0 oops");
    const auto refused = read_design(broken);
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().text().find("/face/outline"), std::string::npos) << refused.error().text();
}

}  // namespace
}  // namespace elkit
