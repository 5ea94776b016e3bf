#include "light/heat.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "engine/models.hpp"
#include "light/judgement.hpp"
#include "light/strings.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

constexpr double told_from = 0.01;                       // W
constexpr double full_until = 70, nothing_at = 155;      // °C, a resistor's derating
constexpr double much_wasted = 0.5, of_the_power = 0.4;  // W, and share, in resistors: a driver is better
constexpr double driver_efficiency = 0.85;               // of usual converter modules that keep a current

class HeatTeller {
  public:
    HeatTeller(const Circuit& circuit, const Conditions& conditions, const LongRun& typical,
               const LongRun& worst)
        : circuit_(circuit), conditions_(conditions), typical_(typical), worst_(worst) {}

    Result<Heat> tell() {
        std::set<std::string> in_strings;
        for (const LedString& s : led_strings(circuit_))
            for (const Part* r : {s.resistor, s.shared})
                if (r) in_strings.insert(r->designator);
        double lights = 0, resistors = 0, wasted = 0;
        for (const Part& part : circuit_.parts) {
            const double watts = typical_.mean().part(part.designator).power();
            if (is(part, Role::diode_light)) {
                lights += watts;
                if (auto done = add_led(part); !done) return done.error();
            } else if (is(part, Role::resistor)) {
                resistors += watts;
                if (in_strings.count(part.designator)) wasted += watts;
                add_resistor(part);
            }
        }
        std::stable_sort(heat_.rows.begin(), heat_.rows.end(), [](const HeatRow& a, const HeatRow& b) {
            return a.outside.value > b.outside.value;
        });
        heat_.lights = {"heat.lights",        "power in all LEDs", lights, Unit::watt, {}, {},
                        {"on average, fresh"}};
        heat_.resistors = {"heat.resistors",     "power in all resistors", resistors, Unit::watt, {}, {},
                           {"on average, fresh"}};
        if (wasted > much_wasted && wasted > of_the_power * (wasted + lights))
            heat_.wrong_way = fmt::format(
                "Resistors turn {} into heat for {} in LEDs. A converter that keeps the current (an LED "
                "driver "
                "module, about {:.0f} %) would waste {}.",
                format_quantity(wasted, Unit::watt), format_quantity(lights, Unit::watt),
                100 * driver_efficiency, format_quantity(lights * (1 / driver_efficiency - 1), Unit::watt));
        return std::move(heat_);
    }

  private:
    Figure power_of(const Part& part) const {
        Figure f{"heat.power." + part.designator,
                 "power in " + part.designator,
                 typical_.mean().part(part.designator).power(),
                 Unit::watt,
                 {},
                 worst_.mean().part(part.designator).power(),
                 {}};
        f.high = std::max(*f.high, f.value), f.low = f.value;
        f.working = {
            fmt::format("P = V × I on average, fresh: {}; with LEDs of low forward voltage and "
                        "resistors at the low end {}",
                        f.text(), format_quantity(*f.high, Unit::watt))};
        return f;
    }

    /// The row of alike parts, new or not; nullptr if the part joined one.
    HeatRow* row_for(const Part& part, const std::string& what, const Figure& power) {
        for (HeatRow& row : heat_.rows)
            if (row.what == what && std::abs(row.power.value - power.value) < 0.01 * power.value)
                return row.parts.push_back(part.designator), nullptr;
        heat_.rows.push_back({});
        heat_.rows.back().what = what, heat_.rows.back().parts = {part.designator};
        heat_.rows.back().power = power;
        return &heat_.rows.back();
    }

    static Figure celsius(const std::string& id, const std::string& label, double value, double worst,
                          std::string working) {
        return {id, label, value, Unit::celsius, value, worst, {std::move(working)}};
    }

