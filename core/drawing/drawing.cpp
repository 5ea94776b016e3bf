#include "drawing/drawing.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace elkit {

void Drawing::text(double x, double y, std::string words, double size, Ink ink, bool bold, Anchor anchor,
                   std::string ref) {
    add(Text{x, y, std::move(words), size, anchor, bold, false}, {Ink::none, 0, ink}, std::move(ref));
}

void Drawing::place(const Drawing& other, double x, double y, double k) {
    struct Mover {
        double x, y, k;
        void operator()(Line& s) const { s = {x + k * s.x1, y + k * s.y1, x + k * s.x2, y + k * s.y2}; }
        void operator()(Polygon& s) const {
            for (auto& p : s.points) p = {x + k * p.first, y + k * p.second};
        }
        void operator()(Rect& s) const { s = {x + k * s.x, y + k * s.y, k * s.w, k * s.h, k * s.radius}; }
        void operator()(Circle& s) const { s = {x + k * s.x, y + k * s.y, k * s.r}; }
        void operator()(Text& s) const { s.x = x + k * s.x, s.y = y + k * s.y, s.size *= k; }
    };
    for (Item item : other.items) {
        std::visit(Mover{x, y, k}, item.shape);
        item.style.width *= k;
        items.push_back(std::move(item));
    }
}

Box bounds(const Shape& shape) {
    struct Measure {
        Box operator()(const Line& s) const {
            return {std::min(s.x1, s.x2), std::min(s.y1, s.y2), std::max(s.x1, s.x2), std::max(s.y1, s.y2)};
        }
        Box operator()(const Polygon& s) const {
            constexpr double far = std::numeric_limits<double>::infinity();
            Box b{far, far, -far, -far};
            for (const auto& [x, y] : s.points)
                b = {std::min(b.x0, x), std::min(b.y0, y), std::max(b.x1, x), std::max(b.y1, y)};
            return b;
        }
        Box operator()(const Rect& s) const { return {s.x, s.y, s.x + s.w, s.y + s.h}; }
        Box operator()(const Circle& s) const { return {s.x - s.r, s.y - s.r, s.x + s.r, s.y + s.r}; }
        Box operator()(const Text& s) const {
            const double w = text_width(s.text, s.size, s.bold);
            const double before = s.anchor == Anchor::start ? 0 : (s.anchor == Anchor::middle ? w / 2 : w);
            const double above = s.size * 0.75, below = s.size * 0.22;
            if (s.upward) return {s.x - above, s.y + before - w, s.x + below, s.y + before};
            return {s.x - before, s.y - above, s.x - before + w, s.y + below};
        }
    };
    return std::visit(Measure{}, shape);
}

namespace {

double from_line(double x, double y, std::pair<double, double> a, std::pair<double, double> b) {
    const double dx = b.first - a.first, dy = b.second - a.second, squared = dx * dx + dy * dy;
    const double t =
        squared > 0 ? std::clamp(((x - a.first) * dx + (y - a.second) * dy) / squared, 0.0, 1.0) : 0;
    return std::hypot(x - a.first - t * dx, y - a.second - t * dy);
}

/// Inside, or no farther from its rim than `slack`.
bool near(const Polygon& s, double x, double y, double slack) {
    bool inside = false;
    for (std::size_t k = 0; k < s.points.size(); ++k) {
        const auto &a = s.points[k], &b = s.points[(k + 1) % s.points.size()];
        if (from_line(x, y, a, b) <= slack) return true;
        if ((a.second > y) != (b.second > y) &&
            x < a.first + (b.first - a.first) * (y - a.second) / (b.second - a.second))
            inside = !inside;
    }
    return inside;
}

bool near(const Shape& shape, double x, double y, double slack) {
    if (!bounds(shape).contains(x, y, slack)) return false;
    if (const auto* polygon = std::get_if<Polygon>(&shape)) return near(*polygon, x, y, slack);
    if (const auto* circle = std::get_if<Circle>(&shape))
        return std::hypot(x - circle->x, y - circle->y) <= circle->r + slack;
    if (const auto* line = std::get_if<Line>(&shape))
        return from_line(x, y, {line->x1, line->y1}, {line->x2, line->y2}) <= slack;
    return true;
}

}  // namespace

std::string hit(Items begin, Items end, double x, double y, double slack) {
    while (end != begin)
        if (--end; !end->ref.empty() && near(end->shape, x, y, slack)) return end->ref;
    return {};
}

Box bounds(Items begin, Items end, std::string_view ref) {
    constexpr double far = std::numeric_limits<double>::infinity();
    Box b{far, far, -far, -far};
    for (auto item = begin; item != end; ++item) {
        if (item->ref != ref) continue;
        const Box i = bounds(item->shape);
        b = {std::min(b.x0, i.x0), std::min(b.y0, i.y0), std::max(b.x1, i.x1), std::max(b.y1, i.y1)};
    }
    return b;
}

std::string Drawing::hit(double x, double y, double slack) const {
    return elkit::hit(items.begin(), items.end(), x, y, slack);
}

Box Drawing::bounds(std::string_view ref) const { return elkit::bounds(items.begin(), items.end(), ref); }

std::vector<std::string> Drawing::refs() const {
    std::vector<std::string> all;
    for (const Item& item : items)
        if (!item.ref.empty() && std::find(all.begin(), all.end(), item.ref) == all.end())
            all.push_back(item.ref);
    return all;
}

double text_width(std::string_view text, double size, bool bold) {
    double em = 0;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if ((byte & 0xC0) == 0x80) continue;  // the rest of a multi-byte character
        if (byte >= 0x80)
            em += 0.62;
        else if (std::string_view(" iljI.,:;'|!()[]").find(c) != std::string_view::npos)
            em += 0.30;
        else if (std::string_view("frt-/").find(c) != std::string_view::npos)
            em += 0.38;
        else if (std::string_view("mwMW@%").find(c) != std::string_view::npos)
            em += 0.87;
        else if (c >= 'A' && c <= 'Z')
            em += 0.68;
        else if (c >= '0' && c <= '9')
            em += 0.63;
        else
            em += 0.575;
    }
    return em * size * (bold ? 1.06 : 1);
}

std::vector<std::string> wrap_text(std::string_view text, double width, double size) {
    std::vector<std::string> lines;
    std::string line;
    for (std::size_t at = 0; at <= text.size();) {
        const std::size_t space = std::min(text.find(' ', at), text.size());
        const std::string word(text.substr(at, space - at));
        const std::string longer = line.empty() ? word : line + " " + word;
        if (!line.empty() && text_width(longer, size) > width) {
            lines.push_back(line);
            line = word;
        } else {
            line = longer;
        }
        at = space + 1;
    }
    if (!line.empty()) lines.push_back(line);
    return lines;
}

}  // namespace elkit
