// Questions that come before a circuit: which arrangement, which limiter, which brightness.
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "cli/lights_asked.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "planning/limiters.hpp"
#include "planning/match.hpp"
#include "planning/trials.hpp"

namespace elkit::cli {
namespace {

const char* word_of(Arrangement::Verdict verdict) {
    switch (verdict) {
        case Arrangement::Verdict::sound:
            return "sound";
        case Arrangement::Verdict::doubtful:
            return "doubtful";
        case Arrangement::Verdict::impossible:
            break;
    }
    return "impossible";
}

Json arrangement_json(const Arrangement& a) {
    Json strings = Json::array();
    if (a.verdict != Arrangement::Verdict::impossible)
        for (const AlikeStringsOfArray& s : a.strings)
            strings.push_back({{"strings", s.strings},
                               {"leds", s.leds},
                               {"resistance_ohm", s.resistance},
                               {"rating_W", number(s.rating)},
                               {"current", figure_json(s.current)},
                               {"power", figure_json(s.power)}});
    Json json{{"name", a.name()},
              {"per_string", a.per_string},
              {"verdict", word_of(a.verdict)},
              {"reason", a.reason},
              {"strings", strings}};
    if (a.verdict == Arrangement::Verdict::impossible) return json;
    json["total"] = figure_json(a.total), json["efficiency"] = figure_json(a.efficiency);
    json["half"] = figure_json(a.half), json["flat"] = figure_json(a.flat);
    json["wiring"] = a.wiring;
    return json;
}

void print_arrangement(const Arrangement& a) {
    if (a.verdict == Arrangement::Verdict::impossible)
        return fmt::print("{:<18} not possible: {}\n", a.name(), a.reason);
    const AlikeStringsOfArray& s = a.strings.front();
    fmt::print("{:<18} {:>8} {:>9} {:>12} {:>9} {:>6} {:>6} {:>6}  {}\n", a.name(),
               s.resistance > 0 ? format_quantity(s.resistance, Unit::ohm) : "none", s.current.text(),
               s.current.spread_text(), a.total.text(), a.efficiency.text(2), a.half.text(2), a.flat.text(2),
               a.reason);
}

int array(const ArrayOptions& o) {
    auto query = question(o);
    if (!query) return fail(query.error());
    Store store;
    const auto found = Ask(store)(query.value());
    if (!found) return fail(found.error());
    if (!o.use.empty()) {
        const auto wanted = std::find_if(found->list.begin(), found->list.end(), [&](const Arrangement& a) {
            return a.name() == o.use || fmt::format("{}", a.per_string) == o.use;
        });
        if (wanted == found->list.end())
            return fail({Fault::usage, "--use", "there is no arrangement \"" + o.use + "\"",
                         "a name as it is listed, or the number of LEDs in a string"});
        auto next = with_arrangement(query.value().design, found->question, *wanted);
        if (!next) return fail(next.error());
        std::cout << write_design(next.value());
        return 0;
    }
    if (!o.common.json) {
        fmt::print("{} × {} at {}\n", found->question.count, found->question.led.text("type"),
                   format_quantity(found->question.current, Unit::ampere));
        fmt::print("{:<18} {:>8} {:>9} {:>12} {:>9} {:>6} {:>6} {:>6}\n", "strings × lights", "resistor",
                   "current", "spread", "total", "in LEDs", "half", "flat");
        for (const Arrangement& a : found->list) print_arrangement(a);
        if (!found->question.fed.empty()) fmt::print("fed by {}\n", found->question.fed);
        for (const HungLights& p : found->places)
            if (p.strings.front() != found->question.at)
                fmt::print("others: {}, {} to {} (--light {})\n", p.name(), p.plus, p.minus,
                           p.strings.front());
        return 0;
    }
    Json list = Json::array();
    for (const Arrangement& a : found->list) list.push_back(arrangement_json(a));
    Json places = Json::array();
    for (const HungLights& p : found->places)
        places.push_back(
            {{"light", p.strings.front()}, {"lights", p.leds}, {"plus", p.plus}, {"minus", p.minus}});
    print_json({{"led", found->question.led.text("type")},
                {"count", found->question.count},
                {"current_A", found->question.current},
                {"fed", found->question.fed},
                {"places", places},
                {"arrangements", list}});
    return 0;
}

int compare_limiters(const ArrayOptions& o, int per_string) {
    auto query = question(o);
    if (!query) return fail(query.error());
    auto drawer = drawer_items(o.common);
    if (!drawer) return fail(drawer.error());
    Store store;
    const auto found = Ask(store)(LimitersQuery{query.value(), per_string, drawer.value()});
    if (!found) return fail(found.error());
    if (!o.use.empty()) {
        const auto wanted = std::find_if(found->rows.begin(), found->rows.end(), [&](const LimiterRow& r) {
            return r.id == o.use || r.name == o.use;
        });
        if (wanted == found->rows.end())
            return fail({Fault::usage, "--use", "there is no limiter \"" + o.use + "\"",
                         "each, shared, pairs, diodes, source, transistors or regulator"});
        auto next = with_limiter(query.value().design, found->question, *wanted);
        if (!next) return fail(next.error());
        return std::cout << write_design(next.value()), 0;
    }
    Json list = Json::array();
    for (const LimiterRow& r : found->rows) {
        Json row{{"id", r.id}, {"name", r.name}, {"possible", r.possible}, {"reason", r.reason}};
        if (r.possible) {
            for (const auto& [key, figure] :
                 {std::pair{"current", &r.current}, std::pair{"efficiency", &r.efficiency},
                  std::pair{"headroom", &r.headroom}, std::pair{"half", &r.half}, std::pair{"flat", &r.flat},
                  std::pair{"cost", &r.cost}})
                row[key] = figure_json(*figure);
            row["parts"] = r.parts;
        }
        list.push_back(row);
        if (o.common.json) continue;
        if (r.possible)
            fmt::print("{:<22} {:>9} {:>12} {:>8} {:>6} {:>6} {:>6} {:>6}  {}\n", r.name, r.current.text(),
                       r.current.spread_text(), r.headroom.text(), r.efficiency.text(2), r.half.text(2),
                       r.flat.text(2), std::isfinite(r.cost.value) ? r.cost.text() : "–", r.reason);
        else
            fmt::print("{:<22} not possible: {}\n", r.name, r.reason);
    }
    if (o.common.json) print_json({{"per_string", found->question.per_string}, {"limiters", list}});
    return 0;
}

struct MatchOptions {
    ArrayOptions of;
    std::vector<std::string> leds;
    std::string looked;  ///< "red-5mm=brighter"
    bool diffuse = false, use = false, trials = false;
};

Result<MatchQuestion> match_asked(const MatchOptions& o, const Ask& ask, const Design& design) {
    if (o.leds.empty()) return match_question(ask, design, {});
    const Part* source = design.circuit.source();
    if (!source) return Error{Fault::design, "circuit", "it has no source", "cells or a supply"};
    MatchQuestion q;
    q.source = *source;
    for (const std::string& id : o.leds) {
        if (!known_catalogue().led(id))
            return Error{Fault::usage, "--leds", "there is no LED \"" + id + "\"",
                         fmt::format("{}", fmt::join(known_catalogue().ids("leds", {}), ", "))};
        q.lights.push_back({{"L1", "led", {{"type", id}}, {}, {}}, 1, 1});
    }
    return q;
}

/// Where the comparisons by eye stand, or the design with one more.
int trials(const MatchOptions& o, const Design& design, const MatchQuestion& q) {
    auto state = trial_states(q, design.trials);
    if (!state) return fail(state.error());
    const auto& kinds = state.value().kinds;
    if (!o.looked.empty()) {
        const auto equals = o.looked.find('=');
        const std::string led = o.looked.substr(0, equals);
        const auto how = std::find(looked_words.begin(), looked_words.end(),
                                   equals == std::string::npos ? "" : o.looked.substr(equals + 1));
        std::size_t kind = 0;
        while (kind < kinds.size() &&
               (kind == state.value().reference || kinds[kind].led.text("type") != led))
            ++kind;
        if (kind == kinds.size() || how == looked_words.end())
            return fail({Fault::usage, "--looked", "found \"" + o.looked + "\"",
                         "an LED of the file other than the dimmest, and dimmer, same or brighter, such as "
                         "red-5mm=brighter"});
        std::cout << write_design(with_trial(design, state.value(), kind,
                                             static_cast<LightTrial::Looked>(how - looked_words.begin())));
        return 0;
    }
    if (o.use) return std::cout << write_design(with_trials_taken(design, q, state.value())), 0;
    Json rows = Json::array();
    for (const TrialState& kind : kinds) {
        Json row{{"led", kind.led.text("type")},
                 {"trials", kind.trials},
                 {"done", kind.done},
                 {"resistor", figure_json(kind.resistor)},
                 {"current", figure_json(kind.current)}};
        if (kind.intensity) row["intensity"] = figure_json(*kind.intensity);
        rows.push_back(row);
        if (!o.of.common.json)
            fmt::print("{:<20} {:>9} {:>9}  {}\n", kind.led.text("type"), kind.resistor.text(),
                       kind.current.text(),
                       &kind == &kinds[state.value().reference] ? "the reference"
                       : kind.done ? fmt::format("equal after {} trials", kind.trials)
                                   : fmt::format("to be tried, {} so far", kind.trials));
    }
    if (o.of.common.json) print_json({{"lights", rows}});
    return 0;
}

int match(const MatchOptions& o) {
    auto query = question(o.of);
    if (!query) return fail(query.error());
    Store store;
    const Design& design = query.value().design;
    auto asked = match_asked(o, Ask(store), design);
    if (!asked) return fail(asked.error());
    MatchQuestion& q = asked.value();
    q.diffuse = o.diffuse, q.owned = query.value().wishes.owned;
    if (query.value().wishes.current) q.current = *query.value().wishes.current;
    auto found = match_lights(q);
    if (!found) return fail(found.error());
    if (o.trials || !o.looked.empty()) return trials(o, design, q);
    if (o.use) return std::cout << write_design(with_match(design, found.value())), 0;
    Json rows = Json::array();
    for (const MatchRow& row : found.value().rows) {
        rows.push_back({{"led", row.led.text("type")},
                        {"resistance_ohm", row.resistor.value},
                        {"current", figure_json(row.current)},
                        {"light", figure_json(row.light)},
                        {"looks", figure_json(row.looks)}});
        if (!o.of.common.json)
            fmt::print("{:<20} {:>9} {:>9} {:>9} {:>7}\n", row.led.text("type"), row.resistor.text(),
                       row.current.text(), row.light.text(), row.looks.text());
    }
    if (o.of.common.json) print_json({{"apart", found.value().apart}, {"lights", rows}});
    return 0;
}

}  // namespace

std::vector<Command> planning_commands() {
    return {{"array", "all ways to arrange LEDs on a supply, the best first",
             [](CLI::App& sub) {
                 const auto o = std::make_shared<ArrayOptions>();
                 sub.add_flag("--owned", o->owned, "resistors from the drawer only");
                 sub.add_option("--use", o->use, "prints the design with this arrangement: \"12 × 2\", or 2");
                 return about_lights(sub, o, array);
             }},
            {"limiters", "ways to keep the current of LEDs, compared",
             [](CLI::App& sub) {
                 const auto o = std::make_shared<ArrayOptions>();
                 const auto per_string = std::make_shared<int>(0);
                 sub.add_option("--per-string", *per_string, "LEDs in a string")->check(within(1, 1000));
                 sub.add_flag("--owned", o->owned, "resistors from the drawer only");
                 sub.add_option("--use", o->use,
                                "prints the design with this limiter: each, shared, pairs, diodes, source, "
                                "transistors, regulator");
                 return about_lights(sub, o, [per_string](const ArrayOptions& with) {
                     return compare_limiters(with, *per_string);
                 });
             }},
            {"match", "resistors with which LEDs of several colours look equally bright", [](CLI::App& sub) {
                 const auto o = std::make_shared<ArrayOptions>();
                 const auto more = std::make_shared<MatchOptions>();
                 sub.add_option("--leds", more->leds, "LED types; without them those of the file")
                     ->delimiter(',');
                 sub.add_flag("--diffuse", more->diffuse, "seen through a diffuser: all the light counts");
                 sub.add_flag("--owned", o->owned, "resistors from the drawer only");
                 sub.add_flag("--use", more->use, "prints the design with these resistors");
                 sub.add_flag("--trials", more->trials,
                              "which resistor to try by eye next; with --use the "
                              "design with what the eye found");
                 sub.add_option("--looked", more->looked,
                                "prints the design with what was seen: red-5mm=brighter, =same or =dimmer");
                 return about_lights(sub, o, [more](const ArrayOptions& with) {
                     MatchOptions all = *more;
                     all.of = with;
                     return match(all);
                 });
             }}};
}

}  // namespace elkit::cli