    Result<void> add_led(const Part& led) {
        const Figure power = power_of(led);
        if (*power.high < told_from) return success();
        HeatRow* row = row_for(led, shop_name(led), power);
        if (!row) return success();
        const LedType* type = known_catalogue().led(led.text("type"));
        const double air = conditions_.celsius_of(led.designator), whole = led.number("thermal_resistance"),
                     within = std::min(type ? type->thermal_case : 0.4 * whole, 0.9 * whole);
        const double p = power.value, most = *power.high;
        row->inside = celsius("heat.inside." + led.designator, "junction of " + led.designator,
                              air + whole * p, air + whole * most,
                              fmt::format("{} + {:.0f} K/W × {}", degrees(air), whole, power.text()));
        row->outside = celsius("heat.outside." + led.designator, "body of " + led.designator,
                               air + (whole - within) * p, air + (whole - within) * most,
                               fmt::format("{} + ({:.0f} − {:.0f} within it) K/W × {}", degrees(air), whole,
                                           within, power.text()));
        auto law = junction_model(led, known_catalogue(), hot_junction, 0);
        if (!law) return law.error();
        const double dies = std::max(1.0, led.number("dies")), rating = led.number("max_current");
        double low = 0, high = rating > 0 ? rating : 1;
        const auto reaches = [&](double amps) {
            return amps > 0 ? air + whole * amps * dies * law.value().voltage_at(amps) : air;
        };
        if (reaches(high) > hot_junction)
            for (int step = 0; step < 50; ++step)
                (reaches((low + high) / 2) > hot_junction ? high : low) = (low + high) / 2;
        row->allowed = {
            "heat.allowed." + led.designator,
            "current that " + led.designator + " may have",
            high,
            Unit::ampere,
            {},
            {},
            {fmt::format("its rating is {}; at {} its junction is at {} in air of {}",
                         format_quantity(rating, Unit::ampere), format_quantity(high, Unit::ampere),
                         degrees(reaches(high)), degrees(air))}};
        const double now = typical_.mean().part(led.designator).current;
        row->too_much = *row->inside.high > hot_junction || now > 1.001 * high;
        row->burns = *row->outside.high > hot_to_touch;
        if (const double sink = std::floor((cool_junction - air) / most); row->too_much)
            row->remark = sink > within ? fmt::format(
                                              "a heat sink: {:.0f} K/W from junction to air, {:.0f} K/W "
                                              "of it the sink and its paste",
                                              sink, sink - within)
                                        : std::string("less current: no heat sink is enough");
        else if (row->burns)
            row->remark = "burns fingers: out of reach, or a larger heat sink";
        return success();
    }

    void add_resistor(const Part& resistor) {
        const Figure power = power_of(resistor);
        if (*power.high < told_from) return;
        HeatRow* row = row_for(resistor, shop_name(resistor), power);
        if (!row) return;
        const double air = conditions_.celsius_of(resistor.designator), rating = resistor.number("rating"),
                     each = (nothing_at - full_until) / rating, ohms = resistor.number("value");
        const auto at = [&](double watts) { return air + each * watts; };
        row->inside = row->outside =
            celsius("heat.outside." + resistor.designator, "surface of " + resistor.designator,
                    at(power.value), at(*power.high),
                    fmt::format("{} + ({:.0f} − {:.0f} °C) / {} × {}", degrees(air), nothing_at, full_until,
                                rating_text(rating), power.text()));
        const double may = rating * std::clamp((nothing_at - air) / (nothing_at - full_until), 0.0, 1.0);
        row->allowed = {"heat.allowed." + resistor.designator,
                        "power that " + resistor.designator + " may take",
                        may,
                        Unit::watt,
                        {},
                        {},
                        {fmt::format("its rating up to {}, nothing at {}; in air of {}", degrees(full_until),
                                     degrees(nothing_at), degrees(air))}};
        row->too_much = *power.high > may;
        row->burns = *row->outside.high > hot_to_touch;
        if (!row->too_much && !row->burns && 2 * *power.high <= rating) return;
        const double one = resistor_rating_at_least(2 * *power.high),
                     half = resistor_rating_at_least(*power.high);
        const std::string pair = fmt::format(
            "two of {} side by side or {} in a row, {} each", format_quantity(2 * ohms, Unit::ohm),
            format_quantity(ohms / 2, Unit::ohm), std::isfinite(half) ? rating_text(half) : "over 5 W");
        row->remark = std::isfinite(one) && one > rating ? rating_text(one) + ", or " + pair : pair;
    }

    const Circuit& circuit_;
    const Conditions& conditions_;
    const LongRun &typical_, &worst_;
    Heat heat_;
};

}  // namespace

std::string degrees(double celsius) { return fmt::format("{:.0f} °C", celsius); }

Result<Heat> HeatQuery::compute(const Ask& ask) const {
    const auto typical = ask(RunQuery(circuit, conditions));
    if (!typical) return typical.error();
    const auto worst = ask(RunQuery(circuit, conditions, Corner{-1, -1, 0}));
    if (!worst) return worst.error();
    return HeatTeller(*circuit, conditions, *typical, *worst).tell();
}

}  // namespace elkit
