#include "engine/long_run.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "circuit/part_kind.hpp"
#include "engine/history.hpp"
#include "engine/measure.hpp"
#include "engine/readings.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

/// The state of rest as a cycle of one moment.
Recording moment(const Circuit& circuit, const OperatingPoint& op) {
    Recording r;
    r.time = {0};
    for (std::size_t k = 0; k < op.nets.size(); ++k)
        r.traces.push_back({"net:" + op.nets[k], Unit::volt, {op.voltages[k]}});
    for (const Part& part : circuit.parts) {
        const PartState& state = op.part(part.designator);
        for (std::size_t k = 0; k < state.pins.size() && k < part.pins.size(); ++k)
            r.traces.push_back(
                {"part:" + part.designator + "." + part.pins[k].name, Unit::ampere, {state.pins[k]}});
        r.traces.push_back({"power:" + part.designator, Unit::watt, {state.power()}});
    }
    r.end = op;
    return r;
}

}  // namespace

std::pair<double, double> LongRun::between(const std::string& net, const std::string& reference) const {
    const Trace *a = steady_.cycle.trace("net:" + net), *b = steady_.cycle.trace("net:" + reference);
    std::pair<double, double> range{0, 0};
    const std::size_t samples = steady_.cycle.time.size();
    for (std::size_t k = 0; k < samples; ++k) {
        const double volts = (a ? a->values[k] : 0) - (b ? b->values[k] : 0);
        range.first = k ? std::min(range.first, volts) : volts;
        range.second = k ? std::max(range.second, volts) : volts;
    }
    return range;
}

const std::vector<double>* LongRun::current(const std::string& designator, const std::string& pin) const {
    const Trace* trace = steady_.cycle.trace("part:" + designator + "." + pin);
    return trace && !trace->values.empty() ? &trace->values : nullptr;
}

double LongRun::peak(const std::string& designator, const std::string& pin) const {
    double most = 0;
    if (const auto* values = current(designator, pin))
        for (const double value : *values) most = std::max(most, std::abs(value));
    return most;
}

double LongRun::least(const std::string& designator, const std::string& pin) const {
    const auto* values = current(designator, pin);
    if (!values) return 0;
    double least = std::abs(values->front());
    for (const double value : *values) least = std::min(least, std::abs(value));
    return least;
}

int LongRun::pulses(const std::string& designator, const std::string& pin) const {
    const auto* values = current(designator, pin);
    if (!values || values->size() < 2) return 0;
    const double half = lasting(designator, pin) / 2;
    int rises = 0;
    for (std::size_t k = 0; k < values->size(); ++k) {  // the cycle closes on itself
        const double before = std::abs((*values)[k == 0 ? values->size() - 1 : k - 1]);
        rises += before < half && std::abs((*values)[k]) >= half;
    }
    return rises;
}

double LongRun::rms(const std::string& designator, const std::string& pin) const {
    const auto* values = current(designator, pin);
    if (!values) return 0;
    std::vector<double> squares;
    for (const double value : *values) squares.push_back(value * value);
    return std::sqrt(mean_by(quadrature(steady_.cycle.time), squares));
}

std::size_t LongRun::lasting_at(const std::vector<double>& values) const {
    const auto& time = steady_.cycle.time;
    std::vector<std::pair<double, std::size_t>> pieces;  // |current|, end of the piece
    for (std::size_t k = 1; k < values.size(); ++k)
        pieces.emplace_back((std::abs(values[k - 1]) + std::abs(values[k])) / 2, k);
    std::sort(pieces.rbegin(), pieces.rend());
    double longer = 0;
    for (const auto& [amount, k] : pieces)
        if ((longer += time[k] - time[k - 1]) >= 0.01 * (time.back() - time.front())) return k;
    return pieces.back().second;
}

double LongRun::lasting(const std::string& designator, const std::string& pin) const {
    const auto* values = current(designator, pin);
    return values ? lasting_of(*values) : 0;
}

