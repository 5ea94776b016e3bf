#include "power/discharge.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "circuit/part_kind.hpp"
#include "engine/history.hpp"
#include "engine/models.hpp"
#include "light/strings.hpp"
#include "power/supply_range.hpp"
#include "quantity/brightness.hpp"
#include "quantity/format.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr double hours_a_year = 8766;
constexpr double endless = std::numeric_limits<double>::infinity();

/// Fraction of the cell's energy below `charge`: ∫ V0 ds from 0 to charge over ∫ V0 ds from 0 to 1.
double energy_below(const CellType& cell, double charge) {
    const auto integral = [&](double to) {
        double sum = 0;
        for (int k = 0; k < 200; ++k) sum += cell.open_circuit.at(to * (k + 0.5) / 200) * to / 200;
        return sum;
    };
    return integral(charge) / integral(1);
}

DischargeSample between(const DischargeSample& a, const DischargeSample& b, double t) {
    const auto mix = [t](double x, double y) { return x + (y - x) * t; };
    return {mix(a.hours, b.hours), mix(a.charge, b.charge),       mix(a.volts, b.volts),
            mix(a.amps, b.amps),   mix(a.mean_amps, b.mean_amps), mix(a.light, b.light)};
}

void summarise(Discharge& d, const CellType& cell, double end_charge) {
    d.charge_left = end_charge;
    d.energy_left = energy_below(cell, end_charge);
    d.hours = d.samples.back().hours;
    double weighted = 0;
    for (std::size_t k = 1; k < d.samples.size(); ++k) {
        const auto &a = d.samples[k - 1], &b = d.samples[k];
        const double dt = b.hours - a.hours;
        d.delivered += (a.mean_amps + b.mean_amps) / 2 * dt;
        weighted += (perceived(a.light) + perceived(b.light)) / 2 * dt;
    }
    d.average_light = d.hours > 0 ? weighted / d.hours : 0;
}

}  // namespace

std::optional<double> Discharge::hours_at(double wanted) const {
    for (std::size_t k = 1; k < samples.size(); ++k) {
        const auto &a = samples[k - 1], &b = samples[k];
        if (b.charge <= wanted)
            return a.hours + (b.hours - a.hours) * (a.charge - wanted) / std::max(a.charge - b.charge, 1e-12);
    }
    return std::nullopt;
}

double Discharge::volts_at(double wanted) const {
    for (std::size_t k = 1; k < samples.size(); ++k) {
        const auto &a = samples[k - 1], &b = samples[k];
        if (b.hours >= wanted)
            return a.volts + (b.volts - a.volts) * (wanted - a.hours) / std::max(b.hours - a.hours, 1e-12);
    }
    return std::numeric_limits<double>::quiet_NaN();
}

namespace {

/// The circuit's average readings at falling states of charge: at rest by Newton from the last state, so that
/// a latch keeps its side; over a steady cycle where it moves.
class Follower {
  public:
    explicit Follower(const Situated& at) : at_(at) {}
    /// From the long run with fresh cells, which others ask for too.
    Result<void> start(const Ask& ask) {
        const auto run = ask(RunQuery(at_.circuit, at_.conditions, at_.corner));
        if (!run) return run.error();
        run_ = *run;
        now_ = run_.mean();
        return success();
    }
    Result<void> follow(const Conditions& c) {
        if (moves()) {
            auto run = long_run(*at_.circuit, known_catalogue(), c, at_.corner, &run_);
            if (!run) return run.error();
            run_ = std::move(run).value();
            now_ = run_.mean();
            return success();
        }
        auto op = operating_point(*at_.circuit, known_catalogue(), c, at_.corner, &now_);
        if (!op) return op.error();
        now_ = std::move(op).value();
        return success();
    }
    bool moves() const { return run_.moves(); }
    const OperatingPoint& now() const { return now_; }
    void back_to(const Follower& before) { run_ = before.run_, now_ = before.now_; }

  private:
    const Situated& at_;
    LongRun run_;
    OperatingPoint now_;
};

/// How far apart the states of charge are at which the circuit is solved: as far as what was read lies on the
/// straight line through the two before it, so that what is drawn and summed between them is right to less
/// than a hundredth; near what jumps, such as a chip that stops, as close as it gets.
class Pace {
  public:
    explicit Pace(bool moving)  // cycles close to some thousandths
        : wanted_(moving ? 0.015 : 0.006),
          least_(moving ? 1.0 / 40 : 1.0 / 240),
          step_(moving ? 1.0 / 20 : 1.0 / 40) {}
    double step() const { return step_; }
    /// Whether `next` may follow on `samples`; null: it could not be solved. The next step is set.
    bool accepts(const std::vector<DischargeSample>& samples, const DischargeSample* next) {
        constexpr double most = 1.0 / 8;
        const double off = next ? bend(samples, *next) : 10 * wanted_;
        if (off > 2 * wanted_ && step_ > least_) {
            step_ = std::max(step_ / (next && off < 8 * wanted_ ? 2 : 4), least_);
            return false;
        }
        step_ =
            std::clamp(step_ * std::clamp(std::sqrt(wanted_ / std::max(off, 1e-9)), 0.5, 2.0), least_, most);
        return true;
    }

