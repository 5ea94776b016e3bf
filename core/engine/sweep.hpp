#pragma once
#include <vector>

#include "engine/goal.hpp"
#include "quantity/figure.hpp"
#include "quantity/progress.hpp"

namespace elkit {

/// One thing varied, several numbers looked at.
struct Sweep {
    std::string over;
    std::vector<double> at;  ///< values of what is varied
    std::vector<Goal> goals;
    std::vector<std::vector<double>> values;  ///< by goal, then by value; NaN where it could not be solved
    std::vector<std::string> troubles;        ///< "at 0.3: net OUT: …"

    /// Value of one goal at point `k`, with what was set there as its working.
    Figure figure(std::size_t goal, std::size_t k) const;
};

/// Something that can be varied, and a range to start with.
struct Variable {
    std::string name, label;  ///< for set_by_name(); for people
    Unit unit = Unit::none;
    double from = 0, to = 1;
    bool logarithmic = false;
};
/// The conditions that matter to this circuit, its potentiometers, and the value of every part.
std::vector<Variable> variables(const Circuit& circuit);

struct SweepRange {
    double from = 0, to = 1;
    int points = 21;
    bool logarithmic = false;
};
/// "0..1:21", "10..1000:31 log". Usage error for anything else.
Result<SweepRange> range_from_words(const std::string& words);

/// Solves the circuit at every value, in parallel. Errors: a name that cannot be varied; stopped by
/// `progress`.
Result<Sweep> sweep(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                    const std::string& over, const SweepRange& range, const std::vector<Goal>& goals,
                    const Progress& progress = {});

}  // namespace elkit