double LongRun::lasting_of(const std::vector<double>& values) const {
    if (values.size() < 2) return values.empty() ? 0 : std::abs(values.front());
    const std::size_t k = lasting_at(values);
    return (std::abs(values[k - 1]) + std::abs(values[k])) / 2;
}

double LongRun::together(const std::string& designator, const std::vector<std::string>& pins) const {
    std::vector<double> sum;
    for (const std::string& pin : pins)
        if (const auto* values = current(designator, pin)) {
            sum.resize(values->size());
            for (std::size_t k = 0; k < sum.size(); ++k) sum[k] += std::abs((*values)[k]);
        }
    return lasting_of(sum);
}

OperatingPoint LongRun::while_on(const Circuit& circuit, const std::string& designator,
                                 const std::string& pin) const {
    const Part* part = circuit.find(designator);
    if (!moves() || !part || part->pins.empty()) return mean_;
    const auto* values = current(designator, pin.empty() ? part->pins.front().name : pin);
    if (!values || values->size() < 2) return mean_;
    return readings_of(circuit, steady_.cycle, [k = lasting_at(*values)](const auto& all) {
        return all[std::min(k, all.size() - 1)];
    });
}

Figure LongRun::mean_figure(const std::string& designator, const std::string& pin) const {
    Figure f{"long_run.mean." + designator,
             "current of " + designator + " on average",
             mean_.part(designator).current,
             Unit::ampere,
             {},
             {},
             {}};
    const auto text = [](double amps) { return format_quantity(amps, Unit::ampere); };
    if (moves())
        f.working = {fmt::format("∫ I dt / T over {} {}", steady_.repeats ? "one cycle of" : "a time of",
                                 format_quantity(steady_.period, Unit::second, 4)),
                     fmt::format("peak {}, rms {}", text(peak(designator, pin)), text(rms(designator, pin)))};
    else
        f.working = {"it rests: the operating point"};
    return f;
}

bool may_move(const Circuit& circuit) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), moves_by_itself) ||
           (any(circuit, Role::gain) && any(circuit, Role::swings));
}

LongRun resting_run(const Circuit& circuit, OperatingPoint op) {
    LongRun run;
    run.mean_ = std::move(op);
    run.steady_.cycle = moment(circuit, run.mean_);
    run.steady_.mean_current = run.mean_.supply_current();
    return run;
}

LongRun passing_run(const Circuit& circuit, Recording course) {
    LongRun run;
    run.mean_ = means_of(circuit, course);
    Steady& s = run.steady_;
    s.moves = true, s.period = course.time.back();
    s.section = "for as long as it goes on";
    s.mean_current = run.mean_.supply_current(), s.charge = s.mean_current * s.period;
    s.cycle = std::move(course);
    return run;
}

Result<LongRun> long_run(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                         const Corner& corner, const LongRun* near) {
    LongRun run;
    if (conditions.moment > 0 && !conditions.events.empty() && remembers(circuit)) {
        auto course = course_at_moment(circuit, catalogue, conditions, corner);
        if (!course) return course.error();
        if (course.value().time.empty()) return resting_run(circuit, std::move(course.value().end));
        return passing_run(circuit, std::move(course).value());
    }
    if (may_move(circuit)) {
        auto steady = steady_state(circuit, catalogue, conditions, every_probe(circuit), {}, corner,
                                   near ? &near->steady_ : nullptr);
        if (!steady) return steady.error();
        run.steady_ = std::move(steady).value();
    }
    if (!run.steady_.moves) {
        auto op = may_move(circuit) ? Result<OperatingPoint>(run.steady_.cycle.end)
                                    : operating_point(circuit, catalogue, conditions, corner);
        if (!op) return op.error();
        return resting_run(circuit, std::move(op).value());
    }
    const Recording& cycle = run.steady_.cycle;
    const std::vector<double> weights = quadrature(cycle.time);
    run.mean_ = readings_of(circuit, cycle, [&](const auto& values) { return mean_by(weights, values); });
    return run;
}

}  // namespace elkit
