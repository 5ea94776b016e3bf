#include "cli/commands.hpp"

#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "catalogue/catalogue.hpp"
#include "cli/with_design.hpp"
#include "command/command.hpp"
#include "design/file.hpp"
#include "embedded.hpp"
#include "formats/parts_reference.hpp"
#include "light/light.hpp"
#include "power/supplies.hpp"
#include "quantity/parse.hpp"
#include "recipes/blocks.hpp"
#include "recipes/series_resistor.hpp"
#include "review/findings.hpp"

namespace elkit::cli {
namespace {

std::string severity_name(Severity s) {
    return s == Severity::error ? "error" : (s == Severity::warning ? "warning" : "note");
}

}  // namespace

int check(const Options& o) {
    if (!o.file.starts_with("demo:")) {
        auto text = read_file(o.file);
        if (!text) return fail(text.error());
        auto errors = design_errors(text.value());
        if (errors.empty()) errors = schema_errors(text.value());
        for (const Error& e : errors) fmt::print(stderr, "elkit-cli: {}, {}\n", o.file, e.text());
        if (!errors.empty()) return 1;
    }
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto drawer = drawer_items(o);
        if (!drawer) return fail(drawer.error());
        Store store;
        bool bad = false;
        Json list = Json::array();
        for (const Finding& f : review(Ask(store), design, c, drawer.value())) {
            bad = bad || (f.severity == Severity::error && f.known.empty());
            list.push_back({{"id", f.id},
                            {"severity", severity_name(f.severity)},
                            {"title", f.title},
                            {"detail", f.detail},
                            {"station", f.station},
                            {"ref", f.ref},
                            {"known", f.known}});
            if (!o.json)
                fmt::print("{:<8} {}\n         {}\n", f.known.empty() ? severity_name(f.severity) : "known",
                           f.title, f.known.empty() ? f.detail : "because " + f.known);
        }
        if (o.json) print_json({{"name", design.name}, {"findings", list}});
        return bad ? 1 : 0;
    });
}

namespace {

/// The state of rest that was asked for: 0 the one that Newton finds, 1 the one from power-up, then a latch's
/// others.
Result<OperatingPoint> state_of_rest(const Design& design, const Conditions& c, int state) {
    if (state == 0) return operating_point(design.circuit, built_in_catalogue(), c);
    auto all = operating_points(design.circuit, built_in_catalogue(), c);
    if (!all) return all.error();
    if (static_cast<std::size_t>(state) > all.value().size())
        return Error{Fault::usage, "--state " + std::to_string(state), "there is no such state of rest",
                     "1 to " + std::to_string(all.value().size())};
    return all.value()[static_cast<std::size_t>(state - 1)];
}

}  // namespace

int op(const Options& o, int state) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto solved = state_of_rest(design, c, state);
        if (!solved) return fail(solved.error());
        const OperatingPoint& p = solved.value();
        Json nets = Json::object(), parts = Json::object();
        for (std::size_t i = 0; i < p.nets.size(); ++i) nets[p.nets[i]] = {{"V", p.voltages[i]}};
        for (const auto& s : p.parts)
            parts[s.designator] = {{"A", s.current}, {"V", s.voltage}, {"W", s.power()}};
        if (o.json)
            return print_json({{"nets", nets},
                               {"parts", parts},
                               {"residual_A", p.residual},
                               {"iterations", p.iterations}}),
                   0;
        for (std::size_t i = 0; i < p.nets.size(); ++i)
            fmt::print("{:<12} {}\n", p.nets[i], format_quantity(p.voltages[i], Unit::volt, 4));
        for (const auto& s : p.parts)
            fmt::print("{:<12} {:>10} {:>10} {:>10}\n", s.designator,
                       format_quantity(s.current, Unit::ampere), format_quantity(s.voltage, Unit::volt),
                       format_quantity(s.power(), Unit::watt));
        return 0;
    });
}

int light(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto drawer = drawer_items(o);
        if (!drawer) return fail(drawer.error());
        Store store;
        const Ask ask(store);
        const Keyed<Circuit> circuit(design.circuit);
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
        Json bins = Json::array();
        if (table)
            for (const auto& row : *table) bins.push_back({row[0].value, row[1].value, row[2].value});
        if (o.json)
            print_json({{"strings", strings},
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
        auto value = parse_quantity(f.text, f.unit);
        if (!value) return fail({Fault::usage, f.name, value.error().found, value.error().expected});
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
        const auto result = Ask(store)(PowerQuery(design.circuit, c, design.brief.end_brightness));
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
    return with_design(o, [&](const Design& design, const Conditions& c) {
        Store store;
        const auto rows = Ask(store)(
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
                            {"run_time_h", r.possible ? number(r.run_time.value) : Json(nullptr)},
                            {"cost_per_hour", r.cost_per_hour.value},
                            {"mass_g", r.mass.value}});
            if (o.json) continue;
            if (r.possible)
                fmt::print("{:<14} {:>8} {:>9} {:>6.0f} % {:>6.0f} % {:>9} {:>8.4f}/h {:>6.0f} g  {}\n",
                           r.name, r.resistor.text(), r.current.text(), r.start.value, r.end.value,
                           std::isfinite(r.run_time.value) ? r.run_time.text() : "endless",
                           r.cost_per_hour.value, r.mass.value, r.reason);
            else
                fmt::print("{:<14} not possible: {}\n", r.name, r.reason);
        }
        if (o.json) print_json({{"supplies", list}});
        return 0;
    });
}

