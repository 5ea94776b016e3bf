#include "engine/sweep.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <mutex>

#include "circuit/part_kind.hpp"
#include "quantity/format.hpp"
#include "quantity/parallel.hpp"
#include "quantity/parse.hpp"

namespace elkit {

Result<SweepRange> range_from_words(const std::string& words) {
    const Error bad{Fault::usage, words, "is no range",
                    "FROM..TO or FROM..TO:POINTS, such as 0..1:21 or 10..1k:31 log"};
    std::string text = words;
    SweepRange range;
    if (text.ends_with(" log")) range.logarithmic = true, text.resize(text.size() - 4);
    const auto dots = text.find(".."), colon = text.find(':');
    if (dots == std::string::npos) return bad;
    auto from = parse_quantity(text.substr(0, dots), Unit::none);
    auto to = parse_quantity(text.substr(dots + 2, colon == std::string::npos ? colon : colon - dots - 2),
                             Unit::none);
    if (!from || !to) return bad;
    range.from = from.value(), range.to = to.value();
    if (colon != std::string::npos) {
        auto points = parse_quantity(text.substr(colon + 1), Unit::count);
        if (!points || points.value() < 2 || points.value() > 10000) return bad;
        range.points = static_cast<int>(points.value());
    }
    if (range.logarithmic && !(range.from > 0 && range.to > 0)) return bad;
    return range;
}

std::vector<Variable> variables(const Circuit& circuit) {
    std::vector<Variable> all{{"battery", "battery fullness", Unit::none, 0.02, 1},
                              {"temperature", "temperature", Unit::celsius, -10, 50}};
    const auto read = [&](const char* condition) {
        return std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
            const PartKind* kind = part_kind(p.kind);
            return kind && kind->reads_condition(condition);
        });
    };
    if (read("lux")) all.push_back({"lux", "light, lx", Unit::none, 1, 10000, true});
    if (read("infrared")) all.push_back({"infrared", "infrared, W/m²", Unit::none, 0, 20});
    for (const Part& part : circuit.parts)
        if (is_knob(part)) all.push_back({part.designator, part.designator + " position", Unit::none, 0, 1});
    for (const Part& part : circuit.parts)
        if (has_level(part)) {
            const double level = Conditions{}.level(part);
            all.push_back({part.designator, part.designator + " level", level_unit(part), 0, 1.5 * level});
        }
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        const ParamInfo* info = kind && !has_level(part) ? kind->param(kind->value_key) : nullptr;
        if (!info || !std::holds_alternative<double>(info->standard)) continue;
        const double value = part.number(info->key);
        if (!(value > 0)) continue;
        all.push_back({part.designator + "." + info->key, part.designator + " " + info->label, info->unit,
                       std::max(value / 10, info->low), std::min(value * 10, info->high), true});
    }
    return all;
}

Figure Sweep::figure(std::size_t goal, std::size_t k) const {
    Figure f{"sweep." + goals[goal].label, goals[goal].label, values[goal][k], goals[goal].unit, {}, {}, {}};
    f.working = {fmt::format("solved with {} = {}", over, format_plain(at[k])),
                 "at rest by the operating point, else over one steady cycle"};
    return f;
}

Result<Sweep> sweep(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                    const std::string& over, const SweepRange& range, const std::vector<Goal>& goals,
                    const Progress& progress) {
    Sweep s;
    s.over = over, s.goals = goals;
    for (int k = 0; k < range.points; ++k) {
        const double share = static_cast<double>(k) / (range.points - 1);
        s.at.push_back(range.logarithmic ? range.from * std::pow(range.to / range.from, share)
                                         : range.from + (range.to - range.from) * share);
        Circuit trial = circuit;  // refuse before anything is solved
        Conditions c = conditions;
        if (auto set = set_by_name(over, s.at.back(), trial, c); !set) return set.error();
    }
    s.values.assign(goals.size(), std::vector<double>(s.at.size(), std::numeric_limits<double>::quiet_NaN()));
    std::vector<std::string> troubles(s.at.size());
    std::atomic<int> done{0};
    std::atomic<bool> stopped{false};
    std::mutex telling;
    parallel(s.at.size(), [&](std::size_t k) {
        if (stopped) return;
        Circuit trial = circuit;
        Conditions c = conditions;
        (void)set_by_name(over, s.at[k], trial, c);
        for (std::size_t goal = 0; goal < goals.size(); ++goal) {
            auto value = evaluate(goals[goal], trial, catalogue, c);
            if (value)
                s.values[goal][k] = value.value();
            else
                troubles[k] = fmt::format("at {}: {}", format_plain(s.at[k]), value.error().text());
        }
        const int so_far = ++done;
        if (!progress) return;
        const std::lock_guard lock(telling);
        if (!progress("sweeping " + over, static_cast<double>(so_far) / range.points)) stopped = true;
    });
    if (stopped) return Error{Fault::usage, "sweep", "stopped", ""};
    for (auto& t : troubles)
        if (!t.empty()) s.troubles.push_back(std::move(t));
    return s;
}

}  // namespace elkit
