#include "engine/measure.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

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

struct Crossing {
    double time;
    bool rising;
};

/// Crossings of the middle, each counted once the waveform has gone on by the hysteresis.
std::vector<Crossing> crossings(const std::vector<double>& time, const std::vector<double>& y, double from,
                                double to, double middle, double hysteresis) {
    std::vector<Crossing> out;
    int side = 0;  // where it was last seen for sure
    double up = -1e300, down = -1e300;
    pieces(time, y, from, to, [&](double t0, double y0, double t1, double y1) {
        if (y0 < middle && y1 >= middle) up = t0 + (t1 - t0) * (middle - y0) / (y1 - y0);
        if (y0 > middle && y1 <= middle) down = t0 + (t1 - t0) * (middle - y0) / (y1 - y0);
        const int now = y1 > middle + hysteresis ? 1 : (y1 < middle - hysteresis ? -1 : 0);
        if (now == 0 || now == side) return;
        if (side != 0) out.push_back({now > 0 ? up : down, now > 0});
        side = now;
    });
    return out;
}

}  // namespace

double integral(const std::vector<double>& time, const std::vector<double>& values, double from, double to) {
    double sum = 0;
    pieces(time, values, from, to,
           [&](double a, double ya, double b, double yb) { sum += (b - a) * (ya + yb) / 2; });
    return sum;
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
    double squares = 0;
    pieces(time, values, from, to, [&](double a, double ya, double b, double yb) {
        squares += (b - a) * (ya * ya + ya * yb + yb * yb) / 3;
    });
    if (to > from)
        m.mean = integral(time, values, from, to) / (to - from), m.rms = std::sqrt(squares / (to - from));
    return m;
}

std::optional<double> time_to_threshold(const std::vector<double>& time, const std::vector<double>& values,
                                        double level, double from) {
    for (std::size_t k = 1; k < time.size(); ++k) {
        if (time[k] < from) continue;
        const double a = values[k - 1] - level, b = values[k] - level;
        if ((a < 0) == (b < 0) || a == b) continue;
        const double t = time[k - 1] + (time[k] - time[k - 1]) * a / (a - b);
        if (t >= from) return t;
    }
    return std::nullopt;
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
                                       const std::string& probe, Unit unit, double level, double from) {
    const auto t = time_to_threshold(time, values, level, from);
    if (!t) return std::nullopt;
    const double start = std::max(from, time.front());
    Figure f{"measure." + probe + ".reaches",
             probe + " reaches " + format_quantity(level, unit),
             *t - start,
             Unit::second,
             {},
             {},
             {}};
    f.working = {fmt::format("it crosses {} at {}, counted from {}", format_quantity(level, unit, 4),
                             format_quantity(*t, Unit::second, 5), format_quantity(start, Unit::second, 4))};
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