  private:
    /// How far `next` lies from the line through the last two samples, by the size of what is read; of the
    /// first step, where there is no line yet, a part of the way.
    static double bend(const std::vector<DischargeSample>& samples, const DischargeSample& next) {
        const bool first = samples.size() < 2;
        const DischargeSample& b = samples.back();
        const DischargeSample& a = first ? b : samples[samples.size() - 2];
        const double run = first ? 0 : (b.charge - next.charge) / (a.charge - b.charge);
        double most = 0;
        for (const auto reading : {&DischargeSample::volts, &DischargeSample::amps,
                                   &DischargeSample::mean_amps, &DischargeSample::light}) {
            const double expected = b.*reading + (b.*reading - a.*reading) * run;
            const double size = reading == &DischargeSample::light
                                    ? 1.0
                                    : std::max({std::abs(b.*reading), std::abs(next.*reading), 1e-9});
            most = std::max(most, std::abs(next.*reading - expected) / size);
        }
        return first ? most / 4 : most;
    }
    double wanted_, least_, step_;
};

/// Reasons to end, and how far between the last sample and this one each strikes.
struct Ending {
    double at = 1;
    std::string why, part;
    void consider(bool strikes, double before, double after, double limit, std::string reason,
                  const std::string& of = {}) {
        const double t = strikes ? (before - limit) / std::max(before - after, 1e-12) : 2;
        if (t <= at || (strikes && why.empty()))
            at = std::clamp(t, 0.0, 1.0), why = std::move(reason), part = of;
    }
};

}  // namespace

std::optional<CellType> emptying_cell(const Part& source) {
    auto cell = cell_of(source, known_catalogue());
    return cell && !cell->endless() ? cell : std::nullopt;
}

Digest digest_of(const DayShares& day) {
    Digester d;
    d << day.followed << day.others.size();
    for (const auto& other : day.others) d << content_digest(other.conditions) << other.share;
    return d.digest();
}

Digest DischargeQuery::key() const {
    Digester d;
    d << Situated::key() << end_brightness << digest_of(day);
    return d.digest();
}

namespace {

/// What ends a run between the last sample and this one: too little light, empty cells, a chip that stops.
class EndWatch {
  public:
    EndWatch(const Circuit& circuit, const CellType& cell, double celsius, double end_brightness)
        : chips_(supply_ranges(circuit)),
          volts_(chips_.size()),
          cell_(cell),
          source_(*circuit.source()),
          cells_(source_.number("count")),
          leads_(lead_resistance(source_, celsius)),
          end_brightness_(end_brightness),
          end_light_(luminance_for(end_brightness)) {}

    Ending look(const DischargeSample* last, const DischargeSample& s, const OperatingPoint& op,
                bool lights) {
        Ending ending;
        if (last) {
            ending.consider(lights && s.light < end_light_, last->light, s.light, end_light_,
                            fmt::format("light below {:.0f} % of fresh", 100 * end_brightness_));
            // nothing but its own circuit cuts a cell off, and that looks at the cell, not at its leads
            const double before = own_volts(*last), now = own_volts(s), cutoff = cells_ * cell_.cutoff;
            ending.consider(cell_.protection && now < cutoff, before, now, cutoff,
                            fmt::format("the protection of the cells opens at {}",
                                        format_quantity(cell_.cutoff, Unit::volt)));
        }
        for (std::size_t i = 0; i < chips_.size(); ++i) {
            const SupplyRange& chip = chips_[i];
            const double volts = op.voltage(chip.plus) - op.voltage(chip.minus);
            if (last && chip.stops && volts_[i] >= chip.low)
                ending.consider(
                    volts < chip.low, volts_[i], volts, chip.low,
                    fmt::format("{} below its {}", chip.designator, format_quantity(chip.low, Unit::volt)),
                    chip.designator);
            volts_[i] = volts;
        }
        return ending;
    }

  private:
    double own_volts(const DischargeSample& s) const { return s.volts + s.amps * leads_; }
    std::vector<SupplyRange> chips_;
    std::vector<double> volts_;
    const CellType& cell_;
    const Part& source_;
    double cells_, leads_, end_brightness_, end_light_;
};

/// A supply that does not empty: one sample, for ever.
Discharge for_ever(DischargeSample s) {
    Discharge d;
    d.samples.push_back(s);
    d.hours = endless, d.charge_left = 1, d.energy_left = 1, d.average_light = 1,
    d.ended_by = "it does not empty";
    return d;
}

}  // namespace

