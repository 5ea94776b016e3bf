#include "planning/grid_picture.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace elkit {
namespace {

constexpr double digits = 12, head = 22, most_pitch = 44;

bool has(const std::vector<int>& all, int k) { return std::find(all.begin(), all.end(), k) != all.end(); }

std::string listed(const std::vector<int>& all) {
    std::string text;
    for (std::size_t k = 0; k < all.size(); ++k)
        text += fmt::format("{}{}", k == 0 ? "" : k + 1 == all.size() ? " and " : ", ", all[k] + 1);
    return text;
}

std::string closed_text(const GridStep& step) {
    return fmt::format("{} {} and {} {}", step.rows.size() == 1 ? "row" : "rows", listed(step.rows),
                       step.columns.size() == 1 ? "column" : "columns", listed(step.columns));
}

}  // namespace

Drawing draw_pattern(const GridPattern& wish, const PatternAnswer& answer, double width, double height) {
    Drawing d;
    const double pitch =
        std::min({most_pitch, (width - head - 6) / wish.columns, (height - head - 6) / wish.rows});
    const double x0 = head + pitch / 2, y0 = head + pitch / 2, r = 0.32 * pitch;
    const double right = x0 + pitch * (wish.columns - 0.5), low = y0 + pitch * (wish.rows - 0.5);
    d.width = right + 6, d.height = low + 6;
    d.title = "grid of lights";
    const auto line = [](bool closed) {
        return Style{closed ? Ink::structure : Ink::faint, closed ? 2.0 : 1.0, Ink::none, 1, 0, false};
    };
    const auto number = [&](double x, double y, int k, bool closed) {
        d.text(x, y, fmt::format("{}", k + 1), digits, closed ? Ink::structure : Ink::muted, closed,
               Anchor::middle);
    };
    const int every = pitch < 14 ? 4 : 1;  // numbers that would touch are left out
    for (int k = 0; k < wish.rows; ++k) {
        const bool closed = has(answer.closed.rows, k);
        d.add(Line{head, y0 + pitch * k, right, y0 + pitch * k}, line(closed));
        if (k % every == 0) number(head / 2, y0 + pitch * k + 4, k, closed);
    }
    for (int k = 0; k < wish.columns; ++k) {
        const bool closed = has(answer.closed.columns, k);
        d.add(Line{x0 + pitch * k, head, x0 + pitch * k, low}, line(closed));
        if (k % every == 0) number(x0 + pitch * k, head - 8, k, closed);
    }
    for (int row = 0; row < wish.rows; ++row)
        for (int column = 0; column < wish.columns; ++column) {
            const bool wished = wish.at(row, column), lit = answer.lights.at(row, column);
            const double x = x0 + pitch * column, y = y0 + pitch * row;
            const std::string ref = fmt::format("light:{},{}", row + 1, column + 1);
            d.add(Circle{x, y, r},
                  {lit ? Ink::light : Ink::muted, lit ? 2.0 : 1.0, wished ? Ink::light : Ink::card, 1, 0,
                   false},
                  ref);
            if (lit && !wished) d.add(Circle{x, y, r / 3}, {Ink::none, 0, Ink::attention, 1, 0, false}, ref);
        }
    return d;
}

std::string pattern_text(const GridPattern& wish, const PatternAnswer& answer) {
    if (wish.count() == 0) return "Tap the lights that are wished.";
    if (answer.reachable()) return fmt::format("With plain switches: {} closed.", closed_text(answer.closed));
    std::string others;
    for (std::size_t k = 0; k < answer.others.size() && k < 6; ++k)
        others +=
            fmt::format("{}{}/{}", k ? ", " : "", answer.others[k].first + 1, answer.others[k].second + 1);
    if (answer.others.size() > 6) others += fmt::format(" and {} more", answer.others.size() - 6);
    std::string steps;
    for (std::size_t k = 0; k < answer.scan.size() && k < 6; ++k)
        steps += fmt::format("{}{}", k ? "; " : "", closed_text(answer.scan[k]));
    if (answer.scan.size() > 6) steps += "; …";
    return fmt::format(
        "With plain switches {} others light too (row/column {}). Alone it takes a scan of {} "
        "steps: {}.",
        answer.others.size(), others, answer.scan.size(), steps);
}

}  // namespace elkit
