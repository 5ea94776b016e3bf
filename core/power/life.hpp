#pragma once
#include "design/content.hpp"
#include "power/run_time.hpp"
#include "situations/propose.hpp"

namespace elkit {

/// How the days of a gadget are spent, with every situation found.
struct DayPlan {
    std::string followed;  ///< name of the situation whose light ends a life
    Conditions conditions;
    DayShares shares;
    std::string off;  ///< name of the situation of standby; empty if it is lit in all of them
    Conditions off_conditions;
    std::vector<std::string> words;  ///< "lit: 4 h a day", for working and leaflet
};

/// The day plan of a design over these situations, under the conditions of the strip. Without one the gadget
/// is lit without a pause, in the situation that `now` is or else the first. What the plan leaves of the day
/// is spent in standby: the dark situation that takes least. Design error if the plan names a situation that
/// there is not, or fills more than a day.
Result<DayPlan> day_plan(const std::vector<Placed>& situations, const std::vector<DayUse>& use,
                         const Conditions& now);

/// Run time, standby and what is left over the design's day plan. Errors are those of the engine and of
/// day_plan().
struct LifeQuery {
    LifeQuery(const Design& design, const Keyed<Circuit>& of, const Conditions& under);
    Keyed<Circuit> circuit;
    std::vector<Situation> situations;
    std::vector<DayUse> use;
    Conditions now;
    double end_brightness;
    using Value = PowerResult;
    static constexpr std::string_view name = "life";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
