#include "recipes/level.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"

namespace elkit {

namespace {

constexpr double resolved = 0.01;  // V between a supply that starts it and one that does not

/// The circuit with a supply of the bench in place of the expectation's part. Design error without that part
/// or a source.
Result<Circuit> on_the_bench(const Circuit& circuit, const Expectation& x, PointList points) {
    Circuit driven = circuit;
    Part* in_place = driven.find(x.bench.part);
    const Part* source = circuit.source();
    if (!in_place || !source)
        return Error{Fault::design, x.label, "there is nothing to drive", "a source, and " + x.bench.part};
    const std::string ground = source->net("-");
    const Pin &first = in_place->pins.front(), &last = in_place->pins.back();
    const std::string at = last.net == ground ? first.net : last.net;
    std::erase_if(driven.parts, [&](const Part& part) { return part.designator == x.bench.part; });
    driven.parts.push_back({"Vbench",
                            "vsource",
                            {{"wave", std::string("table")}, {"points", std::move(points)}},
                            {{"+", at}, {"-", ground}},
                            {}});
    return driven;
}

Error never_on(const Expectation& x) {
    return {Fault::design, x.label, "it never comes on", "a level that does it"};
}

/// The most that the probe reads in the second half of a run from power-up at so many volts; once it is more
/// than `enough`, no more is asked.
Result<double> most_at(const Circuit& circuit, const Expectation& x, double volts, double enough,
                       const Conditions& conditions, const Corner& corner) {
    auto driven = on_the_bench(circuit, x, {{0, volts}, {x.bench.seconds, volts}});
    if (!driven) return driven.error();
    RunRequest request;
    request.until = x.bench.seconds, request.probes = {x.probe}, request.balance = false;
    request.start = Start::power_up, request.enough = {x.probe, enough, x.bench.seconds / 2};
    auto run = simulate(driven.value(), known_catalogue(), conditions, request, corner);
    if (!run) return run.error();
    const auto& values = run.value().trace(x.probe)->values;
    double most = 0;
    for (std::size_t k = 0; k < values.size(); ++k)
        if (run.value().time[k] > x.bench.seconds / 2) most = std::max(most, values[k]);
    return most;
}

/// In steps from below, large ones and then small ones: a circuit at rest costs a thirtieth of one that
/// swings.
Result<double> least_to_start(const Circuit& circuit, const Expectation& x, const Conditions& conditions,
                              const Corner& corner) {
    Expectation soon = x;  // from all volts it starts at once
    soon.bench.seconds /= 2;
    auto full =
        most_at(circuit, soon, x.bench.volts, std::numeric_limits<double>::infinity(), conditions, corner);
    if (!full) return full.error();
    if (full.value() < 1e-5) return never_on(x);
    double off = 0, on = x.bench.volts;
    for (const double step : {10 * resolved, resolved})
        for (double volts = off + step; volts < on - resolved / 2; volts += step) {
            auto most = most_at(circuit, x, volts, x.level * full.value(), conditions, corner);
            if (!most) return most.error();
            (most.value() > x.level * full.value() ? on : off) = volts;
        }
    return on;
}

}  // namespace

Result<Recording> run_of_bench(const Circuit& circuit, const Expectation& x, const Conditions& conditions,
                               const Corner& corner) {
    const bool falls = x.reading == "stops";
    auto driven = on_the_bench(
        circuit, x, {{0, falls ? x.bench.volts : 0}, {x.bench.seconds, falls ? 0 : x.bench.volts}});
    if (!driven) return driven.error();
    RunRequest request;
    request.until = x.bench.seconds, request.probes = {x.probe}, request.balance = false;
    return simulate(driven.value(), known_catalogue(), conditions, request, corner);
}

Result<double> trigger_level(const Circuit& circuit, const Expectation& x, const Conditions& conditions,
                             const Corner& corner) {
    if (x.reading == "starts") return least_to_start(circuit, x, conditions, corner);
    auto run = run_of_bench(circuit, x, conditions, corner);
    if (!run) return run.error();
    const auto& values = run.value().trace(x.probe)->values;
    if (x.reading == "triggered") return std::abs(values.back());
    const double most = *std::max_element(values.begin(), values.end());
    if (most < 1e-5) return never_on(x);
    if (x.reading == "stops") {
        std::size_t last = values.size() - 1;
        while (values[last] < x.level * most) --last;
        return x.bench.volts * (1 - run.value().time[last] / x.bench.seconds);
    }
    const auto time = time_to_threshold(run.value().time, values, x.level * most);
    if (!time) return never_on(x);
    return x.bench.volts * *time / x.bench.seconds;
}

}  // namespace elkit
