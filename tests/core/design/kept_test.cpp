// The kept copy of unsaved work: what was edited comes back, however the writing of it ended.
#include "design/kept.hpp"

#include <gtest/gtest.h>

#include <random>

#include "design/delta.hpp"
#include "design/file.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

Design with_value(Design d, double ohms) {
    d.circuit.find("R1")->params["value"] = ohms;
    return d;
}

/// A lantern whose R1 became 100, then 120, then 100 again by undo.
struct Story {
    Design before = test::pier_lantern(), first = with_value(before, 100), second = with_value(before, 120);
    std::string head = kept_head("/home/x/lantern.json", before);
    std::string edits[3] = {kept_edit(before, first, "R1 = 100", Move::edit),
                            kept_edit(first, second, "R1 = 120", Move::edit),
                            kept_edit(second, first, "R1 = 120", Move::undo)};
    std::string text() const { return head + edits[0] + edits[1] + edits[2]; }
};

TEST(Kept, BringsTheDesignItsFileAndItsHistoryBack) {
    const Story s;
    const auto kept = read_kept(s.text());
    ASSERT_TRUE(kept) << kept.error().text();
    const Kept& k = kept.value();
    EXPECT_EQ(k.file, "/home/x/lantern.json");
    EXPECT_TRUE(*k.last == s.first);
    EXPECT_TRUE(*k.first == s.before);
    ASSERT_EQ(k.history.size(), 2u);
    EXPECT_EQ(k.done, 1u) << "the second was undone, and can be done again";
    EXPECT_EQ(k.history[1].what, "R1 = 120");
    EXPECT_TRUE(*k.history[1].after == s.second);
    EXPECT_TRUE(k.lost.empty());
    EXPECT_EQ(k.good, s.text().size());
}

TEST(Kept, CutAnywhereItHoldsWhatWasWholeByThen) {
    const Story s;
    const std::string text = s.text();
    const std::size_t ends[] = {s.head.size(), s.head.size() + s.edits[0].size(),
                                s.head.size() + s.edits[0].size() + s.edits[1].size(), text.size()};
    const Design* states[] = {&s.before, &s.first, &s.second, &s.first};
    for (std::size_t cut = s.head.size(); cut <= text.size(); cut += 7) {
        const auto kept = read_kept(text.substr(0, cut));
        ASSERT_TRUE(kept) << cut;
        int whole = 0;
        while (whole < 3 && ends[whole + 1] <= cut) ++whole;
        EXPECT_TRUE(*kept.value().last == *states[whole]) << cut;
        EXPECT_EQ(kept.value().good, ends[whole]) << cut;
        EXPECT_TRUE(kept.value().lost.empty()) << "a torn end is no damage";
    }
    for (std::size_t cut = 0; cut < s.head.size(); cut += 11) EXPECT_FALSE(read_kept(text.substr(0, cut)));
}

TEST(Kept, DamageIsSeenAndSaidAndWhatStandsBeforeItIsKept) {
    const Story s;
    std::string text = s.text();
    const std::size_t at = s.head.size() + s.edits[0].size() + s.edits[1].size() / 2;
    text[at] ^= 1;
    const auto kept = read_kept(text);
    ASSERT_TRUE(kept);
    EXPECT_TRUE(*kept.value().last == s.first);
    EXPECT_NE(kept.value().lost.find("damaged"), std::string::npos) << kept.value().lost;
    // zeros at the end, as a disk leaves them when the power goes
    const auto zeros = read_kept(s.text() + std::string(500, '\0'));
    ASSERT_TRUE(zeros);
    EXPECT_TRUE(*zeros.value().last == s.first);
    EXPECT_FALSE(zeros.value().lost.empty());
}

