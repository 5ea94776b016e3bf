#include "planning/arrays.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "light/judgement.hpp"
#include "planning/array_strings.hpp"
#include "planning/comparison.hpp"
#include "quantity/brightness.hpp"
#include "recipes/string_resistor.hpp"

namespace elkit {
namespace {

constexpr double nearest = 2.0 / 3;  // of the wanted current, or as much above, from the values there are
constexpr double least_lit = 0.05;   // of the wanted current, without a resistor
constexpr int most_lights = 1000;

/// Strings that are alike, as one law: LEDs and resistances in a row are a junction with all their slopes and
/// resistances.
struct StringLaw {
    JunctionLaw law;
    double strings;
};

StringLaw string_law(const Junction& led, int leds, double resistance, int strings) {
    return {JunctionLaw({led.saturation, leds * led.slope, leds * led.resistance + resistance}),
            static_cast<double>(strings)};
}

/// Volts where strings and source meet: U = V − R Σ n I(U). Each I(U) rises and is convex, so that Newton's
/// steps from U = V stay on one side of the answer.
double meeting_voltage(const Thevenin& source, const std::vector<StringLaw>& strings) {
    double at = source.voltage;
    for (int step = 0; step < 60; ++step) {
        double amps = 0, slope = 0;
        for (const StringLaw& s : strings) {
            const Junction::Point p = s.law.at(at);
            amps += s.strings * p.current, slope += s.strings * p.conductance;
        }
        const double off = at - source.voltage + source.resistance * amps;
        const double next = at - off / (1 + source.resistance * slope);
        if (std::abs(next - at) <= 1e-13 * source.voltage) return next;
        at = next;
    }
    return at;
}

/// The same on a feed that is a row of lines: the meeting on the line about the current that flows there.
double meeting_voltage(const LightsFeed& feed, double guess, const std::vector<StringLaw>& strings) {
    const auto taken = [&](double volts) {
        double amps = 0;
        for (const StringLaw& s : strings) amps += s.strings * std::max(0.0, s.law.at(volts).current);
        return amps;
    };
    Thevenin line = feed.at(guess);
    for (int step = 0; step < 8; ++step) {
        const double at = meeting_voltage(line, strings);
        const Thevenin next = feed.at(taken(at));
        if (next == line) return at;
        line = next;
    }
    double low = 0,
           high = std::min(feed.highest(), 1e6 * guess);  // where it bends: less volts for more current
    for (int step = 0; step < 60; ++step) {
        const double amps = (low + high) / 2;
        (taken(feed.volts(amps)) > amps ? low : high) = amps;
    }
    return feed.volts((low + high) / 2);
}

std::string more_than_there_is(double total, const LightsFeed& feed) {
    return fmt::format("{} in all, of which {} can be had where they hang",
                       format_quantity(total, Unit::ampere), format_quantity(feed.highest(), Unit::ampere));
}

class ArrayMaker {
  public:
    explicit ArrayMaker(const ArrayQuestion& question) : q_(question) {}

    Result<void> prepare() {
        if (q_.count < 1 || q_.count > most_lights)
            return Error{Fault::usage, "lights", fmt::format("{}", q_.count),
                         fmt::format("1 to {}", most_lights)};
        if (!(q_.current > 0 && q_.current <= 10))
            return Error{Fault::usage, "current", format_quantity(q_.current, Unit::ampere),
                         "more than 0, 10 A at most"};
        const double warmths[] = {q_.usual, q_.cold, q_.hot};
        for (std::size_t t = 0; t < 3; ++t)
            for (std::size_t b = 0; b < 3; ++b) {
                auto led = junction_model(q_.led, known_catalogue(), warmths[t], static_cast<double>(b) - 1);
                if (!led) return led.error();
                leds_[t][b] = led.value();
            }
        const auto cell = cell_of(q_.source, known_catalogue());
        limits_itself_ = cell && cell->limits_itself;
        auto feeds =
            q_.feeds ? Result<LightsFeeds>(*q_.feeds) : feeds_of(q_.source, q_.contact, q_.cold, q_.hot);
        if (!feeds) return feeds.error();
        feeds_ = std::move(feeds).value();
        return success();
    }

