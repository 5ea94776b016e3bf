#include "planning/lights_feed.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>

#include "circuit/part_kind.hpp"
#include "engine/history.hpp"
#include "light/strings.hpp"
#include "planning/comparison.hpp"
#include "quantity/format.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

/// Conditions in which a light gives light, and what the gadget reads then.
struct LitRun {
    Conditions conditions;
    std::string situation;  ///< empty: as the strip is set
    WhileOn on;
};

/// Without lights, as the strip is set.
std::optional<LitRun> lit_run(const Ask& ask, const Design& design, const Keyed<Circuit>& circuit,
                              const Conditions& now, const HungLights& lights) {
    const std::string light = lights.strings.empty() ? std::string() : lights.strings.front();
    const auto look = [&](const Conditions& c, const std::string& situation) -> std::optional<LitRun> {
        LitRun run{fresh(*circuit, c), situation, WhileOn(*circuit, {}, light)};
        run.on = WhileOn(*circuit, ask(RunQuery(circuit, run.conditions)), light);
        if (!run.on) return std::nullopt;
        if (!light.empty() && std::abs(run.on->part(light).current) < gives_light) return std::nullopt;
        return run;
    };
    const auto situations = situations_of(ask, design, circuit);
    if (!now.as_set && !situations.empty())
        if (auto run = look(with_strip(situations.front(), now), situations.front().name)) return run;
    if (auto run = look(now, {})) return run;
    for (const Situation& s : situations)
        if (auto run = look(s.under({}), s.name)) return run;
    return std::nullopt;
}

/// One of the states as conditions.
struct FeedState {
    LightsFeed LightsFeeds::*feed;
    double battery, celsius;
};

double across(const OperatingPoint& op, const LightsPlace& place) {
    return op.voltage(place.plus) - op.voltage(place.minus);
}

/// A out of a place into all of its strings.
double into_strings(const OperatingPoint& op, const LightsPlace& place) {
    double amps = 0;
    for (const std::string& first : place.strings) amps += std::abs(op.part(first).current);
    return amps;
}

class FeedMeter {
  public:
    FeedMeter(const Circuit& circuit, const LightsPlace& place, const OperatingPoint& lit,
              const FeedSpan& span)
        : circuit_(circuit), place_(place), lit_(lit), span_(span) {
        load_ = circuit.free_designator("R");
    }

    /// Whether its lights go on shining as they do at the moment when they are looked at: not those of what
    /// a press has begun.
    bool lasts(const Conditions& c) const {
        const auto rest = operating_point(circuit_, known_catalogue(), after(c), {}, &lit_);
        return place_.strings.empty() || !rest ||
               into_strings(rest.value(), place_) > 0.5 * into_strings(lit_, place_);
    }

    /// What its own lights get, and resistors in place of them, each solved from the state before it, until
    /// the volts fall away or no more current can be had.
    std::optional<LightsFeed> at_rest(const Conditions& c) const {
        auto source = source_model(*circuit_.source(), known_catalogue(), c);
        if (!source) return std::nullopt;
        std::vector<LightsFeed::Point> curve;
        OperatingPoint before = lit_;
        double volts = across(before, place_), ohms = std::numeric_limits<double>::infinity(), most = 0;
        for (const double wanted : loads()) {
            ohms = std::min(std::max(volts, 1e-3) / wanted, 0.9 * ohms);
            Circuit loaded = place_.circuit;
            loaded.parts.push_back(
                {load_, "resistor", {{"value", ohms}}, {{"a", place_.plus}, {"b", place_.minus}}, {}});
            auto op = operating_point(loaded, known_catalogue(), after(c), {}, &before);
            if (!op) break;
            before = std::move(op).value();
            volts = across(before, place_);
            const double amps = before.part(load_).current;
            if (amps < 0.98 * most) {  // a fuse that opens, a state that does not last
                curve.push_back({1.02 * most, 0, before.supply_current()});
                break;
            }
            most = std::max(most, amps);
            curve.push_back({amps, volts, before.supply_current()});
        }
        const auto lights = operating_point(circuit_, known_catalogue(), after(c), {}, &lit_);
        if (lights && into_strings(lights.value(), place_) > span_.current / 4) {
            const LightsFeed::Point own{into_strings(lights.value(), place_), across(lights.value(), place_),
                                        lights.value().supply_current()};
            // less for a lesser load: a latch that such a load lets go
            std::erase_if(
                curve, [&](const LightsFeed::Point& p) { return p.amps < own.amps && p.volts < own.volts; });
            curve.push_back(own);
        }
        if (curve.empty()) return std::nullopt;
        return LightsFeed(source.value().voltage, std::move(curve));
    }

