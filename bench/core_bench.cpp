// How long the computation takes; compare with bench/measure.
#include <benchmark/benchmark.h>

#include <chrono>
#include <random>

#include "board/pad/pad_board.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "drawer/drawer.hpp"
#include "drawer/import.hpp"
#include "drawer/search.hpp"
#include "drawing/layout_query.hpp"
#include "embedded.hpp"
#include "engine/goal.hpp"
#include "engine/linear_solver.hpp"
#include "engine/long_run.hpp"
#include "engine/spread.hpp"
#include "light/light.hpp"
#include "planning/arrays.hpp"
#include "power/discharge.hpp"
#include "power/life.hpp"
#include "review/findings.hpp"

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

StaveLayout stave_layout(const Circuit& circuit, const StaveLayout& before = {}) {
    Store store;
    return *store.ask(StaveLayoutQuery{circuit, before});
}

void operating_point_of_the_demo(benchmark::State& state) {
    const Design d = demo();
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(d.circuit, known_catalogue(), {}));
}
BENCHMARK(operating_point_of_the_demo)->Unit(benchmark::kMicrosecond);

void operating_point_of_41_parts(benchmark::State& state) {
    const Circuit c = switches(10);
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(c, known_catalogue(), {}));
}
BENCHMARK(operating_point_of_41_parts)->Unit(benchmark::kMicrosecond);

