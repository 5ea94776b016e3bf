#include "situations/edit.hpp"

#include <algorithm>

#include "design/situation_file.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {
namespace {

void take_over(Design& design, const std::vector<Situation>& shown) {
    if (design.situations.empty()) design.situations = shown;
}

auto named(std::vector<Situation>& list, const std::string& name) {
    return std::find_if(list.begin(), list.end(), [&](const Situation& s) { return s.name == name; });
}

Result<void> check_name(const std::string& name) {
    const std::string trouble = trouble_of_text(name, longest_situation);
    if (name.empty() || !trouble.empty())
        return Error{Fault::design, "situation", name.empty() ? "has no name" : "its name " + trouble,
                     "a name of at most 60 plain characters"};
    return success();
}

}  // namespace

Result<Design> keep_situation(Design design, const std::vector<Situation>& shown, Situation situation) {
    if (auto good = check_name(situation.name); !good) return good.error();
    take_over(design, shown);
    const auto known = named(design.situations, situation.name);
    if (known != design.situations.end())
        *known = std::move(situation);
    else
        design.situations.push_back(std::move(situation));
    return design;
}

Result<Design> rename_situation(Design design, const std::vector<Situation>& shown, const std::string& from,
                                const std::string& to) {
    if (auto good = check_name(to); !good) return good.error();
    take_over(design, shown);
    const auto found = named(design.situations, from);
    if (found == design.situations.end() ||
        (from != to && named(design.situations, to) != design.situations.end()))
        return Error{Fault::design, "situation " + from, "cannot be called " + to, "a name that is free"};
    found->name = to;
    for (DayUse& use : design.use)
        if (use.situation == from) use.situation = to;
    return design;
}

Design drop_situation(Design design, const std::vector<Situation>& shown, const std::string& name) {
    take_over(design, shown);
    std::erase_if(design.situations, [&](const Situation& s) { return s.name == name; });
    std::erase_if(design.use, [&](const DayUse& use) { return use.situation == name; });
    return design;
}

void rename_in_situations(Design& design, const std::string& from, const std::string& to) {
    for (Situation& s : design.situations) {
        Conditions& c = s.conditions;
        const auto move = [&](auto& map) {
            if (auto entry = map.extract(from); !entry.empty()) {
                entry.key() = to;
                map.insert(std::move(entry));
            }
        };
        move(c.switches), move(c.knobs), move(c.levels), move(c.warmth);
        for (HandEvent& event : c.events)
            if (event.part == from) event.part = to;
    }
}

Design with_use(Design design, const std::string& situation, const std::optional<DayUse>& use) {
    const auto found = std::find_if(design.use.begin(), design.use.end(),
                                    [&](const DayUse& u) { return u.situation == situation; });
    if (!use && found != design.use.end())
        design.use.erase(found);
    else if (use && found != design.use.end())
        found->hours = use->hours, found->times = use->times, found->seconds = use->seconds;
    else if (use)
        design.use.push_back(*use);
    return design;
}

}  // namespace elkit
