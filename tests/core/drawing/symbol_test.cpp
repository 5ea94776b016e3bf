#include "drawing/symbol.hpp"

#include <gtest/gtest.h>

#include "support/designs.hpp"

namespace elkit {
namespace {

Drawing symbol(const Part& part, bool flipped = false, const SymbolState& state = {}) {
    Drawing d;
    add_symbol(d, part, 100, 20, 140, 80, flipped, state);
    return d;
}

Part of_kind(const std::string& kind) { return {"X1", kind, {}, {{"a", "A"}, {"b", "B"}}, {}}; }

TEST(Symbol, ReachesFromTheUpperNetToTheLower) {
    for (const char* kind : {"battery", "supply", "switch", "resistor", "led", "diode"}) {
        const Drawing d = symbol(of_kind(kind));
        const Box b = d.bounds("part:X1");
        EXPECT_LE(b.y0, 20) << kind;
        EXPECT_GE(b.y1, 140) << kind;
        for (const Item& item : d.items) EXPECT_EQ(item.ref, "part:X1") << kind;
    }
}

TEST(Symbol, StaysWithinItsRoom) {
    for (const char* kind : {"battery", "supply", "switch", "resistor", "led", "diode"})
        for (const Item& item : symbol(of_kind(kind)).items) {
            const Box b = bounds(item.shape);
            EXPECT_GE(b.x0, 100 - 26) << kind;
            EXPECT_LE(b.x1, 100 + 26) << kind;
        }
}

TEST(Symbol, AnLedGlowsOnlyWhenThereIsLight) {
    SymbolState dark, bright;
    bright.glow = 0.8;
    EXPECT_GT(symbol(of_kind("led"), false, bright).items.size(),
              symbol(of_kind("led"), false, dark).items.size());
}

TEST(Symbol, AFlippedLedPointsUp) {
    const auto tip = [](const Drawing& d) {
        for (const Item& item : d.items)
            if (const Polygon* p = std::get_if<Polygon>(&item.shape); p && p->points.size() == 3)
                return p->points[2].second;
        return 0.0;
    };
    EXPECT_GT(tip(symbol(of_kind("led"))), 80);
    EXPECT_LT(tip(symbol(of_kind("led"), true)), 80);
}

TEST(Symbol, AnOpenSwitchStandsAside) {
    SymbolState open;
    open.closed = false;
    EXPECT_GT(symbol(of_kind("switch"), false, open).bounds("part:X1").x1,
              symbol(of_kind("switch")).bounds("part:X1").x1);
}

TEST(Place, MovesAndScalesEveryShape) {
    Drawing inner, outer;
    inner.add(Line{0, 0, 10, 10}, {Ink::ink, 2}, "line");
    inner.add(Rect{0, 0, 10, 4, 1}, {}, "rect");
    inner.add(Circle{5, 5, 2}, {}, "circle");
    inner.add(Polygon{{{0, 0}, {2, 0}, {0, 2}}}, {}, "polygon");
    inner.text(1, 2, "words", 10, Ink::ink, false, Anchor::start, "text");
    outer.place(inner, 100, 50, 2);
    EXPECT_EQ(outer.bounds("line").x1, 120);
    EXPECT_EQ(outer.bounds("rect").y1, 58);
    EXPECT_EQ(outer.bounds("circle").x0, 106);
    EXPECT_EQ(outer.bounds("polygon").x1, 104);
    EXPECT_NEAR(outer.bounds("text").x1 - outer.bounds("text").x0,
                2 * (inner.bounds("text").x1 - inner.bounds("text").x0), 1e-9);
    EXPECT_EQ(outer.items.front().style.width, 4);
    EXPECT_EQ(outer.refs().size(), 5u);
}

}  // namespace
}  // namespace elkit
