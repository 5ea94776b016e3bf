// Strips on leads: volts along the way, against the engine and by hand.
#include <cmath>

#include "catalogue/copper.hpp"
#include "engine/operating_point.hpp"
#include "planning/strip_run.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

StripQuestion twelve_volts(double length) {
    StripQuestion q;
    q.source = {"PS1",
                "supply",
                {{"voltage", 12.0}, {"max_current", 5.0}, {"resistance", 0.1}},
                {{"+", "V+"}, {"-", "GND"}},
                {}};
    q.strip = {"L1", "strip", {}, {}, {}};
    q.length = length, q.lead_length = 2, q.lead_area = 0.34;
    return q;
}

/// The same ladder as a circuit of resistors and LEDs.
std::vector<double> by_engine(const StripQuestion& q, int pieces, StripFeed feed) {
    Circuit c;
    Part source = q.source;
    source.params["lead_length"] = 0.0;
    c.parts.push_back(source);
    int n = 0;
    const auto resistor = [&](const std::string& a, const std::string& b, double ohms) {
        c.parts.push_back(
            {"R" + std::to_string(++n), "resistor", {{"value", ohms}}, {{"a", a}, {"b", b}}, {}});
    };
    const auto at = [](int k) { return "N" + std::to_string(k); };
    const auto lead = [&](double metres) { return copper_resistance(2 * metres, q.lead_area, 21); };
    const double length = pieces * q.strip.number("cut");
    if (feed != StripFeed::middle) resistor("V+", at(0), lead(q.lead_length));
    if (feed == StripFeed::both_ends) resistor("V+", at(pieces - 1), lead(q.lead_length + length));
    if (feed == StripFeed::middle) resistor("V+", at((pieces - 1) / 2), lead(q.lead_length + length / 2));
    for (int k = 0; k + 1 < pieces; ++k)
        resistor(at(k), at(k + 1), q.strip.number("track") * q.strip.number("cut"));
    std::vector<std::string> measured;
    for (int k = 0; k < pieces; ++k) {
        resistor(at(k), at(k) + "a", q.strip.number("resistance"));
        measured.push_back("R" + std::to_string(n));
        std::string net = at(k) + "a";
        for (int led = 0; led < q.strip.number("in_series"); ++led) {
            const bool last = led + 1 == q.strip.number("in_series");
            const std::string next = last ? "GND" : net + "b";
            c.parts.push_back({"L" + std::to_string(k) + "x" + std::to_string(led),
                               "led",
                               {{"type", q.strip.text("type")}},
                               {{"a", net}, {"k", next}},
                               {}});
            net = next;
        }
    }
    Conditions bench;
    bench.celsius = 21;
    const auto op = operating_point(c, known_catalogue(), bench, {});
    EXPECT_TRUE(op) << op.error().text();
    std::vector<double> amps;
    for (const std::string& r : measured) amps.push_back(op.value().part(r).current);
    return amps;
}

TEST(StripRun, EveryCutLengthIsTheEnginesOwn) {
    const StripQuestion q = twelve_volts(0.6);
    const auto plan = plan_strip(q);
    ASSERT_TRUE(plan) << plan.error().text();
    EXPECT_EQ(plan.value().pieces, 12);
    EXPECT_EQ(plan.value().leds, 36);
    for (const StripRun& run : plan.value().runs) {
        const auto amps = by_engine(q, 12, run.feed);
        for (std::size_t k = 0; k < amps.size(); ++k)
            EXPECT_NEAR(run.amps[k], amps[k], 1e-6) << run.name << " " << k;
    }
}

