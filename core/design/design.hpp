#pragma once
#include <optional>
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "quantity/preferred.hpp"

namespace elkit {

/// What the gadget must do; the rest of the design is judged against it.
struct Brief {
    std::string purpose;
    double run_time = 60;          ///< h, wanted from fresh cells
    double end_brightness = 0.5;   ///< perceived, as a fraction of fresh; below it the light counts as spent
    double kits = 10;              ///< batch size
    double cost_ceiling = 0;       ///< parts for one kit, workshop's currency; 0: none
    double width = 0, height = 0;  ///< mm, room for the board; 0: no limit
    bool for_children = false;
    Extra extra;
    bool operator==(const Brief&) const = default;
};

/// The goals from which the steady-light recipe sizes its circuit; kept so that it can be run again.
struct LightGoals {
    std::string cell = "LR6";
    double cells = 3;
    std::string led = "amber-5mm";
    double count = 4;        ///< LEDs in all
    double per_string = 2;   ///< LEDs in series
    double current = 0.012;  ///< A for each string, from fresh cells
    Rounding rounding = Rounding::under;
    Series series = Series::e24;
    bool one_resistor = false;  ///< strings share one resistor
    bool resistor = true;       ///< false: only the cell limits the current
    bool has_switch = true;
    Extra extra;
    bool operator==(const LightGoals&) const = default;
};

/// A fact from the bench: what was done, written or measured at a build step.
struct StepRecord {
    std::string step;
    bool done = false;
    std::string note;
    std::optional<double> measured;  ///< SI unit of the step's check
    Extra extra;
    bool operator==(const StepRecord&) const = default;
};

/// A finding the designer knows about and accepts.
struct Decision {
    std::string finding, reason;
    Extra extra;
    bool operator==(const Decision&) const = default;
};

struct BoardChoices {
    double columns = 0, rows = 0;  ///< holes; 0: as small as it gets
    Extra extra;
    bool operator==(const BoardChoices&) const = default;
};

struct BatchChoices {
    double spares = 0.05;  ///< fraction bought on top
    Extra extra;
    bool operator==(const BatchChoices&) const = default;
};

/// The whole document, a value: copied, compared, saved. Nothing in it is derived from anything else in it.
struct Design {
    int version = 1;
    std::string name = "Untitled";
    Brief brief;
    std::optional<LightGoals> light;  ///< the recipe's note; absent once a circuit is entered by hand
    Circuit circuit;
    BoardChoices board;
    BatchChoices batch;
    std::vector<StepRecord> records;
    std::vector<Decision> decisions;
    Extra extra;  ///< keys of newer versions, kept on saving

    const StepRecord* record(std::string_view step) const;
    StepRecord& record_for(const std::string& step);  ///< made if missing
    const Decision* decision(std::string_view finding) const;
    bool operator==(const Design&) const = default;
};

inline constexpr int current_version = 1;

}  // namespace elkit
