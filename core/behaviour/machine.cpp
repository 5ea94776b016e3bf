#include "behaviour/machine.hpp"

#include <algorithm>
#include <map>
#include <numeric>

namespace elkit {

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
    ++t_;
}

void Machine::show() {
    const auto& drives = program_.states[state_].drives;
    for (std::size_t k = 0; k < drives.size(); ++k) {
        const std::uint8_t duty = dimming_curve()[value(drives[k], k)];
        levels_[k] = program_.sinks[k] ? static_cast<std::uint8_t>(255 - duty) : duty;
    }
}

std::uint8_t Machine::value(const Drive& d, std::size_t output) {
    switch (d.kind) {
        case Drive::Kind::level:
            return d.points[0];
        case Drive::Kind::blink:
            return (t_ + d.offset) % d.ticks < d.on ? d.points[0] : 0;
        case Drive::Kind::path: {
            const auto count = static_cast<std::uint32_t>(d.points.size());
            const std::uint32_t last = (count - 1) * d.ticks;
            const std::uint32_t at = d.loops ? t_ % (count * d.ticks) : std::min(t_, last);
            const int from = d.points[at / d.ticks], to = d.points[(at / d.ticks + 1) % count];
            if (!d.loops && at == last) return d.points[count - 1];
            return static_cast<std::uint8_t>(from + (to - from) * static_cast<int>(at % d.ticks) /
                                                        static_cast<int>(d.ticks));
        }
        case Drive::Kind::flicker:
            break;
    }
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

/// Where the state stands in what it does again and again: equal phases look alike from here on.
std::uint64_t Machine::phase() const {
    std::uint64_t once = 0, round = 1;
    for (const Drive& d : program_.states[state_].drives) {
        const std::uint64_t all = std::uint64_t{d.ticks} * d.points.size();
        if (d.kind == Drive::Kind::blink) round = std::lcm(round, std::uint64_t{d.ticks});
        if (d.kind == Drive::Kind::path && d.loops) round = std::lcm(round, all);
        if (d.kind == Drive::Kind::path && !d.loops) once = std::max(once, all - d.ticks);
        round = std::min(round, std::uint64_t{1} << 32);
    }
    for (const Leaves& l : program_.states[state_].leaves)
        if (l.on == On::after)
            once = std::max(once, std::uint64_t{l.amount});
        else if (l.on == On::hold && down_[l.pin] && held_[l.pin] < l.amount)
            once = std::max(once, std::uint64_t{t_} + l.amount - held_[l.pin]);
    return t_ <= once ? t_ : once + (t_ - once) % round;
}

bool Machine::still(const PinsSeen& seen) const {
    Machine next = *this;
    next.step(seen);
    if (next.state_ != state_ || next.levels_ != levels_) return false;
    const ProgramState& state = program_.states[state_];
    if (std::any_of(state.leaves.begin(), state.leaves.end(), [&](const Leaves& l) {
            return l.on == On::after || (l.on == On::hold && down_[l.pin] && held_[l.pin] < l.amount);
        }))
        return false;
    return std::all_of(state.drives.begin(), state.drives.end(), [this](const Drive& d) {
        return d.kind == Drive::Kind::level ||
               (d.kind == Drive::Kind::path && !d.loops && t_ > (d.points.size() - 1) * d.ticks);
    });
}

std::uint32_t Machine::repeats(const PinsSeen& seen, std::uint32_t most) const {
    Machine m = *this;
    std::map<std::pair<std::size_t, std::uint64_t>, std::uint32_t> been;
    for (std::uint32_t tick = 0; tick < most; ++tick) {
        if (m.still(seen)) return 0;
        for (const Drive& d : m.program_.states[m.state_].drives)
            if (d.kind == Drive::Kind::flicker) return 0;
        const auto [before, fresh] = been.try_emplace({m.state_, m.phase()}, tick);
        if (!fresh) return tick - before->second;
        m.step(seen);
    }
    return 0;
}

}  // namespace elkit
