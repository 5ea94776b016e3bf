#pragma once
#include <algorithm>
#include <string>
#include <string_view>
#include <utility>
#include <variant>
#include <vector>

namespace elkit {

/// Colours by meaning; the theme of the screen or the paper decides what they look like.
enum class Ink { none, ink, muted, faint, light, structure, attention, paper, card, rgb };

struct Style {
    Ink stroke = Ink::ink;
    double width = 1;
    Ink fill = Ink::none;
    double opacity = 1;
    unsigned rgb = 0;  ///< 0xRRGGBB, for Ink::rgb
    bool dashed = false;
    bool operator==(const Style&) const = default;
};

struct Line {
    double x1, y1, x2, y2;
};
struct Polygon {
    std::vector<std::pair<double, double>> points;
    bool closed = true;
};
struct Rect {
    double x, y, w, h, radius = 0;
};
struct Circle {
    double x, y, r;
};
enum class Anchor { start, middle, end };
struct Text {
    double x, y;  ///< on the baseline
    std::string text;
    double size = 12;
    Anchor anchor = Anchor::start;
    bool bold = false;
    bool upward = false;  ///< reads from below to above; `anchor` then is along that way
};

using Shape = std::variant<Line, Polygon, Rect, Circle, Text>;

struct Item {
    Shape shape;
    Style style;
    std::string
        ref;  ///< what it stands for: "part:R1", "value:R1", "net:V+", "pin:R1.a", "hole:3,4"; may be empty
};

struct Box {
    double x0, y0, x1, y1;
    bool contains(double x, double y, double slack = 0) const {
        return x >= x0 - slack && x <= x1 + slack && y >= y0 - slack && y <= y1 + slack;
    }
    bool overlaps(const Box& o) const { return x0 < o.x1 && o.x0 < x1 && y0 < o.y1 && o.y0 < y1; }
};

/// A picture as a value: shapes in its own units, painted by render/, written as SVG by formats/svg.
struct Drawing {
    double width = 0, height = 0;
    double unit_mm = 1;  ///< size of one unit on paper
    std::string title;
    std::vector<Item> items;
    /// Items, the last of all, that stay in view when the rest scrolls sideways.
    struct Sticky {
        std::size_t begin = 0, end = 0;
        double x = 0, reach = 0;  ///< their left edge, and how far they may move to the right
        double at = 0;            ///< they stop this far from the left edge of the view
        double shift(double view_left) const { return std::clamp(view_left + at - x, 0.0, reach); }
    };
    std::vector<Sticky> sticky;
    double margin = 0;  ///< width of the strip at the left edge that scrolling leaves free for them
    std::size_t scrolling() const { return sticky.empty() ? items.size() : sticky.front().begin; }

    void add(Shape shape, Style style, std::string ref = {}) {
        items.push_back({std::move(shape), style, std::move(ref)});
    }
    void text(double x, double y, std::string words, double size, Ink ink = Ink::ink, bool bold = false,
              Anchor anchor = Anchor::start, std::string ref = {});
    /// Puts all of `other` here, its origin at (x, y), scaled.
    void place(const Drawing& other, double x, double y, double scale = 1);
    /// The ref of the topmost item with one within `slack` of (x, y); empty if there is none.
    std::string hit(double x, double y, double slack = 2) const;
    /// Box around all items with this ref; turned inside out if there is none.
    Box bounds(std::string_view ref) const;
    std::vector<std::string> refs() const;  ///< each once, in order of appearance
};

Box bounds(const Shape& shape);

using Items = std::vector<Item>::const_iterator;
/// Likewise, among some items of a drawing.
std::string hit(Items begin, Items end, double x, double y, double slack);
Box bounds(Items begin, Items end, std::string_view ref);
/// Estimated width of `text` set in Inter at `size`; within some 5 % for Latin text.
double text_width(std::string_view text, double size, bool bold = false);
/// Breaks `text` into lines no wider than `width`.
std::vector<std::string> wrap_text(std::string_view text, double width, double size);

}  // namespace elkit
