#include "board/names.hpp"

#include <algorithm>
#include <cmath>

namespace elkit {
namespace {

constexpr double names_apart = 0.15;  // mm

Text words_at(const BoardName& name, const BoardName::Spot& spot) {
    const double to_baseline = 0.35 * spot.size;  // from the middle of capitals
    return {spot.upward ? spot.x + to_baseline : spot.x,
            spot.upward ? spot.y : spot.y + to_baseline,
            name.text,
            spot.size,
            Anchor::middle,
            true,
            spot.upward};
}

double common_area(const Box& a, const Box& b) {
    const double w = std::min(a.x1, b.x1) - std::max(a.x0, b.x0),
                 h = std::min(a.y1, b.y1) - std::max(a.y0, b.y0);
    return w > 0 && h > 0 ? w * h : 0;
}

Box wider(const Box& b, double by) { return {b.x0 - by, b.y0 - by, b.x1 + by, b.y1 + by}; }

}  // namespace

void write_names(Drawing& drawing, const std::vector<BoardName>& names,
                 const std::vector<BoardObstacle>& obstacles) {
    constexpr double another_name = 100;  // is worse than anything else
    std::vector<Box> written;
    for (const Item& item : drawing.items)
        if (std::holds_alternative<Text>(item.shape)) written.push_back(bounds(item.shape));
    for (const BoardName& name : names) {
        const Text* best = nullptr;
        std::vector<Text> all;
        for (const auto& spot : name.spots) all.push_back(words_at(name, spot));
        double least = HUGE_VAL;
        for (const Text& words : all) {
            const Box box = wider(bounds(words), names_apart);
            double covered = std::max(0.0, -box.x0) + std::max(0.0, box.x1 - drawing.width) +
                             std::max(0.0, -box.y0) + std::max(0.0, box.y1 - drawing.height);
            for (const Box& other : written) covered += another_name * common_area(box, other);
            for (const BoardObstacle& o : obstacles)
                if (o.ref != name.ref) covered += common_area(box, o.box);
            if (covered < least) least = covered, best = &words;
            if (covered == 0) break;
        }
        if (!best) continue;
        const Box box = bounds(*best);
        written.push_back(box);
        if (name.ground)
            drawing.add(Rect{box.x0 - 0.1, box.y0 - 0.1, box.x1 - box.x0 + 0.2, box.y1 - box.y0 + 0.2, 0.4},
                        {Ink::none, 0, Ink::card, 0.9}, name.ref);
        drawing.add(*best, {Ink::none, 0, name.ink}, name.ref);
    }
}

std::vector<BoardName::Spot> around(const Box& box, const std::string& text, double size) {
    const double w = text_width(text, size, true) / 2 + 0.25, h = size / 2 + 0.1;
    const double cx = (box.x0 + box.x1) / 2, cy = (box.y0 + box.y1) / 2;
    const double left = box.x0 - w, right = box.x1 + w, above = box.y0 - h, below = box.y1 + h;
    std::vector<BoardName::Spot> spots;
    for (const auto& [x, y] : {std::pair{cx, above},
                               {cx, below},
                               {right, cy},
                               {left, cy},
                               {right, above},
                               {right, below},
                               {left, above},
                               {left, below}})
        spots.push_back({x, y, size});
    return spots;
}

}  // namespace elkit