void operating_point_by_nets(benchmark::State& state) {
    const Circuit c = switches(static_cast<int>(state.range(0)) / 3);
    for (auto _ : state) benchmark::DoNotOptimize(operating_point(c, known_catalogue(), {}));
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
    for (auto _ : state) benchmark::DoNotOptimize(spread(c, known_catalogue(), {}, {goal}, 10'000));
}
BENCHMARK(spread_of_10000_builds_of_17_parts)->Unit(benchmark::kMillisecond)->UseRealTime();

void stave_layout_of_61_parts(benchmark::State& state) {
    const Circuit c = switches(15);
    const OperatingPoint op = operating_point(c, known_catalogue(), {}).value();
    for (auto _ : state) benchmark::DoNotOptimize(lay_out_stave(c, op));
}
BENCHMARK(stave_layout_of_61_parts)->Unit(benchmark::kMillisecond);

void stave_layout_of_the_largest_demo(benchmark::State& state) {
    const Circuit c = read_design(find_demo("harbour-diorama")->text).value().circuit;
    const OperatingPoint op = operating_point(c, known_catalogue(), {}).value();
    for (auto _ : state) benchmark::DoNotOptimize(lay_out_stave(c, op));
}
BENCHMARK(stave_layout_of_the_largest_demo)->Unit(benchmark::kMillisecond);

/// What an edit takes until the stave can be painted: layout, operating point, picture.
void an_edit_of_the_largest_demo(benchmark::State& state) {
    const Circuit c = read_design(find_demo("harbour-diorama")->text).value().circuit;
    const StaveLayout before = stave_layout(c);
    for (auto _ : state) {
        const Circuit next = duplicate_part(c, "R5").value();
        const StaveLayout layout = stave_layout(next, before);
        const OperatingPoint op = operating_point(next, known_catalogue(), {}).value();
        benchmark::DoNotOptimize(draw_stave(next, layout, op, {}));
    }
}
BENCHMARK(an_edit_of_the_largest_demo)->Unit(benchmark::kMillisecond);

void arrangements_of_100_lights(benchmark::State& state) {
    ArrayQuestion q;
    q.source = {"PS1", "supply", {{"voltage", 24.0}, {"max_current", 5.0}}, {{"+", "V+"}, {"-", "GND"}}, {}};
    q.led = {"L1", "led", {{"type", std::string("white-5mm")}}, {}, {}};
    q.count = 100;
    for (auto _ : state) benchmark::DoNotOptimize(arrangements(q));
}
BENCHMARK(arrangements_of_100_lights)->Unit(benchmark::kMillisecond);

/// Run time with its band, as the Power station asks for it, from nothing.
/// A controller that dims: some hundred pulses a second, for all of its cycle.
void long_run_of(benchmark::State& state, const char* demo_id) {
    const Circuit c = read_design(find_demo(demo_id)->text).value().circuit;
    Conditions on;
    on.switches["S1"] = true;
    for (auto _ : state) benchmark::DoNotOptimize(long_run(c, known_catalogue(), on));
}
BENCHMARK_CAPTURE(long_run_of, moth_jar, "moth-jar")->Unit(benchmark::kMillisecond);

void life_of(benchmark::State& state, const char* demo_id) {
    const Design d = read_design(find_demo(demo_id)->text).value();
    const Keyed<Circuit> circuit(d.circuit);
    for (auto _ : state) {
        Store store;
        benchmark::DoNotOptimize(Ask(store)(LifeQuery(d, circuit, {})));
    }
}
BENCHMARK_CAPTURE(life_of, pier_lantern, "pier-lantern")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(life_of, herbarium_ring, "herbarium-ring")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(life_of, rock_pool_torch, "rock-pool-torch")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(life_of, harbour_dimmer, "harbour-dimmer")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(life_of, firefly_jar, "firefly-jar")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(life_of, twin_blinker, "twin-blinker")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(life_of, harbour_diorama, "harbour-diorama")->Unit(benchmark::kMillisecond)->UseRealTime();

void an_edit_of_61_parts(benchmark::State& state) {
    Design d;
    d.circuit = switches(15);
    const StaveLayout before = stave_layout(d.circuit);
    for (auto _ : state) {
        Circuit next = duplicate_part(d.circuit, "RL5").value();
        const StaveLayout layout = stave_layout(next, before);
        const OperatingPoint op = operating_point(next, known_catalogue(), {}).value();
        benchmark::DoNotOptimize(draw_stave(next, layout, op, {}));
    }
}
BENCHMARK(an_edit_of_61_parts)->Unit(benchmark::kMillisecond);

/// A step of the battery slider, as the Circuit station takes it: the operating point, the stave, and the
/// review asked again; `ratio` is its cost against that of operating point and stave alone.
void slider_step(benchmark::State& state, const char* demo_id) {
    using Clock = std::chrono::steady_clock;
    const auto design = std::make_shared<const Design>(read_design(find_demo(demo_id)->text).value());
    const Keyed<Circuit> circuit(design->circuit);
    const Keyed<std::vector<DrawerItem>> drawer(demo_stock());
    const StaveLayout layout = stave_layout(*circuit);
    Store store;
    (void)review(Ask(store), *design, {}, drawer);
    Conditions c;
    double alone = 0, step = 0;
    for (auto _ : state) {
        c.battery = c.battery > 0.3 ? c.battery - 0.0007 : 1;
        const auto start = Clock::now();
        const auto op = operating_point(*circuit, known_catalogue(), c).value();
        benchmark::DoNotOptimize(draw_stave(*circuit, layout, op, c));
        const auto middle = Clock::now();
        c.battery -= 1e-6;
        const auto again = store.ask(RestQuery(circuit, c));
        StaveView view;
        view.glow = glow_of(*circuit, *again);
        benchmark::DoNotOptimize(draw_stave(*circuit, layout, *again, c, view));
        const auto subject = std::make_shared<const Case>(design, circuit, c, drawer);
        for (const Rule& rule : rules()) benchmark::DoNotOptimize(store.find(JudgementQuery{&rule, subject}));
        alone += std::chrono::duration<double>(middle - start).count();
        step += std::chrono::duration<double>(Clock::now() - middle).count();
    }
    state.counters["ratio"] = step / alone;
    state.counters["step_us"] = 1e6 * step / static_cast<double>(state.iterations());
}
BENCHMARK_CAPTURE(slider_step, pier_lantern, "pier-lantern");
BENCHMARK_CAPTURE(slider_step, coat_badge, "coat-badge");
BENCHMARK_CAPTURE(slider_step, harbour_dimmer, "harbour-dimmer");
BENCHMARK_CAPTURE(slider_step, twin_blinker, "twin-blinker");
BENCHMARK_CAPTURE(slider_step, firefly_jar, "firefly-jar");

/// One factorisation and solution of a circuit-like matrix: our own elimination (first argument 1) or KLU.
void factor_and_solve(benchmark::State& state) {
    const int n = static_cast<int>(state.range(1));
    std::mt19937 random(7);
    std::vector<int> rows, columns;
    std::vector<double> values;
    const auto add = [&](int r, int c, double v) {
        rows.push_back(r), columns.push_back(c), values.push_back(v);
    };
    for (int k = 0; k < n; ++k) add(k, k, 5 + 0.1 * (k % 7));
    for (int k = 0; k < n; ++k)
        for (const int step : {1, 5, 11})
            if (k + step < n && random() % 4 != 0) add(k, k + step, -1), add(k + step, k, -1);
    LinearSolver solver(n, rows, columns, state.range(0) ? 1000 : 0);
    std::vector<double> right(static_cast<std::size_t>(n));
    for (auto _ : state) {
        solver.factor(values.data());
        std::fill(right.begin(), right.end(), 1.0);
        solver.solve(right.data());
        benchmark::DoNotOptimize(right.data());
    }
    state.SetLabel(state.range(0) ? "own" : "KLU");
}
BENCHMARK(factor_and_solve)->ArgsProduct({{1, 0}, {10, 20, 40, 80, 160, 240}})->Unit(benchmark::kMicrosecond);

void discharge_of_the_demo(benchmark::State& state) {
    const Keyed<Circuit> circuit(demo().circuit);
    for (auto _ : state) {
        Store store;
        benchmark::DoNotOptimize(store.ask(DischargeQuery(circuit, {}, 0.5)));
    }
}
BENCHMARK(discharge_of_the_demo)->Unit(benchmark::kMillisecond);

void board_of_the_demo(benchmark::State& state) {
    const Design d = demo();
    for (auto _ : state)
        benchmark::DoNotOptimize(lay_out_pads(hole_parts(d.circuit, d.board).value(), d.board));
}
BENCHMARK(board_of_the_demo)->Unit(benchmark::kMillisecond);

/// A table of that many rows, all of different parts.
std::string table_of_parts(int rows) {
    std::string text = "name,stock,place\n";
    for (int k = 0; k < rows; ++k)
        text += "resistor " + std::to_string(10 + k) + " ohm,100,box " + std::to_string(k % 90) + "\n";
    return text;
}

std::vector<DrawerChange> parts_of_table(int rows) {
    return plan_import(read_drawer_sheet(table_of_parts(rows)).value(), {}, ImportCounts::set).changes();
}

/// From the file to rows that can be shown.
void opening_a_drawer_of_20000(benchmark::State& state) {
    const auto file = std::filesystem::temp_directory_path() / "elkit-drawer-bench.sqlite";
    std::filesystem::remove(file);
    if (auto made = Drawer::open(file); !made || !made.value().apply(parts_of_table(20000)))
        return state.SkipWithError("the drawer could not be made");
    for (auto _ : state) {
        const auto items = Drawer::open(file).value().take_opened();
        benchmark::DoNotOptimize(DrawerIndex(items).find(items, {}));
    }
    std::filesystem::remove(file);
}
BENCHMARK(opening_a_drawer_of_20000)->Unit(benchmark::kMillisecond);

void a_key_typed_over_20000_parts(benchmark::State& state) {
    const auto items = with_changes({}, parts_of_table(20000));
    const DrawerIndex index(items);
    for (auto _ : state) benchmark::DoNotOptimize(index.find(items, {"4k7 box"}));
}
BENCHMARK(a_key_typed_over_20000_parts)->Unit(benchmark::kMillisecond);

void reading_a_table_of_100000_rows(benchmark::State& state) {
    const std::string text = table_of_parts(100000);
    for (auto _ : state)
        benchmark::DoNotOptimize(plan_import(read_drawer_sheet(text).value(), {}, ImportCounts::set));
}
BENCHMARK(reading_a_table_of_100000_rows)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace elkit