    Arrangement make(int per_string) const {
        Arrangement a = split_into(q_.count, per_string);
        const double total = q_.current * a.resistors();
        const auto feed = q_.feeds && !q_.by_recipe ? std::optional(feeds_.usual.at(total)) : std::nullopt;
        if (feed && total >= feeds_.usual.highest()) {
            a.reason = more_than_there_is(total, feeds_.usual);
            return a;
        }
        std::vector<std::vector<std::string>> workings;
        std::string bare;  // why a string has no resistor
        for (AlikeStringsOfArray& s : a.strings) {
            const StringQuestion wanted{.source = q_.source,
                                        .led = q_.led,
                                        .leds = s.leds,
                                        .led_current = q_.current,
                                        .current = q_.current,
                                        .total = total,
                                        .contact = q_.contact,
                                        .series = q_.series,
                                        .rounding = q_.rounding,
                                        .owned = q_.owned,
                                        .feed = feed,
                                        .celsius = q_.usual};
            auto answer = size_string(wanted);
            if (!answer && limits_itself_ && answer.error().fault == Fault::design && q_.owned.empty()) {
                workings.push_back(
                    {"no resistor: " + answer.error().found, "the cell's own resistance limits"});
                bare = answer.error().found;
                continue;
            }
            if (!answer) {
                a.reason = answer.error().found +
                           (answer.error().expected.empty() ? "" : "; " + answer.error().expected);
                return a;
            }
            s.resistance = answer.value().value;
            workings.push_back(answer.value().working);
        }
        measure(a, workings);
        const bool dark = std::any_of(
            a.strings.begin(), a.strings.end(),
            [this](const AlikeStringsOfArray& s) { return s.current.value < least_lit * q_.current; });
        if (!bare.empty() && dark) {
            a.reason = bare;
            return a;
        }
        judge(a);
        if (!bare.empty()) a.reason = "no resistor, the cell limits: " + a.reason;
        return a;
    }

  private:
    struct Corner {
        std::vector<double> currents;
        double total = 0, led_power = 0;  // A, W in the lights
        double drawn = 0;                 // A out of the source
    };

    Corner corner(const Arrangement& a, const LightsFeed& feed, const Junction& led, double tolerance) const {
        std::vector<StringLaw> laws;
        for (const AlikeStringsOfArray& s : a.strings)
            laws.push_back(string_law(led, s.leds, s.resistance * (1 + tolerance), s.strings));
        const double at = meeting_voltage(feed, q_.current, laws);
        Corner c;
        for (std::size_t k = 0; k < laws.size(); ++k) {
            const double amps = std::max(0.0, laws[k].law.at(at).current);
            c.currents.push_back(amps);
            c.total += laws[k].strings * amps;
            c.led_power += laws[k].strings * amps * a.strings[k].leds * led.voltage_at(amps);
        }
        c.drawn = feed.drawn(c.total);
        return c;
    }

