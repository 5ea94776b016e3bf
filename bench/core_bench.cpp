// How long the computation takes; compare with bench/measure.
#include <benchmark/benchmark.h>

#include "board/pad_board.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "design/file.hpp"
#include "embedded.hpp"
#include "engine/spread.hpp"
#include "power/discharge.hpp"
#include "review/survey.hpp"

namespace elkit {
namespace {

Design demo() { return read_design(embedded::demo_pier_lantern).value(); }

/// `stages` transistor switches, each with base resistor, LED and its resistor, all driven from one net: four
/// parts and three nets a stage.
Circuit switches(int stages) {
    Circuit c;
    const auto add = [&](const char* kind, std::string name, std::vector<Pin> pins,
                         std::map<std::string, ParamValue> params = {}) {
        Part part;
        part.kind = kind, part.designator = std::move(name), part.pins = std::move(pins);
        part.params = std::move(params);
        c.parts.push_back(std::move(part));
    };
    add("battery", "B1", {{"+", "V"}, {"-", "0"}}, {{"count", 4.0}});
    for (int k = 1; k <= stages; ++k) {
        const std::string n = std::to_string(k);
        add("resistor", "R" + n, {{"a", "V"}, {"b", "B" + n}}, {{"value", 10e3}});
        add("npn", "Q" + n, {{"c", "C" + n}, {"b", "B" + n}, {"e", "0"}});
        add("led", "L" + n, {{"a", "A" + n}, {"k", "C" + n}});
        add("resistor", "RL" + n, {{"a", "V"}, {"b", "A" + n}}, {{"value", 330.0}});
    }
    return c;
}

void operating_point_of_the_demo(benchmark::State& state) {
    const Design d = demo();
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(d.circuit, built_in_catalogue(), {}));
}
BENCHMARK(operating_point_of_the_demo)->Unit(benchmark::kMicrosecond);

void operating_point_of_41_parts(benchmark::State& state) {
    const Circuit c = switches(10);
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(c, built_in_catalogue(), {}));
}
BENCHMARK(operating_point_of_41_parts)->Unit(benchmark::kMicrosecond);

void operating_point_by_nets(benchmark::State& state) {
    const Circuit c = switches(static_cast<int>(state.range(0)) / 3);
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(c, built_in_catalogue(), {}));
}
BENCHMARK(operating_point_by_nets)
    ->Arg(10)
    ->Arg(20)
    ->Arg(50)
    ->Arg(100)
    ->Arg(200)
    ->Arg(500)
    ->Unit(benchmark::kMicrosecond);

void spread_of_10000_builds_of_17_parts(benchmark::State& state) {
    const Circuit c = switches(4);
    const Goal goal = goal_from_words(c, "L1 mean").value();
    for (auto _ : state) benchmark::DoNotOptimize(spread(c, built_in_catalogue(), {}, {goal}, 10'000));
}
BENCHMARK(spread_of_10000_builds_of_17_parts)->Unit(benchmark::kMillisecond)->UseRealTime();

void stave_layout_of_61_parts(benchmark::State& state) {
    const Circuit c = switches(15);
    const OperatingPoint op = operating_point(c, built_in_catalogue(), {}).value();
    for (auto _ : state) benchmark::DoNotOptimize(lay_out_stave(c, op));
}
BENCHMARK(stave_layout_of_61_parts)->Unit(benchmark::kMillisecond);

void an_edit_of_61_parts(benchmark::State& state) {
    Design d;
    d.circuit = switches(15);
    const StaveLayout before = stave_layout(d.circuit);
    for (auto _ : state) {
        Circuit next = duplicate_part(d.circuit, "RL5").value();
        const StaveLayout layout = stave_layout(next, &before);
        const OperatingPoint op = operating_point(next, built_in_catalogue(), {}).value();
        benchmark::DoNotOptimize(draw_stave(next, layout, op, {}));
    }
}
BENCHMARK(an_edit_of_61_parts)->Unit(benchmark::kMillisecond);

void everything_that_follows_a_slider(benchmark::State& state) {
    const Design d = demo();
    const StaveLayout layout = stave_layout(d.circuit);
    double battery = 1;
    for (auto _ : state) {
        battery = battery > 0.1 ? battery - 0.01 : 1;
        benchmark::DoNotOptimize(live_survey(d, {battery, 21, {}}, layout, {62, 82}));
    }
}
BENCHMARK(everything_that_follows_a_slider)->Unit(benchmark::kMicrosecond);

void discharge_of_the_demo(benchmark::State& state) {
    const Design d = demo();
    for (auto _ : state) benchmark::DoNotOptimize(discharge(d.circuit, {}, 0.5));
}
BENCHMARK(discharge_of_the_demo)->Unit(benchmark::kMillisecond);

void board_of_the_demo(benchmark::State& state) {
    const Design d = demo();
    for (auto _ : state) benchmark::DoNotOptimize(lay_out_board(d.circuit, d.board));
}
BENCHMARK(board_of_the_demo)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace elkit
