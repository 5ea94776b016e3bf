#include "engine/models.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>

#include "catalogue/copper.hpp"
#include "circuit/connectivity.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

/// A parameter that the part sets itself, else the type's value.
double own_or(const Part& part, const char* key, double of_type) {
    const auto own = part.params.find(key);
    const double* number = own == part.params.end() ? nullptr : std::get_if<double>(&own->second);
    return number ? *number : of_type;
}

/// V that a place −1…+1 in the spread adds to the forward voltage.
double bin_shift(const LedType& type, double position) {
    return position < 0 ? -position * (type.vf_low - type.vf_typical)
                        : position * (type.vf_high - type.vf_typical);
}

/// A curve of a cell that a battery may have of its own.
struct OwnCurve {
    const char* key;
    Curve CellType::*of;
    double x_scale;  // to what the catalogue has
    bool rises;
};
constexpr OwnCurve own_curves[]{{"voltage_curve", &CellType::open_circuit, 0.01, true},
                                {"resistance_curve", &CellType::resistance, 0.01, false},
                                {"capacity_curve", &CellType::capacity, 1, false}};

/// The battery's own curve, x ascending; nothing where it has none. Design error for points that are none.
Result<std::optional<Curve>> own_curve(const Part& battery, const OwnCurve& own) {
    const PointList* points = battery.points(own.key);
    if (!points || points->empty()) return std::optional<Curve>();
    Curve curve;
    for (const auto& [x, y] : *points) curve.points.push_back({x * own.x_scale, y});
    std::sort(curve.points.begin(), curve.points.end(),
              [](const Curve::Point& a, const Curve::Point& b) { return a.x < b.x; });
    const bool by_charge = own.of != &CellType::capacity;
    for (std::size_t k = 0; k < curve.points.size(); ++k) {
        const Curve::Point& p = curve.points[k];
        const bool placed = by_charge ? p.x >= 0 && p.x <= 1 : p.x > 0;
        const bool after =
            k == 0 || (p.x > curve.points[k - 1].x && (!own.rises || p.y >= curve.points[k - 1].y));
        if (!(p.y > 0) || !(p.y <= 1000) || !placed || !after || curve.points.size() < 2)
            return Error{Fault::design, "part " + battery.designator, std::string(own.key) + " is no curve",
                         own.rises   ? "two points or more, charge 0 to 100 %, volts that rise with it"
                         : by_charge ? "two points or more, charge 0 to 100 %, ohms above 0"
                                     : "two points or more, currents and charges above 0"};
    }
    return std::optional(std::move(curve));
}

}  // namespace

double lead_resistance(const Part& source, double celsius) {
    const double area = std::max(source.number("lead_area"), 1e-3);
    return copper_resistance(2 * source.number("lead_length"), area, celsius);  // out and back
}

std::optional<CellType> cell_of(const Part& battery, const Catalogue& catalogue) {
    const CellType* type = is(battery, Role::cells) ? catalogue.cell(battery.text("cell")) : nullptr;
    if (!type) return std::nullopt;
    CellType cell = *type;
    for (const OwnCurve& own : own_curves)
        if (auto curve = own_curve(battery, own)) {
            if (curve.value() && !(cell.*own.of).points.empty()) cell.*own.of = std::move(*curve.value());
        }
    const auto scale = [&](Curve& curve, const char* key, double typical) {
        const double own = battery.number(key);
        if (!(own > 0) || !(typical > 0)) return;
        for (auto& point : curve.points) point.y *= own / typical;
    };
    scale(cell.open_circuit, "open_circuit", cell.open_circuit.at(1));
    const double typical = type->resistance.at(1);
    scale(cell.resistance, "cell_resistance", cell.resistance.at(1));
    for (CellType::Sag& s : cell.sag) s.resistance *= cell.resistance.at(1) / typical;
    if (!cell.endless()) scale(cell.capacity, "capacity", cell.capacity.points.front().y);
    return cell;
}

Result<Thevenin> source_model(const Part& part, const Catalogue& catalogue, const Conditions& conditions) {
    const double leads = lead_resistance(part, conditions.celsius);
    const auto refuse = [&](double volts) {
        return Error{Fault::design, "part " + part.designator, "gives " + format_quantity(volts, Unit::volt),
                     "60 V DC at most; above that use a ready-made certified supply, wired by a licensed "
                     "electrician to the local code"};
    };
    if (!is(part, Role::cells)) {
        const double volts = conditions.level(part);
        if (volts > highest_supply) return refuse(volts);
        return Thevenin{volts, part.number("resistance") + leads};
    }
    const auto cell = cell_of(part, catalogue);
    if (!cell)
        return Error{Fault::design, "part " + part.designator, "unknown cell \"" + part.text("cell") + "\"",
                     "a cell of the catalogue, such as LR6"};
    for (const OwnCurve& own : own_curves)
        if (auto curve = own_curve(part, own); !curve) return curve.error();
    const double count = part.number("count");
    if (count * cell->open_circuit.at(1) > highest_supply) return refuse(count * cell->open_circuit.at(1));
    const double charge = std::clamp(conditions.battery, 0.0, 1.0);
    const double warmth = cell->resistance_factor.at(conditions.celsius);
    const double now = cell->resistance.at(charge), worn = now / cell->resistance.at(1);
    Thevenin model{count * cell->open_circuit.at(charge), count * now * warmth + leads};
    for (const CellType::Sag& s : cell->sag)
        model.sag.push_back({count * s.resistance * worn * warmth, s.seconds});
    return model;
}