  private:
    Conditions after(const Conditions& c) const { return keeps_to_itself(circuit_) ? c : c.after_events(); }
    /// A: close together up to somewhat more than all strings take, then on to a short.
    std::vector<double> loads() const {
        constexpr int close = 8, far = 4;
        const double least = span_.current / 4, ratio = 6.0 * span_.most;
        std::vector<double> amps;
        for (int k = 0; k < close; ++k) amps.push_back(least * std::pow(ratio, k / (close - 1.0)));
        for (int k = 0; k < far; ++k) amps.push_back(2.5 * amps.back());
        return amps;
    }

    const Circuit& circuit_;
    const LightsPlace& place_;
    const OperatingPoint& lit_;
    const FeedSpan& span_;
    std::string load_;
};

/// From the moment when the lights are on: less volts by what stands between, more by the source's own
/// resistance as they take more.
std::optional<LightsFeed> while_on(const Part& source, const LightsPlace& place, const OperatingPoint& op,
                                   const Conditions& c) {
    auto model = source_model(source, known_catalogue(), c);
    if (!model) return std::nullopt;
    const double amps = into_strings(op, place);
    const bool stepped_up = across(op, place) > op.part(op.source).voltage;
    Thevenin at{across(op, place), stepped_up ? 0 : model.value().lasting()};
    at.voltage += amps * at.resistance;
    // what else is drawn stays as it is; what is stepped up is drawn in proportion
    const double others = stepped_up ? 0 : op.supply_current() - amps,
                 share = stepped_up ? op.supply_current() / std::max(amps, gives_light) : 1;
    return LightsFeed(model.value().voltage,
                      {{0, at.voltage, others}, {1, at.voltage - at.resistance, others + share}});
}

/// Whether it does otherwise when it gets warmer: then only the warmth of the situation counts.
bool senses_warmth(const Circuit& circuit) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [](const Part& part) {
        return is(part, Role::sensor) && !is(part, Role::light_sensor);
    });
}

/// Whether a coil hangs on them that drives their volts up.
bool fed_by_pulses(const Circuit& circuit, const LightsPlace& place, const LitRun& run) {
    if (!run.on.run().moves() || across(*run.on, place) < 0.98 * run.on->part(run.on->source).voltage)
        return false;
    return meets_coil(circuit, place.plus, place.minus);
}

}  // namespace

LightsFeed::LightsFeed(const Thevenin& source, double contact)
    : LightsFeed(source.voltage,
                 {{0, source.voltage, 0}, {1, source.voltage - source.lasting() - contact, 1}}) {}

LightsFeed::LightsFeed(double source_volts, std::vector<Point> points) : source_volts_(source_volts) {
    std::sort(points.begin(), points.end(), [](const Point& a, const Point& b) { return a.amps < b.amps; });
    for (const Point& p : points) {
        if (!points_.empty() && p.amps <= points_.back().amps * 1.0001) continue;
        points_.push_back(p);
        if (points_.size() > 1)  // solved to some microvolts
            points_.back().volts = std::min(p.volts, points_[points_.size() - 2].volts);
    }
    if (points_.empty()) points_.push_back({});
    if (points_.size() == 1) {
        const Point& only = points_.front();
        points_.push_back({only.amps + 1, only.volts, only.drawn + 1});
    }
}

std::size_t LightsFeed::piece(double amps) const {
    std::size_t k = 1;
    while (k + 1 < points_.size() && points_[k].amps < amps) ++k;
    return k;
}

