#include "review/findings.hpp"

#include <gtest/gtest.h>

#include <fstream>
#include <sstream>

#include "recipes/steady_light.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

std::vector<Finding> findings(const Design& d, bool with_deep = true) {
    const LiveSurvey live = live_survey(d, {}, stave_layout(d.circuit), {});
    const DeepSurvey deep = with_deep ? deep_survey(d, {}, demo_stock()) : DeepSurvey{};
    return review({d, {}, live, with_deep ? &deep : nullptr});
}

const Finding* find(const std::vector<Finding>& all, const std::string& rule) {
    for (const auto& f : all)
        if (f.rule == rule) return &f;
    return nullptr;
}

/// The rule speaks, offers a remedy, and falls silent once its first remedy is applied.
void expect_cured(const Design& d, const std::string& rule, Severity severity, bool with_deep = true) {
    const auto before = findings(d, with_deep);
    const Finding* f = find(before, rule);
    ASSERT_NE(f, nullptr) << rule;
    EXPECT_EQ(f->severity, severity) << f->title;
    EXPECT_FALSE(f->title.empty() || f->detail.empty());
    ASSERT_FALSE(f->remedies.empty()) << rule;
    const auto next = f->remedies.front().apply(d);
    ASSERT_TRUE(next) << next.error().text();
    const auto after = findings(next.value(), with_deep);
    EXPECT_EQ(find(after, rule), nullptr)
        << rule << " still there after \"" << f->remedies.front().label << "\": " << find(after, rule)->title;
}

Design goals(const std::function<void(LightGoals&)>& change) {
    LightGoals g = *test::pier_lantern().light;
    change(g);
    return apply_steady_light(test::pier_lantern(), g).value();
}

TEST(Findings, TooLittleHeadroom) {
    Design d = goals([](LightGoals& g) { g.cell = "NiMH-AA", g.current = 0.015; });
    expect_cured(d, "headroom", Severity::warning);
    EXPECT_EQ(find(findings(goals([](LightGoals& g) { g.cells = 4; })), "headroom"), nullptr);
}

TEST(Findings, LedOverItsRating) {
    Design d = test::pier_lantern();
    d.circuit.find("R1")->params["value"] = 3.3;
    expect_cured(d, "led-current", Severity::error);
}

TEST(Findings, NoResistorOnALowImpedanceCell) {
    expect_cured(goals([](LightGoals& g) { g.resistor = false, g.per_string = 2; }), "no-resistor",
                 Severity::error);
    const auto badge = findings(test::coat_badge());
    ASSERT_NE(find(badge, "no-resistor"), nullptr);
    EXPECT_EQ(find(badge, "no-resistor")->severity, Severity::note) << "the coin cell limits itself";
    EXPECT_NE(find(badge, "no-resistor")->title.find("The cell limits"), std::string::npos);
}

TEST(Findings, CoinCellOverItsRate) { expect_cured(test::coat_badge(), "cell-rate", Severity::warning); }

TEST(Findings, ResistorOverItsRating) {
    Design d = goals([](LightGoals& g) {
        g.cell = "Lead-12V", g.cells = 1, g.per_string = 1, g.count = 2, g.current = 0.02;
    });
    d.circuit.find("R1")->params["rating"] = 0.125;
    expect_cured(d, "resistor-rating", Severity::error);
}

TEST(Findings, StringsSharingOneResistor) {
    expect_cured(goals([](LightGoals& g) { g.one_resistor = true; }), "shared-resistor", Severity::warning);
}

TEST(Findings, RunTimeUnderTheBrief) {
    Design d = test::pier_lantern();
    EXPECT_EQ(find(findings(d), "run-time"), nullptr);
    d.brief.run_time = 250;
    const auto all = findings(d);
    const Finding* f = find(all, "run-time");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::error);
    const auto slower = f->remedies.front().apply(d);
    ASSERT_TRUE(slower);
    EXPECT_LT(slower.value().light->current, d.light->current);
    EXPECT_GE(analyse_power(slower.value(), {}).value().run_time.value, 250);
}

TEST(Findings, SwitchAndWireOverTheirRating) {
    Design d = test::pier_lantern();
    d.circuit.find("S1")->params["rating"] = 0.01;
    const auto all = findings(d);
    ASSERT_NE(find(all, "switch-rating"), nullptr);
    EXPECT_EQ(find(all, "switch-rating")->ref, "part:S1");
    Design thin = goals([](LightGoals& g) {
        g.cell = "Lead-12V", g.cells = 1, g.per_string = 4, g.count = 40, g.current = 0.02;
    });
    thin.circuit.find("B1")->params["lead_area"] = 0.05;
    expect_cured(thin, "wire-rating", Severity::error, false);  // laying out 40 lights proves nothing here
    Design distant = test::pier_lantern();
    distant.circuit.find("B1")->params["lead_length"] = 20.0;
    distant.circuit.find("B1")->params["lead_area"] = 0.08;
    expect_cured(distant, "wire-rating", Severity::warning, false);
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
    const auto all = findings(d);
    const Finding* f = find(all, "supply-limit");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::error);
    EXPECT_NE(f->detail.find("licensed electrician"), std::string::npos);
}

TEST(Findings, ReadingOutsideItsBand) {
    Design d = test::pier_lantern();
    d.records.push_back({"volts.L1", true, "", 4.6, {}});
    expect_cured(d, "reading", Severity::error);
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

}  // namespace
}  // namespace elkit