Result<Discharge> DischargeQuery::compute(const Ask& ask) const {
    const Part* source = circuit->source();
    const auto cell = source ? emptying_cell(*source) : std::nullopt;
    Follower at(*this);
    if (auto solved = at.start(ask); !solved) return solved.error();
    std::vector<Situated> elsewhere;
    for (const auto& other : day.others) {
        elsewhere.emplace_back(circuit, other.conditions, corner);
        elsewhere.back().conditions.battery = 1;
    }
    std::vector<Follower> others(elsewhere.begin(), elsewhere.end());
    for (Follower& other : others)
        if (auto solved = other.start(ask); !solved) return solved.error();
    const double fresh_light =
        is_lit(*circuit, at.now()) ? total_intensity(*circuit, known_catalogue(), at.now()) : 0;
    const auto sample = [&](double charge) {
        const OperatingPoint& op = at.now();
        const double intensity = total_intensity(*circuit, known_catalogue(), op);
        const double amps = std::max(op.supply_current(), 1e-9);
        double mean = day.followed * amps;
        for (std::size_t k = 0; k < others.size(); ++k)
            mean += day.others[k].share * std::max(others[k].now().supply_current(), 0.0);
        return DischargeSample{0,    charge, op.part(op.source).voltage,
                               amps, mean,   fresh_light > 0 ? intensity / fresh_light : 0};
    };
    if (!cell) return for_ever(sample(1));
    Discharge d;
    EndWatch watch(*circuit, *cell, conditions.celsius, end_brightness);
    // of the charge in an hour
    const auto drain = [&](double share, double amps, double celsius) {
        return share * amps /
               (cell->usable_charge(std::max(amps, 1e-9), celsius) * (1 + 0.1 * corner.capacity));
    };
    const auto per_hour = [&](const DischargeSample& s) {
        double sum =
            cell->self_discharge_per_year / hours_a_year + drain(day.followed, s.amps, conditions.celsius);
        for (std::size_t i = 0; i < others.size(); ++i)
            sum += drain(day.others[i].share, std::max(others[i].now().supply_current(), 0.0),
                         elsewhere[i].conditions.celsius);
        return sum;
    };
    const bool from_the_press = keeps_to_itself(*circuit);
    const auto later = [&](const Conditions& there) {  // a latch keeps its side while the cells sag
        return from_the_press || there.moment > 0 ? there : there.after_events();
    };
    const auto follow = [&](double charge) -> Result<void> {
        Conditions c = later(conditions);
        c.battery = charge;
        if (auto solved = at.follow(c); !solved) return solved.error();
        for (std::size_t i = 0; i < others.size(); ++i) {
            Conditions there = later(elsewhere[i].conditions);
            there.battery = charge;
            if (auto solved = others[i].follow(there); !solved) return solved.error();
        }
        return success();
    };
    const bool moving =
        at.moves() || std::any_of(others.begin(), others.end(), [](const Follower& f) { return f.moves(); });
    Pace pace(moving);
    d.samples.push_back(sample(1));
    double rate_before = 1 / per_hour(d.samples.back());  // h for all of the charge
    (void)watch.look(nullptr, d.samples.back(), at.now(), fresh_light > 0);
    while (d.samples.back().charge > 0) {
        const DischargeSample& last = d.samples.back();
        ask.tell("discharging the cells", 1 - last.charge);
        const Follower at_before = at;
        const std::vector<Follower> others_before = others;
        const double charge = std::max(last.charge - pace.step(), 0.0);
        const auto solved = follow(charge);
        const DischargeSample next = solved ? sample(charge) : last;
        if (!pace.accepts(d.samples, solved ? &next : nullptr)) {
            at.back_to(at_before);
            for (std::size_t i = 0; i < others.size(); ++i) others[i].back_to(others_before[i]);
            continue;
        }
        if (!solved) {
            if (!at.moves()) return solved.error();
            d.ended_by = "it no longer runs steadily: " + solved.error().text();
            summarise(d, *cell, last.charge);
            return d;
        }
        DischargeSample s = next;
        const double rate = 1 / per_hour(s);
        s.hours = last.hours + (rate + rate_before) / 2 * (last.charge - charge);
        rate_before = rate;
        const Ending ending = watch.look(&last, s, at.now(), fresh_light > 0);
        if (!ending.why.empty()) {
            d.ended_by = ending.why, d.ended_part = ending.part;
            d.samples.push_back(between(last, s, ending.at));
            summarise(d, *cell, d.samples.back().charge);
            return d;
        }
        d.samples.push_back(s);
    }
    d.ended_by = "cells empty";
    summarise(d, *cell, 0);
    return d;
}

}  // namespace elkit
