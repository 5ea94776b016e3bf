#include "drawer/values.hpp"

namespace elkit {

Environment values_in(const std::vector<DrawerItem>& drawer) {
    return {owned_resistors(drawer), owned_capacitors(drawer), {}};
}

}  // namespace elkit
