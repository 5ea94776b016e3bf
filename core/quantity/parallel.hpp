#pragma once
#include <tbb/parallel_for.h>

#include "quantity/stop.hpp"

namespace elkit {

/// `body(k)` for k from 0 to n − 1 on all cores; stops as the caller would.
template <class Index, class Body>
void parallel(Index n, const Body& body) {
    const std::atomic<bool>* flag = StopScope::current();
    tbb::parallel_for(Index{0}, n, [&](Index k) {
        const StopScope scope(flag);
        stop_point();
        body(k);
    });
}

}  // namespace elkit
