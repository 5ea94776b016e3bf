// Light and power: light, resistor, life, supplies.
#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "batch/owned_values.hpp"
#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "formats/discharge_file.hpp"
#include "light/light.hpp"
#include "power/life.hpp"
#include "power/supplies.hpp"
#include "power/wiring.hpp"
#include "quantity/parse.hpp"
#include "recipes/blocks.hpp"
#include "recipes/series_resistor.hpp"
#include "recipes/variants.hpp"
#include "situations/words.hpp"

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

/// "lit=4h", "S1 pressed=30x20s", "dark=rest".
Result<DayUse> use_from_words(const std::string& words) {
    const Error wrong{Fault::usage, "--use", "found \"" + words + "\"",
                      "a situation and its time in a day: lit=4h, \"S1 pressed=30x20s\", dark=rest"};
    const auto equals = words.rfind('=');
    if (equals == std::string::npos || equals == 0) return wrong;
    auto use = read_day(words.substr(equals + 1), words.substr(0, equals));
    if (!use) return use.error();
    return use.value() ? *use.value() : Result<DayUse>(wrong);
}

int life(const Options& o, const std::vector<std::string>& plan) {
    return with_design(o, [&](Design design, const Conditions& c) {
        if (!plan.empty()) design.use.clear();
        for (const std::string& words : plan) {
            auto use = use_from_words(words);
            if (!use) return fail(use.error());
            design.use.push_back(use.value());
        }
        Store store;
        const auto result = Ask(store)(LifeQuery(design, design.circuit, c));
        if (!result) return fail(result.error());
        const PowerResult& p = *result;
        if (!o.json) {
            for (const Figure* f : {&p.run_time, &p.energy_left, &p.average_brightness, &p.warn_at,
                                    &p.standby, &p.standby_current})
                print_figure(*f);
            return 0;
        }
        Json samples = Json::array();
        for (const auto& s : p.typical.samples)
            samples.push_back(
                {{"h", s.hours}, {"charge", s.charge}, {"V", s.volts}, {"A", s.amps}, {"light", s.light}});
        print_json({{"run_time", figure_json(p.run_time)},
                    {"energy_left", figure_json(p.energy_left)},
                    {"warn_at", figure_json(p.warn_at)},
                    {"average_brightness", figure_json(p.average_brightness)},
                    {"standby", figure_json(p.standby)},
                    {"standby_current", figure_json(p.standby_current)},
                    {"delivered_Ah", p.typical.delivered},
                    {"ended_by", p.typical.ended_by},
                    {"samples", samples}});
        return 0;
    });
}

int supplies(const Options& o, bool same_resistor, SupplyScope scope, const std::string& use) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        Store store;
        const Ask ask(store);
        const Conditions c = lit_conditions(ask, design, design.circuit, now);
        const auto policy = same_resistor ? SupplyPolicy::same_parts : SupplyPolicy::sized_anew;
        const auto rows = ask(SuppliesQuery(design, c, policy, scope));
        if (!rows) return fail(rows.error());
        if (!use.empty()) {
            const auto wanted =
                std::find_if(rows->begin(), rows->end(), [&](const SupplyRow& r) { return r.name == use; });
            if (wanted == rows->end())
                return fail(
                    {Fault::usage, "--use", "there is no supply \"" + use + "\"", "a name as it is listed"});
            auto next = with_supply_row(design, *wanted, policy);
            if (!next) return fail(next.error());
            return std::cout << write_design(next.value()), 0;
        }
        Json list = Json::array();
        for (const auto& r : *rows) {
            Json scaled = Json::object();
            for (const auto& [designator, resistor] : r.scaled)
                scaled[designator] = {{"ohm", resistor.ohms}, {"rating_W", resistor.rating}};
            list.push_back({{"supply", r.name},
                            {"converted_V", r.converted > 0 ? Json(r.converted) : Json(nullptr)},
                            {"possible", r.possible},
                            {"reason", r.reason},
                            {"resistor_ohm", r.resistor.value},
                            {"current_A", r.current.value},
                            {"brightness_start", r.start.value / 100},
                            {"brightness_end", r.end.value / 100},
                            {"run_time_h", r.possible && r.lasts ? number(r.run_time.value) : Json(nullptr)},
                            {"cost_per_hour", r.cost_per_hour.value},
                            {"waste_g_per_100h", r.waste.value},
                            {"mass_g", r.mass.value},
                            {"cost", r.cost.value},
                            {"keeps_years", number(r.keeps.value)},
                            {"holder_mm", {r.width, r.height}},
                            {"fits", r.fits},
                            {"care", r.care},
                            {"scaled", scaled}});
            if (o.json) continue;
            if (r.possible)
                fmt::print("{:<26} {:>8} {:>9} {:>6.0f} % {:>6.0f} % {:>11} {:>8.4f}/h {:>6.0f} g  {}\n",
                           r.name, r.resistor.value > 0 ? r.resistor.text() : "–", r.current.text(),
                           r.start.value, r.end.value,
                           !r.lasts                          ? "–"
                           : std::isfinite(r.run_time.value) ? r.run_time.text()
                                                             : "endless",
                           r.lasts ? r.cost_per_hour.value : 0, r.mass.value, r.reason);
            else
                fmt::print("{:<26} not possible: {}\n", r.name, r.reason);
        }
        if (o.json) print_json({{"supplies", list}});
        return 0;
    });
}

