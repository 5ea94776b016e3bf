#include "recipes/sensor_flasher.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/sensor_law.hpp"
#include "recipes/timer_parts.hpp"

namespace elkit {
namespace {

constexpr double fastest_seen = 8;  // Hz: a quicker light looks unsteady rather than quick
constexpr double too_far = 1.5;     // times what was asked for
constexpr double slower = 0.1;      // than asked for, if no capacitor is nearer

/// What it senses, and by what.
struct Sense {
    Unit unit;
    Result<SensorFit> (*fit)(const PointList&);
    const char *part, *more;
    std::string at(double state) const { return format_quantity(state, unit); }
    Expectation in(Expectation e, double state) const {
        (unit == Unit::celsius ? e.celsius : e.lux) = state;
        return e;
    }
};

constexpr Sense warmness{Unit::celsius, fitted_thermistor, "THpace", "warmer"};
constexpr Sense brightness{Unit::lux, fitted_ldr, "LDRpace", "brighter"};

/// The cycle of a timer through a fixed resistor and a sensor of these ohms.
class Paced {
  public:
    Paced(const TimerChip& chip, double farads) : chip_(chip), capacitor_(timing_capacitor(farads)) {}
    HighLow times(double fixed, double sensor) const {
        HighLow t = plain_times(fixed, sensor, capacitor_, chip_.volts());
        t.low = charging_time(sensor + chip_.of("discharge_resistance"), capacitor_, 0, 2 * chip_.volts() / 3,
                              chip_.volts() / 3);
        return t;
    }
    double rate(double fixed, double sensor) const { return 1 / times(fixed, sensor).period(); }
    /// The fixed resistor for a rate; the least one where even that is too much.
    double fixed_for(double rate_, double sensor, double least) const {
        double ohms = least, step = most_timing;
        while (step > 1e-6 * ohms) {
            if (rate(ohms + step, sensor) > rate_) ohms += step;
            step /= 2;
        }
        return ohms;
    }