int board(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        Store store;
        const auto made = Ask(store)(BoardQuery{design.circuit, design.board});
        if (!made) return fail(made.error());
        const Board& b = *made;
        Json parts = Json::object(), neighbours = Json::array();
        for (const auto& p : b.pins) parts[p.designator][p.pin.empty() ? "free" : p.pin] = p.place;
        for (const auto& n : b.neighbours)
            neighbours.push_back({{"a", n.a}, {"b", n.b}, {"places", n.places}});
        if (o.json) {
            print_json({{"method", b.method},
                        {"size", b.size},
                        {"width_mm", b.width},
                        {"height_mm", b.height},
                        {"parts", parts},
                        {"on_wires", b.on_wires},
                        {"neighbours", neighbours},
                        {"groups", b.groups},
                        {"differences", b.differences},
                        {"summary", b.summary}});
        } else {
            fmt::print("{}, {}\n", b.size, b.summary);
            for (const auto& p : b.pins) fmt::print("{:<4} {:<6} {}\n", p.designator, p.pin, p.place);
            if (!b.on_wires.empty()) fmt::print("joined by wires: {}\n", fmt::join(b.on_wires, ", "));
            fmt::print("{}\n", b.differences.empty() ? "the board equals the circuit"
                                                     : fmt::format("{}", fmt::join(b.differences, "\n")));
        }
        return b.differences.empty() ? 0 : 1;
    });
}

int build(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        Store store;
        const auto steps = Ask(store)(StepsQuery{design.circuit, design.board, design.brief.for_children});
        if (!steps) return fail(steps.error());
        Json list = Json::array();
        int n = 0;
        for (const auto& s : *steps) {
            Json j{{"step", s.id},   {"phase", phase_name(s.phase)}, {"title", s.title},
                   {"text", s.text}, {"polarity", s.polarity},       {"caution", s.caution}};
            if (s.check)
                j["check"] = {{"red", s.check->red},
                              {"black", s.check->black},
                              {"expected", s.check->expected
                                               ? figure_json(*s.check->expected)
                                               : Json(s.check->kind == CheckKind::beep ? "beep" : "silent")}};
            list.push_back(j);
            if (!o.json) fmt::print("{:>3}  {}\n     {}\n", ++n, s.title, s.text);
        }
        if (o.json) print_json({{"steps", list}});
        return 0;
    });
}

int bom(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        auto drawer = drawer_items(o);
        if (!drawer) return fail(drawer.error());
        Store store;
        const auto made = Ask(store)(parts_query(design, drawer.value()));
        if (!made) return fail(made.error());
        const PartsList& list = *made;
        if (!o.json) return fmt::print("{}", write_csv(parts_csv(list))), 0;
        Json lines = Json::array();
        for (const auto& l : list.lines)
            lines.push_back({{"key", l.key},
                             {"name", l.name},
                             {"designators", l.designators},
                             {"marking", l.marking},
                             {"per_kit", l.per_kit.value},
                             {"needed", l.needed.value},
                             {"stock", l.stock},
                             {"to_buy", l.to_buy.value},
                             {"packs", l.packs},
                             {"unit_price", number(l.unit_price)}});
        print_json({{"kits", list.kits},
                    {"lines", lines},
                    {"cost_per_kit", figure_json(list.cost_per_kit)},
                    {"to_spend", figure_json(list.to_spend)}});
        return 0;
    });
}

namespace {
int put_back(const Options& o, const Design& design, bool write) {
    if (!write) return std::cout << write_design(design), 0;
    auto saved = save_design(design, o.file);
    return saved ? 0 : fail(saved.error());
}
}  // namespace

int size(const Options& o, bool anew, bool write) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        if (design.blocks.empty())
            return fail({Fault::design, "/blocks", "there are no goals to size from", "a block of a recipe"});
        Design sized = design;
        for (std::size_t k = 0; k < design.blocks.size(); ++k) {
            if (anew) sized.blocks[k].by_hand.clear();
            auto next = with_goals(sized, k, goals_of(sized, sized.blocks[k]));
            if (!next) return fail(next.error());
            sized = std::move(next).value();
        }
        return put_back(o, sized, write);
    });
}

int change(const Options& o, const std::string& words, bool write) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto command = parse_command(words, design, c);
        if (!command) return fail(command.error());
        if (!command.value().design)
            return fail(
                {Fault::usage, words, "this changes nothing in the design", "an edit such as r1 = 82"});
        fmt::print(stderr, "{}\n", command.value().preview);
        return put_back(o, *command.value().design, write);
    });
}

int parts_reference() {
    std::cout << parts_markdown();
    return 0;
}

int rules_table() { return std::cout << rules_markdown(), 0; }
int schema() { return std::cout << design_schema(), 0; }

}  // namespace elkit::cli
