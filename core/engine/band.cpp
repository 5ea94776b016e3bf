#include "engine/band.hpp"

#include <algorithm>
#include <atomic>
#include <mutex>

#include "engine/measure.hpp"
#include "engine/spread.hpp"
#include "quantity/parallel.hpp"

namespace elkit {
namespace {

double percentile(std::vector<double>& values, double share) {
    const auto k = static_cast<std::ptrdiff_t>(std::llround(share * static_cast<double>(values.size() - 1)));
    std::nth_element(values.begin(), values.begin() + k, values.end());
    return values[static_cast<std::size_t>(k)];
}

}  // namespace

Result<Bands> bands(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                    const RunRequest& wanted, int builds, int points, std::uint64_t seed,
                    const Progress& progress) {
    RunRequest request = wanted;
    request.frames = 0, request.balance = false;
    Bands out;
    out.builds = builds;
    for (int k = 0; k < points; ++k) out.time.push_back(request.until * k / (points - 1));
    const auto traces = request.probes.size(), samples = out.time.size();
    // [trace][time][build], only of the builds that ran
    std::vector<std::vector<std::vector<double>>> values(traces, std::vector<std::vector<double>>(samples));
    std::vector<Unit> units(traces);
    std::mutex gathering;
    std::atomic<bool> stopped{false};
    std::optional<Error> trouble;
    int done = 0;
    const auto go_on = [&](std::string_view, double) { return !stopped; };
    parallel(builds, [&](int k) {
        if (stopped) return;
        const Corner corner = random_build(circuit, seed, static_cast<std::uint64_t>(k));
        auto run = simulate(circuit, catalogue, conditions, request, corner, go_on);
        const std::lock_guard lock(gathering);
        if (run) {
            const Recording& r = run.value();
            for (std::size_t t = 0; t < traces; ++t) units[t] = r.traces[t].unit;
            for (std::size_t t = 0; t < traces; ++t)
                for (std::size_t s = 0; s < samples; ++s)
                    values[t][s].push_back(value_at(r.time, r.traces[t].values, out.time[s]));
        } else if (!stopped) {
            ++out.failed;
            if (!trouble) trouble = run.error();
        }
        ++done;
        if (progress && !progress("building a batch on paper", double(done) / builds)) stopped = true;
    });
    if (stopped) return Error{Fault::usage, "spread", "stopped", ""};
    if (out.failed == builds && trouble) return *trouble;
    for (std::size_t t = 0; t < traces; ++t) {
        Band band{request.probes[t], units[t], {}, {}};
        for (auto& at_time : values[t]) {
            band.low.push_back(percentile(at_time, 0.05));
            band.high.push_back(percentile(at_time, 0.95));
        }
        out.bands.push_back(std::move(band));
    }
    return out;
}

}  // namespace elkit
