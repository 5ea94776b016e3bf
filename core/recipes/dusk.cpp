#include "recipes/dusk.hpp"

#include <fmt/format.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"

namespace elkit {
namespace {

constexpr double ramp_step = 1.04, ramp_hold = 0.05;  // of the light; s that it stays so

}  // namespace

Result<double> dusk_level(const Circuit& circuit, const Expectation& x, Conditions conditions,
                          const Corner& corner) {
    const bool wakes = x.reading == "wakes";
    const double dark = x.low / 3, light = x.high * 3;
    const int steps = static_cast<int>(std::ceil(std::log(light / dark) / std::log(ramp_step)));
    const auto lux = [&](double place) {
        return wakes ? light * std::pow(ramp_step, -place) : dark * std::pow(ramp_step, place);
    };
    RunRequest request;
    request.probes = {x.probe}, request.balance = false;
    request.until = (steps + 1) * ramp_hold;
    const auto set = [&](double now) {
        conditions.lux = now;
        if (x.infrared_per_lux) conditions.infrared = now * *x.infrared_per_lux;
    };
    for (int k = 1; k <= steps; ++k) {
        set(lux(k));
        request.changes.push_back({k * ramp_hold, conditions, {}});
    }
    set(lux(0));
    auto run = simulate(circuit, known_catalogue(), conditions, request, corner);
    if (!run) return run.error();
    const Recording& r = run.value();
    const auto& values = r.trace(x.probe)->values;
    const double in_dark = wakes ? values.back() : values.front(),
                 by_day = wakes ? values.front() : values.back();
    if (!(in_dark > 2 * std::abs(by_day)))
        return Error{Fault::design, x.label,
                     fmt::format("it does not change between {} and {}", format_quantity(dark, Unit::lux),
                                 format_quantity(light, Unit::lux)),
                     "that it is on in the dark and off by day"};
    for (const LevelCrossing& crossing : level_crossings(r.time, values, in_dark / 2))
        if (crossing.rising == wakes) return lux(std::floor(crossing.time / ramp_hold) - 0.5);
    return Error{Fault::design, x.label, "it neither comes on nor goes off", "one edge"};
}

}  // namespace elkit
