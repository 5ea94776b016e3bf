#include "behaviour/machine.hpp"

#include <algorithm>
#include <map>
#include <numeric>

namespace elkit {
namespace {

constexpr std::uint32_t shortest_random = 100;   // ticks, to count by where nothing repeats
constexpr std::uint64_t longest_round = 30'000;  // ticks

}  // namespace

using On = BehaviourWhen::On;

Machine::Machine(const Program& program, const PinsSeen& seen)
    : program_(program),
      down_(program.inputs.size()),
      was_down_(program.inputs.size()),
      held_(program.inputs.size()),
      levels_(program.outputs.size()),
      flickers_(program.outputs.size()) {
    for (std::size_t k = 0; k < down_.size(); ++k) down_[k] = was_down_[k] = !seen.high[k];
    for (std::size_t k = 0; k < levels_.size(); ++k) levels_[k] = program.sinks[k] ? 255 : 0;
}

bool Machine::holds(const Leaves& l, const PinsSeen& seen) const {
    switch (l.on) {
        case On::press:
            return down_[l.pin] && !was_down_[l.pin];
        case On::release:
            return !down_[l.pin] && was_down_[l.pin];
        case On::hold:
            return held_[l.pin] == l.amount;
        case On::high:
            return !down_[l.pin];
        case On::low:
            return down_[l.pin];
        case On::above:
            return seen.counts[l.pin] >= l.amount;
        case On::below:
            return seen.counts[l.pin] < l.amount;
        case On::after:
            break;
    }
    return t_ >= l.amount;
}

void Machine::step(const PinsSeen& seen) {
    for (std::size_t k = 0; k < down_.size(); ++k) {
        down_[k] = !seen.high[k];
        held_[k] = !down_[k] ? 0 : was_down_[k] ? std::min(held_[k] + 1, 0xFFFFFFFEU) : 0;
    }
    for (const Leaves& l : program_.states[state_].leaves)
        if (holds(l, seen)) {
            state_ = l.to, t_ = 0;
            break;
        }
    was_down_ = down_;
    show();
    t_ += nap();
}

void Machine::show() {
    const auto& drives = program_.states[state_].drives;
    for (std::size_t k = 0; k < drives.size(); ++k) {
        const std::uint8_t duty = dimming_curve()[value(drives[k], k)];
        levels_[k] = program_.sinks[k] ? static_cast<std::uint8_t>(255 - duty) : duty;
    }
}

/// Of a drive that is not at random.
std::uint8_t Machine::level_at(const Drive& d, std::uint32_t t) {
    if (d.kind == Drive::Kind::level) return d.points[0];
    if (d.kind == Drive::Kind::blink) return (t + d.offset) % d.ticks < d.on ? d.points[0] : 0;
    const auto count = static_cast<std::uint32_t>(d.points.size());
    const std::uint32_t last = (count - 1) * d.ticks;
    const std::uint32_t at = d.loops ? t % (count * d.ticks) : std::min(t, last);
    if (!d.loops && at == last) return d.points[count - 1];
    const int from = d.points[at / d.ticks], to = d.points[(at / d.ticks + 1) % count];
    return static_cast<std::uint8_t>(from + (to - from) * static_cast<int>(at % d.ticks) /
                                                static_cast<int>(d.ticks));
}

std::uint8_t Machine::value(const Drive& d, std::size_t output) {
    if (d.kind != Drive::Kind::flicker) return level_at(d, t_);
    if (t_ % d.ticks == 0) {
        // a shift register of 16 bits that comes through all states but one (taps 16, 14, 13, 11)
        for (int k = 0; k < 8; ++k) {
            const bool out = random_ & 1;
            random_ = static_cast<std::uint16_t>(random_ >> 1);
            if (out) random_ ^= 0xB400;
        }
        flickers_[output] =
            static_cast<std::uint8_t>(d.points[0] + (random_ & 0xFF) * (d.points[1] - d.points[0] + 1) / 256);
    }
    return flickers_[output];
}

/// Steps before the one that leads to another state.
std::uint32_t Machine::until_it_leaves(const PinsSeen& seen) const {
    std::uint32_t least = for_ever;
    for (const Leaves& l : program_.states[state_].leaves) {
        if (l.on == On::after)
            least = std::min(least, t_ >= l.amount ? 0 : (l.amount - t_ + nap() - 1) / nap());
        else if (l.on == On::hold && down_[l.pin] && held_[l.pin] < l.amount)
            least = std::min(least, l.amount - held_[l.pin] - 1);
        else if (l.on != On::hold && holds(l, seen))
            least = 0;
    }
    return least;
}

/// Steps before the one that shows another level of this drive, `far` at the most; of what fades perhaps a
/// few less.
std::uint32_t Machine::until_it_differs(const Drive& d, std::uint32_t far) const {
    switch (d.kind) {
        case Drive::Kind::level:
            return for_ever;
        case Drive::Kind::flicker:
            return (d.ticks - t_ % d.ticks) % d.ticks;
        case Drive::Kind::blink: {
            const std::uint32_t at = (t_ + d.offset) % d.ticks;
            return std::min((d.ticks - at) % d.ticks, (d.on + d.ticks - at) % d.ticks);
        }
        case Drive::Kind::path:
            break;
    }
    if (!d.loops && t_ > (d.points.size() - 1) * d.ticks) return for_ever;
    const auto shown = [&](std::uint32_t t) { return dimming_curve()[level_at(d, t)]; };
    const std::uint8_t now = shown(t_ - 1);
    std::uint32_t steps = 0;
    while (steps < far && shown(t_ + steps) == now) ++steps;
    return steps;
}

std::uint32_t Machine::quiet(const PinsSeen& seen) const {
    constexpr std::uint32_t far = 1000;  // for what fades: then it is asked again
    std::uint32_t least = until_it_leaves(seen);
    for (const Drive& d : program_.states[state_].drives)
        least = std::min(least, until_it_differs(d, std::min(least, far)));
    return least;
}

void Machine::pass(std::uint32_t steps) {
    t_ += steps * nap();
    for (std::size_t k = 0; k < held_.size(); ++k)
        if (down_[k]) held_[k] += steps;
}

/// Of a state that is not left.
Machine::Course Machine::course_of_state() const {
    Course c;
    std::uint64_t round = 1;
    std::uint32_t once = 0, longest = shortest_random;
    for (const Drive& d : program_.states[state_].drives) {
        const auto all = d.ticks * static_cast<std::uint32_t>(d.points.size());
        if (d.kind == Drive::Kind::flicker) c.random = true;
        if (d.kind == Drive::Kind::path && !d.loops) once = std::max(once, all - d.ticks + 1);
        if (d.kind == Drive::Kind::blink || d.loops)
            round = std::lcm(round, std::uint64_t{d.loops ? all : d.ticks});
        // what meets again so late is no cycle that anybody sees
        if (round > longest_round) c.random = true, round = all;
        longest = std::max(longest, all);
    }
    c.begins = once > t_ ? once - t_ : 0;
    c.period = c.random ? longest : round > 1 ? static_cast<std::uint32_t>(round) : looks() ? nap() : 0;
    return c;
}

std::uint32_t Machine::round(const PinsSeen& seen) const {
    const Course c = course_of_state();
    return std::min(c.begins + c.period, until_it_leaves(seen));
}

Machine::Course Machine::course(const PinsSeen& seen) const {
    constexpr std::size_t most_entries = 10'000;
    std::uint32_t longest_hold = 0;
    for (const ProgramState& state : program_.states)
        for (const Leaves& l : state.leaves)
            if (l.on == On::hold) longest_hold = std::max(longest_hold, l.amount);
    // a state that is entered anew with buttons held as long goes on as it did the time before
    std::map<std::pair<std::size_t, std::vector<std::uint32_t>>, std::pair<std::uint32_t, std::size_t>> been;
    std::vector<bool> random;  // of each state on the way
    Machine m = *this;
    for (std::uint32_t now = 0; random.size() < most_entries;) {
        const std::uint32_t left = m.until_it_leaves(seen);
        if (left == for_ever) {
            Course c = m.course_of_state();
            c.begins += now;
            return c;
        }
        if (m.t_ == m.nap()) {
            std::vector<std::uint32_t> held = m.held_;
            for (std::uint32_t& ticks : held) ticks = std::min(ticks, longest_hold);
            const auto [before, fresh] = been.try_emplace({m.state_, held}, now, random.size());
            const auto [tick, first] = before->second;
            if (!fresh)
                return {tick, now - tick,
                        std::find(random.begin() + static_cast<std::ptrdiff_t>(first), random.end(), true) !=
                            random.end()};
        }
        const auto& drives = m.program_.states[m.state_].drives;
        random.push_back(std::any_of(drives.begin(), drives.end(),
                                     [](const Drive& d) { return d.kind == Drive::Kind::flicker; }));
        now += (left + 1) * m.nap();
        m.pass(left), m.step(seen);
    }
    return {0, shortest_random, true};
}

}  // namespace elkit
