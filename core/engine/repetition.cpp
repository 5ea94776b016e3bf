#include "engine/repetition.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace elkit {

void Repetition::restart() {
    window_ = Window(system_);
    section_ = {};
    found_ = false;
    half_ = cycles_ = alike_ = 0;
    happening_.clear(), happened_.clear();
    charges_.clear();
}

/// True at the end of a step that is the start of a cycle.
bool Repetition::begins_cycle() {
    for (const int monitor : s_.fired) {
        if (monitor != section_.monitor) continue;
        if (monitor == system_.monitors()) return true;
        half_ = 1 - half_;  // a latch's set and reset make one cycle
        if (half_ == 0) return true;
    }
    return false;
}

bool Repetition::closes(std::size_t samples, double until) {
    constexpr std::size_t look = 240;  // steps between two looks for a cycle
    began_ = false;
    if (!found_) {
        window_.note(s_.time(), s_.x());
        for (const int m : s_.fired) window_.events.emplace_back(s_.time(), m);
        if (window_.time.size() % look != 0) return false;
        found_ = find_section(window_, system_, section_);
        if (!found_ && window_.time.size() >= 20 * look) restart();  // something slow: look at what comes
        if (found_ && section_.monitor == system_.monitors())
            s_.set_section(section_.unknown, section_.level);
        if (found_) pace_ = section_.period * 1e-4, window_ = {};
        return false;
    }
    happening_.insert(happening_.end(), s_.fired.begin(), s_.fired.end());
    if (!begins_cycle()) return false;
    began_ = true;
    const double before = cycle_time_;
    cycle_time_ = s_.time();
    const std::size_t first = std::exchange(cycle_first_, samples - 1);
    s_.forget_pace(pace_);
    const std::vector<double> last = std::exchange(charges_, s_.charges());
    const bool same = happening_ == happened_;
    happened_ = std::exchange(happening_, {});
    if (++cycles_ < 3) return false;
    period_ = cycle_time_ - before;
    const double left = (until - s_.time()) / period_;
    const double drift = closure(last, charges_, scale_);
    // what the drift may still add up to over all that are copied: as a geometric series where it dies away
    const double ratio = drift / std::exchange(drift_, drift);
    const double still = cycles_ > 3 && ratio < 0.9 ? std::min(left, 1 / (1 - ratio)) : left;
    // another clock may just turn round, so that one cycle looks like the one before: only three in a row, in
    // which the same things happened, are a repetition
    alike_ = same && drift * still <= 0.1 * relative_ ? alike_ + 1 : 0;
    if (left < 2 || alike_ < 3) return false;
    cycle_first_ = first;
    return true;
}

void copy_cycle(Recording& r, std::size_t first, double period, long times) {
    const std::size_t end = r.time.size();
    const std::size_t happened = r.happenings.size();
    std::size_t happened_first = happened;
    while (happened_first > 0 && r.happenings[happened_first - 1].time > r.time[first]) --happened_first;
    const std::size_t total = end + static_cast<std::size_t>(times) * (end - first - 1);
    r.time.reserve(total);
    for (Trace& t : r.traces) t.values.reserve(total);
    for (long n = 1; n <= times; ++n) {
        const double later = static_cast<double>(n) * period;
        for (std::size_t k = first + 1; k < end; ++k)  // rounding turns no two of them round
            r.time.push_back(std::max(r.time[k] + later, r.time.back()));
        for (Trace& t : r.traces)
            for (std::size_t k = first + 1; k < end; ++k) t.values.push_back(t.values[k]);
        for (std::size_t k = happened_first; k < happened; ++k) {
            const Happening again{r.happenings[k].time + later, r.happenings[k].what};
            r.happenings.push_back(again);
        }
    }
    r.copied_cycles += times;
}

void repeat_pulse(Recording& r, double now, double period, long times) {
    constexpr double together = 1e-9;  // s
    const double begin = now - static_cast<double>(times + 1) * period;
    const auto behind = std::upper_bound(r.time.begin(), r.time.end(), begin + together);
    // two samples where it begins: before the jump and after it, from which on they are copied
    copy_cycle(r, static_cast<std::size_t>(std::max<std::ptrdiff_t>(behind - r.time.begin() - 2, 0)), period,
               times);
    for (auto time = r.time.rbegin(); time != r.time.rend() && *time > now; ++time) *time = now;
    r.copied_cycles -= times;
}

}  // namespace elkit
