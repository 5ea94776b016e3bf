#pragma once
#include "cli/command.hpp"
#include "planning/arrays_of_design.hpp"

namespace elkit::cli {

/// Which lights on which supply: a file's, or as said.
struct ArrayOptions {
    Options common;
    std::string supply, light, led, current, use;
    int count = 0;
    bool owned = false;
};

/// The question that the options put. Usage error that names the option.
Result<ArraysQuery> question(const ArrayOptions& o);

/// Adds FILE, --supply, --light, --led, --count and --current; what runs the command asks for one of the
/// first two.
template <class Run>
std::function<int()> about_lights(CLI::App& sub, const std::shared_ptr<ArrayOptions>& o, Run run) {
    auto* file = sub.add_option("FILE", o->common.file, "a design whose lights and supply are meant");
    auto* supply = sub.add_option("--supply", o->supply, "\"3 x LR6\" or \"12V\", in place of a file");
    supply->excludes(file);
    sub.add_option("--light", o->light,
                   "one of the lights that are meant, where they hang in several places");
    sub.add_option("--led", o->led, "LED type, an id of the catalogue");
    sub.add_option("--count", o->count, "LEDs in all")->check(within(1, 1000));
    sub.add_option("--current", o->current, "A in each LED, such as 15mA");
    sub.add_flag("--json", o->common.json, "JSON on stdout");
    add_drawer(sub, o->common);
    return [o, file, supply, run, name = sub.get_name()] {
        if (file->count() + supply->count() == 0)
            return fail({Fault::usage, name, "no supply is given", "a FILE or --supply \"3 x LR6\""});
        return run(*o);
    };
}

}  // namespace elkit::cli