TEST(Kept, ForeignAndHostileTextsAreErrors) {
    const Design d;
    const std::string head = kept_head({}, d);
    for (const std::string& text :
         {std::string(), std::string("{}"), std::string("elkit kept 1\n"), std::string(1 << 20, 'x'),
          "elkit kept 1\n" + kept_record('F', "x") + kept_record('D', "{\"elkit\": 1e999}"),
          "elkit kept 1\n" + kept_record('F', "x") + kept_record('D', "[]"),
          "elkit kept 1\n" + kept_record('D', "x") + kept_record('F', "x")}) {
        const auto kept = read_kept(text);
        ASSERT_FALSE(kept) << text.substr(0, 40);
        EXPECT_FALSE(kept.error().text().empty());
    }
    for (const char* step :
         {"x\n{\"at\": 5, \"removed\": 1, \"frame\": false}\n{\"elkit\": 2}",
          "x\n{\"at\": -1, \"removed\": 0, \"frame\": 3}\n{\"elkit\": 2}", "x", "x\n", "x\n{}",
          "x\n{\"at\": 0, \"removed\": 1e999, \"frame\": false}\n{\"elkit\": 2}"}) {
        const auto kept = read_kept(head + kept_record('E', step));
        ASSERT_TRUE(kept) << step;
        EXPECT_FALSE(kept.value().lost.empty()) << step;
        EXPECT_TRUE(*kept.value().last == d);
    }
    // two steps that are sound by themselves and name one part twice together
    const std::string part =
        R"({"elkit": 2, "circuit": {"parts": [{"designator": "R1", "kind": "resistor", "pins": {"a": "A", "b": "B"}}]}})";
    const std::string add = kept_record('E', "x\n{\"at\": 0, \"removed\": 0, \"frame\": false}\n" + part);
    EXPECT_TRUE(read_kept(head + add));
    EXPECT_FALSE(read_kept(head + add + add));
}

TEST(Kept, AnEditIsAsLongAsTheChangeNotAsTheDesign) {
    Design large = test::pier_lantern();
    for (int k = 0; k < 3000; ++k)
        large.circuit.parts.push_back(test::resistor("RM" + std::to_string(k), "V+", "GND", 1e6));
    EXPECT_LT(kept_edit(large, with_value(large, 47), "x", Move::edit).size(), 1000u);
    EXPECT_GT(kept_head({}, large).size(), 300000u);
}

TEST(Kept, LongHistoriesKeepTheirLatestSteps) {
    Design now = test::pier_lantern();
    std::string text = kept_head({}, now);
    for (int k = 1; k <= 150; ++k) {
        const Design next = with_value(now, k);
        text += kept_edit(now, next, "step " + std::to_string(k), Move::edit);
        now = next;
    }
    const auto kept = read_kept(text);
    ASSERT_TRUE(kept);
    EXPECT_EQ(kept.value().history.size(), longest_history);
    EXPECT_EQ(kept.value().history.back().what, "step 150");
    EXPECT_TRUE(*kept.value().last == now);
}

TEST(Delta, TurnsAnyDesignIntoAnyOther) {
    std::mt19937 random(3);
    Design now = test::pier_lantern();
    for (int k = 0; k < 300; ++k) {
        Design next = now;
        auto& parts = next.circuit.parts;
        const auto at = parts.begin() + static_cast<std::ptrdiff_t>(random() % (parts.size() + 1));
        switch (random() % 5) {
            case 0:
                parts.insert(at, test::resistor("N" + std::to_string(k), "A", "B", k + 1));
                break;
            case 1:
                if (at != parts.end()) parts.erase(at);
                break;
            case 2:
                if (at != parts.end()) at->params["note"] = double(k);
                break;
            case 3:
                next.brief.kits = k + 1;
                break;
            default:
                next.record_for("s" + std::to_string(k)).done = true;
        }
        const DesignDelta delta = delta_between(now, next);
        const auto there = with_delta(now, delta);
        ASSERT_TRUE(there);
        EXPECT_TRUE(there.value() == next) << k;
        const auto read = read_delta(write_delta(delta));
        ASSERT_TRUE(read) << read.error().text();
        EXPECT_TRUE(with_delta(now, read.value()).value() == next) << k;
        EXPECT_TRUE(with_delta(next, delta_between(next, now)).value() == now) << k;
        now = next;
    }
}

TEST(Delta, RefusesWhatNoFileCanHold) {
    const Design d = test::pier_lantern();
    const auto refused = [&](auto change) {
        Design next = d;
        change(next);
        return !check_writable(delta_between(d, next)).has_value();
    };
    EXPECT_FALSE(refused([](Design& n) { n.circuit.find("R1")->params["value"] = 82.0; }));
    EXPECT_TRUE(refused([](Design& n) { n.circuit.find("R1")->params["value"] = 1e300; }));
    EXPECT_TRUE(refused([](Design& n) { n.circuit.find("R1")->params["value"] = std::nan(""); }));
    EXPECT_TRUE(refused([](Design& n) { n.circuit.find("R1")->pins[0].net = "two words"; }));
    EXPECT_TRUE(refused([](Design& n) { n.circuit.find("R1")->designator.clear(); }));
    EXPECT_TRUE(refused([](Design& n) { n.name = std::string(101, 'x'); }));
    EXPECT_TRUE(refused([](Design& n) { n.name = "bell\a"; }));
    EXPECT_TRUE(refused([](Design& n) { n.brief.kits = INFINITY; }));
}

}  // namespace
}  // namespace elkit
