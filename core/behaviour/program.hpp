#pragma once
#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "behaviour/behaviour.hpp"

/// A behaviour as whole numbers: ticks, levels, counts. What simulates it and what is exported both follow
/// it, so that they cannot differ by rounding.
namespace elkit {

inline constexpr double tick_seconds = 0.01;
inline constexpr double own_current_at = 5;   ///< V, for which its own current is stated; in proportion
inline constexpr double look_seconds = 1e-3;  ///< awake for a look, of one that sleeps in between

/// What one output does in a state.
struct Drive {
    enum class Kind {
        level,   ///< points[0] all the while
        blink,   ///< points[0] for `on` of every `ticks`, counted from `offset` on
        path,    ///< through points, `ticks` from one to the next; round and round, or once and stay
        flicker  ///< a random level from points[0] to points[1] every `ticks`
    } kind = Kind::level;
    std::vector<std::uint8_t> points{0};  ///< as the eye sees them, 0…255
    std::uint32_t ticks = 1, on = 1, offset = 0;
    bool loops = false;
};

struct Leaves {
    BehaviourWhen::On on = BehaviourWhen::On::after;
    std::size_t pin = 0;       ///< of inputs, or for above and below of sensors
    std::uint32_t amount = 0;  ///< ticks or counts
    std::size_t to = 0;
};

struct ProgramState {
    std::string name;
    bool sleeps = false;
    std::uint32_t nap = 1;      ///< ticks from one step to the next
    std::vector<Drive> drives;  ///< one for each output
    std::vector<Leaves> leaves;
};

struct Program {
    std::vector<std::string> outputs, inputs, sensors;  ///< pins
    std::vector<bool> sinks;                            ///< of each output
    std::vector<bool> pulled_up;  ///< of each input: buttons are, what is only looked at is not
    std::vector<ProgramState> states;
    int bits = 10;         ///< of what measures
    double reference = 0;  ///< V, its full scale; 0: the supply
};

/// What a pin of a controller can do.
struct PinAbility {
    std::string pin;
    bool dims = false, measures = false;
};

/// Error: a pin that the controller does not have or that cannot do it, one that is both output and input.
Result<Program> program_of(const Behaviour& behaviour, const std::vector<PinAbility>& pins, int bits);

/// Light of a level as the eye sees it, both 0…255: CIE 1976 lightness turned round, at least 1 above 0.
const std::array<std::uint8_t, 256>& dimming_curve();

}  // namespace elkit
