#pragma once
#include <CLI/CLI.hpp>
#include <functional>
#include <initializer_list>
#include <memory>
#include <string>
#include <vector>

#include "cli/output.hpp"

namespace elkit::cli {

/// A subcommand, described where it is. docs/cli.md tells of each.
struct Command {
    std::string name, help;
    /// Adds its options to `sub`; gives what runs it once they are read, to the exit code.
    std::function<std::function<int()>(CLI::App& sub)> add;
};

std::vector<Command> design_commands();
std::vector<Command> light_commands();
std::vector<Command> planning_commands();
std::vector<Command> sight_commands();
std::vector<Command> drawer_commands();
std::vector<Command> face_commands();
std::vector<Command> firmware_commands();
std::vector<Command> picture_commands();
std::vector<Command> ways_commands();
std::vector<Command> recipe_commands();
std::vector<Command> protection_commands();
std::vector<Command> board_commands();
std::vector<Command> fabricate_commands();
std::vector<Command> making_commands();
std::vector<Command> export_commands();
std::vector<Command> time_commands();
std::vector<Command> bench_commands();

/// Options of a command on a design: its file, --json, and these groups.
using Group = void (*)(CLI::App&, Options&);
std::shared_ptr<Options> options(CLI::App& sub, std::initializer_list<Group> groups);
void add_conditions(CLI::App& sub, Options& o);
void add_drawer(CLI::App& sub, Options& o);

/// A finite number in this range.
CLI::Validator within(double low, double high);

/// A command on a design with no option of its own.
Command plain(const char* name, const char* help, std::initializer_list<Group> groups,
              int (*run)(const Options&));
/// One that prints a text.
Command printing(const char* name, const char* help, std::function<std::string()> text);

}  // namespace elkit::cli
