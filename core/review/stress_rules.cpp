// What parts bear in the long run, against what they may: currents, voltages, power, supply, drain when off.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_words.hpp"
#include "light/rating.hpp"
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
        case Limit::Reading::together:
            return run.together(d, limit.pins);
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
            } else if (limit.reading != Limit::Reading::lasting && limit.reading != Limit::Reading::rms) {
                pins.resize(std::min<std::size_t>(pins.size(), 1));
            }
            if (pins.empty()) pins.emplace_back();
            for (const std::string& pin : pins) {
                const double value = borne(*run, part, limit, pin);
                if (!(most > 0) || value <= most) continue;
                const bool peak = limit.reading == Limit::Reading::lasting ||
                                  limit.reading == Limit::Reading::together ||
                                  limit.reading == Limit::Reading::across;
                const Unit unit = unit_of(limit.reading);
                const std::string what = fill_words(
                    limit.what, part, [&](const std::string& word) { return word == "pin" ? pin : ""; });
                auto& f = add_finding(out, limit.serious ? Severity::error : Severity::warning, limit.station,
                                      "part:" + part.designator,
                                      fmt::format("{}: {} {}{}, it may have {}", part.designator, what,
                                                  peak && run->moves() ? "peaks at " : "",
                                                  format_quantity(value, unit), format_quantity(most, unit)),
                                      limit.advice, what);
                add_goal_remedies(e.design, "part-rating", part.designator, f);
                add_larger_types(part, limit.param, value, f);
            }
        }
    }
}

constexpr double may_reach = 0.6;  // of its limit: bins and tolerances may do the rest

void pulsed_led(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run || !run->moves()) return;  // a steady one is judged in its worst corner by led-current
    const Conditions& on = e.fresh;
    for (const Part& part : e.circuit->parts) {
        const double limit = is(part, Role::diode_light) ? part.number("max_current") : 0;
        if (!(limit > 0)) continue;
        const bool sure = led_overdriven(part, *run);
        const double typical = run->lasting(part.designator, "a");
        if (!sure && typical < may_reach * pulse_limit(part, *run)) continue;
        const auto worst = sure ? Answer<LongRun>() : e.run({-1, -1, 0});
        if (!sure && (!worst || !led_overdriven(part, *worst))) continue;
        const double mean = run->mean().part(part.designator).current,
                     peak = (sure ? *run : *worst).lasting(part.designator, "a");
        const bool slow = !quick_pulses(*run);
        auto& f = add_finding(
            out, sure ? Severity::error : Severity::warning, "light", "part:" + part.designator,
            mean > limit ? fmt::format("{} gets {} on average, it may have {}", part.designator, amps(mean),
                                       amps(limit))
            : slow       ? fmt::format("{} {} {} while it is on, it may have {}", part.designator,
                                 sure ? "gets" : "may get", amps(peak), amps(limit))
                         : fmt::format("{} {} at {}, pulses may reach {}", part.designator,
                                 sure ? "peaks" : "may peak", amps(peak), amps(pulse_share * limit)),
            std::string(sure ? "" : "In the worst corner of LED bins and tolerances. ") +
                "Above its rating an LED ages fast and may die at once.");
        add_raised_resistor(
            e, part.designator,
            [led = part.designator, on](const Circuit& circuit) {
                const auto trial = long_run(circuit, known_catalogue(), on, {-1, -1, 0});
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
        if (high <= allowed)
            f.remedies.push_back(turn_round(part.designator));
        else
            f.remedies.push_back(
                circuit_remedy("Use one without polarity",
                               [name = part.designator](Circuit& circuit) -> std::optional<Error> {
                                   auto next = replace_kind(circuit, name, kind_with(Role::capacitor));
                                   if (!next) return next.error();
                                   circuit = std::move(next).value();
                                   return {};
                               }));
    }
}

void led_reverse_voltage(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        const double limit = is(part, Role::diode_light) ? part.number("reverse_voltage") : 0;
        if (!(limit > 0)) continue;
        const double back = -run->between(part.net("a"), part.net("k")).first;
        if (back <= limit) continue;
        auto& f = add_finding(
            out, Severity::error, "light", "part:" + part.designator,
            fmt::format("{} gets {} backwards, it stands {}", part.designator, volts(back), volts(limit)),
            "It breaks down and fades for good. A small diode across it, the other way "
            "round, keeps the voltage off.");
        f.remedies.push_back(add_between("Add a diode across " + part.designator, kind_with(Role::blocks), 0,
                                         part.net("k"), part.net("a")));
    }
}

