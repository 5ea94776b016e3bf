#include "design/design.hpp"

namespace elkit {

Conditions Situation::under(const Conditions& now) const {
    Conditions c = conditions;
    c.battery = battery.value_or(now.battery);
    c.as_set = true;
    return c;
}

const StepRecord* Design::record(std::string_view step) const {
    for (const auto& r : records)
        if (r.step == step) return &r;
    return nullptr;
}

StepRecord& Design::record_for(const std::string& step) {
    for (auto& r : records)
        if (r.step == step) return r;
    return records.emplace_back(
        StepRecord{.step = step, .note = {}, .measured = {}, .time = {}, .extra = {}});
}

const Decision* Design::decision(std::string_view finding) const {
    for (const auto& d : decisions)
        if (d.finding == finding) return &d;
    return nullptr;
}

}  // namespace elkit
