#include "light/light.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/brightness.hpp"
#include "quantity/preferred.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

/// The runs that a string's figures are read from.
struct Runs {
    Answer<LongRun> now, now_low, now_high, fresh, fresh_low, fresh_high;
};

/// What they read while one of the lights is on.
struct Points {
    WhileOn now, now_low, now_high, fresh, fresh_low, fresh_high;
    Points(const Circuit& circuit, const Runs& runs, const std::string& light, const std::string& pin = {})
        : now(circuit, runs.now, light, pin),
          now_low(circuit, runs.now_low, light, pin),
          now_high(circuit, runs.now_high, light, pin),
          fresh(circuit, runs.fresh, light, pin),
          fresh_low(circuit, runs.fresh_low, light, pin),
          fresh_high(circuit, runs.fresh_high, light, pin) {}
};

Result<Runs> solve_runs(const Ask& ask, const Keyed<Circuit>& circuit, const Conditions& c) {
    // low forward voltage and low resistance together give the most current
    const Corner most{-1, -1, 0}, least{1, 1, 0};
    const Conditions full = fresh(*circuit, c);
    Runs p;
    struct Job {
        Answer<LongRun>* out;
        const Conditions& conditions;
        Corner corner;
    };
    for (const Job& job :
         {Job{&p.now, c, {}}, Job{&p.now_high, c, most}, Job{&p.now_low, c, least}, Job{&p.fresh, full, {}},
          Job{&p.fresh_high, full, most}, Job{&p.fresh_low, full, least}}) {
        *job.out = ask(RunQuery(circuit, job.conditions, job.corner));
        if (!*job.out) return job.out->error();
    }
    return p;
}

Figure current_figure(std::string id, std::string label, const std::string& led,
                      const OperatingPoint& typical, const OperatingPoint& low, const OperatingPoint& high) {
    Figure f{std::move(id),
             std::move(label),
             typical.part(led).current,
             Unit::ampere,
             low.part(led).current,
             high.part(led).current,
             {}};
    if (*f.low > *f.high) std::swap(f.low, f.high);
    return f;
}

std::vector<std::string> current_working(const LedString& s, const WhileOn& on, const Figure& f) {
    const OperatingPoint& op = *on;
    const double across = std::abs(op.voltage(s.from) - op.voltage(s.to));
    double leds = 0;
    for (const Part* led : s.leds) leds += op.part(led->designator).voltage;
    std::vector<std::string> w;
    if (s.resistor) {
        const double r = s.resistor->number("value");
        w = {"I = (V string − V LEDs) / R",
             fmt::format("  = ({} − {}) / {} = {}", format_quantity(across, Unit::volt),
                         format_quantity(leds, Unit::volt), format_quantity(r, Unit::ohm), f.text())};
    } else {
        w = {s.shared
                 ? fmt::format("it shares {} with other strings: they divide {} where", s.shared->designator,
                               format_quantity(std::abs(op.part(s.shared->designator).current), Unit::ampere))
                 : "no resistor of its own: the LED curve and the source resistance meet where",
             fmt::format("V LEDs = {} and I = {}", format_quantity(leds, Unit::volt), f.text())};
    }
    w.push_back("solved with the LED's own curve; the currents balance at every net");
    if (const LongRun& run = on.run(); run.moves())
        w.push_back(fmt::format(
            "while it is on; {} on average over {}",
            format_quantity(run.mean().part(s.leds.front()->designator).current, Unit::ampere),
            run.steady().repeats ? "a cycle of " + format_quantity(run.steady().period, Unit::second)
                                 : format_quantity(run.steady().period, Unit::second)));
    if (f.low) w.push_back(fmt::format("over LED bins and resistor tolerance: {}", f.spread_text()));
    return w;
}

