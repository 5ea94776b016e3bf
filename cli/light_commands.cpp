// Light and power: light, resistor, life, supplies.
#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "light/light.hpp"
#include "power/life.hpp"
#include "power/supplies.hpp"
#include "quantity/parse.hpp"
#include "recipes/blocks.hpp"
#include "recipes/series_resistor.hpp"
#include "recipes/variants.hpp"

namespace elkit::cli {
namespace {

struct ResistorOptions {
    std::string supply, vf, current, drops = "0", series = "E24", round = "under";
    int leds = 1;
    bool json = false;
};

int light(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        auto drawer = drawer_items(o);
        if (!drawer) return fail(drawer.error());
        Store store;
        const Ask ask(store);
        const Keyed<Circuit> circuit(design.circuit);
        const Conditions c = lit_conditions(ask, design, circuit, now);
        const auto result = ask(LightQuery(circuit, c));
        if (!result) return fail(result.error());
        const auto table = ask(BinsQuery(circuit, c));
        Json strings = Json::array();
        for (StringResult s : result->strings) {
            const std::string& resistor = s.resistor.empty() ? s.shared : s.resistor;
            if (auto chosen = chosen_figure(design, resistor, "value"))
                s.resistance.working = chosen->working;
            strings.push_back({{"leds", s.leds},
                               {"resistor", s.resistor},
                               {"current", figure_json(s.current)},
                               {"fresh_current", figure_json(s.fresh_current)},
                               {"resistance", figure_json(s.resistance)},
                               {"resistor_power", figure_json(s.resistor_power)}});
            if (!o.json)
                print_figure(s.resistance), print_figure(s.current), print_figure(s.fresh_current),
                    print_figure(s.resistor_power);
        }
        Json inside = Json::array();
        for (const Figure& f : result->inside) {
            inside.push_back(figure_json(f));
            if (!o.json) print_figure(f);
        }
        Json bins = Json::array();
        if (table)
            for (const auto& row : *table) bins.push_back({row[0].value, row[1].value, row[2].value});
        if (o.json)
            print_json({{"strings", strings},
                        {"inside", inside},
                        {"total", figure_json(result->total)},
                        {"brightness", figure_json(result->brightness)},
                        {"bins_A", bins}});
        else
            print_figure(result->total), print_figure(result->brightness);
        return 0;
    });
}

int resistor(const ResistorOptions& o) {
    ResistorQuestion q;
    struct Field {
        const char* name;
        const std::string& text;
        Unit unit;
        double* out;
    };
    double vf = 0;
    for (const Field& f :
         {Field{"--supply", o.supply, Unit::volt, &q.supply}, Field{"--vf", o.vf, Unit::volt, &vf},
          Field{"--current", o.current, Unit::ampere, &q.current},
          Field{"--drops", o.drops, Unit::volt, &q.drops}}) {
        auto value = quantity_of(f.name, f.text, f.unit);
        if (!value) return fail(value.error());
        *f.out = value.value();
    }
    if (q.supply > 60)
        return fail({Fault::usage, "--supply", format_quantity(q.supply, Unit::volt),
                     "60 V DC at most; above that use a ready-made certified supply, wired by a licensed "
                     "electrician to the local code"});
    q.leds_voltage = o.leds * vf;
    auto series = parse_series(o.series);
    if (!series) return fail(series.error());
    if (o.round != "nearest" && o.round != "under")
        return fail({Fault::usage, "--round", "found \"" + o.round + "\"", "nearest or under"});
    q.series = series.value();
    q.rounding = o.round == "nearest" ? Rounding::nearest : Rounding::under;
    auto answer = choose_resistor(q);
    if (!answer) return fail(answer.error());
    const ResistorAnswer& a = answer.value();
    if (o.json)
        return print_json({{"resistance_ohm", a.value},
                           {"exact_ohm", a.exact},
                           {"current_A", a.current},
                           {"power_W", a.power},
                           {"rating_W", number(a.rating)},
                           {"bands", a.bands.names},
                           {"working", a.working}}),
               0;
    fmt::print("{}  ({})  {}\n", format_quantity(a.value, Unit::ohm), fmt::join(a.bands.names, " "),
               format_quantity(a.current, Unit::ampere));
    for (const auto& line : a.working) fmt::print("    {}\n", line);
    return 0;
}

