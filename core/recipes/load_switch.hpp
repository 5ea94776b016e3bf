#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A button or another block switches lights, a strip, a motor or a buzzer through a transistor, on their
/// minus or plus side.
Recipe load_switch();

/// A relay switches lights, by what must happen without power; bare with its transistor, or as a module.
Recipe relay_switch();

}  // namespace elkit