StringResult string_result(const LedString& s, std::size_t index, const Points& p) {
    StringResult r;
    const std::string name = fmt::format("string {}", index + 1);
    const std::string first = s.leds.front()->designator;
    for (const Part* led : s.leds) r.leds.push_back(led->designator);
    r.led_voltage = p.now->part(first).voltage;
    r.current = current_figure(fmt::format("light.current.{}", index + 1), "current now, " + name, first,
                               *p.now, *p.now_low, *p.now_high);
    r.current.working = current_working(s, p.now, r.current);
    for (const LightDie& die : dies(*s.leds.front(), known_catalogue())) {
        const double candela = die.candela(r.current.value), angle = s.leds.front()->number("viewing_angle");
        if (!(candela > 0)) continue;
        r.current.working.push_back(
            fmt::format("{} gives {} straight ahead", first, format_quantity(candela, Unit::candela)) +
            (angle > 0 ? fmt::format(", about {:.2g} lm within its {:.0f}°", flux(candela, angle), angle)
                       : ""));
    }
    r.fresh_current = current_figure(fmt::format("light.fresh_current.{}", index + 1),
                                     "current fresh, " + name, first, *p.fresh, *p.fresh_low, *p.fresh_high);
    r.fresh_current.working = current_working(s, p.fresh, r.fresh_current);
    if (p.now.run().moves()) {
        r.average = p.now.run().mean_figure(first, s.leds.front()->pins.front().name);
        r.average->id = fmt::format("light.average.{}", index + 1);
    }
    if (s.shared) r.shared = s.shared->designator;
    const Part* resistor = s.resistor ? s.resistor : s.shared;
    if (!resistor) return r;
    if (s.resistor) r.resistor = resistor->designator;
    const std::string& d = resistor->designator;
    r.resistance = {"light.resistor." + d,
                    "series resistor " + d,
                    resistor->number("value"),
                    Unit::ohm,
                    {},
                    {},
                    {"the value of the part in the circuit"}};
    const auto power = [&](const WhileOn& on) { return on.run().mean().part(d).power(); };
    r.resistor_power = {"light.power." + d,
                        "power in " + d + ", fresh",
                        power(p.fresh),
                        Unit::watt,
                        power(p.fresh_low),
                        power(p.fresh_high),
                        {}};
    if (*r.resistor_power.low > *r.resistor_power.high)
        std::swap(r.resistor_power.low, r.resistor_power.high);
    r.resistor_power.working = {
        p.fresh.run().moves() ? "P = V × I in the resistor, from fresh cells, on average"
                              : "P = V × I in the resistor, from fresh cells",
        p.fresh.run().moves()
            ? fmt::format("  = {}; worst corner {}", r.resistor_power.text(),
                          format_quantity(*r.resistor_power.high, Unit::watt))
            : fmt::format("  = {} × {} = {}; worst corner {}",
                          format_quantity(p.fresh->part(d).voltage, Unit::volt),
                          format_quantity(p.fresh->part(d).current, Unit::ampere), r.resistor_power.text(),
                          format_quantity(*r.resistor_power.high, Unit::watt)),
        fmt::format("rated {}: {:.0f} % of it in the worst corner", rating_text(resistor->number("rating")),
                    100 * *r.resistor_power.high / resistor->number("rating"))};
    return r;
}

Figure bin_figure(const LedString& s, std::size_t bin, std::size_t charge, const WhileOn& on) {
    static constexpr std::array bin_names{"low", "typical", "high"},
        charge_names{"fresh", "half full", "nearly flat"};
    const char* name = bin_names.at(bin);
    Figure f{fmt::format("light.bin.{}.{}", name, charge),
             fmt::format("current of string 1, {} forward voltage, cells {}", name, charge_names.at(charge)),
             on->part(s.leds.front()->designator).current,
             Unit::ampere,
             {},
             {},
             {}};
    f.working = current_working(s, on, f);
    return f;
}