    void measure(Arrangement& a, const std::vector<std::vector<std::string>>& workings) const {
        const Corner typical = corner(a, feeds_.usual, leds_[0][1], 0);
        std::vector<Corner> corners;
        for (const auto& [feed, leds] :
             {std::pair(&feeds_.cold, &leds_[1]), std::pair(&feeds_.hot, &leds_[2])})
            for (const Junction* led : {&leds->front(), &leds->back()})
                for (const double sign : {-1.0, 1.0})
                    corners.push_back(corner(a, *feed, *led, sign * q_.tolerance));
        const std::string spread = fmt::format("over LED bins, resistors of {} %, {} to {} °C",
                                               std::lround(100 * q_.tolerance), q_.cold, q_.hot);
        for (std::size_t k = 0; k < a.strings.size(); ++k) {
            double low = typical.currents[k], high = low;
            for (const Corner& c : corners)
                low = std::min(low, c.currents[k]), high = std::max(high, c.currents[k]);
            Figure current{{}, {}, typical.currents[k], Unit::ampere, low, high, workings[k]};
            current.working.push_back(
                fmt::format("{}; {} {}", current.text(), current.spread_text(), spread));
            describe(a, a.strings[k], std::move(current));
        }
        double least = typical.drawn, most = typical.drawn;
        for (const Corner& c : corners) least = std::min(least, c.drawn), most = std::max(most, c.drawn);
        const std::string id = fmt::format("array.{}.", a.per_string);
        a.total = {id + "total", "current out of the source", typical.drawn, Unit::ampere, least, most, {}};
        for (const AlikeStringsOfArray& s : a.strings)
            a.total.working.push_back(fmt::format("{} × {}", s.strings, s.current.text()));
        if (std::abs(typical.drawn - typical.total) > 0.005 * typical.total)
            a.total.working.push_back(
                fmt::format("{} in the lights; {} out of the source, with all that stands between",
                            format_quantity(typical.total, Unit::ampere), a.total.text()));
        const double drawn = feeds_.usual.source_volts() * typical.drawn;
        a.efficiency = {
            id + "efficiency",
            "share of the source's power that reaches the LEDs",
            drawn > 0 ? 100 * typical.led_power / drawn : 0,
            Unit::percent,
            {},
            {},
            {fmt::format("{} in the LEDs of {} × {} = {}", format_quantity(typical.led_power, Unit::watt),
                         format_quantity(feeds_.usual.source_volts(), Unit::volt), a.total.text(),
                         format_quantity(drawn, Unit::watt))}};
        for (const auto& [feed, figure, words] :
             {std::tuple(&feeds_.half, &a.half, "half"), std::tuple(&feeds_.flat, &a.flat, "a tenth")}) {
            const double share = light(a, corner(a, *feed, leds_[0][1], 0)) / light(a, typical);
            *figure = seen_share(id + words,
                                 fmt::format("light at {} of the charge, as the eye sees it", words), share);
        }
    }

    void describe(Arrangement& a, AlikeStringsOfArray& s, Figure current) const {
        const std::string id = fmt::format("array.{}.{}.", a.per_string, s.leds),
                          of = fmt::format("strings of {}", s.leds);
        const double high = *current.high, worst = high * high * s.resistance * (1 + q_.tolerance);
        s.current = std::move(current);
        s.current.id = id + "current", s.current.label = "current of " + of;
        s.spread = spread_ratio(s.current);
        s.headroom = s.current.value * s.resistance;
        s.power = {id + "power",
                   "heat in each resistor of " + of,
                   s.headroom * s.current.value,
                   Unit::watt,
                   {},
                   worst,
                   {fmt::format("P = I² R; {} at the worst corner", format_quantity(worst, Unit::watt))}};
        s.rating = rating_for(worst);
        s.resistor = {id + "resistor",  "resistor of " + of, s.resistance, Unit::ohm, {}, {},
                      s.current.working};
        s.resistor.working.push_back(s.power.working.front());
        s.resistor.working.push_back(std::isfinite(s.rating)
                                         ? "twice that asks for " + rating_text(s.rating)
                                         : std::string("no resistor of the list stands twice that"));
        const std::string resistor =
            s.resistance > 0 ? fmt::format("{}{} → ", format_quantity(s.resistance, Unit::ohm),
                                           std::isfinite(s.rating) ? " " + rating_text(s.rating) : "")
                             : std::string();
        a.wiring.push_back(fmt::format("{}plus → {}{} LED{} → minus",
                                       s.strings > 1 ? fmt::format("{} times: ", s.strings) : "", resistor,
                                       s.leds, s.leds > 1 ? "s" : ""));
    }

    static double light(const Arrangement& a, const Corner& c) {
        double sum = 0;
        for (std::size_t k = 0; k < a.strings.size(); ++k)
            sum += a.strings[k].strings * a.strings[k].leds * c.currents[k];
        return sum;
    }

    void judge(Arrangement& a) const {
        a.reason = doubt(a);
        if (!a.reason.empty()) {
            a.verdict = Arrangement::Verdict::doubtful;
            return;
        }
        a.verdict = Arrangement::Verdict::sound;
        a.reason =
            fmt::format("{} of the power reaches the LEDs, {} in every copy", a.efficiency.text(2), range(a));
    }