bool Thevenin::operator==(const Thevenin& other) const {
    const auto alike = [](const CellType::Sag& a, const CellType::Sag& b) {
        return a.resistance == b.resistance && a.seconds == b.seconds;
    };
    return voltage == other.voltage && resistance == other.resistance &&
           std::equal(sag.begin(), sag.end(), other.sag.begin(), other.sag.end(), alike);
}

namespace {

/// The most that a source gives, fresh [V].
double most_volts(const Part& part, const Catalogue& catalogue, const Conditions& conditions) {
    if (const auto cell = cell_of(part, catalogue)) return part.number("count") * cell->open_circuit.at(1);
    if (has_level(part)) return conditions.level(part);
    return std::max(
        {std::abs(part.number("value")) + part.number("amplitude"), std::abs(part.number("high"))});
}

struct SourceEdge {
    const Part* part;  ///< null for a contact
    std::string from, to;
    double volts;
};

std::vector<SourceEdge> source_edges(const Circuit& circuit, const Catalogue& catalogue,
                                     const Conditions& conditions) {
    std::vector<SourceEdge> edges;
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind) continue;
        if (kind->is(Role::source))
            edges.push_back({&part, part.net("-"), part.net("+"), most_volts(part, catalogue, conditions)});
        if (kind->is(Role::contact))
            for (const auto& [a, b] : kind->joined_closed)
                edges.push_back({nullptr, part.net(a), part.net(b), 0});
        for (const auto& [a, b] : kind->joined) edges.push_back({nullptr, part.net(a), part.net(b), 0});
    }
    return edges;
}

}  // namespace

std::optional<SupplySpan> supply_span(const Circuit& circuit, const Catalogue& catalogue,
                                      const Conditions& conditions) {
    const auto edges = source_edges(circuit, catalogue, conditions);
    std::optional<SupplySpan> most;
    for (const SourceEdge& start : edges) {
        if (!start.part) continue;
        // potentials of all nets that sources and contacts tie to this one, with the sources on the way
        std::map<std::string, SupplySpan> reached{{start.from, {}}};
        for (std::vector<std::string> front{start.from}; !front.empty();) {
            const std::string here = front.back();
            front.pop_back();
            for (const SourceEdge& e : edges) {
                if (e.from != here && e.to != here) continue;
                const std::string& there = e.from == here ? e.to : e.from;
                if (reached.contains(there)) continue;
                SupplySpan span = reached[here];
                span.volts += e.from == here ? e.volts : -e.volts;
                if (e.part) span.parts.push_back(e.part->designator);
                reached[there] = span;
                front.push_back(there);
            }
        }
        for (auto& [net, span] : reached) {
            span.volts = std::abs(span.volts);
            if (!span.parts.empty() && (!most || span.volts > most->volts)) most = span;
        }
    }
    return most;
}

std::vector<Error> circuit_errors(const Circuit& circuit, const Catalogue& catalogue,
                                  const Conditions& conditions) {
    auto errors = connectivity_errors(circuit);
    const auto span = supply_span(circuit, catalogue, conditions);
    if (span && span->parts.size() > 1 && span->volts > highest_supply)
        errors.push_back({Fault::design, "part " + span->parts.front(),
                          "gives " + format_quantity(span->volts, Unit::volt) + " with " + span->parts[1],
                          "60 V DC at most in all; above that use a ready-made certified supply, wired by a "
                          "licensed electrician to the local code"});
    return errors;
}

