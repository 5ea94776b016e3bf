#include "cli/command.hpp"

#include <fmt/format.h>

#include <iostream>

#include "design/demo.hpp"

namespace elkit::cli {

/// What FILE may be, with every demo by name.
static std::string file_help() {
    std::string text = "design file, or a demo:";
    for (const Demo& demo : demos()) text += " demo:" + demo.id;
    return text;
}

std::shared_ptr<Options> options(CLI::App& sub, std::initializer_list<Group> groups) {
    auto o = std::make_shared<Options>();
    sub.add_option("FILE", o->file, file_help())->required();
    sub.add_flag("--json", o->json, "JSON on stdout");
    for (const Group add : groups) add(sub, *o);
    return o;
}

void add_conditions(CLI::App& sub, Options& o) {
    sub.add_option("--situation", o.situation, "name of a situation; 'situations FILE' lists them");
    sub.add_option("--battery", o.battery, "state of charge, 0 to 1")->check(within(0.0, 1.0));
    sub.add_option("--temp", o.celsius, "temperature in °C, −40 to 85")->check(within(-40.0, 85.0));
    sub.add_option("--switch", o.switches, "NAME=on or NAME=off");
    sub.add_option("--knob", o.knobs, "NAME=0..1, position of a potentiometer");
    sub.add_option("--source", o.sources, "NAME=LEVEL of a supply or steady source, such as PS1=4.5V");
    sub.add_option("--lux", o.lux, "illuminance of light sensors")->check(within(0.0, 2e5));
    sub.add_option("--warm", o.warmth, "NAME=°C of a single part, such as TH1=60");
    sub.add_option("--event", o.events, "what a hand does after power-up, such as \"1s press S2\"");
    sub.add_option("--infrared", o.infrared, "W/m² on infrared sensors")->check(within(0.0, 1000.0));
}

void add_drawer(CLI::App& sub, Options& o) {
    sub.add_option("--drawer", o.drawer, "drawer file; without it the stock that ships with Elkit");
}

CLI::Validator within(double low, double high) {
    const std::string range = fmt::format("from {} to {}", low, high);
    return {[=](const std::string& text) {
                double value = 0;
                const bool read = CLI::detail::lexical_cast(text, value);
                return read && value >= low && value <= high
                           ? std::string()
                           : "found \"" + text + "\"; expected a number " + range;
            },
            range};
}

Command plain(const char* name, const char* help, std::initializer_list<Group> groups,
              int (*run)(const Options&)) {
    return {name, help, [groups = std::vector<Group>(groups), run](CLI::App& sub) {
                const auto o = options(sub, {});
                for (const Group add : groups) add(sub, *o);
                return [o, run] { return run(*o); };
            }};
}

Command printing(const char* name, const char* help, std::function<std::string()> text) {
    return {name, help, [text = std::move(text)](CLI::App&) {
                return [text] {
                    std::cout << text();
                    return 0;
                };
            }};
}

}  // namespace elkit::cli
