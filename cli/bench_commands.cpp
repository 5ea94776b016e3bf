// What one does at the bench: sweep, spread, meter, stave.
#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "drawing/stave.hpp"
#include "engine/goal.hpp"
#include "engine/meter.hpp"
#include "engine/probe.hpp"
#include "engine/spread.hpp"
#include "engine/sweep.hpp"
#include "formats/svg.hpp"
#include "formats/waveforms.hpp"
#include "kit/stave_picture.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"

namespace elkit::cli {
namespace {

Result<std::vector<Goal>> goals_from(const Circuit& circuit, const std::vector<std::string>& words) {
    std::vector<Goal> goals;
    for (const auto& w : words) {
        auto goal = goal_from_words(circuit, w);
        if (!goal) return goal.error();
        goals.push_back(goal.value());
    }
    return goals;
}

int sweep_command(const Options& o, const std::string& over, const std::vector<std::string>& of) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        const auto equals = over.find('=');
        if (equals == std::string::npos)
            return fail({Fault::usage, "--over " + over, "has no range",
                         "NAME=FROM..TO:POINTS, such as RV1=0..1:21"});
        auto range = range_from_words(over.substr(equals + 1));
        if (!range)
            return fail({Fault::usage, "--over " + over, range.error().found, range.error().expected});
        auto goals = goals_from(design.circuit, of);
        if (!goals) return fail(goals.error());
        auto swept =
            sweep(design.circuit, known_catalogue(), c, over.substr(0, equals), range.value(), goals.value());
        if (!swept) return fail(swept.error());
        const Sweep& s = swept.value();
        Json list = Json::array();
        for (std::size_t g = 0; g < s.goals.size(); ++g) {
            Json values = Json::array();
            for (const double v : s.values[g]) values.push_back(number(v));
            list.push_back({{"of", of[g]}, {"unit", symbol(s.goals[g].unit)}, {"values", values}});
        }
        if (o.json)
            return print_json({{"over", s.over}, {"at", s.at}, {"results", list}, {"troubles", s.troubles}}),
                   0;
        CsvTable table{{s.over}};
        for (const auto& g : s.goals)
            table[0].push_back(symbol(g.unit).empty() ? g.label
                                                      : fmt::format("{} [{}]", g.label, symbol(g.unit)));
        for (std::size_t k = 0; k < s.at.size(); ++k) {
            table.push_back({format_plain(s.at[k])});
            for (const auto& values : s.values)
                table.back().push_back(std::isfinite(values[k]) ? format_plain(values[k]) : "");
        }
        std::cout << write_csv(table);
        for (const auto& t : s.troubles) fmt::print(stderr, "elkit-cli: {}\n", t);
        return 0;
    });
}

int spread_command(const Options& o, int builds, std::uint64_t seed, const std::vector<std::string>& of) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto goals = goals_from(design.circuit, of);
        if (!goals) return fail(goals.error());
        auto spreads = spread(design.circuit, known_catalogue(), c, goals.value(), builds, seed);
        if (!spreads) return fail(spreads.error());
        Json list = Json::array();
        for (const Spread& s : spreads.value()) {
            Json influences = Json::array();
            for (const auto& i : s.influences)
                influences.push_back(
                    {{"part", i.designator}, {"share", i.share}, {"correlation", i.correlation}});
            list.push_back({{"of", s.goal.label},
                            {"unit", symbol(s.goal.unit)},
                            {"builds", s.builds},
                            {"failed", s.failed},
                            {"seed", s.seed},
                            {"least", s.least},
                            {"p5", s.low},
                            {"median", s.median},
                            {"mean", s.mean},
                            {"p95", s.high},
                            {"most", s.most},
                            {"influences", influences}});
            if (!o.json) print_figure(s.figure());
        }
        if (o.json) print_json({{"spreads", list}});
        return 0;
    });
}

int meter_command(const Options& o, const Probing& asked, const std::string& mode) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto chosen = meter_mode(mode);
        if (!chosen) return fail(chosen.error());
        Probing p = asked;
        p.mode = chosen.value();
        auto reading = read_meter(design.circuit, known_catalogue(), c, p);
        if (!reading) return fail(reading.error());
        const MeterReading& m = reading.value();
        if (o.json)
            print_json({{"display", m.display},
                        {"value", m.overload ? Json(nullptr) : Json(m.value.value)},
                        {"unit", symbol(m.value.unit)},
                        {"range", m.range},
                        {"overload", m.overload},
                        {"beeps", m.beeps},
                        {"note", m.note},
                        {"working", m.value.working}});
        else
            fmt::print("{}{}\n", m.display, m.note.empty() ? "" : "   (" + m.note + ")");
        return 0;
    });
}

int stave_command(const Options& o, const std::string& svg) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        Store store;
        auto picture = stave_picture(Ask(store), design.circuit, c);
        if (!picture) return fail(picture.error());
        auto written = write_file(svg, write_svg(picture.value()));
        return written ? 0 : fail(written.error());
    });
}

}  // namespace

std::vector<Command> bench_commands() {
    return {
        {"sweep", "a number while something varies, as CSV",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto over = std::make_shared<std::string>();
             const auto of = std::make_shared<std::vector<std::string>>();
             sub.add_option("--over", *over,
                            "NAME=FROM..TO:POINTS, such as RV1=0..1:21 or R1.value=10..1k:31 log")
                 ->required();
             sub.add_option("--of", *of, "PROBE READING, such as \"OUT mean\" or \"OUT frequency\"")
                 ->required();
             return [=] { return sweep_command(*o, *over, *of); };
         }},
        {"spread", "a batch on paper: tolerances and bins at random",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto builds = std::make_shared<int>(1000);
             const auto seed = std::make_shared<std::uint64_t>(1);
             const auto of = std::make_shared<std::vector<std::string>>();
             sub.add_option("--builds", *builds, "how many")->check(within(1, 10000000));
             sub.add_option("--seed", *seed, "the same seed gives the same batch");
             sub.add_option("--of", *of, "PROBE READING, such as \"L1.i\"")->required();
             return [=] { return spread_command(*o, *builds, *seed, *of); };
         }},
        {"meter", "what a hand meter shows",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto probing = std::make_shared<Probing>();
             const auto mode = std::make_shared<std::string>("V");
             sub.add_option("--red", probing->red, "net under the red probe");
             sub.add_option("--black", probing->black, "net under the black probe");
             sub.add_option("--lift", probing->lifted, "PART.PIN whose leg is lifted for amperes");
             sub.add_option("--mode", *mode, "V, V~, A, ohm or beep");
             return [=] { return meter_command(*o, *probing, *mode); };
         }},
        {"stave", "the circuit as SVG",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto svg = std::make_shared<std::string>();
             sub.add_option("--svg", *svg, "file to write")->required();
             return [=] { return stave_command(*o, *svg); };
         }},
    };
}

}  // namespace elkit::cli
