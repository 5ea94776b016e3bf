#include "recipes/pin_plan.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "behaviour/machine.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

/// A of those pins of a limit that are in use.
double amps_at(const std::vector<PinPlan::Use>& uses, const Limit& limit) {
    double sum = 0;
    for (const PinPlan::Use& use : uses)
        if (std::find(limit.pins.begin(), limit.pins.end(), use.pin) != limit.pins.end()) sum += use.amps;
    return sum;
}

bool borne(const PartKind& kind, const std::vector<PinPlan::Use>& uses) {
    return std::all_of(kind.limits.begin(), kind.limits.end(), [&](const Limit& limit) {
        return limit.reading != Limit::Reading::together ||
               amps_at(uses, limit) <= taken_of(kind, limit.param.c_str());
    });
}

}  // namespace

double PinPlan::most_at_once() const {
    double sum = 0;
    for (const Use& use : lights) sum += use.amps;
    return sum;
}

Figure PinPlan::figure() const {
    Figure f{"recipe.pins",
             "pins in use",
             static_cast<double>(lights.size() + (button ? 1 : 0)),
             Unit::count,
             {},
             {},
             {}};
    for (const Use& use : lights)
        f.working.push_back(fmt::format("{}: {}, {} of {}", use.pin, use.what, amps_text(use.amps),
                                        amps_text(usual_number(*kind, "max_current"))));
    if (button) f.working.push_back(fmt::format("{}: {}", button->pin, button->what));
    for (const Limit& limit : kind->limits)
        if (limit.reading == Limit::Reading::together && amps_at(lights, limit) > 0)
            f.working.push_back(fmt::format("{}: {} of {}", limit.what, amps_text(amps_at(lights, limit)),
                                            amps_text(usual_number(*kind, limit.param.c_str()))));
    if (kind->param("max_total"))
        f.working.push_back(fmt::format("all lit at once: {} of {}", amps_text(most_at_once()),
                                        amps_text(usual_number(*kind, "max_total"))));
    return f;
}

Result<PinPlan> plan_pins(const PartKind& kind, const std::vector<PinPlan::Use>& lights, bool dims,
                          bool button) {
    PinPlan plan{&kind, {}, {}};
    std::vector<std::string> free = pins_for_lights(*kind.controller);
    const auto able = [&](const std::string& pin) {
        return std::any_of(kind.controller->pins.begin(), kind.controller->pins.end(),
                           [&](const PinAbility& p) { return p.pin == pin && p.dims; });
    };
    if (!dims)  // those that dim are left for what needs them
        std::stable_partition(free.begin(), free.end(), [&](const std::string& p) { return !able(p); });
    for (const PinPlan::Use& light : lights) {
        const auto fits = [&](const std::string& pin) {
            if (dims && !able(pin)) return false;
            auto with = plan.lights;
            with.push_back({pin, light.what, light.amps});
            return light.amps <= taken_of(kind, "max_current") && borne(kind, with);
        };
        const auto pin = std::find_if(free.begin(), free.end(), fits);
        if (pin == free.end()) {
            const auto count = std::count_if(free.begin(), free.end(), able);
            return Error{Fault::design, "controller",
                         fmt::format("{} has no pin left for {} with {}{}", kind.name, light.what,
                                     amps_text(light.amps), dims && count == 0 ? " that dims" : ""),
                         "a larger controller, less current, or transistors"};
        }
        plan.lights.push_back({*pin, light.what, light.amps});
        free.erase(pin);
    }
    if (kind.param("max_total") && plan.most_at_once() > taken_of(kind, "max_total"))
        return Error{Fault::design, "current", fmt::format("{} in all", amps_text(plan.most_at_once())),
                     fmt::format("{} at most, or transistors", amps_text(taken_of(kind, "max_total")))};
    if (!button) return plan;
    if (free.empty())
        return Error{Fault::design, "controller", kind.name + " has no pin left for the button",
                     "a larger controller"};
    plan.button = PinPlan::Use{free.back(), "button to ground, its pull-up inside", 0};
    return plan;
}

std::vector<double> mean_shares(const Program& program, std::optional<double> after_press) {
    constexpr std::uint32_t most_ticks = 60'000, of_random = 10'000;
    PinsSeen seen{std::vector<bool>(program.inputs.size(), true),
                  std::vector<std::uint32_t>(program.sensors.size(), 0)};
    Machine m(program, seen);
    m.step(seen);
    std::uint32_t ticks = 1;
    if (after_press) {
        seen.high.assign(seen.high.size(), false), m.step(seen);
        seen.high.assign(seen.high.size(), true), m.step(seen);
        ticks = static_cast<std::uint32_t>(std::min<double>(*after_press / tick_seconds, most_ticks));
    } else {
        const Machine::Course course = m.course(seen);
        for (std::uint32_t k = 0; k < std::min(course.begins, most_ticks); ++k) m.step(seen);
        ticks = course.random ? of_random : std::min(course.period, most_ticks);
    }
    ticks = std::max(ticks, std::uint32_t{1});
    std::vector<double> shares(program.outputs.size());
    for (std::uint32_t k = 0; k < ticks; ++k) {
        for (std::size_t out = 0; out < shares.size(); ++out) {
            const double level = m.levels()[out] / 255.0;
            shares[out] += (program.sinks[out] ? 1 - level : level) / ticks;
        }
        m.step(seen);
    }
    return shares;
}

}  // namespace elkit
