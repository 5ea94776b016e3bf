// What parts bear in the long run, against what they may: currents, voltages, power, supply, drain when off.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "circuit/part_words.hpp"
#include "power/standby.hpp"
#include "power/supply_range.hpp"
#include "quantity/preferred.hpp"
#include "recipes/blocks.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

double highest(const LongRun& run, const Part& part, const std::string& plus, const std::string& minus) {
    const auto [low, high] = run.between(part.net(plus), part.net(minus));
    return std::max(std::abs(low), std::abs(high));
}

Unit unit_of(Limit::Reading reading) {
    return reading == Limit::Reading::across  ? Unit::volt
           : reading == Limit::Reading::power ? Unit::watt
                                              : Unit::ampere;
}

/// What a part bears, as its limit reads it; `pin` is the first of the limit's pins, or each in turn.
double borne(const LongRun& run, const Part& part, const Limit& limit, const std::string& pin) {
    const std::string& d = part.designator;
    switch (limit.reading) {
        case Limit::Reading::lasting:
            return run.lasting(d, pin);
        case Limit::Reading::rms:
            return run.rms(d, pin);
        case Limit::Reading::mean:
            return std::abs(run.mean().part(d).current);
        case Limit::Reading::across:
            return highest(run, part, limit.pins.at(0), limit.pins.at(1));
        case Limit::Reading::power:
            return run.mean().part(d).power();
    }
    return 0;
}

void part_rating(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind) continue;
        for (const Limit& limit : kind->limits) {
            const double most = part.number(limit.param);
            std::vector<std::string> pins = limit.pins;
            if (pins == std::vector<std::string>{"*"}) {
                pins.clear();
                for (const Pin& pin : part.pins) pins.push_back(pin.name);
            } else {
                pins.resize(std::min<std::size_t>(pins.size(), 1));
            }
            if (pins.empty()) pins.emplace_back();
            for (const std::string& pin : pins) {
                const double value = borne(*run, part, limit, pin);
                if (!(most > 0) || value <= most) continue;
                const bool peak =
                    limit.reading == Limit::Reading::lasting || limit.reading == Limit::Reading::across;
                const Unit unit = unit_of(limit.reading);
                const std::string what = fill_words(
                    limit.what, part, [&](const std::string& word) { return word == "pin" ? pin : ""; });
                add_finding(out, limit.serious ? Severity::error : Severity::warning, limit.station,
                            "part:" + part.designator,
                            fmt::format("{}: {} {}{}, it may have {}", part.designator, what,
                                        peak && run->moves() ? "peaks at " : "", format_quantity(value, unit),
                                        format_quantity(most, unit)),
                            limit.advice, what);
            }
        }
    }
}

constexpr double pulse_share = 10.0 / 3;  // typical datasheets: 100 mA for a tenth of the time at 30 mA

bool led_overdriven(const Part& led, const LongRun& run) {
    const double limit = led.number("max_current");
    return run.mean().part(led.designator).current > limit ||
           run.lasting(led.designator, "a") > pulse_share * limit;
}

void pulsed_led(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run || !run->moves()) return;  // a steady one is judged in its worst corner by led-current
    const Conditions& on = e.fresh;
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::diode_light) || !led_overdriven(part, *run)) continue;
        const double limit = part.number("max_current"), mean = run->mean().part(part.designator).current;
        auto& f = add_finding(
            out, Severity::error, "light", "part:" + part.designator,
            mean > limit ? fmt::format("{} gets {} on average, it may have {}", part.designator, amps(mean),
                                       amps(limit))
                         : fmt::format("{} peaks at {}, pulses may reach {}", part.designator,
                                       amps(run->lasting(part.designator, "a")), amps(pulse_share * limit)),
            "Above its rating an LED ages fast and may die at once.");
        add_raised_resistor(
            e, part.designator,
            [led = part.designator, on](const Circuit& circuit) {
                const auto trial = long_run(circuit, built_in_catalogue(), on);
                return trial && !led_overdriven(*circuit.find(led), trial.value());
            },
            f);
    }
}

void electrolytic_reversed(const Evidence& e, std::vector<Finding>& out) {
    constexpr double allowed = 0.3;  // V, what a film of oxide stands without harm
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::polar)) continue;
        const auto [low, high] = run->between(part.net("+"), part.net("-"));
        if (low >= -allowed) continue;
        auto& f =
            add_finding(out, Severity::error, "circuit", "part:" + part.designator,
                        fmt::format("{} stands {} the wrong way round", part.designator, volts(-low)),
                        "An electrolytic capacitor leaks and may burst: wear glasses when you test it.");
        if (high < -low) f.remedies.push_back(turn_round(part.designator));
    }
}

void led_reverse_voltage(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        const LedType* type =
            is(part, Role::diode_light) ? built_in_catalogue().led(part.text("type")) : nullptr;
        if (!type) continue;
        const double back = -run->between(part.net("a"), part.net("k")).first;
        if (back <= type->reverse_voltage) continue;
        auto& f = add_finding(out, Severity::error, "light", "part:" + part.designator,
                              fmt::format("{} gets {} backwards, it stands {}", part.designator, volts(back),
                                          volts(type->reverse_voltage)),
                              "It breaks down and fades for good. A small diode across it, the other way "
                              "round, keeps the voltage off.");
        f.remedies.push_back(add_between("Add a diode across " + part.designator, kind_with(Role::blocks), 0,
                                         part.net("k"), part.net("a")));
    }
}

