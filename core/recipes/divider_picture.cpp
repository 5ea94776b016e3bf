// The plot of a sensor at a pin that measures.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/sensor_divider.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double plot_left = 74, plot_right = 480, plot_top = 50, plot_bottom = 222;
constexpr double around = 30, tick_every = 10;  // °C
constexpr double small = 11;                    // letters
constexpr int curve_points = 80;

struct Axes {
    double cold, warm, full;
    double x(double celsius) const {
        return plot_left + (celsius - cold) / (warm - cold) * (plot_right - plot_left);
    }
    double y(double counts) const { return plot_bottom - counts / full * (plot_bottom - plot_top); }
};

void draw_axes(Drawing& d, const Axes& a, const SensorDivider& divider) {
    d.add(Rect{plot_left, plot_top, plot_right - plot_left, plot_bottom - plot_top}, {Ink::muted, 1},
          "frame");
    const double full_volts = divider.reference > 0 ? divider.reference : divider.supply;
    for (int k = 0; k <= 4; ++k) {
        const double counts = a.full * k / 4, y = a.y(counts);
        if (k > 0 && k < 4) d.add(Line{plot_left, y, plot_right, y}, {Ink::faint, 1}, "grid");
        d.text(plot_left - 6, y + 4, fmt::format("{:.0f}", counts), small, Ink::ink, false, Anchor::end);
        d.text(plot_right + 6, y + 4, volts_text(std::stod(fmt::format("{:.3g}", full_volts * k / 4))),
               small);
    }
    for (double t = a.cold; t < a.warm + 1; t += tick_every) {
        const double x = a.x(t);
        if (t > a.cold && t < a.warm - 1) d.add(Line{x, plot_top, x, plot_bottom}, {Ink::faint, 1}, "grid");
        d.text(x, plot_bottom + 16, celsius_text(t), small, Ink::ink, false, Anchor::middle);
        const double ohms = divider.sensor.ohms(t);
        d.text(x, plot_bottom + 32, ohms_text(std::stod(fmt::format("{:.3g}", ohms))), small, Ink::muted,
               false, Anchor::middle);
    }
    d.text(plot_left - 6, plot_top - 12, "counts", small, Ink::muted, false, Anchor::end);
    d.text(plot_right + 6, plot_top - 12, "volts", small, Ink::muted);
    d.text(plot_left - 26, plot_bottom + 32, "sensor", small, Ink::muted, false, Anchor::end);
}

}  // namespace

Drawing draw_divider(const SensorDivider& divider, const std::vector<Trip>& trips) {
    Drawing d;
    d.width = 540, d.height = 262, d.unit_mm = 0.27;
    d.title = "Warmth and counts";
    const double middle = trips.empty() ? 20 : std::round(trips.front().celsius / tick_every) * tick_every;
    const Axes a{middle - around, middle + around, divider.full()};
    // how far a batch spreads each trip point lies behind everything
    for (const Trip& trip : trips) {
        const auto [cold, warm] = divider.spread(trip.counts);
        const double from = a.x(std::max(cold, a.cold)), to = a.x(std::min(warm, a.warm));
        d.add(Rect{from, plot_top, to - from, plot_bottom - plot_top}, {Ink::none, 0, Ink::light, 0.25},
              "spread");
    }
    draw_axes(d, a, divider);
    Polygon curve{{}, false};
    for (int k = 0; k <= curve_points; ++k) {
        const double t = a.cold + (a.warm - a.cold) * k / curve_points;
        curve.points.push_back({a.x(t), a.y(divider.counts(t))});
    }
    d.add(curve, {Ink::structure, 2}, "curve");
    for (std::size_t k = 0; k < trips.size(); ++k) {
        const Trip& trip = trips[k];
        const double x = a.x(trip.celsius), y = a.y(trip.counts);
        d.add(Line{x, plot_top, x, plot_bottom}, {Ink::attention, 1.2, Ink::none, 1, 0, true}, "trip");
        d.add(Circle{x, y, 4}, {Ink::attention, 1, Ink::attention}, "trip");
        d.text((plot_left + plot_right) / 2, plot_top - 26 + 16 * static_cast<double>(k),
               fmt::format("{} {}: {:.0f} counts, {}", trip.words, fmt::format("{:.1f} °C", trip.celsius),
                           trip.counts,
                           volts_text(std::stod(fmt::format("{:.3g}", divider.volts(trip.celsius))))),
               small, Ink::ink, true, Anchor::middle);
    }
    return d;
}

}  // namespace elkit
