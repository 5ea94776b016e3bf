// The part in the hand: what is drawn must be what the words say.
#include "board/leg_picture.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <map>

#include "circuit/part_kind.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

std::string place_of(const std::string& pin) { return "hole " + pin; }

struct Seen {
    Drawing drawing;
    std::map<std::string, Text> words;  // by what they say
    const Text& at(const std::string& text) const { return words.at(text); }
};

Seen seen(const std::string& line) {
    const Circuit c = circuit({line});
    const Part& part = c.parts.front();
    Seen s{leg_picture(part, footprint(part), place_of), {}};
    for (const Item& item : s.drawing.items)
        if (const auto* text = std::get_if<Text>(&item.shape)) s.words.emplace(text->text, *text);
    return s;
}

/// Where a leg that hangs at this x ends.
double foot_at(const Drawing& d, double x) {
    double lowest = 0;
    for (const Item& item : d.items)
        if (const auto* line = std::get_if<Line>(&item.shape))
            if (std::abs(line->x1 - x) < 0.1 && std::abs(line->x2 - x) < 0.1)
                lowest = std::max(lowest, line->y2);
    return lowest;
}

TEST(LegPicture, AnLedHasItsLongLegAtTheAnodeAndItsRimCutAtTheCathode) {
    const Seen s = seen("led L1 a=A k=B");
    EXPECT_GT(foot_at(s.drawing, s.at("a").x), foot_at(s.drawing, s.at("k").x) + 3);
    EXPECT_NEAR(s.at("hole a").x, s.at("a").x, 1e-9) << "the hole stands under its leg";
    EXPECT_GT(s.at("hole a").y, s.at("a").y);
    std::vector<Rect> boxes;
    for (const Item& item : s.drawing.items)
        if (const auto* box = std::get_if<Rect>(&item.shape)) boxes.push_back(*box);
    ASSERT_EQ(boxes.size(), 2u) << "dome and rim";
    const Rect &dome = boxes[0], &rim = boxes[1];
    EXPECT_LT(rim.x, dome.x) << "the rim stands out at the anode";
    EXPECT_NEAR(rim.x + rim.w, dome.x + dome.w, 1e-9) << "and is cut at the cathode";
}

TEST(LegPicture, AnElectrolyticHasItsStripeAtMinus) {
    const Seen s = seen("electrolytic C1 +=A -=B value=1e-5");
    const double minus = s.at("-").x, plus = s.at("+").x;
    const Rect* stripe = nullptr;
    for (const Item& item : s.drawing.items)
        if (const auto* box = std::get_if<Rect>(&item.shape); box && item.style.fill == Ink::faint)
            stripe = box;
    ASSERT_NE(stripe, nullptr);
    EXPECT_LT(std::abs(stripe->x + stripe->w / 2 - minus), std::abs(stripe->x + stripe->w / 2 - plus));
    EXPECT_GT(foot_at(s.drawing, plus), foot_at(s.drawing, minus));
}

TEST(LegPicture, AChipCountsRoundFromItsNotch) {
    const Seen s = seen("timer U1 gnd=0 trig=T out=O reset=V cont=C thr=T2 disch=D vcc=V");
    const PartKind& kind = *part_kind("timer");
    // pins 1 to 4 in one row, 5 to 8 back in the other
    for (int k = 0; k < 4; ++k) {
        const Text &there = s.at(kind.pins[static_cast<std::size_t>(k)]),
                   &back = s.at(kind.pins[static_cast<std::size_t>(7 - k)]);
        EXPECT_NEAR(there.x, back.x, 0.1) << "pin " << k + 1 << " lies across from " << 8 - k;
        EXPECT_GT(there.y, back.y);
        if (k > 0) {
            EXPECT_GT(there.x, s.at(kind.pins[static_cast<std::size_t>(k - 1)]).x);
        }
    }
    EXPECT_LT(std::abs(s.at("1").x - s.at("gnd").x), 5) << "the 1 stands at pin 1";
}

TEST(LegPicture, AButtonShowsWhichLegsArePairs) {
    const Seen s = seen("button S1 a=A b=B");
    int pairs = 0;
    for (const Item& item : s.drawing.items)
        if (const auto* line = std::get_if<Line>(&item.shape)) {
            ++pairs;
            EXPECT_NEAR(line->y1, line->y2, 0.1);
        }
    EXPECT_EQ(pairs, 2);
}

TEST(LegPicture, PartsWhoseLegsAreAlikeHaveNone) {
    EXPECT_TRUE(seen("resistor R1 a=A b=B").drawing.items.empty());
    EXPECT_TRUE(seen("capacitor C1 a=A b=B").drawing.items.empty());
}

}  // namespace
}  // namespace elkit::test
