// The circuit through time: simulate, measure, steady.
#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "command/command.hpp"
#include "engine/goal.hpp"
#include "engine/measure.hpp"
#include "engine/probe.hpp"
#include "engine/steady.hpp"
#include "formats/waveforms.hpp"
#include "quantity/parse.hpp"

namespace elkit::cli {
namespace {

/// Flags of the commands that follow time.
struct RunOptions {
    std::string until;
    std::vector<std::string> probes, changes;
    double accuracy = 1e-3;
    bool power_up = false, csv = false, vcd = false;
};

Result<std::vector<std::string>> probes_from(const Circuit& circuit, const std::vector<std::string>& words) {
    std::vector<std::string> probes;
    for (const auto& w : words) {
        auto probe = probe_from_words(circuit, w);
        if (!probe) return probe.error();
        probes.push_back(probe.value());
    }
    return probes;
}

/// "10ms press S1", "2s RV1 at 30 %": a time, then what the do-anything line would do to the conditions.
Result<std::vector<TimedChange>> changes_from(const Design& design, Conditions conditions,
                                              const std::vector<std::string>& words) {
    std::vector<TimedChange> changes;
    for (const auto& w : words) {
        const auto gap = w.find(' ');
        const Error bad{Fault::usage, "--at " + w, "cannot be read",
                        "a time and what happens, such as \"10ms press S1\""};
        if (gap == std::string::npos) return bad;
        auto time = parse_quantity(w.substr(0, gap), Unit::second);
        if (!time || time.value() < 0) return bad;
        auto command = parse_command(w.substr(gap + 1), design, conditions);
        if (!command) return command.error();
        if (!command.value().conditions) return bad;
        conditions = *command.value().conditions;
        changes.push_back({time.value(), conditions, w.substr(gap + 1)});
        if (changes.size() > 1 && changes[changes.size() - 2].time > time.value())
            return Error{Fault::usage, "--at " + w, "comes before an earlier --at",
                         "changes in order of time"};
    }
    return changes;
}

Json balance_json(const Balance& b) {
    return {{"charge_C", b.charge},
            {"charge_error", b.charge_error},
            {"given_J", b.given},
            {"taken_J", b.taken},
            {"energy_error", b.energy_error}};
}

Json recording_json(const Recording& r) {
    Json traces = Json::array(), happenings = Json::array();
    for (const auto& t : r.traces)
        traces.push_back({{"probe", t.probe}, {"unit", symbol(t.unit)}, {"values", t.values}});
    for (const auto& h : r.happenings) happenings.push_back({{"time_s", h.time}, {"what", h.what}});
    return {{"time_s", r.time}, {"traces", traces}, {"happenings", happenings}};
}

Result<Recording> run_for(const Design& design, const Conditions& c, const RunOptions& r) {
    auto until = quantity_of("--until", r.until, Unit::second);
    if (!until) return until.error();
    RunRequest request{.until = until.value(), .start = r.power_up ? Start::power_up : Start::rest};
    auto probes = probes_from(design.circuit, r.probes);
    if (!probes) return probes.error();
    request.probes = probes.value();
    auto changes = changes_from(design, c, r.changes);
    if (!changes) return changes.error();
    request.changes = changes.value();
    request.accuracy.relative = r.accuracy;
    return simulate(design.circuit, known_catalogue(), c, request);
}

int simulate_command(const Options& o, const RunOptions& r) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        RunOptions all = r;
        if (all.probes.empty()) all.probes = design.circuit.nets();
        auto run = run_for(design, c, all);
        if (!run) return fail(run.error());
        const Recording& rec = run.value();
        if (r.vcd) return std::cout << recording_vcd(rec, design.name), 0;
        if (r.csv) return std::cout << write_csv(recording_csv(rec)), 0;
        if (o.json) {
            Json j = recording_json(rec);
            j["steps"] = rec.steps, j["rejected"] = rec.rejected, j["balance"] = balance_json(rec.balance);
            return print_json(j), 0;
        }
        fmt::print("{} steps to {}\n", rec.steps, format_quantity(rec.time.back(), Unit::second));
        for (const auto& h : rec.happenings)
            fmt::print("{:>12}  {}\n", format_quantity(h.time, Unit::second, 6), h.what);
        for (const auto& t : rec.traces) {
            const Measurements m = measure(rec.time, t.values);
            fmt::print("{:<14} mean {:>10}  {} to {}{}\n", t.probe, format_quantity(m.mean, t.unit),
                       format_quantity(m.minimum, t.unit), format_quantity(m.maximum, t.unit),
                       m.period ? "  period " + format_quantity(*m.period, Unit::second, 4) : "");
        }
        const Balance& b = rec.balance;
        fmt::print(
            "{} C from the supply, charges balance to {:.1e}; {} J given, energies balance to {:.1e}\n",
            format_plain(b.charge), b.charge_error, format_plain(b.given), b.energy_error);
        return 0;
    });
}

/// The waveform to measure: a run, or else two copies of the steady cycle, so that its period can be seen.
namespace {
Result<Recording> to_measure(const Design& design, const Conditions& c, const RunOptions& r,
                             const std::string& probe) {
    if (!r.until.empty()) {
        RunOptions one = r;
        one.probes = {r.probes.front()};
        return run_for(design, c, one);
    }
    auto steady = steady_state(design.circuit, known_catalogue(), c, {probe}, {.relative = r.accuracy});
    if (!steady) return steady.error();
    Recording rec = std::move(steady.value().cycle);
    if (!steady.value().repeats) return rec;
    const std::size_t n = rec.time.size();
    for (std::size_t k = 0; k < 2 * n; ++k) {
        rec.time.push_back(rec.time[k] + steady.value().period);
        for (auto& t : rec.traces) t.values.push_back(t.values[k]);
    }
    return rec;
}
}  // namespace

