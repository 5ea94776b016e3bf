#include "board/copper/track_current.hpp"

#include <cmath>

namespace elkit {
namespace {

constexpr double mil = 0.0254;  // mm
constexpr double external = 0.048, by_rise = 0.44, by_area = 0.725;

}  // namespace

double track_current(double width, double thickness, double rise) {
    const double area = width / mil * (thickness / 1000 / mil);
    return external * std::pow(rise, by_rise) * std::pow(area, by_area);
}

double track_width(double current, double thickness, double rise) {
    const double area = std::pow(current / (external * std::pow(rise, by_rise)), 1 / by_area);
    return area * mil / (thickness / 1000 / mil);
}

}  // namespace elkit