Result<Junction> junction_model(const Part& part, const Catalogue& catalogue, double celsius, double bin) {
    const auto named = [&](Error e) {
        e.place = "part " + part.designator;
        return e;
    };
    if (is(part, Role::blocks)) {
        const DiodeType* type = catalogue.diode(part.text("type"));
        if (!type)
            return named({Fault::design, "", "unknown diode \"" + part.text("type") + "\"",
                          "signal, rectifier or schottky"});
        auto fitted = fit_junction({{type->test_current, own_or(part, "vf", type->vf_typical)}},
                                   {own_or(part, "emission", type->emission),
                                    own_or(part, "series_resistance", type->series_resistance), type->tempco},
                                   celsius);
        if (!fitted) return named(fitted.error());
        return fitted;
    }
    const LedType* type = catalogue.led(part.text("type"));
    if (!type)
        return named({Fault::design, "", "unknown LED \"" + part.text("type") + "\"",
                      "an LED of the catalogue, such as red-5mm"});
    PointList points{
        {own_or(part, "test_current", type->test_current), own_or(part, "vf", type->vf_typical)}};
    const bool measured = part.points("points") && !part.points("points")->empty();
    if (measured) points = *part.points("points");
    const std::string own_bin = part.text("bin");
    double position = bin;  // a stated bin is the catalogue's end of the spread, or up to a quarter inside
    if (own_bin == "low") position = -1 + std::max(bin, 0.0) / 4;
    if (own_bin == "high") position = 1 + std::min(bin, 0.0) / 4;
    const double shift = bin_shift(*type, position);
    if (!measured)
        for (auto& [i, v] : points) v += shift;
    JunctionGuess guess{own_or(part, "emission", type->emission),
                        own_or(part, "series_resistance", type->series_resistance), type->tempco};
    if (measured) guess.reference = part.number("points_celsius");
    auto fitted = fit_junction(points, guess, celsius);
    if (!fitted) return named(fitted.error());
    const double dies = std::max(1.0, part.number("dies"));  // 0 of a kind that has no such number
    fitted.value().slope *= dies, fitted.value().resistance *= dies;
    return fitted;
}

Result<Junction> led_junction(const LedType& type, double celsius, double bin) {
    return fit_junction({{type.test_current, type.vf_typical + bin_shift(type, bin)}},
                        {type.emission, type.series_resistance, type.tempco}, celsius);
}

WarmPoint ThermistorLaw::at(double celsius) const {
    const double t = std::clamp(celsius, -100.0, 300.0);
    const double kelvin = t + 273.15;
    double l = c == 0 ? (1 / kelvin - a) / b : middle, slope = b;
    for (int k = 0; c != 0 && k < 60; ++k) {  // Newton on the cubic in ln R
        slope = std::max(b + 3 * c * l * l, 1e-3 * std::abs(b));
        const double step = (a + b * l + c * l * l * l - 1 / kelvin) / slope;
        l -= std::clamp(step, -1.0, 1.0);
        if (std::abs(step) < 1e-12) break;
    }
    const double ohms = std::exp(l);
    return {ohms, t == celsius ? -ohms / (kelvin * kelvin * slope) : 0};
}

Result<ThermistorLaw> thermistor_law(const Part& part) {
    const PointList* pairs = part.points("points");
    const Error bad{Fault::design, "part " + part.designator,
                    "its measured pairs do not make a thermistor's curve",
                    "three pairs such as [[0, 32000], [25, 10000], [60, 2500]]"};
    ThermistorLaw law;
    if (!pairs || pairs->empty()) {
        law.b = 1 / part.number("beta");
        law.middle = std::log(part.number("value"));
        law.a = 1 / 298.15 - law.middle * law.b;
        return law;
    }
    if (pairs->size() != 3) return bad;
    Eigen::Matrix3d m;
    Eigen::Vector3d v;
    double coldest = 1e9, warmest = -1e9;
    for (int k = 0; k < 3; ++k) {
        const auto& [t, r] = (*pairs)[static_cast<std::size_t>(k)];
        if (!(r > 0) || !(t > -273)) return bad;
        const double l = std::log(r);
        m.row(k) << 1, l, l * l * l;
        v(k) = 1 / (t + 273.15);
        coldest = std::min(coldest, t), warmest = std::max(warmest, t);
    }
    const auto qr = m.colPivHouseholderQr();
    if (qr.rank() < 3) return bad;
    const Eigen::Vector3d x = qr.solve(v);
    law.a = x(0), law.b = x(1), law.c = x(2), law.middle = std::log((*pairs)[1][1]);
    for (const double celsius :
         {coldest, 0.0, 25.0, 60.0, warmest}) {  // it falls, and hits what was measured
        const WarmPoint p = law.at(celsius);
        const double l = std::log(p.ohms),
                     off = law.a + law.b * l + law.c * l * l * l - 1 / (celsius + 273.15);
        if (!(law.b + 3 * law.c * l * l > 0) || !(std::abs(off) < 1e-9)) return bad;
    }
    return law;
}

Result<double> thermistor_resistance(const Part& part, double celsius) {
    const auto law = thermistor_law(part);
    if (!law) return law.error();
    return law.value().at(celsius).ohms;
}

