// Grids of lights, and what the eye gets of them.
#include <fmt/format.h>

#include <cmath>

#include "cli/lights_asked.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "design/optics.hpp"
#include "light/heat.hpp"
#include "light/sight.hpp"
#include "planning/grid.hpp"
#include "planning/grid_patterns.hpp"
#include "planning/grid_picture.hpp"
#include "planning/strip_run.hpp"
#include "situations/propose.hpp"

namespace elkit::cli {
namespace {

struct GridOptions {
    ArrayOptions of;
    int rows = 0, columns = 0;
    std::string resistor, refresh = "100Hz", pattern;
    bool for_all = false;
};

Json step_json(const GridStep& step) {
    Json rows = Json::array(), columns = Json::array();
    for (const int r : step.rows) rows.push_back(r + 1);
    for (const int c : step.columns) columns.push_back(c + 1);
    return {{"rows", rows}, {"columns", columns}};
}

Json grid_json(const Grid& grid, const std::optional<GridPattern>& wish) {
    Json schemes = Json::array(), by_lit = Json::array();
    for (const GridScheme& s : grid.schemes)
        schemes.push_back({{"id", s.id},
                           {"lines", s.lines},
                           {"resistors", s.resistors},
                           {"duty", s.duty},
                           {"peak", figure_json(s.peak)},
                           {"allowed", figure_json(s.allowed)},
                           {"looks", figure_json(s.seen)},
                           {"line", figure_json(s.line)},
                           {"remark", s.remark}});
    for (const Figure& f : grid.by_lit) by_lit.push_back(figure_json(f));
    Json json{{"rows", grid.question.rows},
              {"columns", grid.question.columns},
              {"resistor", figure_json(grid.resistor)},
              {"rating_W", number(grid.rating)},
              {"by_lit", by_lit},
              {"all", figure_json(grid.all)},
              {"total", figure_json(grid.total)},
              {"remarks", grid.remarks},
              {"flicker", flicker_text(grid.question.refresh, grid.flicker == Flicker::steady ? 0 : 100)},
              {"schemes", schemes}};
    if (!wish) return json;
    const PatternAnswer answer = answer_pattern(*wish);
    Json scan = Json::array();
    for (const GridStep& step : answer.scan) scan.push_back(step_json(step));
    json["pattern"] = {{"reachable", answer.reachable()},
                       {"closed", step_json(answer.closed)},
                       {"others", answer.others.size()},
                       {"scan", scan}};
    return json;
}

void print_grid(const Grid& grid, const std::optional<GridPattern>& wish) {
    fmt::print(
        "{} × {} lights, {} resistor each {}, {}\n", grid.question.rows, grid.question.columns,
        grid.resistor.text(), grid.sharing == 1 ? "light" : fmt::format("{} lights", grid.sharing),
        std::isfinite(grid.rating) ? format_quantity(grid.rating, Unit::watt) : "beyond common ratings");
    for (std::size_t k = 0; k < grid.by_lit.size(); ++k)
        fmt::print("{:>3} lit on it: {:>9} {:>12}  looks {:>5}\n", k + 1, grid.by_lit[k].text(),
                   grid.by_lit[k].spread_text(), grid.seen[k].text(2));
    fmt::print("all lit: {} each, {} from the supply\n", grid.all.text(), grid.total.text());
    for (const GridScheme& s : grid.schemes)
        fmt::print("{:<28} {:>3} lines, lit {:>4.3g} %, peak {:>8}, bears {:>8}  {}\n", s.name, s.lines,
                   100 * s.duty, s.peak.text(), s.allowed.text(), s.remark);
    for (const std::string& remark : grid.remarks) fmt::print("{}\n", remark);
    if (wish) fmt::print("{}\n", pattern_text(*wish, answer_pattern(*wish)));
}

int plan_grid_of(const GridOptions& o) {
    auto query = question(o.of);
    if (!query) return fail(query.error());
    GridQuery asked{query.value(), {}, {}, {}};
    std::optional<GridPattern> wish;
    if (!o.pattern.empty()) {
        auto read = read_pattern(o.pattern);
        if (!read) return fail(read.error());
        wish = read.value();
        asked.rows = wish->rows, asked.columns = wish->columns;
    }
    if (o.rows > 0) asked.rows = o.rows;
    if (o.columns > 0) asked.columns = o.columns;
    if (wish && (*asked.rows != wish->rows || *asked.columns != wish->columns))
        return fail({Fault::usage, "--pattern", fmt::format("{} × {}", wish->rows, wish->columns),
                     fmt::format("{} × {} as --rows and --columns say", *asked.rows, *asked.columns)});
    if (o.resistor == "row") asked.resistor = GridResistor::row;
    if (o.resistor == "column") asked.resistor = GridResistor::column;
    if (o.resistor == "light") asked.resistor = GridResistor::light;
    auto hertz = quantity_of("--refresh", o.refresh, Unit::hertz);
    if (!hertz) return fail(hertz.error());
    asked.refresh = hertz.value(), asked.for_all = o.for_all;
    Store store;
    const auto found = Ask(store)(asked);
    if (!found) return fail(found.error());
    if (o.of.common.json)
        print_json(grid_json(*found, wish));
    else
        print_grid(*found, wish);
    return 0;
}

int sight(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        Store store;
        const Ask ask(store);
        const Keyed<Circuit> circuit(design.circuit);
        const Brief& brief = design.brief;
        const auto found = ask(SightQuery(circuit, lit_conditions(ask, design, circuit, now), brief.distance,
                                          optics_factor(brief.optics)));
        if (!found) return fail(found.error());
        Json rows = Json::array();
        for (const SightRow& r : found->rows) {
            rows.push_back({{"led", r.led},
                            {"lights", r.lights},
                            {"visible", r.visible},
                            {"on", figure_json(r.on)},
                            {"share", figure_json(r.share)},
                            {"looks", figure_json(r.seen)},
                            {"frequency_Hz", r.frequency},
                            {"modulation_percent", r.modulation},
                            {"flicker", flicker_text(r.frequency, r.modulation)},
                            {"average", figure_json(r.average)},
                            {"illuminance", figure_json(r.illuminance)},
                            {"luminance", figure_json(r.luminance)},
                            {"caution", r.caution}});
            if (o.json) continue;
            fmt::print("{} × {}: {} while on, {} of the time, looks {}, {} on average", r.lights.size(),
                       r.led, r.on.text(), r.share.text(2), r.seen.text(2), r.average.text());
            if (std::isfinite(r.illuminance.value)) fmt::print(", {} at the eye", r.illuminance.text());
            if (std::isfinite(r.luminance.value)) fmt::print(", {}", r.luminance.text());
            fmt::print("; {}{}{}\n", flicker_text(r.frequency, r.modulation), r.caution.empty() ? "" : ". ",
                       r.caution);
        }
        if (o.json)
            print_json({{"lights", rows},
                        {"together", figure_json(found->together)},
                        {"share_for_eyes", found->share_for_eyes}});
        return 0;
    });
}

