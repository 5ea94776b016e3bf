#include "engine/measure.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numeric>

#include "engine/stepper.hpp"

namespace elkit {
namespace {

/// Value of the polyline at time t inside segment k−1 … k.
double between(const std::vector<double>& time, const std::vector<double>& y, std::size_t k, double t) {
    const double dt = time[k] - time[k - 1];
    return dt > 0 ? y[k - 1] + (y[k] - y[k - 1]) * (t - time[k - 1]) / dt : y[k];
}

/// Calls visit(t0, y0, t1, y1) for each piece of the polyline between two times.
template <class Visit>
void pieces(const std::vector<double>& time, const std::vector<double>& y, double from, double to,
            Visit visit) {
    for (std::size_t k = 1; k < time.size(); ++k) {
        const double a = std::max(time[k - 1], from), b = std::min(time[k], to);
        if (b > a) visit(a, between(time, y, k, a), b, between(time, y, k, b));
    }
}

/// True if samples k−1, k, k+1 are one step of the engine: begin, stage and end.
bool is_step(const std::vector<double>& t, std::size_t k) {
    if (k + 1 >= t.size() || !(t[k] > t[k - 1] && t[k + 1] > t[k])) return false;
    const double h = t[k + 1] - t[k - 1];
    return std::abs(t[k] - t[k - 1] - Stepper::gamma * h) <= 1e-6 * h + 1e-15 * std::abs(t[k + 1]);
}

/// ∫ of y, or of y², between two times: parabolas over steps of the engine, straight lines elsewhere. Gauss's
/// rule with three points, exact for both.
double integrate(const std::vector<double>& time, const std::vector<double>& y, double from, double to,
                 bool squares) {
    static constexpr double places[]{0.11270166537925831, 0.5, 0.88729833462074169};
    static constexpr double weights[]{5.0 / 18, 8.0 / 18, 5.0 / 18};
    double sum = 0;
    for (std::size_t k = 1; k < time.size();) {
        const bool step = is_step(time, k);
        const std::size_t last = step ? k + 1 : k;
        const double t0 = time[k - 1], h = time[last] - t0;
        const double a = std::max(t0, from), b = std::min(time[last], to);
        if (b > a) {
            const double g = step ? (time[k] - t0) / h : 1;
            const double slope = (y[k] - y[k - 1]) / g;  // divided differences over a step of length 1
            const double bend = step ? ((y[last] - y[k]) / (1 - g) - slope) : 0;
            for (int n = 0; n < 3; ++n) {
                const double s = (a + (b - a) * places[n] - t0) / h;
                const double value = y[k - 1] + s * (slope + (s - g) * bend);
                sum += (b - a) * weights[n] * (squares ? value * value : value);
            }
        }
        k = last + 1;
    }
    return sum;
}

struct Crossing {
    double time;
    bool rising;
};

/// Crossings of the middle, each counted once the waveform has gone on by the hysteresis.
std::vector<Crossing> crossings(const std::vector<double>& time, const std::vector<double>& y, double from,
                                double to, double middle, double hysteresis) {
    std::vector<Crossing> out;
    int side = 0;  // where it was last seen for sure
    double up = -1e300, down = -1e300, before = 0;
    bool begun = false;
    pieces(time, y, from, to, [&](double t0, double y0, double t1, double y1) {
        // an edge of no length stands between two pieces
        if (begun && before < middle && y0 >= middle) up = t0;
        if (begun && before > middle && y0 <= middle) down = t0;
        begun = true, before = y1;
        if (y0 < middle && y1 >= middle) up = t0 + (t1 - t0) * (middle - y0) / (y1 - y0);
        if (y0 > middle && y1 <= middle) down = t0 + (t1 - t0) * (middle - y0) / (y1 - y0);
        for (const double at : {y0, y1}) {
            const int now = at > middle + hysteresis ? 1 : (at < middle - hysteresis ? -1 : 0);
            if (now == 0 || now == side) continue;
            if (side != 0) out.push_back({now > 0 ? up : down, now > 0});
            side = now;
        }
    });
    return out;
}

}  // namespace

double integral(const std::vector<double>& time, const std::vector<double>& values, double from, double to) {
    return integrate(time, values, from, to, false);
}

std::vector<double> quadrature(const std::vector<double>& time) {
    std::vector<double> weights(time.size());
    for (std::size_t k = 1; k < time.size();) {
        if (!is_step(time, k)) {
            const double half = (time[k] - time[k - 1]) / 2;
            weights[k - 1] += half, weights[k] += half;
            ++k;
            continue;
        }
        const double h = time[k + 1] - time[k - 1], g = (time[k] - time[k - 1]) / h;
        const double middle = 1 / (6 * g * (1 - g)), last = (2 - 3 * g) / (6 * (1 - g));
        weights[k - 1] += h * (1 - middle - last), weights[k] += h * middle, weights[k + 1] += h * last;
        k += 2;
    }
    return weights;
}

double mean_by(const std::vector<double>& weights, const std::vector<double>& values) {
    const double span = std::accumulate(weights.begin(), weights.end(), 0.0);
    if (!(span > 0)) return values.back();
    return std::inner_product(weights.begin(), weights.end(), values.begin(), 0.0) / span;
}

Measurements measure(const std::vector<double>& time, const std::vector<double>& values, double from,
                     double to) {
    Measurements m;
    if (time.empty()) return m;
    from = std::max(from, time.front()), to = std::min(to, time.back());
    bool first = true;
    const auto take = [&](double y) {
        m.minimum = first ? y : std::min(m.minimum, y), m.maximum = first ? y : std::max(m.maximum, y);
        first = false;
    };
    pieces(time, values, from, to, [&](double, double a, double, double b) { take(a), take(b); });
    if (first) {  // a single moment
        m.minimum = m.maximum = m.mean = m.rms = values.back();
        return m;
    }
    const double swing = m.maximum - m.minimum, middle = (m.maximum + m.minimum) / 2;
    if (swing > 1e-9 * (std::abs(m.maximum) + std::abs(m.minimum))) {
        const auto all = crossings(time, values, from, to, middle, swing / 20);
        std::vector<double> rising;
        for (const auto& c : all)
            if (c.rising) rising.push_back(c.time);
        if (rising.size() >= 2) {
            m.cycles = static_cast<int>(rising.size()) - 1;
            const double start = rising[rising.size() - 2], end = rising.back();
            m.period = end - start;
            for (const auto& c : all)
                if (!c.rising && c.time > start && c.time < end) m.high_time = c.time - start;
            from = rising.front(), to = rising.back();  // averages over whole cycles
        }
    }
    if (to > from) {
        m.mean = integral(time, values, from, to) / (to - from);
        m.rms = std::sqrt(integrate(time, values, from, to, true) / (to - from));
    }
    return m;
}

namespace {

/// Time at which the curve through up to four samples around the segment k−1 … k, which crosses the level,
/// does so: third-order interpolation as the steps themselves are good for; never over an edge of no length.
double refined_crossing(const std::vector<double>& t, const std::vector<double>& y, std::size_t k,
                        double level) {
    std::size_t first = k - 1, last = k;
    if (first > 0 && t[first - 1] < t[first]) --first;
    if (last + 1 < t.size() && t[last + 1] > t[last]) ++last;
    const auto at = [&](double x) {
        double sum = 0;
        for (std::size_t i = first; i <= last; ++i) {
            double weight = 1;
            for (std::size_t j = first; j <= last; ++j)
                if (j != i) weight *= (x - t[j]) / (t[i] - t[j]);
            sum += weight * y[i];
        }
        return sum - level;
    };
    double low = t[k - 1], high = t[k];
    const bool rising = y[k] > y[k - 1];
    for (int round = 0; round < 60; ++round) {
        const double middle = (low + high) / 2;
        ((at(middle) > 0) == rising ? high : low) = middle;
    }
    return (low + high) / 2;
}

}  // namespace

std::vector<LevelCrossing> level_crossings(const std::vector<double>& time, const std::vector<double>& values,
                                           double level, double from) {
    std::vector<LevelCrossing> all;
    for (std::size_t k = 1; k < time.size(); ++k) {
        if (time[k] < from) continue;
        const double a = values[k - 1] - level, b = values[k] - level;
        if ((a < 0) == (b < 0) || a == b) continue;
        const double t = time[k] > time[k - 1] ? refined_crossing(time, values, k, level) : time[k];
        if (t >= from) all.push_back({t, b > a});
    }
    return all;
}

std::optional<double> time_to_threshold(const std::vector<double>& time, const std::vector<double>& values,
                                        double level, double from) {
    const auto all = level_crossings(time, values, level, from);
    return all.empty() ? std::nullopt : std::optional(all.front().time);
}

Result<double> measurement(const Measurements& m, const std::string& name) {
    const auto repeated = [&](std::optional<double> value) -> Result<double> {
        if (value) return *value;
        return Error{Fault::design, name, "the waveform does not repeat",
                     "a circuit that oscillates, or a longer time"};
    };
    if (name == "mean") return m.mean;
    if (name == "min") return m.minimum;
    if (name == "max") return m.maximum;
    if (name == "rms") return m.rms;
    if (name == "swing") return m.maximum - m.minimum;
    if (name == "cycle") return repeated(m.period ? std::optional(m.mean * *m.period) : std::nullopt);
    if (name == "period") return repeated(m.period);
    if (name == "frequency") return repeated(m.frequency());
    if (name == "duty") return repeated(m.duty());
    if (name == "high") return repeated(m.high_time);
    if (name == "low") return repeated(m.low_time());
    return Error{Fault::usage, name, "there is no such measurement",
                 "mean, min, max, rms, swing, cycle, period, frequency, duty, high or low"};
}

Unit measurement_unit(const std::string& name, Unit of_waveform) {
    if (name == "period" || name == "high" || name == "low") return Unit::second;
    if (name == "frequency") return Unit::hertz;
    if (name == "cycle")
        return of_waveform == Unit::ampere ? Unit::coulomb
               : of_waveform == Unit::watt ? Unit::joule
                                           : Unit::none;
    if (name == "duty") return Unit::none;
    return of_waveform;
}

std::vector<Figure> measurement_figures(const Measurements& m, const std::string& probe, Unit unit) {
    std::vector<Figure> all;
    const auto add = [&](const char* name, const char* label, std::string how) {
        auto value = measurement(m, name);
        if (!value) return;
        const bool duty = std::string_view(name) == "duty";
        all.push_back({"measure." + probe + "." + name,
                       std::string(label) + " of " + probe,
                       value.value() * (duty ? 100 : 1),
                       duty ? Unit::percent : measurement_unit(name, unit),
                       {},
                       {},
                       {std::move(how)}});
    };
    const std::string over =
        m.cycles ? fmt::format("over {} whole cycles", m.cycles) : "over the whole time looked at";
    add("mean", "mean", "∫ y dt / t, " + over);
    add("rms", "rms", "√(∫ y² dt / t), " + over);
    add("min", "minimum", "least value reached");
    add("max", "maximum", "greatest value reached");
    if (unit == Unit::ampere) add("cycle", "charge a cycle", "mean × period");
    if (unit == Unit::watt) add("cycle", "energy a cycle", "mean × period");
    add("period", "period", "between the last two rises through the middle");
    add("frequency", "frequency", "1 / period");
    add("duty", "duty", "time above the middle / period");
    add("high", "high time", "from rise to fall through the middle, last cycle");
    add("low", "low time", "period − high time");
    return all;
}

std::optional<Figure> threshold_figure(const std::vector<double>& time, const std::vector<double>& values,
                                       const std::string& probe, Unit unit, double level, double from,
                                       std::size_t which) {
    const auto all = level_crossings(time, values, level, from);
    if (which == 0 || all.size() < which) return std::nullopt;
    const LevelCrossing& crossing = all[which - 1];
    const double start = std::max(from, time.front());
    Figure f{"measure." + probe + ".reaches",
             probe + " reaches " + format_quantity(level, unit),
             crossing.time - start,
             Unit::second,
             {},
             {},
             {}};
    f.working = {fmt::format("it {} through {} at {}, counted from {}", crossing.rising ? "rises" : "falls",
                             format_quantity(level, unit, 4), format_quantity(crossing.time, Unit::second, 5),
                             format_quantity(start, Unit::second, 4)),
                 fmt::format("crossing {} of {}", which, all.size())};
    return f;
}

Figure time_difference(double from, double to) {
    const double t = to - from;
    Figure f{"measure.since_mark", "time since the mark", t, Unit::second, {}, {}, {}};
    f.working = {
        fmt::format("{} − {}", format_quantity(to, Unit::second, 4), format_quantity(from, Unit::second, 4))};
    if (t != 0) f.working.push_back("1 / t = " + format_quantity(1 / std::abs(t), Unit::hertz));
    return f;
}

double value_at(const std::vector<double>& time, const std::vector<double>& values, double at) {
    const auto after = std::upper_bound(time.begin(), time.end(), at);
    if (after == time.begin()) return values.front();
    if (after == time.end()) return values.back();
    return between(time, values, static_cast<std::size_t>(after - time.begin()), at);
}

Figure value_difference(const std::vector<double>& time, const std::vector<double>& values,
                        const std::string& probe, Unit unit, double from, double to) {
    const double before = value_at(time, values, from), now = value_at(time, values, to);
    return {"measure.change_since_mark",
            "change of " + probe + " since the mark",
            now - before,
            unit,
            {},
            {},
            {fmt::format("{} − {}", format_quantity(now, unit, 4), format_quantity(before, unit, 4))}};
}

}  // namespace elkit
