#pragma once
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

#include "build/steps.hpp"
#include "design/design.hpp"
#include "drawer/drawer.hpp"
#include "engine/conditions.hpp"
#include "quantity/figure.hpp"
#include "quantity/result.hpp"

namespace elkit::cli {

using Json = nlohmann::ordered_json;

/// Exit codes: 0 ok, 1 the design has errors, 2 wrong use, 3 file trouble, 4 a fault of this program.
int exit_code(const Error& error);
/// Prints the error to stderr as one line; returns its exit code.
int fail(const Error& error);

/// {"value", "unit", "low", "high", "text", "working"}; infinities become null.
Json figure_json(const Figure& figure);
Json number(double value);
void print_figure(const Figure& figure);

/// Flags shared by every command on a design.
struct Options {
    std::string file, directory, drawer;
    bool json = false;
    std::optional<double> battery, celsius, lux, infrared;  // not given: as the situation has it
    double kits = 0;
    std::string situation;
    std::vector<std::string> switches, knobs, sources, warmth, events;
};
Result<Conditions> conditions_from(const Options& options, const Design& design);
Result<Design> load(const Options& options);
bool is_demo(const Options& options);
/// Usage error if --write has nowhere to write to.
Result<void> check_file_to_write(const Options& options);
/// The value of an option; its error names the option.
Result<double> quantity_of(const std::string& option, const std::string& text, Unit unit);
/// The drawer of --drawer, or the stock that ships with Elkit.
Result<std::vector<DrawerItem>> drawer_items(const Options& options);

/// "red at A1, black at B2: 4.79 V (4.51–4.81)".
std::string check_text(const Check& check);

}  // namespace elkit::cli