TEST(StripRun, CurrentsAddUpAndTheMiddleOrBothEndsAreMoreEven) {
    const auto plan = plan_strip(twelve_volts(5));
    ASSERT_TRUE(plan);
    const auto& runs = plan.value().runs;
    for (const StripRun& run : runs) {
        double sum = 0;
        for (const double amps : run.amps) sum += amps;
        EXPECT_NEAR(run.total.value, sum, 1e-12);
        EXPECT_NEAR(run.volts.back() <= run.volts.front() + 1e-9 || run.feed != StripFeed::one_end, 1, 0);
    }
    EXPECT_LT(runs[0].dimmest.value, runs[1].dimmest.value);
    EXPECT_LT(runs[0].dimmest.value, runs[2].dimmest.value);
    StripQuestion thin = twelve_volts(10);
    thin.lead_length = 5;
    const auto longer = plan_strip(thin);
    EXPECT_LT(longer.value().runs[0].dimmest.value, runs[0].dimmest.value);
    EXPECT_GT(longer.value().thicker, 0.34) << "the leads lose more than 3 %";
}

TEST(StripRun, OnlyWholeCutLengths) {
    const auto plan = plan_strip(twelve_volts(0.53));
    ASSERT_TRUE(plan);
    EXPECT_EQ(plan.value().pieces, 10);
    EXPECT_NEAR(plan.value().left_over, 0.03, 1e-9);
    EXPECT_TRUE(plan_strip(twelve_volts(0.05)));
    for (const double bad : {0.0, 0.04, 51.0, -1.0}) EXPECT_FALSE(plan_strip(twelve_volts(bad))) << bad;
    StripQuestion q = twelve_volts(1);
    q.lead_area = 0;
    EXPECT_FALSE(plan_strip(q));
    q = twelve_volts(1);
    q.strip.params["type"] = std::string("nothing-like-it");
    EXPECT_FALSE(plan_strip(q));
}

TEST(StripRun, SaysWhatASupplyCannotDo) {
    StripQuestion q = twelve_volts(5);
    const auto told = [&q](const char* words) {
        const auto plan = plan_strip(q);
        for (const std::string& remark : plan.value().remarks)
            if (remark.find(words) != std::string::npos) return true;
        return false;
    };
    EXPECT_FALSE(told("the source gives"));
    q.source.params["max_current"] = 0.5;
    EXPECT_TRUE(told("the source gives"));
    EXPECT_FALSE(told("too few"));
    q.source.params["voltage"] = 5.0;
    EXPECT_TRUE(told("too few"));
    EXPECT_FALSE(told("more than they bear"));
    q.source.params["voltage"] = 24.0;
    EXPECT_TRUE(told("more than they bear"));
}

TEST(StripRun, GoesIntoADesign) {
    Store store;
    const Design shelf = test::demo("shelf-strip");
    const auto found = Ask(store)(StripQuery{shelf, 1.5, 3, 0.5});
    ASSERT_TRUE(found) << found.error().text();
    const Design next = with_strip(shelf, found->question, found->answer);
    const Part* strip = nullptr;
    for (const Part& part : next.circuit.parts)
        if (part.kind == "strip") strip = &part;
    ASSERT_TRUE(strip);
    EXPECT_NEAR(strip->number("length"), 1.5, 1e-9);
    EXPECT_EQ(next.circuit.source()->number("lead_length"), 3);
    EXPECT_EQ(next.circuit.parts.size(), shelf.circuit.parts.size());
    const Design lantern = test::demo("pier-lantern");
    const auto first = Ask(store)(StripQuery{lantern, 0.5, 0, 0});
    ASSERT_TRUE(first);
    EXPECT_EQ(with_strip(lantern, first->question, first->answer).circuit.parts.size(),
              lantern.circuit.parts.size() + 1);
    EXPECT_FALSE(Ask(store)(StripQuery{Design{}, 0, 0, 0})) << "no source";
}

TEST(StripRun, ThePictureIsDimWhereItIsDim) {
    const auto plan = plan_strip(twelve_volts(5));
    const Drawing d = draw_strip(plan.value(), 0xffffff, 300);
    double first = -1, last = -1;
    for (const Item& item : d.items)
        if (item.ref == "feed:0" && item.style.fill == Ink::rgb) {
            if (first < 0) first = item.style.opacity;
            last = item.style.opacity;
        }
    EXPECT_DOUBLE_EQ(first, 1);
    EXPECT_NEAR(100 * last, plan.value().runs[0].dimmest.value, 0.01);
}

}  // namespace
}  // namespace elkit
