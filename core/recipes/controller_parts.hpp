#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "recipes/sketch.hpp"

/// A small controller in a recipe's circuit.
namespace elkit {

/// Of what pins are rated for by a parameter [A], as much as a recipe takes.
double taken_of(const PartKind& kind, const char* rating);

/// Pins of a controller in the order in which to take them for lights: those that dim first, and of these
/// those that measure last.
std::vector<std::string> pins_for_lights(const ControllerSpec& controller);
/// Likewise for what is measured: those that do nothing else first.
std::vector<std::string> pins_for_sensors(const ControllerSpec& controller);

/// Puts it between the feed's net and GND, with its capacitor, under the name "Ucontroller". `pins` are nets
/// by its pins. Design error for a supply that does not suit it.
Result<void> add_controller(Sketch& sketch, const PartKind& kind, const Feed& feed,
                            const std::string& behaviour, const std::map<std::string, std::string>& pins,
                            double reference = 0);

/// The controllers that a recipe's goal "controller" lets one choose.
std::vector<const PartKind*> controllers_of_recipe(std::string_view recipe);

/// A that it takes itself at work.
double awake_current(const PartKind& kind, double volts);
/// A on average of one that sleeps and looks every so many seconds.
double asleep_current(const PartKind& kind, double volts, double looks);

/// Lights at a pin's net OUT, straight or behind a MOSFET, as the goal "drives" says. Errors: more than a pin
/// should give; those of Sketch::lights().
Result<void> lights_at_pin(Sketch& sketch, const Goals& goals, const PartKind& kind, const Feed& feed);
/// "direct" where a pin gives that much, else "transistor".
std::string drive_for(const PartKind& kind, const Lights& lights);

}  // namespace elkit
