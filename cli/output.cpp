#include "cli/output.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>
#include <iostream>

#include "circuit/part_kind.hpp"
#include "cli/with_design.hpp"
#include "design/delta.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "drawer/import.hpp"
#include "engine/goal.hpp"
#include "quantity/parse.hpp"
#include "situations/propose.hpp"
#include "situations/words.hpp"

namespace elkit::cli {

int exit_code(const Error& error) {
    switch (error.fault) {
        case Fault::design:
            return 1;
        case Fault::usage:
            return 2;
        case Fault::file:
            return 3;
        case Fault::program:
            return 4;
    }
    return 1;
}

int fail(const Error& error) {
    std::cerr << "elkit-cli: " << error.text() << "\n";  // does not throw where stderr is closed
    return exit_code(error);
}

int put_back(const Options& o, const Design& design, bool write) {
    if (!write) return std::cout << write_design(design), 0;
    if (auto sound = check_writable(design); !sound) return fail(sound.error());
    auto saved = save_design(design, o.file);
    return saved ? 0 : fail(saved.error());
}

Json number(double value) { return std::isfinite(value) ? Json(value) : Json(nullptr); }

Json figure_json(const Figure& f) {
    Json j{{"label", f.label}, {"value", number(f.value)}, {"unit", symbol(f.unit)}, {"text", f.text()}};
    if (f.low) j["low"] = number(*f.low);
    if (f.high) j["high"] = number(*f.high);
    j["working"] = f.working;
    return j;
}

void print_figure(const Figure& f) {
    fmt::print("{:<38} {}{}\n", f.label, f.text(),
               f.spread_text().empty() ? "" : "   (" + f.spread_text() + ")");
    for (const auto& line : f.working) fmt::print("    {}\n", line);
}

namespace {

Result<Conditions> situation_from(const Options& options, const Design& design) {
    Store store;
    const auto all = situations_of(Ask(store), design, Keyed<Circuit>(design.circuit));
    std::vector<std::string> names;
    for (const Situation& s : all) {
        if (s.name == options.situation) return s.under({});
        names.push_back(s.name);
    }
    return Error{Fault::usage, "--situation " + options.situation, "there is no such situation",
                 fmt::format("one of: {}", fmt::join(names, "; "))};
}

}  // namespace

Result<Conditions> conditions_from(const Options& options, const Design& design) {
    Conditions c;
    if (!options.situation.empty()) {
        auto there = situation_from(options, design);
        if (!there) return there.error();
        c = std::move(there).value();
    }
    c.battery = options.battery.value_or(c.battery), c.celsius = options.celsius.value_or(c.celsius);
    c.lux = options.lux.value_or(c.lux), c.infrared = options.infrared.value_or(c.infrared);
    for (const std::string& text : options.events) {
        auto event = read_event(text, design.circuit);
        if (!event) return event.error();
        c.events.push_back(std::move(event).value());
    }
    std::stable_sort(c.events.begin(), c.events.end(),
                     [](const HandEvent& a, const HandEvent& b) { return a.time < b.time; });
    for (const std::string& text : options.warmth) {
        const auto equals = text.find('=');
        const Part* part = design.circuit.find(text.substr(0, equals));
        auto celsius =
            parse_quantity(equals == std::string::npos ? "" : text.substr(equals + 1), Unit::celsius);
        if (!part || !celsius || celsius.value() < -60 || celsius.value() > 200)
            return Error{Fault::usage, "--warm " + text, "cannot be read",
                         "NAME=°C of a part, −60 to 200, such as TH1=60"};
        c.warmth[part->designator] = celsius.value();
    }
    for (const std::string& text : options.switches) {
        const auto at = text.find('=');
        const std::string name = text.substr(0, at),
                          state = at == std::string::npos ? "" : text.substr(at + 1);
        const Part* part = design.circuit.find(name);
        if (!part || !is(*part, Role::contact))
            return Error{Fault::usage, "--switch " + text, "there is no switch " + name,
                         "NAME=on or NAME=off"};
        if (state != "on" && state != "off")
            return Error{Fault::usage, "--switch " + text, "found \"" + state + "\"", "NAME=on or NAME=off"};
        c.switches[name] = state == "on";
    }
    Circuit circuit = design.circuit;
    for (const std::string& text : options.sources) {
        const auto equals = text.find('=');
        const Part* part =
            equals == std::string::npos ? nullptr : design.circuit.find(text.substr(0, equals));
        const Error bad{Fault::usage, "--source " + text, "cannot be read",
                        "NAME=LEVEL of a supply or steady source, such as PS1=4.5V"};
        if (!part || !has_level(*part)) return bad;
        auto level = parse_quantity(text.substr(equals + 1), level_unit(*part));
        if (!level) return bad;
        c.levels[part->designator] = level.value();
    }
    for (const std::string& text : options.knobs) {
        const auto at = text.find('=');
        auto value = parse_quantity(at == std::string::npos ? "" : text.substr(at + 1), Unit::none);
        if (!value) return Error{Fault::usage, "--knob " + text, value.error().found, "NAME=0.3"};
        if (auto set = set_by_name(text.substr(0, at), value.value(), circuit, c); !set) return set.error();
    }
    return c;
}

Result<double> quantity_of(const std::string& option, const std::string& text, Unit unit) {
    auto value = parse_said(text, unit);
    if (!value) return Error{Fault::usage, option, value.error().found, value.error().expected};
    return value;
}

Result<void> check_file_to_write(const Options& options) {
    if (!is_demo(options)) return success();
    return Error{Fault::usage, "--write", options.file + " is no file",
                 "a design file; without --write the design is printed"};
}

bool is_demo(const Options& options) { return options.file.starts_with("demo:"); }

Result<Design> load(const Options& options) {
    const Demo* demo = is_demo(options) ? find_demo(options.file.substr(5)) : nullptr;
    if (is_demo(options) && !demo)
        return Error{Fault::usage, options.file, "there is no such demo", "one of those that --help tells"};
    auto design = demo ? read_design(demo->text) : load_design(options.file);
    if (design && options.kits > 0) design.value().brief.kits = options.kits;
    return design;
}

Result<std::vector<DrawerItem>> drawer_items(const Options& o) {
    if (o.drawer.empty()) return demo_stock();
    auto drawer = Drawer::open_existing(o.drawer);
    if (!drawer) return drawer.error();
    return drawer.value().take_opened();
}

std::string check_text(const Check& check) {
    const std::string probes = fmt::format("{} to {}: ", check.red, check.black);
    if (check.kind == CheckKind::beep) return probes + "beep";
    if (check.kind == CheckKind::silent) return probes + "no beep";
    return probes + fmt::format("{} ({})", check.expected->text(), check.expected->spread_text());
}

}  // namespace elkit::cli
