#pragma once
#include <algorithm>
#include <cmath>
#include <map>
#include <string>
#include <vector>

#include "circuit/part_kind.hpp"

namespace elkit {

/// What a hand does at a time after power-up.
struct HandEvent {
    double time = 0;   ///< s
    std::string part;  ///< designator of a contact
    bool on = true;    ///< closes or presses it; false: opens it or lets go
    bool operator==(const HandEvent&) const = default;
};

/// What the world does to the circuit at this moment, and what happened before.
struct Conditions {
    double battery = 1;   ///< state of charge, 0 empty … 1 fresh
    double celsius = 21;  ///< °C
    std::map<std::string, bool>
        switches;  ///< designator → closed or pressed; a contact not named here stands as in the design
    std::map<std::string, double> knobs = {};   ///< designator → position 0…1 of a potentiometer
    double lux = 300;                           ///< illuminance of light sensors [lx]
    double infrared = 0;                        ///< irradiance of infrared sensors [W/m²]
    std::map<std::string, double> levels = {};  ///< designator → V or A that a supply or steady source gives
    std::map<std::string, double> warmth = {};  ///< designator → °C of a part that is not as warm as the rest
    std::vector<HandEvent> events =
        {};             ///< since power-up, in order of time; the switches are as before them
    double moment = 0;  ///< s after the last event at which it is looked at; 0: once it has settled
    bool as_set =
        false;  ///< contacts stand as they are set here, and judgements take none of them for closed

    /// True if the contact conducts (of a changeover: joins b).
    bool closed(const Part& part) const {
        const auto found = switches.find(part.designator);
        if (is(part, Role::momentary))  // pressing turns its rest state over
            return closed_as_drawn(part) != (found != switches.end() && found->second);
        return found == switches.end() ? closed_as_drawn(part) : found->second;
    }
    double position(const Part& part) const {
        const auto found = knobs.find(part.designator);
        return std::clamp(found == knobs.end() ? part.number("position") : found->second, 0.0, 1.0);
    }
    /// What a supply or steady source gives [V or A]: as set here, else as in the design.
    double level(const Part& part) const {
        const auto found = levels.find(part.designator);
        return found == levels.end() ? part.number(part_kind(part.kind)->level) : found->second;
    }
    double celsius_of(const std::string& designator) const {
        const auto found = warmth.find(designator);
        return found == warmth.end() ? celsius : found->second;
    }
    /// The same after everything that happened: contacts as the last event left them, and no events.
    Conditions after_events() const {
        Conditions c = *this;
        for (const HandEvent& e : events) c.switches[e.part] = e.on;
        c.events.clear(), c.moment = 0;
        return c;
    }
    bool operator==(const Conditions&) const = default;
};

/// True for a source whose level can be turned: a supply, or a voltage or current source that is steady.
inline bool has_level(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && !kind->level.empty() && !follows_waveform(part);
}
/// The unit of that level.
inline Unit level_unit(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(kind->level) : nullptr;
    return info ? info->unit : Unit::none;
}

/// Amounts of light in tenths of a decade: step 20 is 100 lx, and back.
inline double light_at(int step) { return std::pow(10.0, step / 10.0); }
inline int light_step(double amount) { return static_cast<int>(std::lround(10 * std::log10(amount))); }

/// One sample out of the batch: −1 … +1 moves a quantity to the low or high end of its spread.
struct Corner {
    double led_vf = 0;                         ///< forward-voltage bin of every LED
    double resistance = 0;                     ///< every resistor within its tolerance
    double capacity = 0;                       ///< cells' capacity, ±10 %
    std::map<std::string, double> parts = {};  ///< designator → its own place, for parts that are named here

    double of(const Part& part, double otherwise) const {
        if (parts.empty()) return otherwise;
        const auto found = parts.find(part.designator);
        return found == parts.end() ? otherwise : found->second;
    }
    bool operator==(const Corner&) const = default;
};

}  // namespace elkit
