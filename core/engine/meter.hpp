#pragma once
#include <optional>
#include <string>

#include "catalogue/catalogue.hpp"
#include "engine/conditions.hpp"
#include "quantity/figure.hpp"

namespace elkit {

enum class MeterMode { volts_dc, volts_ac, amps, ohms, beep };

/// What the two probes touch. For amps a leg may be lifted: the meter then stands between that pin and its
/// net.
struct Probing {
    std::string red, black;  ///< nets
    MeterMode mode = MeterMode::volts_dc;
    std::string lifted;  ///< "R1.a"; empty: the meter lies across red and black
};

/// What a common hand meter of 2000 counts shows.
struct MeterReading {
    Figure value;           ///< as displayed: rounded to the range's last digit
    double range = 0;       ///< full scale of the range it chose
    bool overload = false;  ///< "OL"
    bool beeps = false;
    std::string display;  ///< "4.24 V", "OL", "beep 0.4 Ω"
    std::string note;  ///< what a person should know: "the circuit is powered", "averages a pulsing voltage"
};

/// Puts the meter into the circuit and solves it: 10 MΩ across the probes for volts; a shunt of 1 Ω up to
/// 200 mA and 0.05 Ω above for amps; for ohms and continuity every source is lifted and the meter drives 0.4
/// V behind a range resistor, beeping below 50 Ω. A pulsing circuit is averaged (DC) or its rms shown (AC).
/// Errors: a net or pin that does not exist; what the engine reports.
Result<MeterReading> read_meter(const Circuit& circuit, const Catalogue& catalogue,
                                const Conditions& conditions, const Probing& probing);

/// "V", "V~", "A", "ohm", "beep". Usage error for another word.
Result<MeterMode> meter_mode(const std::string& word);

}  // namespace elkit
