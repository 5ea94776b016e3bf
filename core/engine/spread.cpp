#include "engine/spread.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <mutex>
#include <numbers>

#include "circuit/part_kind.hpp"
#include "engine/long_run.hpp"
#include "quantity/parallel.hpp"
#include "quantity/random.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

/// Any two numbers make a stream of their own.
class Stream {
  public:
    Stream(std::uint64_t seed, std::uint64_t build)
        : random_(seed * 0x9E3779B97F4A7C15ULL + build * 0xD1B54A32D192ED03ULL) {}
    double uniform() { return (static_cast<double>(random_.next() >> 11) + 0.5) * 0x1p-53; }
    /// A place −1…1: normal with σ = ½, those beyond the ends drawn again.
    double place() {
        for (;;) {
            const double r = std::sqrt(-2 * std::log(uniform())), angle = 2 * std::numbers::pi * uniform();
            const double z = 0.5 * r * std::cos(angle);
            if (std::abs(z) <= 1) return z;
        }
    }

  private:
    Random random_;
};

/// Correlation of the places of each part with the values.
std::vector<Influence> influences(const std::vector<std::string>& names,
                                  const std::vector<std::vector<double>>& places,
                                  const std::vector<double>& values) {
    std::vector<Influence> all;
    double n = 0, mean = 0, var = 0;
    for (const double v : values)
        if (std::isfinite(v)) mean += v, n += 1;
    mean /= std::max(n, 1.0);
    for (const double v : values)
        if (std::isfinite(v)) var += (v - mean) * (v - mean);
    for (std::size_t p = 0; p < names.size(); ++p) {
        double centre = 0, cov = 0, own = 0;
        for (std::size_t k = 0; k < values.size(); ++k)
            if (std::isfinite(values[k])) centre += places[k][p];
        centre /= std::max(n, 1.0);
        for (std::size_t k = 0; k < values.size(); ++k) {
            if (!std::isfinite(values[k])) continue;
            const double d = places[k][p] - centre;
            cov += d * (values[k] - mean), own += d * d;
        }
        const double r = own > 0 && var > 0 ? cov / std::sqrt(own * var) : 0;
        all.push_back({names[p], r * r, r});
    }
    double sum = 0;
    for (const auto& i : all) sum += i.share;
    for (auto& i : all)
        if (sum > 1) i.share /= sum;
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
    return all;
}

}  // namespace

bool varies(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* tolerance = kind ? kind->param("tolerance") : nullptr;
    return kind && (kind->is(Role::bins) || (tolerance && applies(part, *tolerance)));
}

Figure Influence::figure() const {
    return {
        "influence." + designator,
        "share of the spread from " + designator,
        100 * share,
        Unit::percent,
        {},
        {},
        {"square of the correlation between its place in its tolerance and the result",
         fmt::format("r = {:+.2f}: {}", correlation,
                     correlation > 0 ? "more of it, more of the result" : "more of it, less of the result")}};
}

double Spread::percentile(double percent) const {
    if (values.empty()) return 0;
    const double at = percent / 100 * static_cast<double>(values.size() - 1);
    const auto k = static_cast<std::size_t>(at);
    const double rest = at - static_cast<double>(k);
    return k + 1 < values.size() ? values[k] + rest * (values[k + 1] - values[k]) : values.back();
}

Figure Spread::figure() const {
    Figure f{"spread." + goal.probe + "." + goal.reading, goal.label, median, goal.unit, low, high, {}};
    f.working = {
        fmt::format("{} builds, every part at a random place of its tolerance (seed {})", builds, seed),
        fmt::format("median {}, 90 % of the builds between {} and {}", format_quantity(median, goal.unit),
                    format_quantity(low, goal.unit), format_quantity(high, goal.unit))};
    for (std::size_t k = 0; k < std::min<std::size_t>(3, influences.size()); ++k)
        if (influences[k].share > 0.02)
            f.working.push_back(fmt::format("  {} makes {:.0f} % of the spread", influences[k].designator,
                                            100 * influences[k].share));
    if (failed) f.working.push_back(fmt::format("{} builds could not be solved: {}", failed, trouble));
    return f;
}