namespace {
constexpr double ptc_ambient = 20, ptc_knee = 120, ptc_width = 4;  // °C
constexpr double ptc_jump = 12;                                    // of ln R across the knee

double ptc_tripped(double celsius) {  // 0…1: how far it has gone over into its high resistance
    return 1 / (1 + std::exp(-std::clamp((celsius - ptc_knee) / ptc_width, -40.0, 40.0)));
}

/// What a curve of 1 Ω and 1 W/K carries for ever in air of 20 °C: the most over all warmths of (t −
/// 20)/R(t), as its logarithm, and by how much the curve's rise takes from it. Each warmth is a straight line
/// over the rise, so that the most is convex.
struct Carried {
    double log, by_rise;
};
Carried most_carried(double rise) {
    static const auto warmths = [] {
        std::vector<Carried> all;
        for (double t = ptc_ambient + 1; t <= ptc_knee + 20; t += 0.25)
            all.push_back({std::log(t - ptc_ambient) - ptc_jump * ptc_tripped(t), -(t - ptc_ambient) / 100});
        return all;
    }();
    Carried most{-HUGE_VAL, 0};
    for (const Carried& at : warmths)
        if (const double log = at.log + rise * at.by_rise; log > most.log) most = {log, at.by_rise};
    return most;
}
}  // namespace

WarmPoint PtcCurve::at(double celsius) const {
    const double t = std::clamp(celsius, -60.0, 400.0);
    const double e = ptc_tripped(t);
    const double ohms = cold * std::exp(rise * (t - ptc_ambient) / 100 + ptc_jump * e);
    const double bend = rise / 100 + ptc_jump * e * (1 - e) / ptc_width;
    return {ohms, t == celsius ? ohms * bend : 0};
}

Result<PtcCurve> ptc_curve(const Part& part) {
    PtcCurve curve;
    curve.cold = part.number("resistance");
    // tripped it stands a little beyond the knee
    curve.spread = part.number("trip_power") / (ptc_knee - ptc_ambient);
    const double wanted = part.number("hold") * part.number("trip");
    const double asked = std::log(wanted * curve.cold / curve.spread);
    Carried now = most_carried(0);
    if (!(now.log >= asked))
        return Error{Fault::design, "part " + part.designator,
                     "cold it takes more power at its trip current than it gives off when tripped",
                     "a tripped power of at least " +
                         format_quantity(part.number("trip_power") * std::exp(asked - now.log), Unit::watt) +
                         ", or a smaller resistance"};
    for (int k = 0; k < 60 && now.log > asked; ++k) {  // Newton's tangents of a convex curve do not overshoot
        const double step = (asked - now.log) / now.by_rise;
        if (!(step > 1e-12)) break;
        now = most_carried(curve.rise = std::min(curve.rise + step, 20.0));
    }
    return curve;
}

double leak_resistance(const Part& capacitor) {
    constexpr double holds = 1000;  // s
    const double own = capacitor.number("leakage");
    return own > 0 ? own : holds / capacitor.number("value");
}

double strip_rows(const Part& strip) {
    const double pieces = std::floor(strip.number("length") / strip.number("cut") + 1e-9);
    return strip.number("chains") * std::max(1.0, pieces);
}

double ldr_resistance(const Part& part, double lux) {
    const double dark = part.number("dark");
    if (!(lux > 0)) return dark;
    return std::min(dark, part.number("value") * std::pow(lux / 10, -part.number("gamma")));
}

double photocurrent(const Part& part, const Conditions& c) {
    return part.number("sensitivity") * c.lux + part.number("irradiance_sensitivity") * c.infrared +
           part.number("dark_current") * std::exp2((c.celsius - 25) / 10);
}

Result<MosfetFit> mosfet_fit(const Part& part) {
    const PointList* points = part.points("points");
    if (!points || points->empty()) {
        const double drive = part.number("gate_drive") - part.number("threshold");
        if (!(drive > 0))
            return Error{Fault::design, "part " + part.designator,
                         "its gate drive does not exceed its threshold",
                         "an on-resistance given above the threshold"};
        return MosfetFit{part.number("threshold"), 1 / (part.number("on_resistance") * drive)};
    }
    // √I = √(β/2n)·(V − Vth): a straight line
    double n = 0, sv = 0, sy = 0, svv = 0, svy = 0;
    for (const auto& [v, i] : *points) {
        const double y = std::sqrt(std::max(i, 0.0));
        n += 1, sv += v, sy += y, svv += v * v, svy += v * y;
    }
    const double det = n * svv - sv * sv;
    const double slope = det > 0 ? (n * svy - sv * sy) / det : 0;
    if (!(slope > 0))
        return Error{Fault::design, "part " + part.designator, "its points give no rising curve",
                     "two points or more such as [[2, 0.1], [3, 1.5]], gate V and drain A"};
    return MosfetFit{-(sy - slope * sv) / n / slope, 2 * mosfet_slope * slope * slope};
}

}  // namespace elkit
