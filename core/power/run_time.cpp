#include "power/run_time.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "power/standby.hpp"
#include "quantity/format.hpp"
#include "quantity/parallel.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr double share_left_at_warning = 0.1;  // time enough to fetch new cells

/// The volts at which to warn, and how far they differ over the batch.
Figure warning_volts(const PowerResult& r) {
    const auto at = [](const Discharge& d) {
        return std::isfinite(d.hours) ? d.volts_at((1 - share_left_at_warning) * d.hours)
                                      : std::numeric_limits<double>::quiet_NaN();
    };
    Figure f{"power.warn_at", "battery low below", at(r.typical), Unit::volt, {}, {}, {}};
    for (const Discharge& corner : r.corners) {
        const double volts = at(corner);
        if (!std::isfinite(volts)) continue;
        f.low = std::min(f.low.value_or(volts), volts), f.high = std::max(f.high.value_or(volts), volts);
    }
    if (!r.typical.samples.empty())
        f.working = {fmt::format("volts at the leads under this load with {:.0f} % of the run time left",
                                 100 * share_left_at_warning),
                     fmt::format("fresh {}, at the end {}",
                                 format_quantity(r.typical.samples.front().volts, Unit::volt),
                                 format_quantity(r.typical.samples.back().volts, Unit::volt))};
    return f;
}

Figure standby_figures(const Circuit& circuit, const Conditions& conditions, const std::string& off_text,
                       const LongRun& off, Figure& current) {
    current = {
        "power.standby_current",     "current in standby", off.mean().supply_current(), Unit::ampere, {}, {},
        {off_text + ", fresh cells"}};
    if (off.moves()) current.working.push_back("it still moves then: the average over one cycle");
    for (const auto& [part, amps] : takers(circuit, off.mean()))
        current.working.push_back(fmt::format("through {}: {}", part, format_quantity(amps, Unit::ampere)));
    Figure f = standby_life(*circuit.source(), current.value, conditions.celsius);
    if (std::isfinite(f.value) && !can_be_off(circuit))
        f.working.push_back("there is no switch: it is never off");
    return f;
}

std::vector<std::string> run_time_working(const Discharge& d, const std::optional<CellType>& cell,
                                          const Conditions& c) {
    if (!cell) return {"a supply that does not empty"};
    const auto &first = d.samples.front(), &last = d.samples.back();
    return {
        "ds/dt = −Σ share · I / Q(I) − self-discharge:  the engine solves the circuit at each state of "
        "charge "
        "s, on average over a cycle where it moves",
        fmt::format("fresh: I = {}, Q = {}; at the end (s = {:.0f} %): I = {}, Q = {}",
                    format_quantity(first.amps, Unit::ampere),
                    format_quantity(cell->usable_charge(first.amps, c.celsius), Unit::ampere_hour),
                    100 * last.charge, format_quantity(last.amps, Unit::ampere),
                    format_quantity(cell->usable_charge(last.amps, c.celsius), Unit::ampere_hour)),
        fmt::format("∫ I dt = {} taken out; ended by: {}", format_quantity(d.delivered, Unit::ampere_hour),
                    d.ended_by)};
}

}  // namespace

Figure supply_voltage(const Circuit& circuit, const Conditions& conditions, const OperatingPoint& op) {
    Figure f{"power.voltage",
             "voltage at the battery leads now",
             op.part(op.source).voltage,
             Unit::volt,
             {},
             {},
             {}};
    const Part* source = circuit.source();
    const auto model =
        source ? source_model(*source, known_catalogue(), conditions) : Result<Thevenin>(Thevenin{});
    if (!model) return f;
    f.working = {"V = V0 − I × R of cells and leads, under a load that lasts",
                 fmt::format("  = {} − {} × {} = {}", format_quantity(model.value().voltage, Unit::volt),
                             format_quantity(op.supply_current(), Unit::ampere),
                             format_quantity(model.value().lasting(), Unit::ohm), f.text())};
    return f;
}

PowerQuery::PowerQuery(const Keyed<Circuit>& of, const Conditions& under, double end)
    : Situated(of, fresh(*of, under)),
      end_brightness(end),
      off(switched_off(*of, conditions)),
      off_text(elkit::off_text(*of)) {}

Digest PowerQuery::key() const {
    Digester d;
    d << Situated::key() << end_brightness << digest_of(day) << content_digest(off) << off_text;
    return d.digest();
}

Result<PowerResult> PowerQuery::compute(const Ask& ask) const {
    PowerResult r;
    const auto discharge = [&](const Corner& at) {
        DischargeQuery query(circuit, conditions, end_brightness, at);
        query.day = day;
        return query;
    };
    constexpr std::array<double, 3> bins{0, -1, 1};
    std::array<Answer<Discharge>, bins.size()> found;
    Answer<LongRun> waiting;
    const Ask quietly = ask.quiet();
    parallel(bins.size() + 1, [&](std::size_t k) {
        if (k == bins.size())
            waiting = ask(RunQuery(circuit, off));
        else
            found[k] = (k == 0 ? ask : quietly)(discharge({bins[k], bins[k], 0}));
    });
    for (const auto& discharged : found)
        if (!discharged) return discharged.error();
    if (!waiting) return waiting.error();
    r.typical = *found.front();
    double shortest = r.typical.hours, longest = r.typical.hours;
    for (std::size_t k = 1; k < found.size(); ++k) {
        for (const double capacity : {0.9, 1.1}) {  // of the cells: it stretches time and nothing else
            Discharge d = *found[k];
            for (auto& sample : d.samples) sample.hours *= capacity;
            d.hours *= capacity, d.delivered *= capacity;
            shortest = std::min(shortest, d.hours), longest = std::max(longest, d.hours);
            r.corners.push_back(std::move(d));
        }
    }
    const auto cell = emptying_cell(*circuit->source());
    r.run_time = {"power.run_time",
                  "run time from fresh cells",
                  r.typical.hours,
                  Unit::hour,
                  shortest,
                  longest,
                  run_time_working(r.typical, cell, conditions)};
    r.run_time.working.push_back(fmt::format("over LED bins, tolerances and cells ±10 %: {} {}",
                                             r.run_time.spread_text(),
                                             split_quantity(r.run_time.value, Unit::hour).unit));
    r.energy_left = {"power.energy_left",
                     "energy left in the cells at the end",
                     100 * r.typical.energy_left,
                     Unit::percent,
                     {},
                     {},
                     {"∫ V ds below the end over ∫ V ds from full to empty, open-circuit voltage",
                      fmt::format("end at s = {:.0f} %: {:.0f} % of the energy stays unused",
                                  100 * r.typical.charge_left, 100 * r.typical.energy_left)}};
    r.average_brightness = {"power.average",
                            "average perceived brightness",
                            100 * r.typical.average_light,
                            Unit::percent,
                            {},
                            {},
                            {"mean of CIE lightness over the run time, fresh = 100 %"}};
    r.warn_at = warning_volts(r);
    r.drains = takers(*circuit, waiting->mean());
    r.standby = standby_figures(*circuit, conditions, off_text, *waiting, r.standby_current);
    return r;
}

}  // namespace elkit
