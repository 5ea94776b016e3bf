#pragma once
#include <string>
#include <vector>

#include "engine/queries.hpp"
#include "quantity/figure.hpp"

namespace elkit {

std::string degrees(double celsius);  ///< "63 °C"

/// Alike parts that get warm.
struct HeatRow {
    std::string what;                ///< "white power LED 1 W", "10 Ω resistor 1 W"
    std::vector<std::string> parts;  ///< designators
    Figure power;                    ///< W in each on average, fresh cells; `high` is the worst corner
    Figure inside;                   ///< °C of an LED's junction, of a resistor's hottest place
    Figure outside;         ///< °C of an LED's body or the heat sink under it; of a resistor its surface
    Figure allowed;         ///< A that the LED may have in this air, W that the resistor may take
    bool too_much = false;  ///< beyond what it may have or take
    bool burns = false;     ///< too hot to touch
    std::string remark;     ///< what to do about it; empty if nothing
};

struct Heat {
    std::vector<HeatRow> rows;  ///< hottest first
    Figure lights, resistors;   ///< W in all LEDs and in all resistors on average
    /// Where resistors are the wrong way to keep the current: what they waste, and what to take instead;
    /// empty otherwise.
    std::string wrong_way;
};

/// What lights and resistors take and how warm they get in the air of the conditions, from fresh cells.
/// LED: T = T air + R th · P, its body without the part of R th that is inside it; allowed is the current at
/// which the junction reaches 100 °C, its rating at most. Resistor: full rating up to 70 °C, none at 155 °C
/// (the usual derating, IEC 60115-1), which gives its R th. Parts below 10 mW are left out. Errors are those
/// of the engine.
struct HeatQuery : Situated {
    HeatQuery(const Keyed<Circuit>& of, const Conditions& under) : Situated(of, fresh(*of, under)) {}
    using Value = Heat;
    static constexpr std::string_view name = "heat";
    bool is_quick() const { return !may_move(*circuit); }
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