int life(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        Store store;
        const auto result = Ask(store)(LifeQuery(design, design.circuit, c));
        if (!result) return fail(result.error());
        const PowerResult& p = *result;
        if (!o.json) {
            for (const Figure* f :
                 {&p.run_time, &p.energy_left, &p.average_brightness, &p.standby, &p.standby_current})
                print_figure(*f);
            return 0;
        }
        Json samples = Json::array();
        for (const auto& s : p.typical.samples)
            samples.push_back(
                {{"h", s.hours}, {"charge", s.charge}, {"V", s.volts}, {"A", s.amps}, {"light", s.light}});
        print_json({{"run_time", figure_json(p.run_time)},
                    {"energy_left", figure_json(p.energy_left)},
                    {"average_brightness", figure_json(p.average_brightness)},
                    {"standby", figure_json(p.standby)},
                    {"standby_current", figure_json(p.standby_current)},
                    {"delivered_Ah", p.typical.delivered},
                    {"ended_by", p.typical.ended_by},
                    {"samples", samples}});
        return 0;
    });
}

int supplies(const Options& o, bool same_resistor) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        Store store;
        const Ask ask(store);
        const Conditions c = lit_conditions(ask, design, design.circuit, now);
        const auto rows = ask(
            SuppliesQuery(design, c, same_resistor ? SupplyPolicy::same_parts : SupplyPolicy::sized_anew));
        if (!rows) return fail(rows.error());
        Json list = Json::array();
        for (const auto& r : *rows) {
            list.push_back({{"supply", r.name},
                            {"possible", r.possible},
                            {"reason", r.reason},
                            {"resistor_ohm", r.resistor.value},
                            {"current_A", r.current.value},
                            {"brightness_start", r.start.value / 100},
                            {"brightness_end", r.end.value / 100},
                            {"run_time_h", r.possible && r.lasts ? number(r.run_time.value) : Json(nullptr)},
                            {"cost_per_hour", r.cost_per_hour.value},
                            {"mass_g", r.mass.value}});
            if (o.json) continue;
            if (r.possible)
                fmt::print("{:<14} {:>8} {:>9} {:>6.0f} % {:>6.0f} % {:>11} {:>8.4f}/h {:>6.0f} g  {}\n",
                           r.name, r.resistor.value > 0 ? r.resistor.text() : "–", r.current.text(),
                           r.start.value, r.end.value,
                           !r.lasts                          ? "–"
                           : std::isfinite(r.run_time.value) ? r.run_time.text()
                                                             : "endless",
                           r.lasts ? r.cost_per_hour.value : 0, r.mass.value, r.reason);
            else
                fmt::print("{:<14} not possible: {}\n", r.name, r.reason);
        }
        if (o.json) print_json({{"supplies", list}});
        return 0;
    });
}

}  // namespace

std::vector<Command> light_commands() {
    return {
        plain("light", "strings, resistors and their spread", {add_conditions, add_drawer}, light),
        {"resistor", "series resistor for LEDs",
         [](CLI::App& sub) {
             const auto r = std::make_shared<ResistorOptions>();
             sub.add_option("--supply", r->supply, "V, fresh")->required();
             sub.add_option("--vf", r->vf, "forward voltage of one LED, V")->required();
             sub.add_option("--current", r->current, "A, such as 15mA")->required();
             sub.add_option("--leds", r->leds, "LEDs in series")->check(within(1, 40));
             sub.add_option("--drops", r->drops, "V lost elsewhere in series");
             sub.add_option("--series", r->series, "E3 … E192");
             sub.add_option("--round", r->round, "nearest or under");
             sub.add_flag("--json", r->json, "JSON on stdout");
             return [r] { return resistor(*r); };
         }},
        plain("life", "run time and discharge", {add_conditions}, life),
        {"supplies", "the same light from other supplies",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto same = std::make_shared<bool>(false);
             sub.add_flag("--same-resistor", *same, "keep the resistor");
             return [o, same] { return supplies(*o, *same); };
         }},
    };
}

}  // namespace elkit::cli
