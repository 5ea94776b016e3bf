#include "recipes/edge.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"

namespace elkit {
namespace {

constexpr double light_step = 1.04, light_around = 3;  // of the light; times what is allowed
constexpr double warmth_steps = 40, warmth_around = 1.5, least_around = 1;  // of the width allowed; °C

/// What changes, from one end to the other.
struct Ramp {
    bool light = false, falls = false, comes_on = false;
    double low = 0, high = 0;  ///< lx or °C
    int steps = 1;

    double at(double place) const {
        const double part = falls ? 1 - place / steps : place / steps;
        return light ? low * std::pow(high / low, part) : low + (high - low) * part;
    }
    std::string text(double value) const { return format_quantity(value, light ? Unit::lux : Unit::celsius); }
};

Ramp ramp_of(const Expectation& x) {
    Ramp r;
    r.light = x.reading == "wakes" || x.reading == "sleeps";
    r.falls = x.reading == "wakes" || x.reading.ends_with("cooling");
    r.comes_on = x.reading == "wakes" || x.reading.starts_with("on ");
    if (r.light) {
        r.low = x.low / light_around, r.high = x.high * light_around;
        r.steps = static_cast<int>(std::ceil(std::log(r.high / r.low) / std::log(light_step)));
    } else {
        const double width = x.high - x.low, around = std::max(least_around, warmth_around * width);
        r.low = x.low - around, r.high = x.high + around;
        r.steps = static_cast<int>(std::ceil((r.high - r.low) / width * warmth_steps));
    }
    return r;
}

}  // namespace

bool is_edge(const std::string& reading) {
    return reading == "wakes" || reading == "sleeps" || reading.ends_with("cooling") ||
           reading.ends_with("warming");
}

Result<double> edge_level(const Circuit& circuit, const Expectation& x, Conditions conditions,
                          const Corner& corner) {
    const Ramp ramp = ramp_of(x);
    RunRequest request;
    request.probes = {x.probe}, request.balance = false;
    request.until = (ramp.steps + 1) * x.wait;
    const auto set = [&](int place) {
        (ramp.light ? conditions.lux : conditions.celsius) = ramp.at(place);
        if (x.infrared_per_lux) conditions.infrared = conditions.lux * *x.infrared_per_lux;
    };
    for (int k = 1; k <= ramp.steps; ++k) {
        set(k);
        request.changes.push_back({k * x.wait, conditions, {}});
    }
    set(0);
    auto run = simulate(circuit, known_catalogue(), conditions, request, corner);
    if (!run) return run.error();
    const Recording& r = run.value();
    const auto& values = r.trace(x.probe)->values;
    // of each step its later half, in which what changes has changed; what rests has no samples there
    std::vector<double> most(static_cast<std::size_t>(ramp.steps) + 1, 0);
    for (std::size_t k = 0; k < most.size(); ++k)
        most[k] = value_at(r.time, values, (static_cast<double>(k) + 0.75) * x.wait);
    for (std::size_t k = 0; k < values.size(); ++k) {
        const double place = r.time[k] / x.wait;
        if (place - std::floor(place) >= 0.5 && place < ramp.steps + 1)
            most[static_cast<std::size_t>(place)] =
                std::max(most[static_cast<std::size_t>(place)], values[k]);
    }
    const double on = ramp.comes_on ? most.back() : most.front(),
                 off = ramp.comes_on ? most.front() : most.back();
    if (!(on > 2 * std::abs(off)))
        return Error{
            Fault::design, x.label,
            fmt::format("it does not change between {} and {}", ramp.text(ramp.low), ramp.text(ramp.high)),
            "that it is on at one end and off at the other"};
    for (std::size_t k = 1; k < most.size(); ++k)
        if ((most[k] > on / 2) == ramp.comes_on) return ramp.at(static_cast<double>(k) - 0.5);
    return Error{Fault::design, x.label, "it neither comes on nor goes off", "one edge"};
}

}  // namespace elkit
