#pragma once
#include <atomic>

namespace elkit {

/// Thrown by stop_point() when nobody waits for the result any more. The store catches it; it is the one
/// exception that is no bug.
struct Stopped {};

/// While it lives, work of this thread ends at its next stop_point() once `flag` is set.
class StopScope {
  public:
    explicit StopScope(const std::atomic<bool>* flag) : before_(current()) { current() = flag; }
    ~StopScope() { current() = before_; }
    StopScope(const StopScope&) = delete;
    StopScope& operator=(const StopScope&) = delete;
    /// The flag of the innermost scope; nullptr outside of any.
    static const std::atomic<bool>*& current() {
        thread_local const std::atomic<bool>* flag = nullptr;
        return flag;
    }

  private:
    const std::atomic<bool>* before_;
};

/// Ends superseded work; called at least every few milliseconds by everything that can take longer.
inline void stop_point() {
    const std::atomic<bool>* flag = StopScope::current();
    if (flag && flag->load(std::memory_order_relaxed)) throw Stopped{};
}

}  // namespace elkit