struct FitOptions {
    Options common;
    std::string action, csv, cell = "LR6", load;
    int count = 1;
};

int fit(const FitOptions& o) {
    auto text = read_file(o.csv);
    if (!text) return fail(text.error());
    auto load = read_load(o.load);
    if (!load) return fail(load.error());
    Store store;
    const auto found = Ask(store)(CellFitQuery{std::make_shared<const std::string>(std::move(text).value()),
                                               o.cell, o.count, load.value()});
    if (!found) return fail(found.error());
    if (!o.common.file.empty()) {
        auto design = elkit::cli::load(o.common);
        if (!design) return fail(design.error());
        auto next = with_fit(design.value(), found->fit);
        if (!next) return fail(next.error());
        std::cout << write_design(next.value());
        return 0;
    }
    const CellFit& f = found->fit;
    if (!o.common.json) {
        fmt::print("{}\n", found->measured.told);
        for (const Figure* figure : {&f.capacity, &f.open_circuit, &f.resistance}) print_figure(*figure);
        return 0;
    }
    Json curve = Json::array();
    for (const auto& p : f.curve) curve.push_back({p.hours, p.volts});
    print_json({{"read", found->measured.told},
                {"capacity", figure_json(f.capacity)},
                {"open_circuit", figure_json(f.open_circuit)},
                {"resistance", figure_json(f.resistance)},
                {"rms_V", f.rms},
                {"delivered_Ah", f.delivered},
                {"curve", curve}});
    return 0;
}

struct WireOptions {
    Options common;
    std::string volts, current, length;
    bool owned = false;
};

Result<WiringQuery::Value> wires_asked(const WireOptions& o) {
    WireQuestion q;
    double metres = 0;
    if (o.owned) {
        auto drawer = drawer_items(o.common);
        if (!drawer) return drawer.error();
        q.owned = owned_wires(drawer.value());
        if (q.owned.empty())
            return Error{Fault::usage, "--owned", "no item of the drawer is a wire with its gauge",
                         "items such as \"hookup wire 0.25 mm²\" or \"wire AWG 24\""};
    }
    if (!o.length.empty()) {
        auto length = quantity_of("--length", o.length, Unit::metre);
        if (!length) return length.error();
        metres = length.value();
    }
    if (!o.common.file.empty()) {
        auto design = elkit::cli::load(o.common);
        if (!design) return design.error();
        Store store;
        const auto found =
            Ask(store)(WiringQuery(Keyed<Circuit>(design.value().circuit), {}, metres, q.owned));
        return found ? Result<WiringQuery::Value>(*found) : found.error();
    }
    auto volts = quantity_of("--volts", o.volts, Unit::volt);
    if (!volts) return volts.error();
    auto current = quantity_of("--current", o.current, Unit::ampere);
    if (!current) return current.error();
    q.volts = volts.value(), q.amps = current.value();
    if (metres > 0) q.metres = metres;
    auto wiring = plan_wires(q);
    if (!wiring) return wiring.error();
    return WiringQuery::Value{q, std::move(wiring).value(), {}, {}};
}

