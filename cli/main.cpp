#include <cstdio>
#include <iostream>
#include <map>

#include "cli/command.hpp"

static int run(int argc, char** argv) {
    using namespace elkit::cli;
    CLI::App app{"Elkit on the command line: every computation of the bench, without the window"};
    app.require_subcommand(1);
    app.footer(
        "Exit codes: 0 ok, 1 the design has errors, 2 wrong use, 3 file trouble. docs/cli.md tells more.");
    std::map<const CLI::App*, std::function<int()>> runs;
    for (const auto& group : {design_commands(), light_commands(), making_commands(), export_commands(),
                              time_commands(), bench_commands()})
        for (const Command& command : group) {
            CLI::App* sub = app.add_subcommand(command.name, command.help);
            runs[sub] = command.add(*sub);
        }
    try {
        app.parse(argc, argv);
    } catch (const CLI::CallForHelp& e) {
        return app.exit(e);
    } catch (const CLI::ParseError& e) {
        std::cerr << "elkit-cli: " << e.what() << "\n";
        return 2;
    }
    return runs.at(app.get_subcommands().front())();
}

int main(int argc, char** argv) {
    try {
        return run(argc, argv);
    } catch (const std::exception& e) {  // such as no memory left
        std::fprintf(stderr, "elkit-cli: %s\n", e.what());
        return 3;
    }
}
