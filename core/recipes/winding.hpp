#pragma once
#include "catalogue/catalogue.hpp"
#include "drawing/drawing.hpp"
#include "quantity/figure.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// Two equal windings on one core, wound at once with two wires side by side.
struct Winding {
    PartType core;
    int turns = 0;    ///< of each
    double wire = 0;  ///< m, the copper's diameter

    double length() const;        ///< m of each wire, with its ends
    double turn_ohms() const;     ///< Ω of one turn
    double side_by_side() const;  ///< m that all turns take in one layer
    int layers() const;
};

/// By the goals "core", "turns" and "wire". Design error for a core that the catalogue has not.
Result<Winding> winding_of(const Goals& goals);

/// The length of each wire, with how to wind it as its working.
Figure winding_plan(const Winding& winding);

/// The wound core from the front with its four ends, and where each of them goes. In units of a screen, 12 cm
/// wide on paper.
Drawing draw_winding(const Winding& winding);

}  // namespace elkit