/// Other types of the same kind that work at both voltages and bear what flows in the part now.
void add_types_that_work(const Part& part, const SupplyPins& pins, double least, double most,
                         const LongRun& run, Finding& f) {
    for (const PartType& type : known_catalogue().types) {
        if (type.kind != part.kind || type.id == part.text("type")) continue;
        double low = 0;
        for (const std::string& key : pins.low) low += type.value(key);
        const bool bears = std::none_of(
            part_kind(part.kind)->limits.begin(), part_kind(part.kind)->limits.end(),
            [&](const Limit& limit) {
                const double most_borne = limit.param.empty() ? NAN : type.value(limit.param);
                return std::any_of(limit.pins.begin(), limit.pins.end(), [&](const std::string& pin) {
                    return !part.net(pin).empty() && borne(run, part, limit, pin) > most_borne;
                });
            });
        if (low <= least && type.value(pins.high) >= most && bears)
            f.remedies.push_back(set_param("Use the " + type.name, part.designator, "type", type.id));
    }
}

/// Conditions in which a part has its supply: here, or else in the first situation in which a switch or a
/// button lets it have some; here if none does.
Conditions powered(const Evidence& e, const SupplyRange& range) {
    constexpr double unpowered = 0.3;  // V: less than any part works with
    const auto has = [&](const Answer<LongRun>& run) {
        return run && std::abs(run->between(range.plus, range.minus).second) > unpowered;
    };
    if (has(e.run())) return e.fresh;
    for (const Situation& s : e.situations)
        if (has(e.run_in(s))) return fresh(*e.circuit, s.under({}));
    return e.fresh;
}

void chip_supply(const Evidence& e, std::vector<Finding>& out) {
    const auto ranges = supply_ranges(*e.circuit);
    if (ranges.empty()) return;
    const auto power = e.power();
    for (const SupplyRange& range : ranges) {
        const Conditions there = powered(e, range);
        const auto run = e.ask(RunQuery(e.circuit, there));
        if (!run) return;
        Conditions emptied = there;
        if (power) emptied.battery = power->typical.charge_left;
        const auto flat = power ? e.ask(RunQuery(e.circuit, emptied)) : Answer<LongRun>();
        const std::string& d = range.designator;
        const double fresh = run->between(range.plus, range.minus).second;
        const Part& part = *e.circuit->find(d);
        if (fresh < -0.3) continue;  // swapped: told as such
        if (fresh > range.high && range.high > 0) {
            auto& f = add_finding(out, Severity::error, "circuit", "part:" + d,
                                  fmt::format("{} gets {}, it stands {}", d, volts(fresh), volts(range.high)),
                                  "From fresh cells. Above its highest supply a part is destroyed.");
            add_types_that_work(part, *part_kind(part.kind)->supply, fresh, fresh, *run, f);
            const Part* cells = e.circuit->source();
            const double fits = std::floor(range.high / fresh * cells->number("count"));
            if (is(*cells, Role::cells) && fits >= 1)
                f.remedies.push_back(
                    set_param(fmt::format("{:.0f} cells instead of {:.0f}", fits, cells->number("count")),
                              cells->designator, "count", fits));
            continue;
        }
        if (!flat || !power) continue;
        // a lamp that something switches: dark here, and never-lit tells if it is everywhere
        if (is(part, Role::light) && std::abs(run->mean().part(d).current) < gives_light) continue;
        const double last = flat->mean().voltage(range.plus) - flat->mean().voltage(range.minus);
        const double least = std::min(fresh, last);
        if (least >= 0.999 * range.low && power->typical.ended_part != d) continue;
        const double left = power->typical.charge_left;
        constexpr double nothing_lost = 0.01;  // of the charge: then the cells are simply empty
        if (fresh >= range.low && left < nothing_lost) continue;
        auto& f = add_finding(
            out, range.stops && fresh < range.low ? Severity::error : Severity::warning, "power", "part:" + d,
            fresh < range.low ? fmt::format("{} wants {} at least and gets {} from fresh cells", d,
                                            volts(range.low), volts(fresh))
                              : fmt::format("{} wants {} at least; the cells fall below it {:.0f} % full", d,
                                            volts(range.low), 100 * left),
            range.stops ? "Below its lowest supply it stops or misbehaves, and the rest of the cells is lost."
                        : "Below it, it works weakly or not at all.");
        add_types_that_work(part, *part_kind(part.kind)->supply, std::min(least, 0.999 * range.low), fresh,
                            *run, f);
        const Part* source = e.circuit->source();
        if (is(*source, Role::cells) && !e.design.blocks.empty())  // its recipe sizes the rest
            f.remedies.push_back(
                set_param("One cell more", source->designator, "count", source->number("count") + 1));
        add_more_cells(
            e,
            [range, c = there](const Circuit& circuit) {
                for (const double charge : {0.0, 1.0}) {
                    Conditions at = c;
                    at.battery = charge;
                    const auto trial = long_run(circuit, known_catalogue(), at);
                    const double gets = trial ? trial.value().mean().voltage(range.plus) -
                                                    trial.value().mean().voltage(range.minus)
                                              : 0;
                    if (gets < range.low || (range.high > 0 && gets > range.high)) return false;
                }
                return true;
            },
            f);
    }
}

