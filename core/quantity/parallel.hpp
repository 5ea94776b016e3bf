#pragma once
#include <cstddef>

#include "quantity/stop.hpp"

#ifdef ELKIT_THREADS
#include <algorithm>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>
#else
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>
#endif

namespace elkit {

/// `body(first, end)` for ranges of about `grain` that make up 0 to n − 1, on all cores; stops as the caller
/// would. An exception of a body goes on to the caller.
template <class Body>
void parallel_ranges(std::size_t n, std::size_t grain, const Body& body) {
    const std::atomic<bool>* flag = StopScope::current();
    const auto run = [&](std::size_t first, std::size_t end) {
        const StopScope scope(flag);
        stop_point();
        body(first, end);
    };
#ifdef ELKIT_THREADS  // plain threads: TSan cannot see how the task library hands work over
    std::atomic<std::size_t> next{0};
    std::exception_ptr thrown;
    std::mutex guard;
    const auto work = [&] {
        try {
            for (std::size_t at; (at = next.fetch_add(grain)) < n;) run(at, std::min(n, at + grain));
        } catch (...) {
            const std::lock_guard lock(guard);
            if (!thrown) thrown = std::current_exception();
            next = n;
        }
    };
    std::vector<std::thread> threads;
    for (int k = 0; k < 4; ++k) threads.emplace_back(work);
    for (std::thread& thread : threads) thread.join();
    if (thrown) std::rethrow_exception(thrown);
#else
    // whoever waits here for the last of them takes none of other work up meanwhile: that could wait for the
    // result of this
    tbb::this_task_arena::isolate([&] {
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, n, grain),
                          [&](const auto& range) { run(range.begin(), range.end()); });
    });
#endif
}

/// `body(k)` for k from 0 to n − 1, likewise.
template <class Index, class Body>
void parallel(Index n, const Body& body) {
    if (n <= 0) return;
    parallel_ranges(static_cast<std::size_t>(n), 1, [&](std::size_t first, std::size_t end) {
        for (std::size_t k = first; k < end; ++k) stop_point(), body(static_cast<Index>(k));
    });
}

}  // namespace elkit