  private:
    const TimerChip& chip_;
    TimingCapacitor capacitor_;
};

/// So that neither the timer's leak nor its discharge pin minds.
double least_fixed(const TimerChip& chip) {
    return std::max(least_timing, 2 * chip.volts() / chip.of("max_discharge"));
}

/// Capacitor [F] for which the cycle takes the two times: both share what the fixed resistor adds.
double exact_farads(double calm_rate, double lively_rate, double calm_ohms, double lively_ohms) {
    return (1 / calm_rate - 1 / lively_rate) / (2 * std::log(2.0) * (calm_ohms - lively_ohms));
}

/// The sensor in the two states that the goals name. Errors: those of its fit; states that are the wrong way
/// round; a sensor of too few or too many ohms for a timer.
struct Sensed {
    SensorFit fit;
    double calm = 0, lively = 0;  ///< Ω, of sensor and guard
    double guard = 0;             ///< Ω in a row with it; 0: none
};

/// What keeps the discharge pin within its current while the sensor has least: the capacitor goes through
/// both.
double guard_for(const SensorFit& fit, const Sense& sense, const TimerChip& chip) {
    constexpr double daylight = 1e4;  // lx
    if (sense.unit != Unit::lux) return 0;
    const double lacks = 1.1 * 2 * chip.volts() / 3 / chip.of("max_discharge") - fit.ohms(daylight);
    return lacks > 0 ? preferred_at_least(lacks, Series::e24) : 0;
}

Result<Sensed> sensed(const Goals& goals, const Sense& sense, const TimerChip& chip) {
    auto fit = sense.fit(goals.points("readings"));
    if (!fit) return fit.error();
    const double calm = goals.number("calm"), lively = goals.number("lively");
    if (!(lively > calm))
        return Error{
            Fault::design, "lively",
            fmt::format("{} is not {} than {}", sense.at(lively), sense.more, sense.at(calm)),
            fmt::format("more than that: its ohms fall, and it blinks faster, the {} it is", sense.more)};
    Sensed s{fit.value(), fit.value().ohms(calm), fit.value().ohms(lively)};
    for (const auto& [state, ohms] : {std::pair(calm, s.calm), std::pair(lively, s.lively)})
        if (ohms < least_timing / 2 || ohms > most_timing)
            return Error{Fault::design, "readings",
                         fmt::format("it has {} at {}", format_quantity(ohms, Unit::ohm), sense.at(state)),
                         "500 Ω to 3 MΩ, that a timer can go by"};
    s.guard = guard_for(s.fit, sense, chip);
    s.calm += s.guard, s.lively += s.guard;
    return s;
}

/// Rates over the range of the sensor, as the working of how much it changes.
Figure change_figure(const Sensed& s, const Sense& sense, const Goals& goals, const Paced& paced,
                     double fixed) {
    const double calm = goals.number("calm"), lively = goals.number("lively");
    const double change = paced.rate(fixed, s.lively) / paced.rate(fixed, s.calm);
    Figure f{"recipe.change",
             "times as fast",
             change,
             Unit::none,
             {},
             {},
             {s.fit.law,
              fmt::format("the sensor alone changes {:.3g} times; {} beside it, that stays, leaves {:.3g}",
                          (s.calm - s.guard) / (s.lively - s.guard),
                          format_quantity(fixed + 2 * s.guard, Unit::ohm), change)}};
    if (s.guard > 0)
        f.working.push_back(
            fmt::format("{} in a row with it: in full daylight it has so little that the "
                        "discharge pin would carry too much",
                        format_quantity(s.guard, Unit::ohm)));
    for (int k = -1; k <= 5; ++k) {
        const double part = k / 4.0;
        const double state =
            sense.unit == Unit::lux ? calm * std::pow(lively / calm, part) : calm + part * (lively - calm);
        const double ohms = s.fit.ohms(state);
        f.working.push_back(fmt::format("{}: {}, {}", sense.at(std::stod(fmt::format("{:.3g}", state))),
                                        format_quantity(ohms, Unit::ohm),
                                        format_quantity(paced.rate(fixed, ohms + s.guard), Unit::hertz)));
    }
    return f;
}

/// What the rate is over a batch, with the sensor at these ohms.
std::pair<double, double> spread(double rate, double sensor, double fixed, const SensorFit& fit,
                                 double farads, double sag, double warming) {
    const double part = 2 * sensor / (fixed + 2 * sensor), c = capacitor_tolerance(farads);
    const double r = part * fit.tolerance() + (1 - part) * usual_tolerance("resistor");
    return {rate * (1 - sag) / ((1 + c) * (1 + r)), rate * (1 + sag) * (1 + warming) / ((1 - c) * (1 - r))};
}

/// By how much its own current speeds it up at most: half of the supply across a thermistor warms it.
double own_warming(const Sensed& s, double volts, double celsius) {
    if (s.fit.part.kind != "thermistor") return 0;
    const double watts = volts * volts / 4 / s.lively, by = watts / s.fit.part.number("dissipation");
    return s.fit.ohms(celsius) / s.fit.ohms(celsius + by) - 1;
}

Result<Sized> size_paced(const Goals& goals, const Environment& environment, const Sense& sense) {
    auto begun = begin_timer(goals, environment);
    if (!begun) return begun.error();
    auto& [s, feed, chip] = begun.value();
    auto sensor = sensed(goals, sense, chip);
    if (!sensor) return sensor.error();
    const Sensed& known = sensor.value();
    const double c = goals.number("capacitor"), rate = goals.number("rate"), fast = goals.number("fast");
    const Paced paced(chip, c);
    const double least = least_fixed(chip), exact = paced.fixed_for(rate, known.calm, least);
    const std::string calm = sense.at(goals.number("calm")), lively = sense.at(goals.number("lively"));
    if (const double most = paced.rate(least, known.calm); most < rate / (1 + 1.01 * slower))
        return Error{Fault::design, "capacitor",
                     fmt::format("with {} it blinks at most {} times a second at {}",
                                 format_quantity(c, Unit::farad), format_quantity(most, Unit::none), calm),
                     format_quantity(preferred_at_most(c * most / rate, Series::e6), Unit::farad)};
    if (auto good = check_timing("the fixed resistor", exact, c); !good) return good.error();
    add_timer(s, chip, feed, {"TIMING", "TIMING", "DISCHARGE", {}});
    auto fixed = s.chosen_resistor(
        "Rfixed", "fixed resistor", exact, feed.net, "DISCHARGE",
        {fmt::format("T = ln 2 (R + 2 Rsensor) C = {} at {}, where the sensor has {}",
                     format_quantity(1 / rate, Unit::second), calm,
                     format_quantity(known.calm - known.guard, Unit::ohm)),
         "the smaller it is beside the sensor, the more the rate changes; it feeds the discharge pin too"});
    if (!fixed) return fixed.error();
    const double calm_rate = paced.rate(fixed.value(), known.calm),
                 lively_rate = paced.rate(fixed.value(), known.lively);
    if (lively_rate > too_far * fast || lively_rate < fast / too_far)
        return Error{Fault::design, "rate then",
                     fmt::format("at {} it would be {}", lively, format_quantity(lively_rate, Unit::hertz)),
                     fmt::format("about that; the sensor changes {:.3g} times between the two",
                                 known.calm / known.lively)};
    Part pace = known.fit.part;
    pace.designator = sense.part,
    pace.pins = {{"a", known.guard > 0 ? "SENSE" : "DISCHARGE"}, {"b", "TIMING"}};
    if (known.guard > 0) s.resistor("Rguard", known.guard, "DISCHARGE", "SENSE");
    s.add(std::move(pace));
    s.capacitor("Ctiming", c, "TIMING", "GND");
    const bool lit = goals.text("drives") != "nothing";
    const double sag = 0.02 + (lit ? lights_of(goals).total() * feed.fresh.lasting() / chip.volts() : 0);
    const double warming = own_warming(known, chip.volts(), goals.number("lively"));
    for (const auto& [state, wanted, got, ohms] :
         {std::tuple(goals.number("calm"), rate, calm_rate, known.calm),
          std::tuple(goals.number("lively"), fast, lively_rate, known.lively)}) {
        const auto [low, high] = spread(got, ohms, fixed.value(), known.fit, c, sag, warming);
        s.expect(sense.in(
            {"rate at " + sense.at(state), "net:OUT", wanted, low, high, "frequency", Unit::hertz}, state));
    }
    if (auto added = add_driven_lights(s, goals, chip, feed); !added) return added.error();
    Figure f = change_figure(known, sense, goals, paced, fixed.value());
    if (warming > 0.005)
        f.working.push_back(fmt::format("its own current warms the sensor: up to {:.1f} % faster at {}",
                                        100 * warming, lively));
    s.result(std::move(f));
    s.result(own_current(chip, chip.volts() / (fixed.value() + known.calm) / 2,
                         "through the timing parts on average"));
    return s.done();
}

/// The largest capacitor that is not much larger: what it lacks the fixed resistor makes up.
double capacitor_below(double farads, const Environment& environment) {
    double best = 0, least = 1e9;
    for (const double c : environment.capacitors.empty()
                              ? preferred_around(std::clamp(farads, 1e-10, 1e-3), Series::e6)
                              : environment.capacitors) {
        if (c <= farads * (1 + slower)) best = std::max(best, c);
        least = std::min(least, c);
    }
    return best > 0 ? best : least;
}

/// Unless it is said, as dramatic as the sensor allows and an eye can follow.
Goals complete_paced(Goals g, const std::set<std::string>& said, const Environment& environment,
                     const Sense& sense) {
    const double volts = fresh_volts(g, environment);
    complete_drive(g, said, volts);
    if (!(volts > 0)) return g;
    const auto chip = timer_chip(g, {"ON", {volts, 0, {}}});
    if (!chip) return g;
    const auto sensor = sensed(g, sense, chip.value());
    if (!sensor) return g;
    const double calm = sensor.value().calm, lively = sensor.value().lively;
    const double least = least_fixed(chip.value()), rate = g.number("rate");
    double fast = g.number("fast");
    if (!said.contains("fast")) {
        fast = rate * (least + 2 * calm) / (least + 2 * lively);
        if (fast > fastest_seen && rate * 1.2 < fastest_seen) fast = fastest_seen;
    }
    if (!said.contains("capacitor"))
        g.values["capacitor"] =
            fast > rate ? capacitor_below(exact_farads(rate, fast, calm, lively), environment)
                        : capacitor_below(1 / (rate * std::log(2.0) * (least + 2 * calm)), environment);
    if (said.contains("fast")) return g;
    const Paced paced(chip.value(), g.number("capacitor"));
    const double got = paced.rate(paced.fixed_for(rate, calm, least), lively);
    g.values["fast"] = std::stod(fmt::format("{:.2g}", got));
    return g;
}

Recipe paced_by(const char* id, const Sense& sense) {
    Recipe r = declared_recipe(id).value();
    r.size = [sense](const Goals& g, const Environment& e) { return size_paced(g, e, sense); };
    r.complete = [sense](Goals g, const std::set<std::string>& said, const Environment& e) {
        return complete_paced(std::move(g), said, e, sense);
    };
    r.variants = capacitor_variants;
    return r;
}

}  // namespace

Recipe warmth_flasher() { return paced_by("warmth-flasher", warmness); }
Recipe light_flasher() { return paced_by("light-flasher", brightness); }

}  // namespace elkit
