#pragma once
#include <vector>

#include "drawer/item.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// The values in stock, for recipes that choose among what is owned.
Environment values_in(const std::vector<DrawerItem>& drawer);

}  // namespace elkit
