#include "planning/grid.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "engine/operating_point.hpp"
#include "light/rating.hpp"
#include "planning/comparison.hpp"
#include "recipes/string_resistor.hpp"

namespace elkit {
namespace {

constexpr int most_of_each = 32;
constexpr double least_refresh = 100;  // Hz, below which a scanned grid is not calm

class GridPlanner {
  public:
    explicit GridPlanner(const GridQuestion& q) : q_(q), a_(q.array) {}

    Result<Grid> plan() {
        if (auto good = check(); !good) return good.error();
        grid_.question = q_;
        grid_.sharing = q_.resistor == GridResistor::row      ? q_.columns
                        : q_.resistor == GridResistor::column ? q_.rows
                                                              : 1;
        groups_ = q_.rows * q_.columns / grid_.sharing;
        auto source = source_model(a_.source, known_catalogue(), {});
        if (!source) return source.error();
        source_ = source.value();
        if (auto sized = size(); !sized) return sized.error();
        for (int lit = 1; lit <= grid_.sharing; ++lit)
            if (auto done = light_when(lit); !done) return done.error();
        if (auto done = extremes(); !done) return done.error();
        judge();
        schemes();
        return std::move(grid_);
    }

  private:
    Result<void> check() const {
        for (const auto& [words, lines] : {std::pair{"rows", q_.rows}, std::pair{"columns", q_.columns}})
            if (lines < 1 || lines > most_of_each)
                return Error{Fault::usage, words, fmt::format("{}", lines),
                             fmt::format("1 to {}", most_of_each)};
        if (!(q_.refresh >= 1 && q_.refresh <= 1e5))
            return Error{Fault::usage, "refresh", format_quantity(q_.refresh, Unit::hertz),
                         "1 Hz to 100 kHz"};
        return success();
    }

    Result<void> size() {
        const int at_once = q_.for_all ? grid_.sharing : 1;
        auto sized = size_string({.source = a_.source,
                                  .led = a_.led,
                                  .leds = 1,
                                  .led_current = a_.current,
                                  .current = at_once * a_.current,
                                  .total = at_once * a_.current * (q_.for_all ? groups_ : 1),
                                  .contact = 2 * a_.contact,
                                  .series = a_.series,
                                  .rounding = a_.rounding,
                                  .owned = a_.owned});
        if (!sized) return sized.error();
        ohms_ = sized.value().value;
        grid_.resistor = {"grid.resistor",      "resistor of the grid", ohms_, Unit::ohm, {}, {},
                          sized.value().working};
        grid_.resistor.working.push_back(q_.for_all && grid_.sharing > 1
                                             ? fmt::format("for {} lights lit on it at once", grid_.sharing)
                                             : std::string("for one light lit on it"));
        return success();
    }

    /// One resistor with `lit` of its lights; `loaded` resistors like it hang on the source.
    Result<OperatingPoint> solve(int lit, int loaded, int odd_bin = 0) const {
        Circuit circuit;
        Part feed{"PS1", "supply", {}, {{"+", "V"}, {"-", "GND"}}, {}};
        feed.params["voltage"] = source_.voltage;
        feed.params["resistance"] = std::max(1e-6, loaded * source_.lasting());
        feed.params["lead_length"] = 0.0;
        circuit.parts.push_back(std::move(feed));
        Part resistor{"R1", "resistor", {{"value", ohms_ + 2 * a_.contact}}, {{"a", "V"}, {"b", "ROW"}}, {}};
        circuit.parts.push_back(std::move(resistor));
        for (int k = 1; k <= lit; ++k) {
            Part led{fmt::format("L{}", k), "led", a_.led.params, {{"a", "ROW"}, {"k", "GND"}}, {}};
            if (odd_bin != 0) led.params["bin"] = std::string((k == 1) == (odd_bin < 0) ? "low" : "high");
            circuit.parts.push_back(std::move(led));
        }
        Conditions c;
        c.celsius = bench_warmth;
        return operating_point(circuit, known_catalogue(), c, {});
    }

    /// Bins for better or worse: the first of the lights low or high, the others the other way.
    Result<void> light_when(int lit) {
        const auto typical = solve(lit, 1);
        if (!typical) return typical.error();
        const double amps = typical.value().part("L1").current;
        double low = amps, high = amps;
        const bool fixed = a_.led.points("points") || a_.led.text("bin") != "typical";
        if (!fixed)
            for (const int odd : {-1, 1}) {
                const auto op = solve(lit, 1, odd);
                if (!op) return op.error();
                low = std::min(low, op.value().part("L1").current);
                high = std::max(high, op.value().part("L1").current);
            }
        Figure f{fmt::format("grid.lit{}", lit),
                 fmt::format("current of a light with {} lit on its resistor", lit),
                 amps,
                 Unit::ampere,
                 low,
                 high,
                 {fmt::format("the engine's answer for {} and {} LEDs side by side",
                              format_quantity(ohms_, Unit::ohm), lit)}};
        if (!fixed)
            f.working.push_back(
                fmt::format("one of a low bin among high ones, or the other way: {}", f.spread_text()));
        grid_.by_lit.push_back(f);
        grid_.seen.push_back(seen_share(fmt::format("grid.seen{}", lit),
                                        fmt::format("how bright a light looks with {} lit", lit),
                                        amps / grid_.by_lit.front().value));
        return success();
    }