    static std::string range(const Arrangement& a) {
        double low = *a.strings.front().current.low, high = *a.strings.front().current.high;
        for (const AlikeStringsOfArray& s : a.strings)
            low = std::min(low, *s.current.low), high = std::max(high, *s.current.high);
        return format_range(low, high, high, Unit::ampere) + " " + split_quantity(high, Unit::ampere).unit;
    }

    /// Why it is not sound; empty if it is.
    std::string doubt(const Arrangement& a) const {
        const double limit = q_.led.number("max_current"), gives = most_current(q_.source);
        if (gives > 0 && a.total.value > gives * 1.0001)
            return fmt::format("asks for {}, the source gives {}", a.total.text(),
                               format_quantity(gives, Unit::ampere));
        double lights = 0;  // A in all
        for (const AlikeStringsOfArray& s : a.strings) lights += s.strings * s.current.value;
        for (const AlikeStringsOfArray& s : a.strings) {
            if (limit > 0 && *s.current.high > limit * 1.0001)
                return fmt::format("up to {} in an LED that bears {}",
                                   format_quantity(*s.current.high, Unit::ampere),
                                   format_quantity(limit, Unit::ampere));
            if (!std::isfinite(s.rating))
                return fmt::format("up to {} of heat in a resistor",
                                   format_quantity(*s.power.high, Unit::watt));
            if (s.current.value < nearest * q_.current || s.current.value > q_.current / nearest)
                return fmt::format("{} instead of {}", s.current.text(),
                                   format_quantity(q_.current, Unit::ampere));
            const double supply = feeds_.usual.volts(lights);
            if (s.resistance > 0 && s.headroom < enough_headroom(supply) && s.spread.value >= spread_by_bins)
                return fmt::format("{}: the resistor has only {} of {}, so LED bins and warmth decide",
                                   range(a), format_quantity(s.headroom, Unit::volt),
                                   format_quantity(supply, Unit::volt));
        }
        if (a.half.value < 100 * perceived(least_at_half))
            return fmt::format("{} of the light is left at half the charge", a.half.text(2));
        return {};
    }

    const ArrayQuestion& q_;
    LightsFeeds feeds_;
    std::array<std::array<Junction, 3>, 3> leds_;  // usual, cold, hot; by bin
    bool limits_itself_ = false;
};

double widest_spread(const Arrangement& a) {
    double most = 0;
    for (const AlikeStringsOfArray& s : a.strings) most = std::max(most, s.spread.value);
    return most;
}

bool before(const Arrangement& a, const Arrangement& b) {
    if (a.verdict != b.verdict) return a.verdict < b.verdict;
    switch (a.verdict) {
        case Arrangement::Verdict::sound: {
            const double x = std::round(10 * a.efficiency.value), y = std::round(10 * b.efficiency.value);
            return x != y ? x > y : a.resistors() < b.resistors();
        }
        case Arrangement::Verdict::doubtful:
            return widest_spread(a) < widest_spread(b);
        case Arrangement::Verdict::impossible:
            break;
    }
    return a.per_string < b.per_string;
}

}  // namespace

std::string Arrangement::name() const {
    std::vector<std::string> all;
    for (const AlikeStringsOfArray& s : strings) all.push_back(fmt::format("{} × {}", s.strings, s.leds));
    return fmt::format("{}", fmt::join(all, " + "));
}

int Arrangement::resistors() const {
    int sum = 0;
    for (const AlikeStringsOfArray& s : strings) sum += s.strings;
    return sum;
}

Result<std::vector<Arrangement>> arrangements(const ArrayQuestion& question) {
    ArrayMaker maker(question);
    if (auto ready = maker.prepare(); !ready) return ready.error();
    std::vector<Arrangement> all;
    for (int per_string = 1; per_string <= question.count; ++per_string)
        all.push_back(maker.make(per_string));
    std::stable_sort(all.begin(), all.end(), before);
    return all;
}

}  // namespace elkit
