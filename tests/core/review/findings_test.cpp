#include "review/findings.hpp"

#include <gtest/gtest.h>

#include <fstream>
#include <sstream>

#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

using test::find;
using test::findings;

/// The rule speaks, offers a remedy, and falls silent once its first remedy is applied.
void expect_cured(const Design& d, const std::string& rule, Severity severity) {
    const auto before = findings(d, rule);
    const Finding* f = find(before, rule);
    ASSERT_NE(f, nullptr) << rule;
    EXPECT_EQ(f->severity, severity) << f->title;
    EXPECT_FALSE(f->title.empty() || f->detail.empty());
    ASSERT_FALSE(f->remedies.empty()) << rule;
    const auto next = f->remedies.front().apply(d);
    ASSERT_TRUE(next) << next.error().text();
    const auto after = findings(next.value(), rule);
    EXPECT_EQ(find(after, rule), nullptr)
        << rule << " still there after \"" << f->remedies.front().label << "\": " << find(after, rule)->title;
}

Design goals(const test::GoalValues& change) { return test::with_goals(test::pier_lantern(), change); }
using namespace std::string_literals;

TEST(Findings, TooLittleHeadroom) {
    Design d = goals({{"cell", "NiMH-AA"s}, {"current", 0.015}});
    expect_cured(d, "headroom", Severity::warning);
    EXPECT_EQ(find(findings(goals({{"cells", 4.0}}), "headroom"), "headroom"), nullptr);
}

TEST(Findings, LedOverItsRating) {
    Design d = test::pier_lantern();
    d.circuit.find("R1")->params["value"] = 3.3;
    expect_cured(d, "led-current", Severity::error);
}

TEST(Findings, NoResistorOnALowImpedanceCell) {
    expect_cured(goals({{"limiter", "none"s}, {"per_string", 2.0}}), "no-resistor", Severity::error);
    const auto badge = findings(test::coat_badge(), "no-resistor");
    ASSERT_NE(find(badge, "no-resistor"), nullptr);
    EXPECT_EQ(find(badge, "no-resistor")->severity, Severity::note) << "the coin cell limits itself";
    EXPECT_NE(find(badge, "no-resistor")->title.find("The cell limits"), std::string::npos);
}

TEST(Findings, CoinCellOverItsRate) { expect_cured(test::coat_badge(), "cell-rate", Severity::warning); }

TEST(Findings, ResistorOverItsRating) {
    Design d = goals(
        {{"cell", "Lead-12V"s}, {"cells", 1.0}, {"per_string", 1.0}, {"count", 2.0}, {"current", 0.02}});
    d.circuit.find("R1")->params["rating"] = 0.125;
    expect_cured(d, "resistor-rating", Severity::error);
}

TEST(Findings, StringsSharingOneResistor) {
    expect_cured(goals({{"limiter", "shared"s}}), "shared-resistor", Severity::warning);
}

TEST(Findings, RunTimeUnderTheBrief) {
    Design d = test::pier_lantern();
    EXPECT_EQ(find(findings(d, "run-time"), "run-time"), nullptr);
    d.brief.run_time = 250;
    const auto all = findings(d, "run-time");
    const Finding* f = find(all, "run-time");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::error);
    const auto slower = f->remedies.front().apply(d);
    ASSERT_TRUE(slower);
    EXPECT_LT(test::goals_of(slower.value()).number("current"), test::goals_of(d).number("current"));
    EXPECT_GE(test::power(slower.value()).value().run_time.value, 250);
}

TEST(Findings, SwitchAndWireOverTheirRating) {
    Design d = test::pier_lantern();
    d.circuit.find("S1")->params["rating"] = 0.01;
    const auto all = findings(d, "part-rating");
    ASSERT_NE(find(all, "part-rating"), nullptr);
    EXPECT_EQ(find(all, "part-rating")->ref, "part:S1");
    EXPECT_EQ(find(all, "part-rating")->station, "power");
    Design thin = goals(
        {{"cell", "Lead-12V"s}, {"cells", 1.0}, {"per_string", 4.0}, {"count", 40.0}, {"current", 0.02}});
    thin.circuit.find("B1")->params["lead_area"] = 0.05;
    expect_cured(thin, "wire-rating", Severity::error);
    Design distant = test::pier_lantern();
    distant.circuit.find("B1")->params["lead_length"] = 20.0;
    distant.circuit.find("B1")->params["lead_area"] = 0.08;
    expect_cured(distant, "wire-rating", Severity::warning);
}