    Result<void> extremes() {
        const auto all = solve(grid_.sharing, groups_);
        if (!all) return all.error();
        grid_.alone = grid_.by_lit.front();
        grid_.alone.id = "grid.alone", grid_.alone.label = "current of a light that is lit alone";
        const double each = all.value().part("L1").current;
        const int lights = q_.rows * q_.columns;
        grid_.all = {"grid.all",
                     "current of a light when all are lit",
                     each,
                     Unit::ampere,
                     {},
                     {},
                     {fmt::format("{} on each of {} resistors of {}, the source loaded by all", grid_.sharing,
                                  groups_, format_quantity(ohms_, Unit::ohm))}};
        grid_.total = {"grid.total",
                       "current of the whole grid",
                       each * lights,
                       Unit::ampere,
                       {},
                       {},
                       {fmt::format("{} × {}", lights, format_quantity(each, Unit::ampere))}};
        const double through = std::max(grid_.alone.value, each * grid_.sharing);
        grid_.rating = rating_for(through * through * ohms_);
        grid_.resistor.working.push_back(fmt::format(
            "up to {} in it: {}", format_quantity(through * through * ohms_, Unit::watt),
            std::isfinite(grid_.rating) ? format_quantity(grid_.rating, Unit::watt) : "no common rating"));
        return success();
    }

    double limit() const { return a_.led.number("max_current"); }
    double bears(double duty) const {
        return duty >= 1 ? limit() : std::min(pulse_share * limit(), limit() / duty);
    }

    void judge() {
        auto& remarks = grid_.remarks;
        if (*grid_.alone.high > 1.0001 * limit())
            remarks.push_back(fmt::format("a light alone takes up to {}, it bears {}",
                                          format_quantity(*grid_.alone.high, Unit::ampere),
                                          format_quantity(limit(), Unit::ampere)));
        if (const double most = most_current(a_.source); most > 0 && grid_.total.value > most)
            remarks.push_back(fmt::format("all lit take {}, the source gives {} well", grid_.total.text(),
                                          format_quantity(most, Unit::ampere)));
        if (grid_.sharing > 1)
            remarks.push_back(fmt::format("{} lit on one resistor look {} as bright as one alone",
                                          grid_.sharing, grid_.seen.back().text(2)));
        if (grid_.sharing > 1 && grid_.by_lit.back().low && *grid_.by_lit.back().low > 0)
            if (const double ratio = *grid_.by_lit.back().high / *grid_.by_lit.back().low; ratio > 1.5)
                remarks.push_back(fmt::format(
                    "where bins differ {}: take lights of one bin",
                    ratio > 50 ? "one takes nearly all" : fmt::format("they share {:.1f} to 1", ratio)));
    }

    GridScheme scheme(std::string id, std::string name, int lines, double duty, int at_once,
                      int resistors) const {
        GridScheme s{std::move(id), std::move(name), lines, resistors, duty, {}, {}, {}, {}, {}};
        const double wanted = a_.current / duty;
        s.peak = {"grid." + s.id + ".peak",
                  "peak current, " + s.name,
                  wanted,
                  Unit::ampere,
                  {},
                  {},
                  {fmt::format("{} on average / {:.3g} of the time",
                               format_quantity(a_.current, Unit::ampere), duty)}};
        s.allowed = {"grid." + s.id + ".allowed",
                     "what an LED bears, " + s.name,
                     bears(duty),
                     Unit::ampere,
                     {},
                     {},
                     {fmt::format("least of {2:.3g} × {0} in pulses and {0} / {1:.3g}",
                                  format_quantity(limit(), Unit::ampere), duty, pulse_share)}};
        const double held = std::min(wanted, s.allowed.value);
        s.seen = seen_share("grid." + s.id + ".seen", "how bright it looks, " + s.name, held / wanted);
        s.line = {"grid." + s.id + ".line",
                  "current of the busiest line, " + s.name,
                  at_once * held,
                  Unit::ampere,
                  {},
                  {},
                  {fmt::format("{} at once × {}", at_once, format_quantity(held, Unit::ampere))}};
        std::vector<std::string> minded;
        if (held < wanted)
            minded.push_back(fmt::format("held at {}: looks {}", s.allowed.text(), s.seen.text(2)));
        if (s.line.value > q_.pin_limit)
            minded.push_back(fmt::format("transistors: {} in a line", s.line.text()));
        for (const auto& words : minded) s.remark += (s.remark.empty() ? "" : "; ") + words;
        return s;
    }

