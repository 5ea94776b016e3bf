// A stranger's text in each format stays text there.
#include "formats/escape.hpp"

#include <gtest/gtest.h>

#include "formats/csv.hpp"
#include "formats/svg.hpp"
#include "formats/waveforms.hpp"

namespace elkit {
namespace {

TEST(Escape, XmlHasNoForbiddenCharacters) {
    EXPECT_EQ(xml_text("<a href=\"x\">&'"), "&lt;a href=&quot;x&quot;&gt;&amp;&#39;");
    EXPECT_EQ(xml_text("bell\a\x1b[31m\xff\ufffe end"), "bell[31m end");
    Drawing d;
    d.title = "]]></title><script>\x01";
    d.items.push_back({Text{0, 0, "<img src='/dev/zero'>", 3, Anchor::start, false}, {}, "a\"b"});
    const std::string svg = write_svg(d);
    EXPECT_EQ(svg.find("<img"), std::string::npos);
    EXPECT_EQ(svg.find("<script"), std::string::npos);
    EXPECT_EQ(svg.find('\x01'), std::string::npos);
    EXPECT_NE(svg.find("data-ref=\"a&quot;b\""), std::string::npos);
}

TEST(Escape, SpreadsheetsRunNoCell) {
    for (const char* formula : {"=1+1", "@SUM(A1)", "+cmd|' /C calc'!A0", "-2+3", " =1", "\t=1", "|x", "%x"})
        EXPECT_EQ(csv_field(formula).find_first_of("'"), csv_field(formula)[0] == '"' ? 1u : 0u) << formula;
    for (const char* plain : {"-12.5", "+3", "1e-9", "R1", "4k7", "-", "", "V+"})
        EXPECT_EQ(csv_field(plain), plain);
    EXPECT_EQ(csv_field("a,\"b\"\n"), "\"a,\"\"b\"\"\n\"");
    const CsvTable table{{"=1", "+5V GND", "'quoted", "-3", "a;b", "x\r\ny"}};
    EXPECT_EQ(parse_csv(write_csv(table)).value(), table) << "and reads back as it was";
}

TEST(Escape, ValueChangeDumpsKeepTheirWords) {
    Recording r;
    r.time = {0, 1};
    r.traces.push_back({"net:A B\n$end", Unit::volt, {1, 2}});
    const std::string dump = recording_vcd(r, "evil\n$end $dumpvars");
    EXPECT_NE(dump.find("$comment evil _end _dumpvars $end\n"), std::string::npos) << dump;
    EXPECT_NE(dump.find("$var real 64 ! A_B__end_V $end\n"), std::string::npos) << dump;
    r.time = {0, 1e8};
    EXPECT_NE(recording_vcd(r, "x").find("$timescale 1us $end"), std::string::npos);
    EXPECT_NE(recording_vcd(r, "x").find("#100000000000000\n"), std::string::npos) << "three years fit";
}

TEST(Escape, FileNamesStayInTheirFolder) {
    for (const auto& [text, name] :
         std::vector<std::pair<std::string, std::string>>{{"../../etc/passwd", "_.._etc_passwd"},
                                                          {"a/b\\c:d", "a_b_c_d"},
                                                          {"", "design"},
                                                          {"...", "design"},
                                                          {"-rf", "rf"},
                                                          {"con", "_con"},
                                                          {"COM1.x", "_COM1.x"},
                                                          {"Pier lantern", "Pier lantern"},
                                                          {"bell\a", "bell_"},
                                                          {"trailing. ", "trailing"}})
        EXPECT_EQ(file_name(text), name);
    EXPECT_LE(file_name(std::string(500, 'x')).size(), 100u);
}

}  // namespace
}  // namespace elkit