int heat(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        Store store;
        const auto found = Ask(store)(HeatQuery(Keyed<Circuit>(design.circuit), now));
        if (!found) return fail(found.error());
        Json rows = Json::array();
        for (const HeatRow& r : found->rows) {
            rows.push_back({{"part", r.what},
                            {"parts", r.parts},
                            {"power", figure_json(r.power)},
                            {"inside", figure_json(r.inside)},
                            {"outside", figure_json(r.outside)},
                            {"allowed", figure_json(r.allowed)},
                            {"too_much", r.too_much},
                            {"burns", r.burns},
                            {"remark", r.remark}});
            if (!o.json)
                fmt::print("{} × {}: {}, inside {}, outside {}, may have {}; {}\n", r.parts.size(), r.what,
                           r.power.text(), format_quantity(*r.inside.high, Unit::celsius, 2),
                           format_quantity(*r.outside.high, Unit::celsius, 2), r.allowed.text(),
                           r.remark.empty() ? "fine" : r.remark);
        }
        if (!o.json && !found->wrong_way.empty()) fmt::print("{}\n", found->wrong_way);
        if (o.json) print_json({{"parts", rows}, {"wrong_way", found->wrong_way}});
        return 0;
    });
}

struct StripOptions {
    Options common;
    std::string length, leads, area;
    bool use = false;
};

