#include "power/life.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "circuit/part_kind.hpp"
#include "power/standby.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

std::string share_text(const DayUse& use) {
    if (use.times > 0) return fmt::format("{:.3g} times {:.3g} s a day", use.times, use.seconds);
    return use.rest() ? "the rest of the day" : fmt::format("{:.3g} h a day", use.hours);
}

}  // namespace

Result<DayPlan> day_plan(const std::vector<Placed>& situations, const std::vector<DayUse>& use,
                         const Conditions& now) {
    DayPlan plan;
    plan.conditions = now;
    if (situations.empty()) return plan;
    if (const Placed* off = standby_of(situations))
        plan.off = off->situation.name, plan.off_conditions = off->situation.under(now);
    if (use.empty()) {
        plan.followed = situations.front().situation.name;
        if (!now.as_set) plan.conditions = with_strip(situations.front().situation, now);
        return plan;
    }
    double taken = 0;
    for (const DayUse& u : use) taken += u.share();
    if (taken > 1 + 1e-9)
        return Error{Fault::design, "/use", fmt::format("takes {:.3g} h of a day", 24 * taken),
                     "24 h at most"};
    bool found_lit = false, rest_given = false;
    double followed_share = 0;
    for (const DayUse& u : use) {
        const auto found = std::find_if(situations.begin(), situations.end(),
                                        [&](const Placed& p) { return p.situation.name == u.situation; });
        if (found == situations.end())
            return Error{Fault::design, "/use", "there is no situation \"" + u.situation + "\"",
                         "the name of a situation"};
        const double share = u.rest() && !rest_given ? 1 - taken : u.share();
        rest_given = rest_given || u.rest();
        const Conditions there = found->situation.under(now);
        plan.words.push_back(u.situation + ": " + share_text(u));
        if (plan.followed.empty() || (found->lit && !found_lit)) {
            if (!plan.followed.empty()) plan.shares.others.push_back({plan.conditions, followed_share});
            plan.followed = u.situation, plan.conditions = there, followed_share = share;
        } else {
            plan.shares.others.push_back({there, share});
        }
        found_lit = found_lit || found->lit;
    }
    plan.shares.followed = followed_share;
    if (!rest_given && taken < 1) {
        if (plan.off.empty()) return Error{Fault::design, "/use", "leaves some of the day open", "24 h"};
        plan.shares.others.push_back({plan.off_conditions, 1 - taken});
        plan.words.push_back(plan.off + ": the rest of the day");
    }
    return plan;
}

LifeQuery::LifeQuery(const Design& design, const Keyed<Circuit>& of, const Conditions& under)
    : circuit(of),
      situations(design.situations),
      use(design.use),
      now(as_seen(*of, under)),
      end_brightness(design.brief.end_brightness) {
    now.battery = 1;
    // what stands as drawn was not turned by anybody
    const Conditions drawn = as_seen(*of, {});
    std::erase_if(now.switches, [&](const auto& s) { return drawn.switches.at(s.first) == s.second; });
    std::erase_if(now.knobs, [&](const auto& s) { return drawn.knobs.at(s.first) == s.second; });
    std::erase_if(now.levels, [&](const auto& s) { return drawn.levels.at(s.first) == s.second; });
}

Digest LifeQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(situations) << content_digest(use) << content_digest(now)
      << end_brightness;
    return d.digest();
}

Result<PowerResult> LifeQuery::compute(const Ask& ask) const {
    auto all = placed_situations(ask, situations, circuit);
    if (!all) return all.error();
    auto plan = day_plan(all.value(), use, now);
    if (!plan) return plan.error();
    const DayPlan& p = plan.value();
    PowerQuery query(circuit, p.conditions, end_brightness);
    query.day = p.shares;
    if (!p.off.empty()) query.off = as_seen(*circuit, p.off_conditions), query.off_text = p.off;
    const auto result = ask(query);
    if (!result) return result.error();
    PowerResult r = *result;
    r.run_time.working.insert(r.run_time.working.begin(), p.words.begin(), p.words.end());
    if (!use.empty()) r.run_time.label = "run time from fresh cells, by the day plan";
    r.never_off = p.off.empty();
    return r;
}

}  // namespace elkit