Figure inner_light(const Part& part, const LightDie& die, const Points& p) {
    const auto at = [&](const OperatingPoint& op) { return die_current(part, die, op); };
    const std::string where = die.pin.empty() ? part.designator : part.designator + "." + die.pin;
    Figure f{"light.inside." + where,
             fmt::format("{} in {}", die.name, where),
             at(*p.now),
             Unit::ampere,
             std::min(at(*p.now_low), at(*p.now_high)),
             std::max(at(*p.now_low), at(*p.now_high)),
             {}};
    f.working = {fmt::format(
        "{} at {}: gives {}{}", format_quantity(die.intensity * die.in_series, Unit::candela),
        format_quantity(die.test_current, Unit::ampere), format_quantity(die.candela(f.value), Unit::candela),
        p.now.run().moves() ? " while it is on" : "")};
    if (die.side_by_side > 1)
        f.working.push_back(fmt::format("in {:.0f} rows: {} each", die.side_by_side,
                                        format_quantity(f.value / die.side_by_side, Unit::ampere)));
    return f;
}

}  // namespace

Result<LightResult> LightQuery::compute(const Ask& ask) const {
    auto solved = solve_runs(ask, circuit, conditions);
    if (!solved) return solved.error();
    const Runs& runs = solved.value();
    LightResult result;
    const auto strings = led_strings(*circuit);
    for (std::size_t i = 0; i < strings.size(); ++i)
        result.strings.push_back(
            string_result(strings[i], i, Points(*circuit, runs, strings[i].leds.front()->designator)));
    for (const Part& part : circuit->parts)
        if (!is(part, Role::diode_light))
            for (const LightDie& die : dies(part, known_catalogue()))
                result.inside.push_back(
                    inner_light(part, die, Points(*circuit, runs, part.designator, die.pin)));
    const auto total = [](const Answer<LongRun>& run) { return run->mean().supply_current(); };
    result.total = {"light.total",
                    "current from the supply now",
                    total(runs.now),
                    Unit::ampere,
                    std::min(total(runs.now_low), total(runs.now_high)),
                    std::max(total(runs.now_low), total(runs.now_high)),
                    {}};
    if (runs.now->moves()) {
        result.total.working = {"the average of the battery's current over " +
                                format_quantity(runs.now->steady().period, Unit::second)};
    } else {
        result.total.working = {"sum of all strings, by Kirchhoff's current law at the battery"};
        for (const auto& s : result.strings)
            result.total.working.push_back("  " + s.current.label + ": " + s.current.text());
    }
    const Catalogue& catalogue = known_catalogue();
    const double fresh_light = total_intensity(*circuit, catalogue, runs.fresh->mean());
    const bool dark = !is_lit(*circuit, runs.fresh->mean());
    const double ratio =
        !dark && fresh_light > 0 ? total_intensity(*circuit, catalogue, runs.now->mean()) / fresh_light : 0;
    result.brightness = {
        "light.brightness",
        "perceived brightness now",
        100 * perceived(ratio),
        Unit::percent,
        {},
        {},
        {dark ? "it is dark in this situation"
              : "CIE lightness of the light now against the light from fresh cells",
         fmt::format("L* = 116 × ({:.3f})^(1/3) − 16 = {:.1f}", ratio, 100 * perceived(ratio))}};
    return result;
}

Result<BinsQuery::Value> BinsQuery::compute(const Ask& ask) const {
    Value bins;
    const auto strings = led_strings(*circuit);
    if (strings.empty())
        return Error{Fault::design, "circuit", "it has no LED", "an LED, with or without a resistor"};
    for (std::size_t bin = 0; bin < 3; ++bin)
        for (std::size_t k = 0; k < 3; ++k) {
            Conditions c = conditions;
            c.battery = bin_charges[k];
            const auto run = ask(RunQuery(circuit, c, {static_cast<double>(bin) - 1, 0, 0}));
            if (!run) return run.error();
            bins[bin][k] =
                bin_figure(strings[0], bin, k, WhileOn(*circuit, run, strings[0].leds.front()->designator));
        }
    return bins;
}

std::map<std::string, double> glow_of(const Circuit& circuit, const OperatingPoint& op) {
    std::map<std::string, double> glow;
    for (const Part& part : circuit.parts) {
        if (!is(part, Role::light)) continue;
        for (const LightDie& die : dies(part, known_catalogue()))
            glow[part.designator] = std::max(
                glow[part.designator], std::min(1.0, perceived(die_current(part, die, op) / die.side_by_side /
                                                               (die.test_current / 2))));
    }
    return glow;
}

}  // namespace elkit