int strip(const StripOptions& o) {
    auto design = load(o.common);
    if (!design) return fail(design.error());
    StripQuery query{design.value()};
    for (const auto& [option, text, value] : {std::tuple("--length", &o.length, &query.length),
                                              std::tuple("--leads", &o.leads, &query.lead_length)}) {
        if (text->empty()) continue;
        auto metres = quantity_of(option, *text, Unit::metre);
        if (!metres) return fail(metres.error());
        *value = metres.value();
    }
    if (!o.area.empty()) {
        auto area = quantity_of("--area", o.area, Unit::square_metre);
        if (!area) return fail(area.error());
        query.lead_area = area.value();
    }
    Store store;
    const auto found = Ask(store)(query);
    if (!found) return fail(found.error());
    const StripAnswer& answer = found->answer;
    if (o.use) return std::cout << write_design(with_strip(query.design, found->question, answer)), 0;
    Json runs = Json::array();
    for (const StripRun& r : answer.runs) {
        runs.push_back({{"fed", r.name},
                        {"total", figure_json(r.total)},
                        {"lead_drop", figure_json(r.lead_drop)},
                        {"strip_drop", figure_json(r.strip_drop)},
                        {"dimmest", figure_json(r.dimmest)},
                        {"amps", r.amps},
                        {"wire_m", r.wire}});
        if (!o.common.json)
            fmt::print("{:<16} {:>8}, {:>8} lost in leads, {:>8} in the strip, dimmest looks {}\n", r.name,
                       r.total.text(), r.lead_drop.text(), r.strip_drop.text(), r.dimmest.text(2));
    }
    if (o.common.json)
        print_json({{"length_m", answer.length},
                    {"pieces", answer.pieces},
                    {"leds", answer.leds},
                    {"left_over_m", answer.left_over},
                    {"runs", runs},
                    {"remarks", answer.remarks}});
    else
        for (const std::string& remark : answer.remarks) fmt::print("{}\n", remark);
    return 0;
}

}  // namespace

std::vector<Command> sight_commands() {
    return {plain("heat", "how warm lights and resistors get, and what to do", {add_conditions}, heat),
            {"strip", "a strip cut to length on leads: what is lost, from which side to feed it",
             [](CLI::App& sub) {
                 const auto o = std::make_shared<StripOptions>();
                 sub.add_option("FILE", o->common.file, "design")->required();
                 sub.add_option("--length", o->length, "of the strip, such as 2.5m");
                 sub.add_option("--leads", o->leads, "length of its leads, one way");
                 sub.add_option("--area", o->area, "cross-section of the leads, mm²");
                 sub.add_flag("--use", o->use, "prints the design with this strip and these leads");
                 sub.add_flag("--json", o->common.json, "JSON on stdout");
                 return [o] { return strip(*o); };
             }},
            plain("sight", "what the eye gets of each light: averages, pulses, distance", {add_conditions},
                  sight),
            {"grid", "lights at the crossings of rows and columns: resistors, patterns, scanning",
             [](CLI::App& sub) {
                 const auto o = std::make_shared<ArrayOptions>();
                 const auto more = std::make_shared<GridOptions>();
                 sub.add_option("--rows", more->rows, "rows; without it as the design has them")
                     ->check(within(1, 32));
                 sub.add_option("--columns", more->columns, "columns")->check(within(1, 32));
                 sub.add_option("--resistor", more->resistor, "where it sits: row, column or light")
                     ->check(CLI::IsMember({"row", "column", "light"}));
                 sub.add_flag("--for-all", more->for_all, "chosen for all lights that share it, not for one");
                 sub.add_option("--refresh", more->refresh, "of a scanned grid, such as 100Hz");
                 sub.add_option("--pattern", more->pattern, "lights that are wished: \"x..,.x.,..x\"");
                 sub.add_flag("--owned", o->owned, "resistors from the drawer only");
                 return about_lights(sub, o, [more](const ArrayOptions& with) {
                     GridOptions all = *more;
                     all.of = with;
                     return plan_grid_of(all);
                 });
             }}};
}

}  // namespace elkit::cli
