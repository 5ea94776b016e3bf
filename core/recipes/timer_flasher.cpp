#include "recipes/timer_flasher.hpp"

#include <fmt/format.h>

#include <cmath>

#include "recipes/timer_parts.hpp"
#include "recipes/timer_times.hpp"

namespace elkit {
namespace {

constexpr std::size_t tried = 5;  // values around each exact one
constexpr double even = 0.02;     // shares this near to a half are a half
constexpr const char* steering = "signal";

std::string seconds(double s) { return format_quantity(s, Unit::second); }
std::string ohms(double r) { return format_quantity(r, Unit::ohm); }
std::string farads(double c) { return format_quantity(c, Unit::farad); }

/// The share of the time for which the output is high.
double high_share(const Goals& goals) {
    const double lit = goals.number("share") / 100;
    return goals.text("drives") == "plus" ? 1 - lit : lit;
}

/// What times it: how many seconds two resistors give, and what they are called.
class Astable {
  public:
    Astable(const Goals& goals, const TimerChip& chip)
        : way_(goals.text("way")),
          chip_(chip),
          capacitor_(timing_capacitor(goals.number("capacitor"))),
          swing_(chip.swing(goals)) {
        auto law = junction_model({"D1", "diode", {{"type", std::string(steering)}}, {}, {}},
                                  known_catalogue(), 21, 0);
        if (law) diode_ = law.value();
    }
    bool one_resistor() const { return way_ == "output"; }

    Result<HighLow> times(double a, double b) const {
        if (way_ == "plain")
            return plain_times(a, b + chip_.of("discharge_resistance"), capacitor_, chip_.volts());
        if (way_ == "output") return output_times(a, capacitor_, chip_.volts(), swing_.first, swing_.second);
        return steered_times(a, b + chip_.of("discharge_resistance"), capacitor_, chip_.volts(), diode_);
    }

    /// The two resistors for a cycle, exact. Design error where there are none.
    Result<std::pair<double, double>> exact(const HighLow& wanted) const {
        const double ln2_c = std::log(2.0) * capacitor_.farads;
        std::pair<double, double> r{wanted.high / ln2_c, wanted.low / ln2_c};
        if (way_ == "plain") r.first -= r.second;
        if (way_ == "output") r = {wanted.period() / 2 / ln2_c, 0};
        for (int round = 0; round < 60; ++round) {  // half of the way each time: a leak bends it
            auto now = times(r.first, r.second);
            if (!now) return now.error();
            const HighLow& got = now.value();
            const auto share = [](double want, double is) {
                return std::isfinite(is) ? std::sqrt(want / is) : 0.5;
            };
            if (way_ == "output") {
                r.first *= share(wanted.period(), got.period());
                continue;
            }
            const double charge = way_ == "plain" ? r.first + r.second : r.first;
            r.second *= share(wanted.low, got.low);
            r.first = charge * share(wanted.high, got.high) - (way_ == "plain" ? r.second : 0);
        }
        if (auto last = times(r.first, r.second); last && std::isfinite(last.value().period())) return r;
        return Error{Fault::design, "capacitor", "its leak takes what the resistor gives: it never gets full",
                     "a quicker rate"};
    }

