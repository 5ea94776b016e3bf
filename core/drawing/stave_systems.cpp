#include "drawing/stave_systems.hpp"

#include <algorithm>
#include <map>
#include <set>
#include <utility>

namespace elkit {
namespace {

constexpr double edge = 12, beside = 4;  // round a piece, and round the parts in it

bool is_net(const Item& item) { return item.ref.starts_with("net:"); }

/// Stretches of x in which parts stand, from left to right, none touching the next.
std::vector<std::pair<double, double>> part_stretches(const Drawing& stave, std::size_t items) {
    std::map<std::string, std::pair<double, double>> spans;  // a part with its words and pins
    for (std::size_t k = 0; k < items; ++k) {
        const Item& item = stave.items[k];
        if (is_net(item)) continue;
        const Box b = bounds(item.shape);
        std::string name = item.ref.substr(item.ref.find(':') + 1);
        if (item.ref.starts_with("pin:")) name = name.substr(0, name.find('.'));
        auto [at, fresh] = spans.try_emplace(name, b.x0, b.x1);
        at->second.first = std::min(at->second.first, b.x0),
        at->second.second = std::max(at->second.second, b.x1);
    }
    std::vector<std::pair<double, double>> sorted;
    sorted.reserve(spans.size());
    for (const auto& [name, span] : spans) sorted.push_back(span);
    std::sort(sorted.begin(), sorted.end());
    std::vector<std::pair<double, double>> apart;
    for (const auto& [from, to] : sorted)
        if (!apart.empty() && from <= apart.back().second)
            apart.back().second = std::max(apart.back().second, to);
        else
            apart.emplace_back(from, to);
    return apart;
}

void arrow(Drawing& d, double x, double y, double way, const Item& line) {
    Style style = line.style;
    style.stroke = Ink::none, style.fill = Ink::rgb, style.dashed = false, style.opacity = 1;
    d.add(Polygon{{{x + 7 * way, y}, {x, y - 4}, {x, y + 4}}}, style, line.ref);
}

/// What of the stave lies between `from` and `to`, with the tags before it.
Drawing piece(const Drawing& stave, double from, double to) {
    Drawing d;
    d.unit_mm = stave.unit_mm, d.title = stave.title, d.height = stave.height;
    const double shift = stave.margin + edge - from;
    d.width = to + shift + edge;
    const std::size_t body = stave.scrolling();
    Drawing moved;
    std::set<std::string> led_in;
    for (std::size_t k = 0; k < body; ++k) {
        const Item& item = stave.items[k];
        const Line* line = std::get_if<Line>(&item.shape);
        const Box b = bounds(item.shape);
        if (!line || !is_net(item) || line->y1 != line->y2) {
            if (const double middle = (b.x0 + b.x1) / 2; middle >= from && middle <= to)
                moved.items.push_back(item);
            continue;
        }
        const double x1 = std::max(line->x1, from), x2 = std::min(line->x2, to);
        if (x2 <= x1) continue;
        if (item.style.dashed) {  // from the tag to where the line begins
            moved.add(Line{x1, line->y1, x2, line->y2}, item.style, item.ref);
            continue;
        }
        moved.add(Line{x1, line->y1, x2, line->y2}, item.style, item.ref);
        if (line->x2 > to) arrow(moved, to, line->y1, 1, item);
        if (line->x1 < from) {
            Style dots = item.style;
            dots.width = 1, dots.dashed = true;
            d.add(Line{stave.margin, line->y1, stave.margin + edge, line->y1}, dots, item.ref);
        }
    }
    d.place(moved, shift, 0);
    d.margin = stave.margin;
    for (const Drawing::Sticky& tag : stave.sticky) {
        Drawing alone;
        alone.items.assign(stave.items.begin() + static_cast<std::ptrdiff_t>(tag.begin),
                           stave.items.begin() + static_cast<std::ptrdiff_t>(tag.end));
        const double width =
                         bounds(alone.items.begin(), alone.items.end(), alone.items.front().ref).x1 - tag.x,
                     at = tag.x + tag.shift(from - stave.margin);
        const bool pinned = tag.reach > stave.width;
        if (!pinned && (at + width < from || at > to)) continue;
        const std::size_t begin = d.items.size();
        d.place(alone, pinned ? 0 : std::min(at, to - width) - tag.x + shift, 0);
        d.sticky.push_back({begin, d.items.size(), tag.x, 0, 0});
    }
    return d;
}

}  // namespace

std::vector<Drawing> stave_systems(const Drawing& stave, double width) {
    if (stave.width <= width) return {stave};
    const auto stretches = part_stretches(stave, stave.scrolling());
    const double room = width - stave.margin - 2 * (edge + beside);
    std::vector<Drawing> pieces;
    for (std::size_t k = 0; k < stretches.size();) {
        std::size_t last = k;
        while (last + 1 < stretches.size() && stretches[last + 1].second - stretches[k].first <= room) ++last;
        pieces.push_back(piece(stave, stretches[k].first - beside, stretches[last].second + beside));
        k = last + 1;
    }
    return pieces;
}

}  // namespace elkit
