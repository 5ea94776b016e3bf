#include <CLI/CLI.hpp>
#include <cstdio>

#include "cli/commands.hpp"
#include "design/demo.hpp"

/// What FILE may be, with every demo by name.
static std::string file_help() {
    std::string text = "design file, or a demo:";
    for (const elkit::Demo& demo : elkit::demos()) text += " demo:" + demo.id;
    return text;
}

static int run(int argc, char** argv) {
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
        sub->add_option("FILE", o.file, file_help())->required();
        sub->add_flag("--json", o.json, "JSON on stdout");
        return sub;
    };
    const auto with_conditions = [&](CLI::App* sub) {
        sub->add_option("--battery", o.battery, "state of charge, 0 to 1")->check(CLI::Range(0.0, 1.0));
        sub->add_option("--temp", o.celsius, "temperature in °C, −40 to 85")->check(CLI::Range(-40.0, 85.0));
        sub->add_option("--switch", o.switches, "NAME=on or NAME=off");
        sub->add_option("--knob", o.knobs, "NAME=0..1, position of a potentiometer");
        sub->add_option("--source", o.sources, "NAME=LEVEL of a supply or steady source, such as PS1=4.5V");
        sub->add_option("--lux", o.lux, "illuminance of light sensors")->check(CLI::Range(0.0, 2e5));
        sub->add_option("--infrared", o.infrared, "W/m² on infrared sensors")->check(CLI::Range(0.0, 1000.0));
        return sub;
    };
    const auto with_drawer = [&](CLI::App* sub) {
        sub->add_option("--drawer", o.drawer, "drawer file; without it the stock that ships with Elkit");
        return sub;
    };
    with_drawer(with_conditions(on_design("check", "schema, connectivity and findings")));
    int state = 0;
    with_conditions(on_design("op", "net voltages, part currents and power"))
        ->add_option("--state", state, "of a latch: 1 from power-up, 2 … the others")
        ->check(CLI::Range(1, 100));
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
    bool anew = false;
    CLI::App* sized = on_design("size", "runs the recipes again; prints the design");
    sized->add_flag("--anew", anew, "also what was set by hand");
    sized->add_flag("--write", write, "into the file instead");
    CLI::App* change_command =
        on_design("do", "one change in plain words, such as \"r1 = 82\"; prints the design");
    change_command->add_option("WORDS", words, "the change")->required();
    change_command->add_flag("--write", write, "into the file instead");
    RunOptions run;
    elkit::Probing probing;
    std::string net, level, over, mode = "V", svg;
    std::vector<std::string> of;
    int builds = 1000;
    std::uint64_t seed = 1;
    const auto with_run = [&](CLI::App* sub) {
        sub->add_option("--at", run.changes, "\"TIME WHAT\", such as \"10ms press S1\"; may be repeated");
        sub->add_option("--accuracy", run.accuracy, "relative error of a step")->check(CLI::Range(1e-9, 0.1));
        sub->add_flag("--power-up", run.power_up, "start with empty capacitors, not from rest");
        return sub;
    };
    CLI::App* simulate = with_run(with_conditions(on_design("simulate", "the circuit through time")));
    simulate->add_option("--until", run.until, "circuit time, such as 20ms")->required();
    simulate->add_option("--probe", run.probes,
                         "NET, PART.i, PART.PIN, PART.p or PART.light; all nets without");
    simulate->add_flag("--csv", run.csv, "waveforms as CSV");
    simulate->add_flag("--vcd", run.vcd, "waveforms as a value change dump (IEEE 1364)");
    CLI::App* measured =
        with_run(with_conditions(on_design("measure", "period, duty, mean and more of a waveform")));
    measured->add_option("--net", net, "NET or PART.i …")->required();
    measured->add_option("--until", run.until, "measure a run of this time; without it the steady state");
    measured->add_option("--reaches", level, "and when it first crosses this level, such as 2.5V");
    CLI::App* steady = with_conditions(on_design("steady", "what it does in the long run"));
    steady->add_option("--probe", run.probes, "NET, PART.i …; all nets without");
    steady->add_option("--accuracy", run.accuracy, "relative error of a step")->check(CLI::Range(1e-9, 0.1));
    CLI::App* swept = with_conditions(on_design("sweep", "a number while something varies, as CSV"));
    swept->add_option("--over", over, "NAME=FROM..TO:POINTS, such as RV1=0..1:21 or R1.value=10..1k:31 log")
        ->required();
    swept->add_option("--of", of, "PROBE READING, such as \"OUT mean\" or \"OUT frequency\"")->required();
    CLI::App* spread =
        with_conditions(on_design("spread", "a batch on paper: tolerances and bins at random"));
    spread->add_option("--builds", builds, "how many")->check(CLI::Range(1, 10000000));
    spread->add_option("--seed", seed, "the same seed gives the same batch");
    spread->add_option("--of", of, "PROBE READING, such as \"L1.i\"")->required();
    CLI::App* meter = with_conditions(on_design("meter", "what a hand meter shows"));
    meter->add_option("--red", probing.red, "net under the red probe");
    meter->add_option("--black", probing.black, "net under the black probe");
    meter->add_option("--lift", probing.lifted, "PART.PIN whose leg is lifted for amperes");
    meter->add_option("--mode", mode, "V, V~, A, ohm or beep");
    with_conditions(on_design("stave", "the circuit as SVG"))
        ->add_option("--svg", svg, "file to write")
        ->required();
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
    app.add_subcommand("parts", "every kind of part and its parameters as Markdown");
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
    if (name == "op") return op(o, state);
    if (name == "light") return light(o);
    if (name == "life") return life(o);
    if (name == "supplies") return supplies(o, same);
    if (name == "board") return board(o);
    if (name == "build") return build(o);
    if (name == "bom") return bom(o);
    if (name == "export") return export_all(o);
    if (name == "size") return size(o, anew, write);
    if (name == "do") return change(o, words, write);
    if (name == "simulate") return simulate_command(o, run);
    if (name == "measure") return measure_command(o, run, net, level);
    if (name == "steady") return steady_command(o, run);
    if (name == "sweep") return sweep_command(o, over, of);
    if (name == "spread") return spread_command(o, builds, seed, of);
    if (name == "meter") return meter_command(o, probing, mode);
    if (name == "stave") return stave_command(o, svg);
    if (name == "resistor") return resistor(r);
    if (name == "parts") return parts_reference();
    return name == "rules" ? rules_table() : schema();
}

int main(int argc, char** argv) {
    try {
        return run(argc, argv);
    } catch (const std::exception& e) {  // such as no memory left
        std::fprintf(stderr, "elkit-cli: %s\n", e.what());
        return 3;
    }
}