  private:
    std::string way_;
    const TimerChip& chip_;
    TimingCapacitor capacitor_;
    std::pair<double, double> swing_;  ///< V of the output
    Junction diode_;
};

/// The pair of values that exist and come nearest to a cycle; the rate counts twice.
Result<std::pair<double, double>> nearest_pair(const Astable& astable, std::pair<double, double> exact,
                                               const HighLow& wanted, const Environment& environment) {
    const auto first = values_near(exact.first, environment.owned, Series::e24, tried);
    const auto second = astable.one_resistor()
                            ? std::vector{0.0}
                            : values_near(exact.second, environment.owned, Series::e24, tried);
    std::pair<double, double> best;
    double least = 1e300;
    for (const double a : first)
        for (const double b : second) {
            auto got = astable.times(a, b);
            if (!got) continue;
            const double rate = std::log(got.value().period() / wanted.period()),
                         share = std::log(got.value().high / wanted.high) -
                                 std::log(got.value().low / wanted.low);
            const double off = astable.one_resistor() ? std::abs(rate) : 2 * std::abs(rate) + std::abs(share);
            if (off < least) least = off, best = {a, b};
        }
    if (least > 0.6)
        return Error{Fault::design, "resistors", "the drawer has none near " + ohms(exact.first),
                     "values within a fifth"};
    return best;
}

Result<void> check_share(const Goals& goals, double high) {
    const std::string way = goals.text("way");
    if (way == "plain" && high < 0.5 + even)
        return Error{
            Fault::design, "way",
            fmt::format("plain, the output is high for more than half of the time, not {:.0f} %", 100 * high),
            "two diodes, or the lights at the other side of the output"};
    if (way == "output" && std::abs(high - 0.5) > even)
        return Error{Fault::design, "way",
                     fmt::format("from its output it is on for half of the time, not {:.0f} %", 100 * high),
                     "two diodes, or 50 %"};
    return success();
}

void place_timing(Sketch& s, const Goals& goals, const Feed& feed, const TimerChip& chip,
                  const std::pair<double, double>& r, const std::vector<std::string>& working) {
    const std::string way = goals.text("way");
    const std::string run = goals.text("runs") == "joined" ? "RUN" : "";
    const auto steer = [&](const char* name, const char* a, const char* k) {
        s.add({name, "diode", {{"type", std::string(steering)}}, {{"a", a}, {"k", k}}, {}});
    };
    add_timer(s, chip, feed, {"TIMING", "TIMING", way == "output" ? "" : "DISCHARGE", run});
    if (way == "output") {
        s.resistor("Rtiming", r.first, "OUT", "TIMING");
        s.chose("Rtiming", "timing resistor", r.first, Unit::ohm, working);
    } else {
        s.resistor("Rcharge", r.first, feed.net, "DISCHARGE");
        s.chose("Rcharge", "charging resistor", r.first, Unit::ohm, working);
        if (way == "steered") steer("Dcharge", "DISCHARGE", "TIMING"), steer("Ddischarge", "TIMING", "BACK");
        s.resistor("Rdischarge", r.second, way == "steered" ? "BACK" : "TIMING", "DISCHARGE");
        s.chose("Rdischarge", "discharging resistor", r.second, Unit::ohm, working);
    }
    s.capacitor("Ctiming", goals.number("capacitor"), "TIMING", "GND");
}

std::string formula(const std::string& way) {
    if (way == "plain") return "high = ln 2 (Ra + Rb) C, low = ln 2 Rb C";
    if (way == "output")
        return "each half: R C ln 2 for an output that reaches both rails; here with its own two voltages";
    return "high and low: ∫ C dv/i(v) through a resistor and the steering diode's own curve, from 1/3 to 2/3 "
           "of the supply; ln 2 R C would hold for no drop";
}

/// `sag`: the part of the supply that the lights take away while they are lit; charging and thresholds do not
/// move alike then.
Figure rate_figure(const HighLow& got, double farads_, double sag, const std::vector<std::string>& working) {
    const double rate = 1 / got.period(), r = usual_tolerance("resistor"), c = capacitor_tolerance(farads_);
    Figure f{"recipe.rate",
             "rate",
             rate,
             Unit::hertz,
             rate * (1 - sag) / ((1 + r) * (1 + c)),
             rate * (1 + sag) / ((1 - r) * (1 - c)),
             working};
    f.working.push_back(fmt::format("spread: capacitor ±{:.0f} %, resistors ±{:.0f} %", 100 * c, 100 * r));
    if (sag > 0.01)
        f.working.push_back(
            fmt::format("the lights pull the supply down by {:.0f} %: as much again", 100 * sag));
    return f;
}

Result<Sized> size_flasher(const Goals& goals, const Environment& environment) {
    auto begun = begin_timer(goals, environment);
    if (!begun) return begun.error();
    auto& [s, feed, chip] = begun.value();
    const double high = high_share(goals), period = 1 / goals.number("rate"), c = goals.number("capacitor");
    if (auto good = check_share(goals, high); !good) return good.error();
    const HighLow wanted{high * period, (1 - high) * period};
    const Astable astable(goals, chip);
    auto exact = astable.exact(wanted);
    if (!exact) return exact.error();
    const auto [a, b] = exact.value();
    if (auto good = check_timing("the charging resistor", a, c); !good) return good.error();
    if (!astable.one_resistor())
        if (auto good = check_timing("the discharging resistor", b, c); !good) return good.error();
    auto r = nearest_pair(astable, exact.value(), wanted, environment);
    if (!r) return r.error();
    auto times = astable.times(r.value().first, r.value().second);
    if (!times) return times.error();
    const HighLow got = times.value();
    if (astable.one_resistor() && std::abs(got.high / got.period() - high) > 2.5 * even)
        return Error{Fault::design, "way",
                     fmt::format("its load and its drop shift the output: high for {:.0f} % of the time",
                                 100 * got.high / got.period()),
                     "the CMOS timer with its lights on a transistor, or two diodes"};
    const std::vector<std::string> working{
        formula(goals.text("way")),
        fmt::format("wanted {} high and {} low, with {}: exactly {}{}", seconds(wanted.high),
                    seconds(wanted.low), farads(c), ohms(a), b > 0 ? " and " + ohms(b) : ""),
        fmt::format("with {}{}: {} high, {} low, {} a second", ohms(r.value().first),
                    b > 0 ? " and " + ohms(r.value().second) : "", seconds(got.high), seconds(got.low),
                    format_quantity(1 / got.period(), Unit::none))};
    place_timing(s, goals, feed, chip, r.value(), working);
    const bool lit = goals.text("drives") != "nothing";
    const double sag = lit ? lights_of(goals).total() * chip.feed.lasting() / chip.volts() : 0;
    const Figure rate = rate_figure(got, c, sag, working);
    s.expect({"rate", "net:OUT", goals.number("rate"), *rate.low, *rate.high, "frequency", Unit::hertz});
    const double share = got.high / got.period();
    const double later = 30 * sag;  // % that the thresholds' jump with the supply adds, whole for all of it
    s.expect({"output high for", "net:OUT", 100 * high, 100 * std::min(high, share) - 3 - later,
              100 * std::max(high, share) + 3 + later, "duty", Unit::percent});
    if (auto added = add_driven_lights(s, goals, chip, feed); !added) return added.error();
    const double through = astable.one_resistor() ? 0 : chip.volts() / r.value().first * (1 - share);
    s.result(rate);
    s.result(own_current(chip, through + c * chip.volts() / 3 / got.period(),
                         "through the timing parts on average"));
    return s.done();
}

/// Ohms that a capacitor leads to, of the larger resistor.
double larger_resistor(const Goals& goals, double farads_) {
    const double high = high_share(goals), period = 1 / goals.number("rate"),
                 all = period / (std::log(2.0) * farads_);
    if (goals.text("way") == "plain") return all * std::max(2 * high - 1, 1 - high);
    return goals.text("way") == "output" ? all / 2 : all * std::max(high, 1 - high);
}

/// The chip that takes less, lights where the output can feed them, the way that gives the share with the
/// fewest parts, then a capacitor that leads to resistors which no leak disturbs.
Goals complete_flasher(Goals g, const std::set<std::string>& said, const Environment& environment) {
    const auto take = [&](const char* key, const char* value) {
        if (!said.contains(key)) g.values[key] = std::string(value);
    };
    complete_drive(g, said, fresh_volts(g, environment));
    const double lit = g.number("share") / 100;
    const bool direct = g.text("drives") == "output";
    if (!said.contains("way")) {
        const bool loaded = direct || g.text("drives") == "plus";  // a light on the output shifts its times
        if (std::abs(lit - 0.5) <= even)
            take("way", g.text("chip") == "timer-cmos" && !loaded ? "output" : "steered");
        else if (lit > 0.5 ? g.text("drives") != "plus" : direct && !said.contains("drives"))
            take("way", "plain"), lit < 0.5 ? take("drives", "plus") : void();
        else
            take("way", lit < 0.5 && g.text("drives") == "plus" ? "plain" : "steered");
    }
    if (!said.contains("capacitor"))
        g.values["capacitor"] =
            suitable_capacitor(environment, [&](double c) { return larger_resistor(g, c); });
    return g;
}

}  // namespace

Recipe timer_flasher() {
    Recipe r = declared_recipe("timer-flasher").value();
    r.size = size_flasher, r.complete = complete_flasher, r.variants = capacitor_variants;
    return r;
}

}  // namespace elkit
