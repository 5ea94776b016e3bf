// The stave as a picture: what lights up, what glows, where the probes stand, what can be hit.
#include <gtest/gtest.h>

#include <array>
#include <cmath>

#include "design/demo.hpp"
#include "design/file.hpp"
#include "drawing/stave.hpp"
#include "formats/svg.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Drawing stave(const Circuit& c, const StaveView& view = {}, const Conditions& q = {}) {
    return test::stave(c, q, stave_layout(c), StaveView(view));
}

std::vector<std::string> words(const Drawing& d, const std::string& ref) {
    std::vector<std::string> all;
    for (const Item& item : d.items)
        if (const Text* t = std::get_if<Text>(&item.shape); t && item.ref == ref) all.push_back(t->text);
    return all;
}

TEST(StaveView, EveryPartNetPinAndValueCanBeHit) {
    for (const Demo& demo : demos()) {
        const Circuit c = read_design(demo.text).value().circuit;
        const auto refs = stave(c, unfolded(stave_layout(c))).refs();
        const auto has = [&](const std::string& ref) {
            return std::find(refs.begin(), refs.end(), ref) != refs.end();
        };
        for (const auto& net : c.nets()) EXPECT_TRUE(has("net:" + net)) << demo.id << " " << net;
        for (const Part& part : c.parts) {
            EXPECT_TRUE(has("part:" + part.designator)) << demo.id;
            EXPECT_TRUE(has("value:" + part.designator)) << demo.id;
            for (const Pin& pin : part.pins)
                EXPECT_TRUE(has("pin:" + part.designator + "." + pin.name)) << demo.id;
        }
    }
}

TEST(StaveView, TagsTellNetAndVoltage) {
    const Circuit c = pier_lantern().circuit;
    const OperatingPoint op = solve(c);
    const Drawing d = stave(c);
    for (const auto& net : stave_layout(c).rows) {
        const auto all = words(d, "net:" + net);
        EXPECT_NE(std::find(all.begin(), all.end(), net), all.end());
        EXPECT_NE(std::find(all.begin(), all.end(), format_quantity(op.voltage(net), Unit::volt)), all.end())
            << net;
    }
}

TEST(StaveView, ASwitchSaysHowItStands) {
    const Circuit c = circuit({"battery B1 +=V -=0", "switch S1 a=V b=A", "changeover S2 common=A a=X b=Y",
                               "resistor R1 a=X b=0", "resistor R2 a=Y b=0"});
    EXPECT_EQ(words(stave(c), "value:S1").front(), "closed");
    Conditions q;
    q.switches = {{"S1", false}, {"S2", true}};
    EXPECT_EQ(words(stave(c, {}, q), "value:S1").front(), "open");
    EXPECT_NE(words(stave(c, {}, q), "value:S2").front(), words(stave(c), "value:S2").front());
}

TEST(StaveView, LineWeightFollowsTheCurrent) {
    const auto widest = [](const char* ohms) {
        const Drawing d = stave(
            circuit({"supply PS1 +=V -=0 voltage=5", std::string("resistor R1 a=V b=0 value=") + ohms}));
        double width = 0;
        for (const Item& item : d.items)
            if (item.ref == "net:V" && std::holds_alternative<Line>(item.shape))
                width = std::max(width, item.style.width);
        return width;
    };
    EXPECT_GT(widest("10"), widest("1000") + 0.5);
    EXPECT_GT(widest("1000"), widest("1e6") + 0.5);
}

TEST(StaveView, AProbeStandsOnItsLineOnly) {
    const Circuit c = pier_lantern().circuit;
    StaveView view;
    view.red_probe = "LAMP", view.black_probe = "GND";
    const Drawing plain = stave(c), probed = stave(c, view);
    EXPECT_EQ(probed.items.size(), plain.items.size() + 4) << "a tip and a lead each";
    int red = 0;
    for (const Item& item : probed.items)
        if (std::holds_alternative<Polygon>(item.shape) && item.ref == "net:LAMP")
            red += item.style.fill == Ink::attention;
    EXPECT_EQ(red, 1);
    view.red_probe = "NOWHERE", view.black_probe = "";
    EXPECT_EQ(stave(c, view).items.size(), plain.items.size());
}