int measure_command(const Options& o, const RunOptions& r, const std::string& net, const std::string& level,
                    std::size_t which) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto probe = probe_from_words(design.circuit, net);
        if (!probe) return fail(probe.error());
        RunOptions one = r;
        one.probes = {net};
        auto recorded = to_measure(design, c, one, probe.value());
        if (!recorded) return fail(recorded.error());
        const Recording& rec = recorded.value();
        const Trace& trace = rec.traces.front();
        const Measurements m = measure(rec.time, rec.traces.front().values);
        Json list = Json::array();
        std::vector<Figure> figures = measurement_figures(m, net, trace.unit);
        if (!level.empty()) {
            auto value = quantity_of("--reaches", level, trace.unit);
            if (!value) return fail(value.error());
            auto reached =
                threshold_figure(rec.time, trace.values, net, trace.unit, value.value(), -1e300, which);
            if (!reached)
                return fail({Fault::design, net,
                             which > 1 ? fmt::format("it does not cross {} {} times", level, which)
                                       : "it never crosses " + level,
                             "a longer --until"});
            figures.push_back(std::move(*reached));
        }
        for (const Figure& f : figures) {
            list.push_back(figure_json(f));
            if (!o.json) print_figure(f);
        }
        if (o.json) print_json({{"probe", probe.value()}, {"measurements", list}});
        return 0;
    });
}

int steady_command(const Options& o, const RunOptions& r) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto probes = probes_from(design.circuit, r.probes.empty() ? design.circuit.nets() : r.probes);
        if (!probes) return fail(probes.error());
        auto found =
            steady_state(design.circuit, known_catalogue(), c, probes.value(), {.relative = r.accuracy});
        if (!found) return fail(found.error());
        const Steady& s = found.value();
        Json means = Json::object();
        for (const auto& t : s.cycle.traces) {
            const double mean =
                s.moves ? integral(s.cycle.time, t.values, 0, s.period) / s.period : t.values.front();
            means[t.probe] = mean;
            if (!o.json) fmt::print("{:<14} mean {}\n", t.probe, format_quantity(mean, t.unit));
        }
        if (o.json)
            print_json({{"repeats", s.repeats},
                        {"moves", s.moves},
                        {"uncertainty", s.uncertainty},
                        {"period_s", s.period},
                        {"section", s.section},
                        {"cycles_run", s.cycles_run},
                        {"closure", s.closure},
                        {"charge_a_cycle_C", s.charge},
                        {"mean_current_A", s.mean_current},
                        {"means", means},
                        {"cycle", recording_json(s.cycle)}});
        else if (s.repeats)
            fmt::print("repeats every {} ({}), found in {} cycles; {} from the supply on average\n",
                       format_quantity(s.period, Unit::second, 5), s.section, s.cycles_run,
                       format_quantity(s.mean_current, Unit::ampere));
        else if (s.moves)
            fmt::print("does not repeat: averages over {}; {} ± {:.1f} % from the supply\n",
                       format_quantity(s.period, Unit::second, 4),
                       format_quantity(s.mean_current, Unit::ampere), 100 * s.uncertainty);
        else
            fmt::print("comes to rest; {} from the supply\n", format_quantity(s.mean_current, Unit::ampere));
        return 0;
    });
}

void add_accuracy(CLI::App& sub, RunOptions& run) {
    sub.add_option("--accuracy", run.accuracy, "relative error of a step")->check(within(1e-9, 0.1));
}

void add_run(CLI::App& sub, RunOptions& run) {
    sub.add_option("--at", run.changes, "\"TIME WHAT\", such as \"10ms press S1\"; may be repeated");
    add_accuracy(sub, run);
    sub.add_flag("--power-up", run.power_up, "start with empty capacitors, not from rest");
}

}  // namespace

std::vector<Command> time_commands() {
    return {
        {"simulate", "the circuit through time",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto run = std::make_shared<RunOptions>();
             add_run(sub, *run);
             sub.add_option("--until", run->until, "circuit time, such as 20ms")->required();
             sub.add_option("--probe", run->probes,
                            "NET, PART.i, PART.PIN, PART.p or PART.light; all nets without");
             sub.add_flag("--csv", run->csv, "waveforms as CSV");
             sub.add_flag("--vcd", run->vcd, "waveforms as a value change dump (IEEE 1364)");
             return [o, run] { return simulate_command(*o, *run); };
         }},
        {"measure", "period, duty, mean and more of a waveform",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto run = std::make_shared<RunOptions>();
             const auto net = std::make_shared<std::string>(), level = std::make_shared<std::string>();
             add_run(sub, *run);
             sub.add_option("--net", *net, "NET or PART.i …")->required();
             sub.add_option("--until", run->until, "measure a run of this time; without it the steady state");
             sub.add_option("--reaches", *level, "and when it crosses this level, such as 2.5V");
             const auto which = std::make_shared<std::size_t>(1);
             sub.add_option("--crossing", *which, "which crossing --reaches means, 1 the first")
                 ->check(within(1, 1e6));
             return [=] { return measure_command(*o, *run, *net, *level, *which); };
         }},
        {"steady", "what it does in the long run",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto run = std::make_shared<RunOptions>();
             sub.add_option("--probe", run->probes, "NET, PART.i …; all nets without");
             add_accuracy(sub, *run);
             return [o, run] { return steady_command(*o, *run); };
         }},
    };
}

}  // namespace elkit::cli
