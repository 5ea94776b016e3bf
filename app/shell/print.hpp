#pragma once
class QPrinter;

namespace elkit {

struct Drawing;

/// Prints a drawing on one page, as large as it goes, in the inks for paper. False if the printer refuses.
bool print_drawing(const Drawing& drawing, QPrinter& printer);

}  // namespace elkit
