#pragma once
class QPrinter;

namespace elkit {

struct Drawing;

/// Prints a stave in the inks for paper, its words at a size that can be read; one that is too wide for the
/// page in pieces one below the other. False if the printer refuses or there is nothing to print.
bool print_stave(const Drawing& stave, QPrinter& printer);

}  // namespace elkit
