#include <gtest/gtest.h>

#include "board/pad/pad_board.hpp"
#include "drawer/import.hpp"
#include "formats/csv.hpp"
#include "formats/svg.hpp"
#include "kit/leaflet.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

TEST(Csv, ReadsBackWhatNeedsQuotes) {
    const CsvTable table{{"a", "b,c", "say \"hi\""}, {"two\nlines", "", "Ω"}};
    const auto back = parse_csv(write_csv(table));
    ASSERT_TRUE(back);
    EXPECT_EQ(back.value(), table);
}

TEST(Csv, AcceptsPlainLineEndsAndNamesAnOpenQuote) {
    EXPECT_EQ(parse_csv("a,b\n1,2").value().size(), 2u);
    const auto open = parse_csv("a,b\n1,\"2");
    ASSERT_FALSE(open);
    EXPECT_EQ(open.error().place, "line 2");
}

TEST(Csv, TheSeparatorIsFoundAmongDecimalCommasAndQuotes) {
    EXPECT_EQ(separator_in("a,b,c\n1,2,3\n"), ',');
    EXPECT_EQ(separator_in("a;b;c\n1,5;2,5;3\n"), ';') << "decimal commas";
    EXPECT_EQ(separator_in("name;price\nfelt, soft, brown;1,20\n"), ';');
    EXPECT_EQ(separator_in("a\tb\n1,5\t2\n"), '\t');
    EXPECT_EQ(separator_in("\"one; two; three\",4\n"), ',') << "inside of quotes nothing counts";
    EXPECT_EQ(separator_in("only one column\n"), ',');
    EXPECT_EQ(separator_in(""), ',');
}

TEST(Svg, IsWellFormedAndKeepsItsSize) {
    const Design d = test::pier_lantern();
    const HoleParts parts = hole_parts(d.circuit, d.board).value();
    const HoleLayout layout = lay_out_pads(parts, d.board).value();
    const std::string svg = write_svg(draw_component_side(layout, parts));
    EXPECT_NE(svg.find("width=\"" + std::to_string(layout.board.width() + 11).substr(0, 5)),
              std::string::npos)
        << "1:1 in mm";
    const auto count = [&](const std::string& what) {
        int n = 0;
        for (std::size_t at = svg.find(what); at != std::string::npos; at = svg.find(what, at + 1)) ++n;
        return n;
    };
    EXPECT_EQ(count("<g "), count("</g>"));
    EXPECT_EQ(count("<text "), count("</text>"));
    EXPECT_NE(svg.find("data-ref=\"part:R1\""), std::string::npos);
}

TEST(Svg, EscapesWhatWouldBreakIt) {
    Drawing d;
    d.text(0, 0, "a < b & \"c\"", 10);
    const std::string svg = write_svg(d);
    EXPECT_NE(svg.find("a &lt; b &amp; &quot;c&quot;"), std::string::npos);
}

TEST(Leaflet, KeepsEverythingOnThePage) {
    for (const Design& d : {test::pier_lantern(), test::coat_badge()}) {
        const auto steps = test::ask(StepsQuery{d.circuit, d.board, d.brief.for_children}).value();
        const auto pages = test::ask(LeafletQuery{d, demo_stock()}).value();
        ASSERT_GE(pages.size(), 2u);
        const std::string hours = test::power(d).value().run_time.text();
        std::size_t texts = 0;
        bool says_how_long = false;
        for (const Drawing& page : pages)
            for (const Item& item : page.items) {
                const Box b = bounds(item.shape);
                EXPECT_GE(b.x0, 8) << d.name;
                EXPECT_LE(b.x1, 205) << d.name;
                EXPECT_LE(b.y1, 294) << d.name;
                texts += std::holds_alternative<Text>(item.shape);
                if (const auto* t = std::get_if<Text>(&item.shape))
                    says_how_long |= t->text.find(hours) != std::string::npos;
            }
        EXPECT_GT(texts, steps.size());
        EXPECT_TRUE(says_how_long) << "the run time is in the leaflet: " << hours;
    }
}

}  // namespace
}  // namespace elkit
