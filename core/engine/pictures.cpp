#include "engine/pictures.hpp"

#include <algorithm>

#include "engine/measure.hpp"
#include "engine/readings.hpp"

namespace elkit {
namespace {

/// The mean of a trace from one time to another.
double mean_between(const std::vector<double>& time, const std::vector<double>& values, double from,
                    double to) {
    const auto begin =
        static_cast<std::size_t>(std::upper_bound(time.begin(), time.end(), from) - time.begin());
    double sum = 0, at = from, value = value_at(time, values, from);
    for (std::size_t k = begin; k < time.size() && time[k] < to; ++k) {
        sum += (time[k] - at) * (value + values[k]) / 2;
        at = time[k], value = values[k];
    }
    return (sum + (to - at) * (value + value_at(time, values, to)) / 2) / (to - from);
}

}  // namespace

Result<Pictures> pictures_of(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                             double each, std::size_t count, const Progress& progress) {
    RunRequest request;
    request.until = each * static_cast<double>(count), request.probes = every_probe(circuit);
    request.start = Start::power_up;
    request.balance = false;
    auto run = simulate(circuit, catalogue, conditions, request, {}, progress);
    if (!run) return run.error();
    Pictures pictures{each, {}};
    const auto& time = run.value().time;
    for (std::size_t k = 0; k < count; ++k)
        pictures.all.push_back(readings_of(circuit, run.value(), [&](const auto& values) {
            return mean_between(time, values, each * static_cast<double>(k),
                                each * static_cast<double>(k + 1));
        }));
    return pictures;
}

}  // namespace elkit
