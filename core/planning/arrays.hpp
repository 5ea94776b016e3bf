#pragma once
#include <optional>
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "planning/lights_feed.hpp"
#include "quantity/figure.hpp"
#include "quantity/preferred.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// N alike LEDs on a source.
struct ArrayQuestion {
    Part source;            ///< a battery or supply
    Part led;               ///< an LED with its type, bin or measured points
    int count = 1;          ///< LEDs in all, 1 to 1,000
    double current = 0.02;  ///< A wanted in each, fresh and typical
    double contact = 0;     ///< Ω of a switch before them
    Series series = Series::e24;
    Rounding rounding = Rounding::under;
    std::vector<double> owned;  ///< resistors in the drawer [Ω], ascending; empty: any preferred value
    double tolerance = 0.05;    ///< of the resistors
    double cold = 0, hot = 40;  ///< °C, between which the gadget is used
    std::string at;             ///< one of the lights that are meant; empty: the first ones, or none yet
    std::optional<LightsFeeds> feeds;  ///< what they get where they hang; nothing: source and contact
    std::string fed;                   ///< the same in words; empty if nothing was measured
    bool pulsed = false;               ///< the gadget switches them on and off by itself
    bool by_coil = false;              ///< by the pulses of a coil, which no resistor limits
    double usual = 21;                 ///< °C, where they are lit
    bool by_recipe = false;            ///< a recipe chooses the resistors, from source and contact alone
};

/// Strings of one length, each with a resistor of its own.
struct AlikeStringsOfArray {
    int leds = 1, strings = 1;
    double resistance = 0;  ///< Ω; 0: none, where the cell limits itself and nothing is left for one
    double headroom = 0;    ///< V across it, fresh and typical
    Figure resistor;        ///< the same resistance, with how it was chosen and its rating
    Figure current;         ///< A fresh; spread over LED bins, resistor tolerance and warmth
    Figure spread;          ///< highest to lowest of that
    Figure power;           ///< W in each resistor, fresh; `high` is the worst corner
    double rating = 0;      ///< W, the next common one that is twice the worst corner; infinity: none is
};

/// One way to arrange them.
struct Arrangement {
    int per_string = 1;
    std::vector<AlikeStringsOfArray> strings;  ///< full ones, then the one of what is left over
    Figure total;                              ///< A out of the source, fresh; spread as above
    Figure efficiency;                         ///< % of the source's power that reaches the LEDs, fresh
    Figure half, flat;  ///< perceived brightness at half and a tenth of the charge, % of fresh
    enum class Verdict { sound, doubtful, impossible } verdict = Verdict::impossible;
    std::string reason;               ///< for its rank, in words with numbers
    std::vector<std::string> wiring;  ///< "12 times: plus → 62 Ω → 2 LEDs → minus"
    std::string name() const;         ///< "12 × 2", "3 × 4 + 1 × 2"
    int resistors() const;
};

/// All of them, the best first: sound ones by efficiency, then doubtful ones by spread, then impossible ones.
/// Sound: about the wanted current, within the LED's limit at every corner, enough across each resistor, no
/// more from the source than it can give, and no sag at half the charge: what findings judge too
/// (light/judgement.hpp). Currents at every corner are exact for the engine's models: a row of junctions and
/// resistances is one junction. Usage error for a count or current out of range; errors of the models.
Result<std::vector<Arrangement>> arrangements(const ArrayQuestion& question);

}  // namespace elkit