int wire(const WireOptions& o) {
    auto found = wires_asked(o);
    if (!found) return fail(found.error());
    const auto& [q, wiring, contacts, connector] = found.value();
    Json rows = Json::array();
    if (!o.common.json)
        fmt::print("{} at {}, leads of {} each\n", format_quantity(q.amps, Unit::ampere),
                   format_quantity(q.volts, Unit::volt), format_quantity(q.metres, Unit::metre));
    for (std::size_t k = 0; k < wiring.rows.size(); ++k) {
        const WireRow& r = wiring.rows[k];
        const bool best = static_cast<int>(k) == wiring.best;
        rows.push_back({{"area_mm2", r.area},
                        {"awg", r.awg},
                        {"resistance", figure_json(r.resistance)},
                        {"drop", figure_json(r.drop)},
                        {"share", figure_json(r.share)},
                        {"heat", figure_json(r.heat)},
                        {"bears", figure_json(r.bears)},
                        {"enough", r.enough},
                        {"best", best},
                        {"owned", r.owned},
                        {"reason", r.reason}});
        if (!o.common.json)
            fmt::print("{:>5} mm²  {:>9} {:>9} {:>7} {:>9}  {}\n", r.area, r.resistance.text(), r.drop.text(),
                       r.share.text(2), r.heat.text(), best ? "take this" : r.reason);
    }
    Json losses = Json::array();
    for (const ContactLoss& c : contacts) {
        losses.push_back(
            {{"part", c.designator}, {"drop", figure_json(c.drop)}, {"heat", figure_json(c.heat)}});
        if (!o.common.json)
            fmt::print("{} ({}) loses {}, {} of heat\n", c.designator, c.name, c.drop.text(), c.heat.text());
    }
    if (o.common.json)
        print_json({{"wires", rows}, {"longest", figure_json(wiring.longest)}, {"contacts", losses}});
    return 0;
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
        {"life", "run time and discharge",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto use = std::make_shared<std::vector<std::string>>();
             sub.add_option("--use", *use,
                            "how a day is spent, in place of the design's plan: lit=4h, "
                            "\"S1 pressed=30x20s\", dark=rest");
             return [o, use] { return life(*o, *use); };
         }},
        {"wire", "leads by gauge: volts lost, heat, which is enough",
         [](CLI::App& sub) {
             const auto o = std::make_shared<WireOptions>();
             auto* file = sub.add_option("FILE", o->common.file, "a design whose source's leads are meant");
             sub.add_option("--volts", o->volts, "of the supply, without a file")->excludes(file);
             sub.add_option("--current", o->current, "A, without a file")->excludes(file);
             sub.add_option("--length", o->length, "of each lead, one way, such as 2m");
             sub.add_flag("--owned", o->owned, "the best of the wires in the drawer");
             sub.add_flag("--json", o->common.json, "JSON on stdout");
             return [o] { return wire(*o); };
         }},
        {"cell", "a cell as it was measured: cell fit FILE.csv --load 10R",
         [](CLI::App& sub) {
             const auto o = std::make_shared<FitOptions>();
             sub.add_option("ACTION", o->action, "fit")->required()->check(CLI::IsMember({"fit"}));
             sub.add_option("CSV", o->csv, "time and volts, as a logger writes them")->required();
             sub.add_option("--load", o->load, "what it was discharged with: 10R or 50mA")->required();
             sub.add_option("--cell", o->cell, "its type, an id of the catalogue");
             sub.add_option("--count", o->count, "cells in a row")->check(within(1, 40));
             sub.add_option("--design", o->common.file, "prints this design with the measured cell");
             sub.add_flag("--json", o->common.json, "JSON on stdout");
             return [o] { return fit(*o); };
         }},
        {"supplies", "the same light from other supplies",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto same = std::make_shared<bool>(false);
             const auto all = std::make_shared<bool>(false);
             const auto converted = std::make_shared<bool>(false);
             const auto use = std::make_shared<std::string>();
             sub.add_flag("--same-resistor", *same, "keep the resistor");
             auto* every = sub.add_flag("--all", *all, "every cell of the catalogue, one to six in a row");
             sub.add_flag("--converter", *converted, "the usual ones behind a converter module too")
                 ->excludes(every);
             sub.add_option("--use", *use, "prints the design on this supply: \"2 × LR6, stepped up\"");
             return [o, same, all, converted, use] {
                 return supplies(*o, *same,
                                 *all         ? SupplyScope::all
                                 : *converted ? SupplyScope::converted
                                              : SupplyScope::usual,
                                 *use);
             };
         }},
    };
}

}  // namespace elkit::cli