    void schemes() {
        const int lights = q_.rows * q_.columns;
        grid_.schemes.push_back(scheme("direct", "a line each", lights, 1, 1, lights));
        const int scanned = std::min(q_.rows, q_.columns), across = std::max(q_.rows, q_.columns);
        grid_.schemes.push_back(
            scheme("scanned", "scanned", scanned + across, 1.0 / scanned, across, across));
        int pins = 2;
        while (pins * (pins - 1) < lights) ++pins;
        grid_.schemes.push_back(scheme("pairs", "pin pairs", pins, 1.0 / pins, pins - 1, pins));
        grid_.line_rate = q_.refresh * scanned;
        grid_.flicker = scanned == 1 ? Flicker::steady : judge_flicker(q_.refresh, 100);
        if (scanned > 1 && q_.refresh < least_refresh)
            grid_.schemes[1].remark += fmt::format(
                "{}refresh of {} is not calm: {} or more", grid_.schemes[1].remark.empty() ? "" : "; ",
                format_quantity(q_.refresh, Unit::hertz), format_quantity(least_refresh, Unit::hertz));
    }

    const GridQuestion& q_;
    const ArrayQuestion& a_;
    Grid grid_;
    Thevenin source_;
    double ohms_ = 0;
    int groups_ = 1;
};

/// The net beyond a resistor that only joins it to this one; the net itself otherwise.
std::string beyond_resistor(const Circuit& circuit, const std::string& net, bool& own) {
    const Part* only = nullptr;
    int pins = 0;
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins)
            if (pin.net == net) ++pins, only = is(part, Role::resistor) ? &part : only;
    if (pins != 2 || !only) return net;
    own = true;
    return only->net("a") == net ? only->net("b") : only->net("a");
}

/// True if a resistor hangs on each of these nets.
bool all_behind_resistors(const Circuit& circuit, const std::set<std::string>& nets) {
    return std::all_of(nets.begin(), nets.end(), [&](const std::string& net) {
        return std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& part) {
            return is(part, Role::resistor) && (part.net("a") == net || part.net("b") == net);
        });
    });
}

}  // namespace

Result<Grid> plan_grid(const GridQuestion& question) { return GridPlanner(question).plan(); }

std::optional<GridShape> grid_of(const Circuit& circuit) {
    std::set<std::string> rows, columns;
    std::set<std::pair<std::string, std::string>> crossings;
    bool own = false;
    for (const Part& part : circuit.parts) {
        if (!is(part, Role::diode_light) || part.kind != "led") continue;
        const auto row = beyond_resistor(circuit, part.net("a"), own);
        const auto column = beyond_resistor(circuit, part.net("k"), own);
        rows.insert(row), columns.insert(column);
        if (!crossings.emplace(row, column).second) return std::nullopt;
    }
    if (rows.size() < 2 || columns.size() < 2 || crossings.size() != rows.size() * columns.size())
        return std::nullopt;
    GridShape shape{static_cast<int>(rows.size()), static_cast<int>(columns.size()), GridResistor::light};
    if (!own && all_behind_resistors(circuit, rows)) shape.resistor = GridResistor::row;
    if (!own && all_behind_resistors(circuit, columns)) shape.resistor = GridResistor::column;
    return shape;
}

Digest GridQuery::key() const {
    Digester d;
    d << array.key() << rows.has_value() << rows.value_or(0) << columns.has_value() << columns.value_or(0)
      << resistor.has_value() << static_cast<int>(resistor.value_or(GridResistor::row)) << for_all << refresh;
    return d.digest();
}

Result<Grid> GridQuery::compute(const Ask& ask) const {
    auto asked = asked_array(ask, array);
    if (!asked) return asked.error();
    GridQuestion q;
    q.array = std::move(asked).value();
    if (!array.wishes.count && !q.array.at.empty()) {  // wherever they hang
        q.array.count = 0;
        for (const Part& part : array.design.circuit.parts)
            q.array.count += is(part, Role::diode_light) && part.text("type") == q.array.led.text("type");
    }
    const auto shape = grid_of(array.design.circuit);
    if (shape) {
        q.rows = shape->rows, q.columns = shape->columns, q.resistor = shape->resistor;
    } else {  // as near to a square as the number of lights allows
        q.rows = 1;
        for (int r = 2; r * r <= q.array.count; ++r)
            if (q.array.count % r == 0) q.rows = r;
        q.columns = q.array.count / q.rows;
        if (q.rows == 1 && q.array.count > 3) {
            q.rows = static_cast<int>(std::sqrt(q.array.count));
            q.columns = (q.array.count + q.rows - 1) / q.rows;
        }
        q.rows = std::clamp(q.rows, 1, most_of_each), q.columns = std::clamp(q.columns, 1, most_of_each);
    }
    if (rows) q.rows = *rows;
    if (columns) q.columns = *columns;
    if (resistor) q.resistor = *resistor;
    q.for_all = for_all, q.refresh = refresh;
    return plan_grid(q);
}

}  // namespace elkit
