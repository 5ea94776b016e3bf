#pragma once
#include <algorithm>
#include <cmath>
#include <vector>

namespace elkit {

/// A table y(x), x ascending: straight lines between the points, held flat outside them.
struct Curve {
    struct Point {
        double x, y;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points;

    double at(double x) const {
        if (points.empty()) return 0;
        if (x <= points.front().x) return points.front().y;
        if (x >= points.back().x) return points.back().y;
        const auto right = std::upper_bound(points.begin(), points.end(), x,
                                            [](double v, const Point& p) { return v < p.x; });
        const auto left = right - 1;
        return left->y + (right->y - left->y) * (x - left->x) / (right->x - left->x);
    }
    /// The same with log x between the points, for tables over decades of current; x > 0.
    double at_log(double x) const {
        Curve logs;
        for (const Point& p : points) logs.points.push_back({std::log(p.x), p.y});
        return logs.at(std::log(std::max(x, 1e-12)));
    }
    bool operator==(const Curve&) const = default;
};

}  // namespace elkit
