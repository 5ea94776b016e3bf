#pragma once
#include "cli/output.hpp"

/// One function for each command; each prints and returns the exit code. docs/cli.md describes them.
namespace elkit::cli {

struct ResistorOptions {
    std::string supply, vf, current, drops = "0", series = "E24", round = "under";
    int leds = 1;
    bool json = false;
};

int check(const Options&);
int op(const Options&);
int light(const Options&);
int resistor(const ResistorOptions&);
int life(const Options&);
int supplies(const Options&, bool same_resistor);
int board(const Options&);
int build(const Options&);
int bom(const Options&);
int size(const Options&, bool write);
int change(const Options&, const std::string& words, bool write);
int export_all(const Options&);  // export.cpp
int rules_table();
int schema();

}  // namespace elkit::cli
