// How long the computation takes; compare with bench/measure.
#include <benchmark/benchmark.h>

#include "board/pad_board.hpp"
#include "catalogue/catalogue.hpp"
#include "design/file.hpp"
#include "embedded.hpp"
#include "power/discharge.hpp"
#include "recipes/steady_light.hpp"
#include "review/survey.hpp"

namespace elkit {
namespace {

Design demo() { return read_design(embedded::demo_pier_lantern).value(); }

/// The pier lantern grown to `count` LEDs in strings of two.
Design grown(int count) {
    LightGoals goals = *demo().light;
    goals.cell = "Lead-12V", goals.cells = 1, goals.current = 0.002;  // a source that feeds them all
    goals.count = count;
    return apply_steady_light(demo(), goals).value();
}

void operating_point_of_the_demo(benchmark::State& state) {
    const Design d = demo();
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(d.circuit, built_in_catalogue(), {}));
}
BENCHMARK(operating_point_of_the_demo)->Unit(benchmark::kMicrosecond);

void operating_point_by_size(benchmark::State& state) {
    const Design d = grown(static_cast<int>(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(d.circuit, built_in_catalogue(), {}));
    state.SetLabel(std::to_string(d.circuit.nets().size()) + " nets");
}
BENCHMARK(operating_point_by_size)->RangeMultiplier(2)->Range(4, 128)->Unit(benchmark::kMicrosecond);

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
