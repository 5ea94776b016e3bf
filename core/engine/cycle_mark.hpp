#pragma once

namespace elkit {

/// Where a cycle begins.
struct Section {
    int monitor = -1;  ///< a latch's own event, or one past the last monitor for a net's crossing
    int unknown = 0;
    double level = 0, period = 0;  ///< V; s, roughly
    bool by_clock = false;         ///< a device marks it by its own clock
    int turns = 1;  ///< so many of them make one cycle: a symmetric flasher shakes its supply twice
};

}  // namespace elkit