Figure Spread::end_figure(bool highest) const {
    return {std::string("spread.") + (highest ? "most" : "least"),
            (highest ? "most: " : "least: ") + goal.label,
            highest ? most : least,
            goal.unit,
            {},
            {},
            {fmt::format("the {} of {} builds (seed {})", highest ? "greatest" : "smallest", builds, seed)}};
}

Histogram Spread::histogram(int bars) const {
    Histogram h;
    if (values.empty()) return h;
    h.width = std::max((most - least) / bars, std::max(std::abs(most), 1e-15) * 1e-9);
    for (int k = 0; k < bars; ++k) h.centre.push_back(least + (k + 0.5) * h.width);
    h.count.assign(static_cast<std::size_t>(bars), 0);
    for (const double v : values)
        ++h.count[static_cast<std::size_t>(std::clamp(static_cast<int>((v - least) / h.width), 0, bars - 1))];
    return h;
}

Corner random_build(const Circuit& circuit, std::uint64_t seed, std::uint64_t build) {
    Stream random(seed, build);
    Corner corner;
    for (const Part& part : circuit.parts)
        if (varies(part)) corner.parts[part.designator] = random.place();
    return corner;
}

Result<std::vector<Spread>> spread(const Circuit& circuit, const Catalogue& catalogue,
                                   const Conditions& conditions, const std::vector<Goal>& goals, int builds,
                                   std::uint64_t seed, const Progress& progress) {
    for (const Goal& goal : goals)
        if (auto typical = evaluate(goal, circuit, catalogue, conditions); !typical) return typical.error();
    Steady typical;  // where every build starts to look for its own cycle
    if (may_move(circuit))
        if (auto steady = steady_state(circuit, catalogue, conditions, {}))
            typical = std::move(steady).value();
    std::vector<std::string> names;
    for (const Part& part : circuit.parts)
        if (varies(part)) names.push_back(part.designator);
    const auto n = static_cast<std::size_t>(builds);
    std::vector<std::vector<double>> places(n), values(goals.size(), std::vector<double>(n));
    std::atomic<int> done{0};
    std::atomic<bool> stopped{false};
    std::mutex telling;
    std::string trouble;
    const std::size_t grain = may_move(circuit) ? 1 : 64;
    parallel_ranges(n, grain, [&](std::size_t first, std::size_t end) {
        for (std::size_t k = first; k < end && !stopped; ++k) {
            const Corner corner = random_build(circuit, seed, k);
            for (const auto& name : names) places[k].push_back(corner.parts.at(name));
            for (std::size_t g = 0; g < goals.size(); ++g) {
                auto value = evaluate(goals[g], circuit, catalogue, conditions, corner, &typical);
                values[g][k] = value ? value.value() : std::numeric_limits<double>::quiet_NaN();
                if (value) continue;
                const std::lock_guard lock(telling);
                if (trouble.empty()) trouble = value.error().text();
            }
        }
        const int so_far = done += static_cast<int>(end - first);
        if (!progress || stopped) return;
        const std::lock_guard lock(telling);
        if (!progress("building a batch on paper", static_cast<double>(so_far) / builds)) stopped = true;
    });
    if (stopped) return Error{Fault::usage, "spread", "stopped", ""};
    std::vector<Spread> all;
    for (std::size_t g = 0; g < goals.size(); ++g) {
        Spread s;
        s.goal = goals[g], s.builds = builds, s.seed = seed, s.trouble = trouble;
        s.influences = influences(names, places, values[g]);
        for (const double v : values[g])
            if (std::isfinite(v)) s.values.push_back(v);
        s.failed = builds - static_cast<int>(s.values.size());
        std::sort(s.values.begin(), s.values.end());
        s.low = s.percentile(5), s.median = s.percentile(50), s.high = s.percentile(95);
        if (!s.values.empty()) s.least = s.values.front(), s.most = s.values.back();
        for (const double v : s.values) s.mean += v / static_cast<double>(s.values.size());
        all.push_back(std::move(s));
    }
    return all;
}

}  // namespace elkit
