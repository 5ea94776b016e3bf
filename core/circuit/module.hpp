#pragma once
#include <string>
#include <vector>

namespace elkit {

/// What a bought module does at its pins; its numbers are parameters of its kind.
struct ModuleSpec {
    /// What makes its outputs go on.
    enum class By {
        always,
        hand,     ///< a touch or press, as the conditions say
        level,    ///< `input` above the parameter "threshold", with "hysteresis", after "delay"
        pattern,  ///< for "on_time" of each "period"
        frames    ///< by the share of its lights that are on in each picture of "pattern", at "brightness"
    };
    /// What an output then does.
    enum class Gives {
        plus,       ///< joined to the module's plus pin through "resistance"; open while off
        minus,      ///< likewise to its minus pin
        both,       ///< to plus while on, to minus while off
        passes,     ///< joined to the pin `other`; open while off
        steps_up,   ///< "voltage" against minus, made from a lower supply with "efficiency"
        steps_down  ///< likewise, from a higher one
    };
    struct Output {
        std::string pin, other;
        Gives gives = Gives::both;
        bool inverted = false;  ///< on while the others are off
    };
    std::string plus, minus;
    By by = By::always;
    std::string input;
    std::string light;      ///< the LED type whose colour and light it gives; empty: none
    bool latching = false;  ///< each touch, press or rising level turns it over
    std::vector<Output> outputs;
    std::string chain_in, chain_out;  ///< pins by which data goes from one to the next; empty: in no chain
    double price = 0, mass = 0;       ///< workshop's currency, g; 0: not known
};

}  // namespace elkit
