#pragma once
#include <functional>
#include <string>
#include <vector>

#include "review/survey.hpp"

namespace elkit {

enum class Severity { error, warning, note };

/// A remedy returns a new design; it may fail with the reason.
struct Remedy {
    std::string label;
    std::function<Result<Design>(const Design&)> apply;
};

/// One sentence with numbers, why it matters, and what can be done.
struct Finding {
    std::string id;  ///< "rule" or "rule:R1"; decisions refer to it
    std::string rule;
    Severity severity = Severity::warning;
    std::string title, detail;
    std::string station;  ///< "light", "power", …
    std::string ref;      ///< "part:R1" or "field:run_time"; may be empty
    std::vector<Remedy> remedies;
    std::string known;  ///< the designer's reason, if decided
};

/// All a rule may look at. `deep` may be null while it is being computed.
struct Evidence {
    const Design& design;
    const Conditions& conditions;
    const LiveSurvey& live;
    const DeepSurvey* deep;
};

/// A rule is data and one function.
struct Rule {
    std::string id, title, why, source;
    std::function<void(const Evidence&, std::vector<Finding>&)> find;
};
const std::vector<Rule>& rules();

/// Runs every rule: most serious first, decided ones last with their reason.
std::vector<Finding> review(const Evidence& evidence);

/// docs/rules.md, from the table.
std::string rules_markdown();

}  // namespace elkit
