#include "behaviour/program.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>

#include "quantity/brightness.hpp"

namespace elkit {
namespace {

using Does = BehaviourRow::Does;
using On = BehaviourWhen::On;

std::uint32_t ticks_of(double seconds) {
    return static_cast<std::uint32_t>(std::max(1L, std::lround(seconds / tick_seconds)));
}
std::uint8_t level_of(double share) {
    return static_cast<std::uint8_t>(std::lround(255 * std::clamp(share, 0.0, 1.0)));
}

std::size_t place_of(std::vector<std::string>& pins, const std::string& pin) {
    const auto found = std::find(pins.begin(), pins.end(), pin);
    if (found == pins.end()) pins.push_back(pin);
    return static_cast<std::size_t>(std::find(pins.begin(), pins.end(), pin) - pins.begin());
}

/// What the `k`th of a row's pins does.
Drive drive_of(const BehaviourRow& row, std::size_t k) {
    Drive d;
    const std::uint32_t ticks = ticks_of(row.seconds);
    const auto path = [&](std::vector<std::uint8_t> points, std::uint32_t each, bool loops) {
        d.kind = Drive::Kind::path, d.points = std::move(points), d.ticks = each, d.loops = loops;
    };
    switch (row.does) {
        case Does::off:
            break;
        case Does::on:
            d.points = {level_of(row.level)};
            break;
        case Does::blink:
            d.kind = Drive::Kind::blink, d.points = {255}, d.ticks = std::max(2U, ticks);
            d.on = std::clamp(static_cast<std::uint32_t>(std::lround(row.share * d.ticks)), 1U, d.ticks - 1);
            break;
        case Does::rise:
            path({0, 255}, ticks, false);
            break;
        case Does::fall:
            path({255, 0}, ticks, false);
            break;
        case Does::breathe:
            path({0, 255}, std::max(1U, ticks / 2), true);
            break;
        case Does::flicker:
            d.kind = Drive::Kind::flicker, d.points = {51, 255}, d.ticks = ticks;
            break;
        case Does::chase: {
            const auto count = static_cast<std::uint32_t>(row.pins.size());
            d.kind = Drive::Kind::blink, d.points = {255}, d.ticks = ticks * count, d.on = ticks;
            d.offset = (count - static_cast<std::uint32_t>(k)) % count * ticks;
            break;
        }
        case Does::colours: {
            std::vector<std::uint8_t> points;
            for (const auto& rgb : row.colours) points.push_back(static_cast<std::uint8_t>(rgb[k]));
            path(std::move(points), ticks, true);
            break;
        }
    }
    return d;
}

bool dims(const Drive& d) {
    return d.kind == Drive::Kind::path || d.kind == Drive::Kind::flicker ||
           std::any_of(d.points.begin(), d.points.end(), [](std::uint8_t p) { return p > 0 && p < 255; });
}

/// Gathers a program and complains about its pins.
class Maker {
  public:
    Maker(const Behaviour& b, const std::vector<PinAbility>& pins, int bits) : b_(b), pins_(pins) {
        p_.bits = bits;
    }
    Result<Program> make() {
        for (const BehaviourState& state : b_.states)
            for (const BehaviourRow& row : state.rows)
                for (const std::string& pin : row.pins) place_of(p_.outputs, pin);
        for (const std::string& pin : p_.outputs)
            p_.sinks.push_back(std::find(b_.sinks.begin(), b_.sinks.end(), pin) != b_.sinks.end());
        for (const std::string& pin : b_.sinks)
            if (std::find(p_.outputs.begin(), p_.outputs.end(), pin) == p_.outputs.end())
                return wrong(fmt::format("{} sinks and shows nothing", pin), "a pin that does something");
        for (const BehaviourState& state : b_.states)
            if (auto added = add(state); !added) return added.error();
        return std::move(p_);
    }

  private:
    static Error wrong(std::string found, std::string expected) {
        return {Fault::usage, "behaviour", std::move(found), std::move(expected)};
    }
    Result<const PinAbility*> ability(const std::string& pin) const {
        for (const PinAbility& known : pins_)
            if (known.pin == pin) return &known;
        std::vector<std::string> names;
        for (const PinAbility& known : pins_) names.push_back(known.pin);
        return wrong(fmt::format("there is no pin {}", pin),
                     fmt::format("one of {}", fmt::join(names, ", ")));
    }
    Result<void> add(const BehaviourState& state) {
        ProgramState s{
            state.name,
            state.sleeps,
            state.looks > 0 ? std::max(2U, ticks_of(state.looks)) : 1,  // 1 is the step of one awake
            std::vector<Drive>(p_.outputs.size()),
            {}};
        for (const BehaviourRow& row : state.rows)
            for (std::size_t k = 0; k < row.pins.size(); ++k) {
                auto able = ability(row.pins[k]);
                if (!able) return able.error();
                const Drive drive = drive_of(row, k);
                if (dims(drive) && !able.value()->dims)
                    return wrong(fmt::format("{} cannot dim", row.pins[k]), dimming_pins());
                s.drives[place_of(p_.outputs, row.pins[k])] = drive;
            }
        for (const BehaviourWhen& when : state.whens)
            if (auto added = add(when, s); !added) return added;
        p_.states.push_back(std::move(s));
        return success();
    }
    Result<void> add(const BehaviourWhen& when, ProgramState& s) {
        Leaves l;
        l.on = when.on;
        const bool measures = when.on == On::above || when.on == On::below;
        if (when.on != On::after) {
            auto able = ability(when.pin);
            if (!able) return able.error();
            if (measures && !able.value()->measures)
                return wrong(when.pin + " cannot measure", "a pin with a converter");
            if (std::find(p_.outputs.begin(), p_.outputs.end(), when.pin) != p_.outputs.end())
                return wrong(when.pin + " is an output too", "a pin of its own for what is looked at");
            l.pin = place_of(measures ? p_.sensors : p_.inputs, when.pin);
            if (!measures) {
                p_.pulled_up.resize(p_.inputs.size(), false);
                if (when.on != On::high && when.on != On::low) p_.pulled_up[l.pin] = true;
            }
        }
        if (when.on == On::hold || when.on == On::after) l.amount = ticks_of(when.amount);
        if (measures)
            l.amount = static_cast<std::uint32_t>(
                std::clamp(std::lround(when.amount * (1 << p_.bits)), 1L, (1L << p_.bits) - 1));
        const auto to = std::find_if(b_.states.begin(), b_.states.end(),
                                     [&](const BehaviourState& other) { return other.name == when.to; });
        l.to = static_cast<std::size_t>(to - b_.states.begin());
        s.leaves.push_back(l);
        return success();
    }
    std::string dimming_pins() const {
        std::vector<std::string> names;
        for (const PinAbility& known : pins_)
            if (known.dims) names.push_back(known.pin);
        return fmt::format("one of {}", fmt::join(names, ", "));
    }
    const Behaviour& b_;
    const std::vector<PinAbility>& pins_;
    Program p_;
};

}  // namespace

Result<Program> program_of(const Behaviour& behaviour, const std::vector<PinAbility>& pins, int bits) {
    return Maker(behaviour, pins, bits).make();
}

const std::array<std::uint8_t, 256>& dimming_curve() {
    static const std::array<std::uint8_t, 256> curve = [] {
        std::array<std::uint8_t, 256> c{};
        for (std::size_t k = 1; k < c.size(); ++k) {
            const double light = luminance_for(static_cast<double>(k) / 255);
            c[k] = static_cast<std::uint8_t>(std::max(1L, std::lround(255 * light)));
        }
        return c;
    }();
    return curve;
}

}  // namespace elkit