void standby_drain(const Evidence& e, std::vector<Finding>& out) {
    const auto power = can_be_off(*e.circuit) ? e.power() : Answer<PowerResult>();
    if (!power || power->never_off) return;
    const Figure &drain = power->standby_current, &life = power->standby;
    if (drain.value < 1e-7 || !(life.value < 5)) return;  // years
    std::string through;
    for (const auto& [part, current] : power->drains)
        through += fmt::format("{}{}: {}", through.empty() ? "" : ", ", part, amps(current));
    add_finding(out, life.value < 1 ? Severity::warning : Severity::note, "power", "field:standby",
                fmt::format("In standby it still takes {}", drain.text()),
                fmt::format("{}: the cells last {} on the shelf of the user. {}",
                            power->standby_current.working.front(), life.text(),
                            through.empty() ? "" : "It goes through " + through + "."));
    const Part& source = *e.circuit->source();
    out.back().remedies.push_back(circuit_remedy(
        "Put a switch into its lead",
        [name = source.designator,
         plus = source.pins.front().name](Circuit& circuit) -> std::optional<Error> {
            auto next = insert_at_pin(circuit, name, plus, {{}, kind_with(Role::stays), {}, {}, {}}, "BAT+");
            if (!next) return next.error();
            circuit = std::move(next).value();
            return {};
        }));
}

}  // namespace

std::vector<Rule> stress_rules() {
    return {
        {"electrolytic-reversed",
         "an electrolytic capacitor the wrong way round",
         "it leaks and may burst",
         "lowest voltage across it over a cycle, fresh cells; 0.3 V is what its oxide stands",
         {On::conditions},
         electrolytic_reversed,
         Over::every},
        {"part-rating",
         "a part over its current, voltage or power",
         "it overheats, saturates or breaks down; contacts burn, outputs sag",
         "steady state or its peaks over a cycle, fresh cells, everything on, against the limits of its kind",
         {On::conditions},
         part_rating,
         Over::every},
        {"pulsed-led",
         "an LED over its average or pulse current",
         "it ages fast or dies at once",
         "mean and peak over a cycle, fresh cells; pulses of 10/3 of the rating as in typical datasheets",
         {On::conditions},
         pulsed_led,
         Over::every},
        {"led-reverse",
         "an LED with more than its reverse voltage",
         "it breaks down and fades",
         "lowest voltage across it over a cycle",
         {On::conditions},
         led_reverse_voltage,
         Over::every},
        {"chip-supply",
         "a part outside its supply range over the cells' life",
         "too much destroys it, too little stops it",
         "averages fresh and at the end of the discharge",
         {On::conditions, On::brief},
         chip_supply},
        {"standby-drain",
         "current in standby",
         "the gadget empties its cells on the shelf",
         "steady state with switches open, or in daylight; five years on the shelf are bench practice",
         {On::conditions, On::brief},
         standby_drain},
    };
}

}  // namespace elkit
