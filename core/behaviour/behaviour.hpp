#pragma once
#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "quantity/result.hpp"

/// What a small controller does, as a table: in each state what its pins show, and what leads to another.
namespace elkit {

/// What one pin, or several together, show in a state.
struct BehaviourRow {
    enum class Does {
        off,
        on,       ///< at `level`
        blink,    ///< on for `share` of every `seconds`
        rise,     ///< from dark to full within `seconds`, evenly to the eye, and stays
        fall,     ///< likewise from full to dark
        breathe,  ///< rises and falls, once in `seconds`
        flicker,  ///< another random level every `seconds`
        chase,    ///< one pin after the other, `seconds` each
        colours   ///< three pins, red, green and blue, go from one of `colours` to the next in `seconds`
    } does = Does::off;
    std::vector<std::string> pins;
    double level = 1;    ///< 0…1 as the eye sees it
    double seconds = 1;  ///< s
    double share = 0.5;
    std::vector<std::array<int, 3>> colours;  ///< 0…255 each, as the eye sees them
    bool operator==(const BehaviourRow&) const = default;
};

/// What leads to another state.
struct BehaviourWhen {
    enum class On {
        press,    ///< a button between pin and ground goes down
        release,  ///< it comes up
        hold,     ///< it has been down for `amount` s
        high,     ///< the pin is high
        low,
        above,  ///< the pin's volts are at least `amount` of full scale, 0…1
        below,  ///< they are less
        after   ///< `amount` s in this state
    } on = On::after;
    std::string pin;  ///< none for `after`
    double amount = 0;
    std::string to;
    bool operator==(const BehaviourWhen&) const = default;
};

struct BehaviourState {
    std::string name;
    bool sleeps = false;  ///< all is off, and a change at a pin wakes it
    double looks = 0;     ///< s from one look to the next while it sleeps; 0: it does not look
    std::vector<BehaviourRow> rows;
    std::vector<BehaviourWhen> whens;  ///< the first that holds counts
    bool operator==(const BehaviourState&) const = default;
};

struct Behaviour {
    std::vector<std::string> sinks;      ///< pins whose lights hang on plus: low lights them
    std::vector<BehaviourState> states;  ///< it starts in the first
    bool operator==(const Behaviour&) const = default;
};

inline constexpr std::size_t longest_table = 8000;  ///< characters

/// Reads a table written as statements with semicolons or line ends between, such as
/// "state rest; P0 off; press P3 to lit; state lit; P0 breathe 4s; after 60s to rest". Usage error with the
/// statement and what was expected.
Result<Behaviour> behaviour_of(std::string_view text);
/// The same as one line; behaviour_of() reads it back.
std::string text_of(const Behaviour& behaviour);

}  // namespace elkit