TEST(StaveView, ALitNetLightsWhatHangsOnIt) {
    const Circuit c = pier_lantern().circuit;
    StaveView view;
    view.lit_net = "LAMP";
    // how the items of one part look: inks, widths and how many there are
    const auto look = [](const Drawing& d, const std::string& ref) {
        std::vector<std::array<double, 4>> all;
        for (const Item& item : d.items)
            if (item.ref == ref)
                all.push_back({double(item.style.stroke), item.style.width, double(item.style.fill),
                               item.style.opacity});
        return all;
    };
    EXPECT_NE(look(stave(c, view), "part:R1"), look(stave(c), "part:R1")) << "it hangs on LAMP";
    EXPECT_EQ(look(stave(c, view), "part:L2"), look(stave(c), "part:L2")) << "it does not";
}

TEST(StaveView, TrueHeightIsProportionalToTheVolts) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=8 resistance=0.001 lead_length=0",
                               "resistor R1 a=V b=A value=1000", "resistor R2 a=A b=B value=2000",
                               "resistor R3 a=B b=0 value=1000"});
    StaveView view;
    view.true_height = true;
    const Drawing d = stave(c, view);
    const auto y = [&](const char* ref) {
        for (const Item& item : d.items)
            if (const Circle* dot = std::get_if<Circle>(&item.shape); dot && item.ref == ref) return dot->y;
        return -1.0;
    };
    const double top = y("pin:PS1.+"), bottom = y("pin:PS1.-");
    EXPECT_NEAR((bottom - y("net:A")) / (bottom - top), 0.75, 1e-3);
    EXPECT_NEAR((bottom - y("net:B")) / (bottom - top), 0.25, 1e-3);
}

TEST(StaveView, FindsTheLineNearAHeight) {
    const Drawing d = stave(pier_lantern().circuit);
    for (const Item& item : d.items)
        if (const Line* l = std::get_if<Line>(&item.shape);
            l && item.ref.starts_with("net:") && l->y1 == l->y2 && !item.style.dashed) {
            EXPECT_EQ("net:" + net_near(d, 0, l->y1), item.ref);
            EXPECT_EQ("net:" + net_near(d, 0, l->y1 + 5), item.ref);
        }
    EXPECT_EQ(net_near(d, 0, -500), "");
}

TEST(StaveView, GoesIntoSvgWithItsNames) {
    for (const Demo& demo : demos()) {
        const Circuit c = read_design(demo.text).value().circuit;
        const std::string svg = write_svg(stave(c, unfolded(stave_layout(c))));
        EXPECT_NE(svg.find("<svg"), std::string::npos);
        for (const Part& part : c.parts)
            EXPECT_NE(svg.find("data-ref=\"part:" + part.designator + "\""), std::string::npos)
                << demo.id << " " << part.designator;
        EXPECT_EQ(svg, write_svg(stave(c, unfolded(stave_layout(c)))))
            << "the same circuit, the same picture";
    }
}

TEST(StaveView, ManyPartsStillFindRoom) {
    std::vector<std::string> lines{"battery B1 +=V -=0 count=3"};
    for (int k = 1; k <= 15; ++k) {
        const std::string n = std::to_string(k);
        lines.push_back("resistor R" + n + " a=V b=B" + n + " value=10000");
        lines.push_back("npn Q" + n + " c=C" + n + " b=B" + n + " e=0");
        lines.push_back("resistor RL" + n + " a=V b=C" + n + " value=1000");
        lines.push_back("capacitor C" + n + " a=C" + n + " b=B" + std::to_string(k % 15 + 1));
    }
    const Circuit c = circuit(lines);
    const Drawing d = stave(c);
    std::vector<Box> texts;
    for (const Item& item : d.items)
        if (std::holds_alternative<Text>(item.shape) && !item.ref.starts_with("net:"))
            texts.push_back(bounds(item.shape));
    int overlaps = 0;
    for (std::size_t i = 0; i < texts.size(); ++i)
        for (std::size_t k = 0; k < i; ++k) overlaps += texts[i].overlaps(texts[k]);
    EXPECT_EQ(overlaps, 0);
    EXPECT_GT(d.width, 0);
    EXPECT_LT(d.height, 2500);
}

}  // namespace
}  // namespace elkit::test