/// Other types of the same kind that work at both voltages.
void add_types_that_work(const Part& part, const SupplyPins& pins, double least, double most, Finding& f) {
    for (const PartType& type : built_in_catalogue().types) {
        if (type.kind != part.kind || type.id == part.text("type")) continue;
        double low = 0;
        for (const std::string& key : pins.low) low += type.value(key);
        if (low <= least && type.value(pins.high) >= most)
            f.remedies.push_back(set_param("Use the " + type.name, part.designator, "type", type.id));
    }
}

void chip_supply(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    const auto ranges = supply_ranges(*e.circuit);
    if (ranges.empty()) return;
    const auto power = e.power();
    const auto flat = e.flat_run();
    for (const SupplyRange& range : ranges) {
        const std::string& d = range.designator;
        const double fresh = run->between(range.plus, range.minus).second;
        const Part& part = *e.circuit->find(d);
        if (fresh > range.high && range.high > 0) {
            auto& f = add_finding(out, Severity::error, "circuit", "part:" + d,
                                  fmt::format("{} gets {}, it stands {}", d, volts(fresh), volts(range.high)),
                                  "From fresh cells. Above its highest supply a part is destroyed.");
            add_types_that_work(part, *part_kind(part.kind)->supply, fresh, fresh, f);
            continue;
        }
        if (!flat || !power) continue;
        const double last = flat->mean().voltage(range.plus) - flat->mean().voltage(range.minus);
        const double least = std::min(fresh, last);
        if (least >= 0.999 * range.low && power->typical.ended_part != d) continue;
        const double left = power->typical.charge_left;
        auto& f = add_finding(
            out, range.stops && fresh < range.low ? Severity::error : Severity::warning, "power", "part:" + d,
            fresh < range.low ? fmt::format("{} wants {} at least and gets {} from fresh cells", d,
                                            volts(range.low), volts(fresh))
                              : fmt::format("{} wants {} at least; the cells fall below it {:.0f} % full", d,
                                            volts(range.low), 100 * left),
            range.stops ? "Below its lowest supply it stops or misbehaves, and the rest of the cells is lost."
                        : "Below it, it works weakly or not at all.");
        add_types_that_work(part, *part_kind(part.kind)->supply, std::min(least, 0.999 * range.low), fresh,
                            f);
        const Part* source = e.circuit->source();
        if (is(*source, Role::cells))
            f.remedies.push_back(
                set_param("One cell more", source->designator, "count", source->number("count") + 1));
    }
}

void standby_drain(const Evidence& e, std::vector<Finding>& out) {
    const auto power = can_be_off(*e.circuit) ? e.power() : Answer<PowerResult>();
    if (!power) return;
    const Figure &drain = power->standby_current, &life = power->standby;
    if (drain.value < 1e-7 || !(life.value < 5)) return;  // years
    std::string through;
    for (const auto& [part, current] : power->drains)
        through += fmt::format("{}{}: {}", through.empty() ? "" : ", ", part, amps(current));
    add_finding(out, life.value < 1 ? Severity::warning : Severity::note, "power", "field:standby",
                fmt::format("With everything off it still takes {}", drain.text()),
                fmt::format("{}: the cells last {} on the shelf of the user. {}", off_text(*e.circuit),
                            life.text(), through.empty() ? "" : "It goes through " + through + "."));
}

}  // namespace

std::vector<Rule> stress_rules() {
    return {
        {"electrolytic-reversed",
         "an electrolytic capacitor the wrong way round",
         "it leaks and may burst",
         "lowest voltage across it over a cycle, fresh cells; 0.3 V is what its oxide stands",
         {On::conditions},
         electrolytic_reversed},
        {"part-rating",
         "a part over its current, voltage or power",
         "it overheats, saturates or breaks down; contacts burn, outputs sag",
         "steady state or its peaks over a cycle, fresh cells, everything on, against the limits of its kind",
         {On::conditions},
         part_rating},
        {"pulsed-led",
         "an LED over its average or pulse current",
         "it ages fast or dies at once",
         "mean and peak over a cycle, fresh cells; pulses of 10/3 of the rating as in typical datasheets",
         {On::conditions},
         pulsed_led},
        {"led-reverse",
         "an LED with more than its reverse voltage",
         "it breaks down and fades",
         "lowest voltage across it over a cycle",
         {On::conditions},
         led_reverse_voltage},
        {"chip-supply",
         "a part outside its supply range over the cells' life",
         "too much destroys it, too little stops it",
         "averages fresh and at the end of the discharge",
         {On::conditions, On::brief},
         chip_supply},
        {"standby-drain",
         "current with everything off",
         "the gadget empties its cells on the shelf",
         "steady state with switches open, or in daylight; five years on the shelf are bench practice",
         {On::conditions, On::brief},
         standby_drain},
    };
}

}  // namespace elkit