Thevenin LightsFeed::at(double amps) const {
    const std::size_t k = piece(amps);
    const Point &a = points_[k - 1], &b = points_[k];
    const double ohms = (a.volts - b.volts) / (b.amps - a.amps);
    return {a.volts + ohms * a.amps, ohms};
}

double LightsFeed::volts(double amps) const {
    const Thevenin line = at(amps);
    return std::max(0.0, line.voltage - amps * line.resistance);
}

double LightsFeed::highest() const {
    const Point &a = points_[points_.size() - 2], &b = points_.back();
    const double ohms = (a.volts - b.volts) / (b.amps - a.amps);
    return ohms > 0 ? b.amps + b.volts / ohms : std::numeric_limits<double>::infinity();
}

double LightsFeed::drawn(double amps) const {
    const std::size_t k = piece(amps);
    const Point &a = points_[k - 1], &b = points_[k];
    return a.drawn + (b.drawn - a.drawn) * (amps - a.amps) / (b.amps - a.amps);
}

namespace {

std::array<FeedState, 5> states(double cold, double hot) {
    return {FeedState{&LightsFeeds::usual, 1, bench_warmth}, FeedState{&LightsFeeds::cold, 1, cold},
            FeedState{&LightsFeeds::hot, 1, hot}, FeedState{&LightsFeeds::half, 0.5, bench_warmth},
            FeedState{&LightsFeeds::flat, 0.1, bench_warmth}};
}

}  // namespace

Result<LightsFeeds> feeds_of(const Part& source, double contact, double cold, double hot) {
    LightsFeeds feeds;
    for (const FeedState& s : states(cold, hot)) {
        Conditions c;
        c.battery = s.battery, c.celsius = s.celsius;
        auto model = source_model(source, known_catalogue(), c);
        if (!model) return model.error();
        feeds.*s.feed = LightsFeed(model.value(), contact);
    }
    return feeds;
}

std::optional<FedPlace> fed_place(const Ask& ask, const Design& design, const LightsPlace& place,
                                  const Conditions& now, const FeedSpan& span) {
    const Keyed<Circuit> circuit(design.circuit);
    const auto lit = lit_run(ask, design, circuit, now, place);
    const bool moves = lit && lit->on.run().moves();
    if (!lit || (moves && place.strings.empty())) return std::nullopt;
    const OperatingPoint& op = *lit->on;
    FedPlace fed;
    fed.lit = lit->conditions;
    if (fed_by_pulses(*circuit, place, *lit)) {
        fed.by_coil = fed.pulsed = true;
        fed.words = fmt::format("a coil in pulses, {} to {}", place.plus, place.minus);
        return fed;
    }
    fed.pulsed = moves;
    fed.celsius = senses_warmth(*circuit) ? lit->conditions.celsius : bench_warmth;
    const FeedMeter meter(*circuit, place, op, span);
    const bool rests = !moves && meter.lasts(lit->conditions);
    for (const FeedState& s : states(span.cold, span.hot)) {
        Conditions c = lit->conditions;
        c.battery = s.battery;
        c.celsius = senses_warmth(*circuit) ? fed.celsius : s.celsius;
        std::optional<LightsFeed> feed;
        if (rests)
            feed = meter.at_rest(c);
        else if (const WhileOn on(*circuit, ask(RunQuery(circuit, c)), place.strings.front()); on)
            feed = while_on(*circuit->source(), place, *on, c);
        if (feed) fed.feeds.*s.feed = std::move(*feed);
        if (!feed && s.feed == &LightsFeeds::usual) return std::nullopt;
    }
    fed.words = fmt::format("{} between {} and {}, from {} at the source",
                            format_quantity(across(op, place), Unit::volt), place.plus, place.minus,
                            format_quantity(op.part(op.source).voltage, Unit::volt));
    if (!lit->situation.empty()) fed.words += fmt::format(", in \"{}\"", lit->situation);
    return fed;
}

std::optional<double> lit_current(const Ask& ask, const Design& design, const HungLights& lights,
                                  const Conditions& now) {
    const auto lit = lit_run(ask, design, Keyed<Circuit>(design.circuit), now, lights);
    return lit ? std::optional(std::abs(lit->on->part(lights.strings.front()).current)) : std::nullopt;
}

}  // namespace elkit
