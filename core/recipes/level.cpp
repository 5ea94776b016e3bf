#include "recipes/level.hpp"

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"

namespace elkit {

Result<Recording> run_of_bench(const Circuit& circuit, const Expectation& x, const Conditions& conditions,
                               const Corner& corner) {
    Circuit driven = circuit;
    Part* in_place = driven.find(x.bench.part);
    const Part* source = circuit.source();
    if (!in_place || !source)
        return Error{Fault::design, x.label, "there is nothing to drive", "a source, and " + x.bench.part};
    const std::string ground = source->net("-");
    const Pin &first = in_place->pins.front(), &last = in_place->pins.back();
    const std::string at = last.net == ground ? first.net : last.net;
    std::erase_if(driven.parts, [&](const Part& part) { return part.designator == x.bench.part; });
    const PointList rise{{0, 0}, {x.bench.seconds, x.bench.volts}};
    driven.parts.push_back({"Vbench",
                            "vsource",
                            {{"wave", std::string("table")}, {"points", rise}},
                            {{"+", at}, {"-", ground}},
                            {}});
    RunRequest request;
    request.until = x.bench.seconds, request.probes = {x.probe}, request.balance = false;
    return simulate(driven, known_catalogue(), conditions, request, corner);
}

Result<double> trigger_level(const Circuit& circuit, const Expectation& x, const Conditions& conditions,
                             const Corner& corner) {
    auto run = run_of_bench(circuit, x, conditions, corner);
    if (!run) return run.error();
    const auto& values = run.value().trace(x.probe)->values;
    if (x.reading == "triggered") return std::abs(values.back());
    const double most = *std::max_element(values.begin(), values.end());
    const auto time = time_to_threshold(run.value().time, values, x.level * most);
    if (!time || most < 1e-5)
        return Error{Fault::design, x.label, "it never comes on", "a level that triggers it"};
    return x.bench.volts * *time / x.bench.seconds;
}

}  // namespace elkit
