#include <CLI/CLI.hpp>

#include "cli/commands.hpp"

int main(int argc, char** argv) {
    using namespace elkit::cli;
    CLI::App app{"Elkit on the command line: every computation of the bench, without the window"};
    app.require_subcommand(1);
    app.footer(
        "Exit codes: 0 ok, 1 the design has errors, 2 wrong use, 3 file trouble. docs/cli.md tells more.");
    Options o;
    ResistorOptions r;
    bool same = false, write = false;
    std::string words;
    const auto on_design = [&](const char* name, const char* help) {
        CLI::App* sub = app.add_subcommand(name, help);
        sub->add_option("FILE", o.file, "design file, or demo:pier-lantern, demo:coat-badge")->required();
        sub->add_flag("--json", o.json, "JSON on stdout");
        return sub;
    };
    const auto with_conditions = [&](CLI::App* sub) {
        sub->add_option("--battery", o.battery, "state of charge, 0 to 1")->check(CLI::Range(0.0, 1.0));
        sub->add_option("--temp", o.celsius, "temperature in °C, −40 to 85")->check(CLI::Range(-40.0, 85.0));
        sub->add_option("--switch", o.switches, "NAME=on or NAME=off");
        return sub;
    };
    const auto with_drawer = [&](CLI::App* sub) {
        sub->add_option("--drawer", o.drawer, "drawer file; without it the stock that ships with Elkit");
        return sub;
    };
    with_drawer(with_conditions(on_design("check", "schema, connectivity and findings")));
    with_conditions(on_design("op", "net voltages, part currents and power"));
    with_drawer(with_conditions(on_design("light", "strings, resistors and their spread")));
    with_conditions(on_design("life", "run time and discharge"));
    with_conditions(on_design("supplies", "the same light from other supplies"))
        ->add_flag("--same-resistor", same, "keep the resistor");
    on_design("board", "pad-board layout and the connections extracted from it");
    on_design("build", "build steps with expected readings");
    with_drawer(on_design("bom", "parts list as CSV"))
        ->add_option("--batch", o.kits, "number of kits")
        ->check(CLI::Range(1.0, 1e6));
    with_drawer(with_conditions(on_design("export", "leaflet PDF, stave and board SVG, parts CSV")))
        ->add_option("--to", o.directory, "folder, made if missing")
        ->required();
    on_design("size", "runs the recipe again; prints the design")
        ->add_flag("--write", write, "into the file instead");
    CLI::App* change_command =
        on_design("do", "one change in plain words, such as \"r1 = 82\"; prints the design");
    change_command->add_option("WORDS", words, "the change")->required();
    change_command->add_flag("--write", write, "into the file instead");
    CLI::App* resistor_command = app.add_subcommand("resistor", "series resistor for LEDs");
    resistor_command->add_option("--supply", r.supply, "V, fresh")->required();
    resistor_command->add_option("--vf", r.vf, "forward voltage of one LED, V")->required();
    resistor_command->add_option("--current", r.current, "A, such as 15mA")->required();
    resistor_command->add_option("--leds", r.leds, "LEDs in series")->check(CLI::Range(1, 40));
    resistor_command->add_option("--drops", r.drops, "V lost elsewhere in series");
    resistor_command->add_option("--series", r.series, "E3 … E192");
    resistor_command->add_option("--round", r.round, "nearest or under");
    resistor_command->add_flag("--json", r.json, "JSON on stdout");
    app.add_subcommand("rules", "the table of findings as Markdown");
    app.add_subcommand("schema", "the JSON schema of design files");
    try {
        app.parse(argc, argv);
    } catch (const CLI::CallForHelp& e) {
        return app.exit(e);
    } catch (const CLI::ParseError& e) {
        std::cerr << "elkit-cli: " << e.what() << "\n";
        return 2;
    }
    const std::string name = app.get_subcommands().front()->get_name();
    if (name == "check") return check(o);
    if (name == "op") return op(o);
    if (name == "light") return light(o);
    if (name == "life") return life(o);
    if (name == "supplies") return supplies(o, same);
    if (name == "board") return board(o);
    if (name == "build") return build(o);
    if (name == "bom") return bom(o);
    if (name == "export") return export_all(o);
    if (name == "size") return size(o, write);
    if (name == "do") return change(o, words, write);
    if (name == "resistor") return resistor(r);
    return name == "rules" ? rules_table() : schema();
}
