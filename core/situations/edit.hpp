#pragma once
#include "design/design.hpp"

/// Edits of a design's situations. A design that has none of its own takes over `shown`, those that its
/// circuit suggests, with the first edit.
namespace elkit {

/// Adds a situation, or puts it in the place of the one of its name. Design error for a name that no file may
/// hold.
Result<Design> keep_situation(Design design, const std::vector<Situation>& shown, Situation situation);
/// Gives one another name, in the day plan too. Design error if the name is taken or cannot be.
Result<Design> rename_situation(Design design, const std::vector<Situation>& shown, const std::string& from,
                                const std::string& to);
/// Takes one out, and what the day plan says of it.
Design drop_situation(Design design, const std::vector<Situation>& shown, const std::string& name);
/// What situations say of a part follows when the part is renamed.
void rename_in_situations(Design& design, const std::string& from, const std::string& to);
/// What the day plan says of a situation; nothing takes it out of the plan.
Design with_use(Design design, const std::string& situation, const std::optional<DayUse>& use);

}  // namespace elkit
