#include "recipes/edge.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

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
    int place_of(double value) const {
        const double part =
            light ? std::log(value / low) / std::log(high / low) : (value - low) / (high - low);
        return static_cast<int>(std::lround(steps * (falls ? 1 - part : part)));
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

namespace {

/// What a probe comes to at a place of a ramp.
class Walk {
  public:
    Walk(const Circuit& circuit, const Expectation& x, const Conditions& conditions, const Corner& corner)
        : ramp(ramp_of(x)), circuit_(circuit), x_(x), conditions_(conditions), corner_(corner) {}
    const Ramp ramp;

    /// The most in the later half of a wait there, by which what changes has changed, after a wait at the
    /// ramp's beginning; once it is more than `enough`, no more is asked. Errors as simulate().
    Result<double> most_at(int place, double enough = std::numeric_limits<double>::infinity()) const {
        RunRequest request;
        request.probes = {x_.probe}, request.balance = false;
        request.changes = {{x_.wait / 2, at(place), {}}};  // by then too
        request.until = 1.5 * x_.wait;
        request.enough = {x_.probe, enough, request.until - x_.wait / 2};
        auto run = simulate(circuit_, known_catalogue(), at(0), request, corner_);
        if (!run) return run.error();
        const Recording& r = run.value();
        const auto& values = r.trace(x_.probe)->values;
        double most =  // what rests has no samples
            value_at(r.time, values, std::min(r.time.back(), request.until - x_.wait / 4));
        for (std::size_t k = 0; k < values.size(); ++k)
            if (r.time[k] >= request.until - x_.wait / 2) most = std::max(most, values[k]);
        return most;
    }

  private:
    Conditions at(int place) const {
        Conditions c = conditions_;
        (ramp.light ? c.lux : c.celsius) = ramp.at(place);
        if (x_.infrared_per_lux) c.infrared = c.lux * *x_.infrared_per_lux;
        return c;
    }
    const Circuit& circuit_;
    const Expectation& x_;
    const Conditions& conditions_;
    const Corner& corner_;
};

}  // namespace

Result<double> edge_level(const Circuit& circuit, const Expectation& x, const Conditions& conditions,
                          const Corner& corner) {
    const Walk walk(circuit, x, conditions, corner);
    const Ramp& ramp = walk.ramp;
    const auto begin = walk.most_at(0), end = walk.most_at(ramp.steps);
    if (!begin) return begin.error();
    if (!end) return end.error();
    const double on = ramp.comes_on ? end.value() : begin.value(),
                 off = ramp.comes_on ? begin.value() : end.value();
    if (!(on > 2 * std::abs(off)))
        return Error{
            Fault::design, x.label,
            fmt::format("it does not change between {} and {}", ramp.text(ramp.low), ramp.text(ramp.high)),
            "that it is on at one end and off at the other"};
    int before = 0, after = ramp.steps;
    const int near = ramp.place_of(x.target), beside = std::max(1, ramp.steps / 16);  // a look there first
    for (int look = 0; after - before > 1; ++look) {
        const int place = look < 2 ? near + (look == 0 ? beside : -beside) : 0;
        const int between = place > before && place < after ? place : (before + after) / 2;
        const auto most = walk.most_at(between, on / 2);
        if (!most) return most.error();
        ((most.value() > on / 2) == ramp.comes_on ? after : before) = between;
    }
    return ramp.at((before + after) / 2.0);
}

}  // namespace elkit
