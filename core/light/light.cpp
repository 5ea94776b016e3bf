#include "light/light.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "light/brightness.hpp"
#include "recipes/steady_light.hpp"

namespace elkit {
namespace {

Result<OperatingPoint> at(const Circuit& circuit, Conditions c, double battery, const Corner& corner = {}) {
    c.battery = battery;
    return operating_point(circuit, built_in_catalogue(), c, corner);
}

/// The operating points that a string's figures are read from.
struct Points {
    OperatingPoint now, now_low, now_high, fresh, fresh_low, fresh_high;
};

Result<Points> solve_points(const Circuit& circuit, const Conditions& c) {
    // low forward voltage and low resistance together give the most current
    const Corner most{-1, -1, 0}, least{1, 1, 0};
    Points p;
    struct Job {
        OperatingPoint* out;
        double battery;
        Corner corner;
    };
    for (const Job& job :
         {Job{&p.now, c.battery, {}}, Job{&p.now_high, c.battery, most}, Job{&p.now_low, c.battery, least},
          Job{&p.fresh, 1, {}}, Job{&p.fresh_high, 1, most}, Job{&p.fresh_low, 1, least}}) {
        auto op = at(circuit, c, job.battery, job.corner);
        if (!op) return op.error();
        *job.out = std::move(op).value();
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

std::vector<std::string> current_working(const LedString& s, const OperatingPoint& op, const Figure& f) {
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
        w = {"no resistor of its own: the LED curve and the source resistance meet where",
             fmt::format("V LEDs = {} and I = {}", format_quantity(leds, Unit::volt), f.text())};
    }
    w.push_back("solved with the LED's own curve; the currents balance at every net");
    if (f.low) w.push_back(fmt::format("over LED bins and resistor tolerance: {}", f.spread_text()));
    return w;
}

StringResult string_result(const LedString& s, std::size_t index, const Points& p) {
    StringResult r;
    const std::string name = fmt::format("string {}", index + 1);
    const std::string first = s.leds.front()->designator;
    for (const Part* led : s.leds) r.leds.push_back(led->designator);
    r.led_voltage = p.now.part(first).voltage;
    r.current = current_figure(fmt::format("light.current.{}", index + 1), "current now, " + name, first,
                               p.now, p.now_low, p.now_high);
    r.current.working = current_working(s, p.now, r.current);
    r.fresh_current = current_figure(fmt::format("light.fresh_current.{}", index + 1),
                                     "current fresh, " + name, first, p.fresh, p.fresh_low, p.fresh_high);
    r.fresh_current.working = current_working(s, p.fresh, r.fresh_current);
    if (s.shared) r.shared = s.shared->designator;
    const Part* resistor = s.resistor ? s.resistor : s.shared;
    if (!resistor) return r;
    if (s.resistor) r.resistor = resistor->designator;
    const std::string& d = resistor->designator;
    r.resistance = {
        "light.resistor." + d, "series resistor " + d, resistor->number("value"), Unit::ohm, {}, {}, {}};
    r.resistor_power = {"light.power." + d,
                        "power in " + d + ", fresh",
                        p.fresh.part(d).power(),
                        Unit::watt,
                        p.fresh_low.part(d).power(),
                        p.fresh_high.part(d).power(),
                        {}};
    if (*r.resistor_power.low > *r.resistor_power.high)
        std::swap(r.resistor_power.low, r.resistor_power.high);
    r.resistor_power.working = {
        "P = V × I in the resistor, from fresh cells",
        fmt::format("  = {} × {} = {}; worst corner {}", format_quantity(p.fresh.part(d).voltage, Unit::volt),
                    format_quantity(p.fresh.part(d).current, Unit::ampere), r.resistor_power.text(),
                    format_quantity(*r.resistor_power.high, Unit::watt)),
        fmt::format("rated {}: {:.0f} % of it in the worst corner", rating_text(resistor->number("rating")),
                    100 * *r.resistor_power.high / resistor->number("rating"))};
    return r;
}

Figure bin_figure(const LedString& s, int bin, std::size_t charge, const OperatingPoint& op) {
    static constexpr std::array bin_names{"low", "typical", "high"},
        charge_names{"fresh", "half full", "nearly flat"};
    const char* name = bin_names.at(static_cast<std::size_t>(bin));
    Figure f{fmt::format("light.bin.{}.{}", name, charge),
             fmt::format("current of string 1, {} forward voltage, cells {}", name, charge_names.at(charge)),
             op.part(s.leds.front()->designator).current,
             Unit::ampere,
             {},
             {},
             {}};
    f.working = current_working(s, op, f);
    return f;
}

std::string on_target(double current, double target) {
    const double off = current / target - 1;
    if (std::abs(off) < 0.03) return "on target";
    return fmt::format("{:.0f} % {}", std::abs(off) * 100, off > 0 ? "over target" : "under target");
}

std::vector<ResistorOption> resistor_options(const Design& design, const Conditions& c,
                                             const std::vector<double>& owned) {
    std::vector<ResistorOption> options;
    if (!design.light || !design.light->resistor) return options;
    const int leds = string_lengths(*design.light).front();
    struct School {
        const char* label;
        Rounding rounding;
        bool drawer;
    };
    const Part* r1 = design.circuit.find("R1");
    for (const School& s :
         {School{"nearest", Rounding::nearest, false}, School{"never above", Rounding::under, false},
          School{"in the drawer", design.light->rounding, true}}) {
        LightGoals goals = *design.light;
        goals.rounding = s.rounding;
        ResistorOption option{s.label, {}, {}, false, ""};
        if (s.drawer && owned.empty()) continue;
        auto sized = size_resistor(goals, leds, s.drawer ? owned : std::vector<double>{});
        if (!sized) {
            option.note = sized.error().found;
            options.push_back(option);
            continue;
        }
        const double ohms = sized.value().value;
        option.resistance = {std::string("light.option.") + s.label,
                             std::string("series resistor, ") + s.label,
                             ohms,
                             Unit::ohm,
                             {},
                             {},
                             sized.value().working};
        Design trial = design;
        for (Part& part : trial.circuit.parts)
            if (part.kind == "resistor") part.params["value"] = ohms;
        auto op = at(trial.circuit, c, 1);
        const auto strings = led_strings(trial.circuit);
        if (op && !strings.empty()) {
            option.current = {std::string("light.option_current.") + s.label,
                              fmt::format("current fresh with {}", option.resistance.text()),
                              op.value().part(strings[0].leds.front()->designator).current,
                              Unit::ampere,
                              {},
                              {},
                              {}};
            option.current.working = current_working(strings[0], op.value(), option.current);
        }
        option.note = on_target(option.current.value, goals.current);
        option.chosen = r1 && std::abs(r1->number("value") / ohms - 1) < 1e-6 &&
                        (s.drawer ? false : s.rounding == design.light->rounding);
        options.push_back(option);
    }
    const bool any = std::any_of(options.begin(), options.end(), [](const auto& o) { return o.chosen; });
    for (auto& o : options)
        if (!any && r1 && std::abs(r1->number("value") / o.resistance.value - 1) < 1e-6) {
            o.chosen = true;
            break;
        }
    return options;
}

}  // namespace

Conditions lit(const Circuit& circuit, Conditions c) {
    for (const Part& part : circuit.parts)
        if (part.kind == "switch" || part.kind == "double_switch") c.switches[part.designator] = true;
    return c;
}

Result<LightResult> analyse_light(const Design& design, const Conditions& conditions,
                                  const std::vector<double>& owned) {
    const Circuit& circuit = design.circuit;
    auto points = solve_points(circuit, conditions);
    if (!points) return points.error();
    const Points& p = points.value();
    const Conditions on = lit(circuit, conditions);
    LightResult result;
    const auto strings = led_strings(circuit);
    for (std::size_t i = 0; i < strings.size(); ++i)
        result.strings.push_back(string_result(strings[i], i, p));
    if (design.light && design.light->resistor) {
        const auto lengths = string_lengths(*design.light);
        for (std::size_t i = 0; i < result.strings.size() && i < lengths.size(); ++i)
            if (auto sized = size_resistor(*design.light, lengths[i])) {
                auto& f = result.strings[i].resistance;
                f.working = sized.value().working;
                if (std::abs(sized.value().value / f.value - 1) > 1e-6)
                    f.working.push_back(fmt::format("set by hand: {} in place of {}", f.text(),
                                                    format_quantity(sized.value().value, Unit::ohm)));
                f.working.push_back(fmt::format("with {} and the LED's own curve: {} fresh, {} now", f.text(),
                                                result.strings[i].fresh_current.text(),
                                                result.strings[i].current.text()));
            }
    }
    if (!strings.empty())
        for (int bin = 0; bin < 3; ++bin)
            for (std::size_t k = 0; k < 3; ++k) {
                auto op = at(circuit, on, bin_charges[k], {bin - 1.0, 0, 0});
                if (!op) return op.error();
                result.bins[static_cast<std::size_t>(bin)][k] = bin_figure(strings[0], bin, k, op.value());
            }
    result.total = {"light.total",
                    "current from the cells now",
                    p.now.supply_current(),
                    Unit::ampere,
                    std::min(p.now_low.supply_current(), p.now_high.supply_current()),
                    std::max(p.now_low.supply_current(), p.now_high.supply_current()),
                    {}};
    result.total.working = {"sum of all strings, by Kirchhoff's current law at the battery"};
    for (const auto& s : result.strings)
        result.total.working.push_back("  " + s.current.label + ": " + s.current.text());
    auto fresh_lit = at(circuit, on, 1);
    if (!fresh_lit) return fresh_lit.error();
    const Catalogue& catalogue = built_in_catalogue();
    const double fresh_light = total_intensity(circuit, catalogue, fresh_lit.value());
    const double ratio = fresh_light > 0 ? total_intensity(circuit, catalogue, p.now) / fresh_light : 0;
    result.brightness = {
        "light.brightness",
        "perceived brightness now",
        100 * perceived(ratio),
        Unit::percent,
        {},
        {},
        {"CIE lightness of the light now against the light from fresh cells",
         fmt::format("L* = 116 × ({:.3f})^(1/3) − 16 = {:.1f}", ratio, 100 * perceived(ratio))}};
    result.options =
        resistor_options(design, conditions.switches.empty() ? on : lit(circuit, conditions), owned);
    return result;
}

}  // namespace elkit
