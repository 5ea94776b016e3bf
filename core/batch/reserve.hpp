#pragma once
#include <string>
#include <vector>

#include "batch/parts_list.hpp"
#include "drawer/item.hpp"

namespace elkit {

/// What a batch does to the drawer, and what it could not have.
struct BatchMove {
    std::vector<DrawerChange> changes;
    std::vector<std::string> short_of;  ///< "R1, 75 Ω resistor: 20 of 33"
};

/// Promises the parts of a list to a batch, as many as are free; what it was promised before goes.
BatchMove reserve(const std::vector<DrawerItem>& items, const PartsList& list, const std::string& batch);
/// Takes the parts of a list out of the drawer, and its promises with them.
BatchMove use_up(const std::vector<DrawerItem>& items, const PartsList& list, const std::string& batch);
/// Gives back what a batch was promised.
BatchMove release(const std::vector<DrawerItem>& items, const std::string& batch);

/// The batches that parts are promised to, with how many kinds each, by name.
std::map<std::string, std::size_t> batches_reserved(const std::vector<DrawerItem>& items);

}  // namespace elkit