TEST(Findings, ReversedLed) {
    Design d = test::pier_lantern();
    std::swap(d.circuit.find("L3")->pins[0].net, d.circuit.find("L3")->pins[1].net);
    expect_cured(d, "led-reversed", Severity::error);
}

TEST(Findings, RefuseASupplyAboveSixtyVolts) {
    Design d = test::pier_lantern();
    d.circuit.find("B1")->params["cell"] = std::string("6LR61");
    d.circuit.find("B1")->params["count"] = 7.0;
    const auto all = findings(d, "supply-limit");
    const Finding* f = find(all, "supply-limit");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::error);
    EXPECT_NE(f->detail.find("licensed electrician"), std::string::npos);
}

TEST(Findings, ReadingOutsideItsBand) {
    Design d = test::pier_lantern();
    d.records.push_back(
        {.step = "volts.L1", .done = true, .note = {}, .measured = 4.6, .time = {}, .extra = {}});
    expect_cured(d, "reading", Severity::error);
}

TEST(Findings, AValueThatTheDrawerLacksHasANeighbour) {
    const Design d = test::pier_lantern();  // 62 Ω: 20 there, 84 needed
    expect_cured(d, "not-owned", Severity::note);
    const auto all = findings(d, "not-owned");
    EXPECT_NE(find(all, "not-owned")->title.find("20 of 84"), std::string::npos)
        << find(all, "not-owned")->title;
    EXPECT_NE(find(all, "not-owned")->detail.find("9.7 % above"), std::string::npos)
        << find(all, "not-owned")->detail;
    EXPECT_NE(find(all, "not-owned")->detail.find("L1 gets"), std::string::npos);
    EXPECT_EQ(find(all, "not-owned")->remedies.front().apply(d).value().circuit.find("R2")->number("value"),
              68)
        << "both of them";
}

TEST(Findings, BrokenCircuitIsSaidFirst) {
    Design d = test::pier_lantern();
    d.circuit.find("R1")->pins[1].net = "NOWHERE";
    const auto all = findings(d);
    ASSERT_FALSE(all.empty());
    EXPECT_EQ(all.front().rule, "circuit");
    EXPECT_NE(all.front().title.find("NOWHERE"), std::string::npos);
}

TEST(Findings, MostSeriousFirstAndKnownOnesLast) {
    Design d = test::coat_badge();
    d.brief.run_time = 500;
    auto all = findings(d);
    ASSERT_GE(all.size(), 3u);
    for (std::size_t i = 1; i < all.size(); ++i) EXPECT_LE(all[i - 1].severity, all[i].severity);
    d.decisions.push_back({all.front().id, "it is only for one evening", {}});
    all = findings(d);
    EXPECT_EQ(all.back().known, "it is only for one evening");
}

TEST(Rules, HaveReasonsAndADocumentThatIsUpToDate) {
    for (const Rule& r : rules())
        EXPECT_FALSE(r.id.empty() || r.title.empty() || r.why.empty() || r.source.empty()) << r.id;
    std::ostringstream text;
    text << std::ifstream(ELKIT_SOURCE "/docs/rules.md").rdbuf();
    EXPECT_EQ(text.str(), rules_markdown()) << "run: elkit-cli rules > docs/rules.md";
}

TEST(Findings, ADemoWithoutOneOfItsPartsIsStillReviewed) {
    const auto ids = test::demo_ids();
    for (std::size_t k = 0; k < ids.size(); k += test::in_depth() ? 1 : 3) {
        const std::string& id = ids[k];
        const Design whole = test::demo(id);
        for (const Part& gone : whole.circuit.parts) {
            if (!is(gone, Role::source) && gone.designator != whole.circuit.parts.back().designator) continue;
            Design d = whole;
            std::erase_if(d.circuit.parts, [&](const Part& p) { return p.designator == gone.designator; });
            const auto all = findings(d);
            if (!d.circuit.source()) {
                EXPECT_TRUE(std::any_of(all.begin(), all.end(),
                                        [](const Finding& f) { return f.severity == Severity::error; }))
                    << id << " without " << gone.designator;
            }
        }
    }
}

}  // namespace
}  // namespace elkit
