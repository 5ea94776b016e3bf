#pragma once
#include <cstdint>

#include "cli/output.hpp"
#include "engine/meter.hpp"

/// One function for each command; each prints and returns the exit code. docs/cli.md describes them.
namespace elkit::cli {

struct ResistorOptions {
    std::string supply, vf, current, drops = "0", series = "E24", round = "under";
    int leds = 1;
    bool json = false;
};

/// Flags of the commands that follow time.
struct RunOptions {
    std::string until;
    std::vector<std::string> probes, changes;
    double accuracy = 1e-3;
    bool power_up = false, csv = false, vcd = false;
};

int check(const Options&);
int op(const Options&, int state);
int light(const Options&);
int resistor(const ResistorOptions&);
int life(const Options&);
int supplies(const Options&, bool same_resistor);
int board(const Options&);
int build(const Options&);
int bom(const Options&);
int size(const Options&, bool anew, bool write);
int change(const Options&, const std::string& words, bool write);
int export_all(const Options&);                           // export.cpp
int simulate_command(const Options&, const RunOptions&);  // engine_commands.cpp, and all below
int measure_command(const Options&, const RunOptions&, const std::string& net, const std::string& level);
int steady_command(const Options&, const RunOptions&);
int sweep_command(const Options&, const std::string& over, const std::vector<std::string>& of);
int spread_command(const Options&, int builds, std::uint64_t seed, const std::vector<std::string>& of);
int meter_command(const Options&, const Probing&, const std::string& mode);
int stave_command(const Options&, const std::string& svg);
int rules_table();
int parts_reference();
int schema();

}  // namespace elkit::cli
