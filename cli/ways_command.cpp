// ways: what a block does, by a timer and by a small controller, side by side
#include <fmt/format.h>

#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "kit/timer_or_controller.hpp"

namespace elkit::cli {
namespace {

struct WaysOptions {
    Options common;
    std::string use;
    bool write = false;
};

Json way_json(const MadeBy& way) {
    Json j{{"way", way.name},
           {"present", way.present},
           {"needs_programming", way.programmed},
           {"trouble", way.reason}};
    if (!way.reason.empty()) return j;
    for (const auto& [key, figure] : {std::pair("parts", &way.parts),
                                      {"cost", &way.cost},
                                      {"on", &way.lit},
                                      {"waits", &way.waits},
                                      {"lasts", &way.lasts},
                                      {"board", &way.area},
                                      {"pace", &way.pace}})
        if (!figure->label.empty()) j[key] = figure_json(*figure);
    return j;
}

std::string spread_of(const Figure& pace) { return pace.text() + " (" + pace.spread_text() + ")"; }

void print_ways(const std::vector<MadeBy>& all) {
    fmt::print("{:<26} {:>5} {:>7} {:>10} {:>10} {:>10} {:>9}  {}\n", "", "parts", "cost", "on", "waits",
               "lasts", "board", "over a batch");
    for (const MadeBy& w : all) {
        if (!w.reason.empty()) {
            fmt::print("{:<26} {}\n", w.name, w.reason);
            continue;
        }
        fmt::print("{:<26} {:>5} {:>7} {:>10} {:>10} {:>10} {:>9}  {}{}{}\n", w.name, w.parts.text(),
                   w.cost.text(), w.lit.text(), w.waits.label.empty() ? "" : w.waits.text(), w.lasts.text(),
                   w.area.text(), spread_of(w.pace), w.programmed ? ", needs programming" : "",
                   w.present ? " (this)" : "");
    }
}

int ways(const WaysOptions& o) {
    return with_design(o.common, [&](const Design& design, const Conditions&) {
        std::size_t block = 0;
        while (block < design.blocks.size() && !both_can(design, block)) ++block;
        auto items = drawer_items(o.common);
        if (!items) return fail(items.error());
        Store store;
        const auto made = Ask(store)(MadeByQuery(design, block, items.value()));
        if (!made) return fail(made.error());
        if (!o.use.empty()) {
            for (const MadeBy& way : *made) {
                if (way.name.find(o.use) == std::string::npos) continue;
                const auto next = made_by(design, block, way);
                return next ? put_back(o.common, next.value(), o.write) : fail(next.error());
            }
            return fail({Fault::usage, "--use", "no way of this name: " + o.use,
                         "part of a name in the first column"});
        }
        if (!o.common.json) return print_ways(*made), 0;
        Json all = Json::array();
        for (const MadeBy& way : *made) all.push_back(way_json(way));
        return print_json(all), 0;
    });
}

}  // namespace

std::vector<Command> ways_commands() {
    return {{"ways", "a blinker or a light that stays on after a press, by a timer and by a controller",
             [](CLI::App& sub) {
                 const auto o = std::make_shared<WaysOptions>();
                 sub.add_option("FILE", o->common.file, "a design, or a demo")->required();
                 sub.add_option("--use", o->use, "prints the design made this way: part of its name");
                 sub.add_flag("--write", o->write, "into the file instead");
                 sub.add_flag("--json", o->common.json, "JSON on stdout");
                 add_drawer(sub, o->common);
                 return [o] { return ways(*o); };
             }}};
}

}  // namespace elkit::cli
