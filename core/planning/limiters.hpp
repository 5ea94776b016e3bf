#pragma once
#include <string>
#include <vector>

#include "drawer/drawer.hpp"
#include "planning/arrays_of_design.hpp"

namespace elkit {

/// One way to keep the current of an arrangement's strings, as a circuit of real parts that the engine has
/// solved.
struct LimiterRow {
    std::string id, name;  ///< "shared", "one shared resistor"
    bool possible = false;
    std::string reason;  ///< why it is not, or what to mind; empty if nothing
    Figure current;      ///< A of the first string, fresh; spread over LED bins, tolerances and warmth
    Figure spread;       ///< highest to lowest of that
    Figure half, flat;   ///< perceived brightness at half and a tenth of the charge, % of fresh
    Figure efficiency;   ///< % of the source's power that reaches the LEDs, fresh
    Figure headroom;     ///< V that it needs above the LEDs' own to hold 90 % of the current
    Figure cost;         ///< of its own parts, by the piece; NaN if the drawer has no price for one
    std::vector<std::string> parts;  ///< "2 × 82 Ω resistor ¼ W"
    Circuit circuit;                 ///< source, limiter and LEDs
};

struct LimiterQuestion {
    ArrayQuestion array;  ///< values come from what is owned, or from its series
    int per_string = 1;
    std::vector<DrawerItem> drawer;  ///< for prices
};

/// All ways, in this order: resistor for each string, one shared by all, two side by side for
/// each string, series diodes, the cell's own resistance, a current source of two transistors, a regulator as
/// current source. Errors as arrangements().
Result<std::vector<LimiterRow>> limiters(const LimiterQuestion& question);

/// The design with its lights kept so: its block of steady lights with other goals where the recipe knows the
/// limiter, or else these parts in place of its lights; a block that placed them is one no longer. Errors: a
/// limiter that is not possible; those of without_lights() and of the recipe.
Result<Design> with_limiter(const Design& design, const LimiterQuestion& question, const LimiterRow& row);

/// The same for a design's lights, or for what is asked otherwise: for strings of `per_string`, or, if that
/// is 0, as the design has them, or else as the best arrangement does. Errors as array_question() and
/// limiters().
struct LimitersQuery {
    ArraysQuery array;
    int per_string = 0;
    Keyed<std::vector<DrawerItem>> drawer;
    struct Value {
        LimiterQuestion question;
        std::vector<LimiterRow> rows;
    };
    static constexpr std::string_view name = "limiters";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
