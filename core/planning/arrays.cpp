#include "planning/arrays.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "light/brightness.hpp"
#include "recipes/string_resistor.hpp"

namespace elkit {
namespace {

// Of the wanted current, at any corner of bins, tolerances and warmth together. About what a resistor with 15
// % of the supply leaves, the usual rule of thumb; to the eye the dimmest copy still has 73 % of the light.
constexpr double least_share = 0.45, most_share = 1.6;
constexpr double least_lit = 0.05;    // of the wanted current, without a resistor
constexpr double least_at_half = 40;  // % of the light at half the charge, to the eye
constexpr double usual_warmth = 21;   // °C
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
double meeting_voltage(double voltage, double resistance, const std::vector<StringLaw>& strings) {
    double at = voltage;
    for (int step = 0; step < 60; ++step) {
        double amps = 0, slope = 0;
        for (const StringLaw& s : strings) {
            const Junction::Point p = s.law.at(at);
            amps += s.strings * p.current, slope += s.strings * p.conductance;
        }
        const double off = at - voltage + resistance * amps;
        const double next = at - off / (1 + resistance * slope);
        if (std::abs(next - at) <= 1e-13 * voltage) return next;
        at = next;
    }
    return at;
}

double most_of(const Part& source) {
    if (const auto cell = cell_of(source, known_catalogue())) return cell->max_current;
    return source.number("max_current");
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
        const double warmths[] = {usual_warmth, q_.cold, q_.hot};
        for (std::size_t t = 0; t < 3; ++t) {
            Conditions c;
            c.celsius = warmths[t];
            auto source = source_model(q_.source, known_catalogue(), c);
            if (!source) return source.error();
            fresh_[t] = source.value();
            for (std::size_t b = 0; b < 3; ++b) {
                auto led = junction_model(q_.led, known_catalogue(), c.celsius, static_cast<double>(b) - 1);
                if (!led) return led.error();
                leds_[t][b] = led.value();
            }
        }
        const auto cell = cell_of(q_.source, known_catalogue());
        limits_itself_ = cell && cell->limits_itself;
        for (const auto& [charge, model] : {std::pair{0.5, &half_}, std::pair{0.1, &flat_}}) {
            Conditions c;
            c.battery = charge;
            auto source = source_model(q_.source, known_catalogue(), c);
            if (!source) return source.error();
            *model = source.value();
        }
        return success();
    }

    Arrangement make(int per_string) const {
        Arrangement a;
        a.per_string = per_string;
        const int full = q_.count / per_string, rest = q_.count % per_string;
        a.strings.push_back({per_string, full, 0, {}, {}, 0});
        if (rest > 0) a.strings.push_back({rest, 1, 0, {}, {}, 0});
        const double total = q_.current * (full + (rest > 0));
        std::vector<std::vector<std::string>> workings;
        std::string bare;  // why a string has no resistor
        for (AlikeStringsOfArray& s : a.strings) {
            StringQuestion wanted{q_.source, q_.led,     s.leds,    q_.current,  q_.current,
                                  total,     q_.contact, q_.series, q_.rounding, q_.owned};
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
        double total = 0, led_power = 0;
    };

    Corner corner(const Arrangement& a, const Thevenin& source, const Junction& led, double tolerance) const {
        std::vector<StringLaw> laws;
        for (const AlikeStringsOfArray& s : a.strings)
            laws.push_back(string_law(led, s.leds, s.resistance * (1 + tolerance), s.strings));
        const double at = meeting_voltage(source.voltage, source.lasting() + q_.contact, laws);
        Corner c;
        for (std::size_t k = 0; k < laws.size(); ++k) {
            const double amps = std::max(0.0, laws[k].law.at(at).current);
            c.currents.push_back(amps);
            c.total += laws[k].strings * amps;
            c.led_power += laws[k].strings * amps * a.strings[k].leds * led.voltage_at(amps);
        }
        return c;
    }

    void measure(Arrangement& a, const std::vector<std::vector<std::string>>& workings) const {
        const Corner typical = corner(a, fresh_[0], leds_[0][1], 0);
        std::vector<Corner> corners;
        for (std::size_t t = 1; t < 3; ++t)
            for (const std::size_t b : {std::size_t{0}, std::size_t{2}})
                for (const double sign : {-1.0, 1.0})
                    corners.push_back(corner(a, fresh_[t], leds_[t][b], sign * q_.tolerance));
        const std::string spread = fmt::format("over LED bins, resistors of {} %, {} to {} °C",
                                               std::lround(100 * q_.tolerance), q_.cold, q_.hot);
        for (std::size_t k = 0; k < a.strings.size(); ++k) {
            AlikeStringsOfArray& s = a.strings[k];
            const std::string of = fmt::format("strings of {}", s.leds);
            double low = typical.currents[k], high = low;
            for (const Corner& c : corners)
                low = std::min(low, c.currents[k]), high = std::max(high, c.currents[k]);
            s.current = {fmt::format("array.{}.{}.current", a.per_string, s.leds),
                         "current of " + of,
                         typical.currents[k],
                         Unit::ampere,
                         low,
                         high,
                         workings[k]};
            s.current.working.push_back(fmt::format(
                "with {}: {}; {} {}", s.resistance > 0 ? format_quantity(s.resistance, Unit::ohm) : "none",
                s.current.text(), s.current.spread_text(), spread));
            const double worst = high * high * s.resistance * (1 + q_.tolerance);
            s.power = {fmt::format("array.{}.{}.power", a.per_string, s.leds),
                       "heat in each resistor of " + of,
                       typical.currents[k] * typical.currents[k] * s.resistance,
                       Unit::watt,
                       {},
                       worst,
                       {fmt::format("P = I² R; {} at the worst corner", format_quantity(worst, Unit::watt))}};
            s.rating = std::max(0.25, resistor_rating_at_least(2 * worst));
            a.wiring.push_back(fmt::format(
                "{}plus → {}{} LED{} → minus", s.strings > 1 ? fmt::format("{} times: ", s.strings) : "",
                s.resistance > 0 ? format_quantity(s.resistance, Unit::ohm) + " → " : std::string(), s.leds,
                s.leds > 1 ? "s" : ""));
        }
        double least = typical.total, most = typical.total;
        for (const Corner& c : corners) least = std::min(least, c.total), most = std::max(most, c.total);
        const std::string id = fmt::format("array.{}.", a.per_string);
        a.total = {id + "total", "current out of the source", typical.total, Unit::ampere, least, most, {}};
        for (const AlikeStringsOfArray& s : a.strings)
            a.total.working.push_back(fmt::format("{} × {}", s.strings, s.current.text()));
        const double drawn = fresh_[0].voltage * typical.total;
        a.efficiency = {
            id + "efficiency",
            "share of the source's power that reaches the LEDs",
            drawn > 0 ? 100 * typical.led_power / drawn : 0,
            Unit::percent,
            {},
            {},
            {fmt::format("{} in the LEDs of {} × {} = {}", format_quantity(typical.led_power, Unit::watt),
                         format_quantity(fresh_[0].voltage, Unit::volt), a.total.text(),
                         format_quantity(drawn, Unit::watt))}};
        for (const auto& [source, figure, words] :
             {std::tuple(&half_, &a.half, "half"), std::tuple(&flat_, &a.flat, "a tenth")}) {
            const double share = light(a, corner(a, *source, leds_[0][1], 0)) / light(a, typical);
            *figure = {id + words,
                       fmt::format("light at {} of the charge, as the eye sees it", words),
                       100 * perceived(share),
                       Unit::percent,
                       {},
                       {},
                       {fmt::format("{:.3g} of the fresh light; CIE 1976 lightness makes {:.0f} % of it",
                                    share, 100 * perceived(share))}};
        }
    }

    static double light(const Arrangement& a, const Corner& c) {
        double sum = 0;
        for (std::size_t k = 0; k < a.strings.size(); ++k)
            sum += a.strings[k].strings * a.strings[k].leds * c.currents[k];
        return sum;
    }

    void judge(Arrangement& a) const {
        double low = a.strings[0].current.value, high = low, typical = low;
        for (const AlikeStringsOfArray& s : a.strings)
            low = std::min(low, *s.current.low), high = std::max(high, *s.current.high),
            typical = std::min(typical, s.current.value);
        const std::string range =
            format_range(low, high, high, Unit::ampere) + " " + split_quantity(high, Unit::ampere).unit;
        const double limit = q_.led.number("max_current"), gives = most_of(q_.source);
        a.verdict = Arrangement::Verdict::doubtful;
        if (gives > 0 && a.total.value > gives * 1.0001)
            a.reason = fmt::format("asks for {}, the source gives {}", a.total.text(),
                                   format_quantity(gives, Unit::ampere));
        else if (limit > 0 && high > limit * 1.0001)
            a.reason = fmt::format("up to {} in an LED that bears {}", format_quantity(high, Unit::ampere),
                                   format_quantity(limit, Unit::ampere));
        else if (low < least_share * q_.current && typical >= least_share * q_.current)
            a.reason = range + ": little is left for the resistor, so LED bins and warmth decide";
        else if (low < least_share * q_.current)
            a.reason = fmt::format("{} instead of {}", format_quantity(typical, Unit::ampere),
                                   format_quantity(q_.current, Unit::ampere));
        else if (high > most_share * q_.current)
            a.reason = range + ": LED bins and warmth decide";
        else if (a.half.value < least_at_half)
            a.reason = fmt::format("{} of the light is left at half the charge", a.half.text(2));
        else
            a.verdict = Arrangement::Verdict::sound,
            a.reason = fmt::format("{} of the power reaches the LEDs, {} in every copy", a.efficiency.text(2),
                                   range);
    }

    const ArrayQuestion& q_;
    std::array<Thevenin, 3> fresh_;                // usual, cold, hot
    std::array<std::array<Junction, 3>, 3> leds_;  // the same, by bin
    Thevenin half_, flat_;
    bool limits_itself_ = false;
};

double spread_of(const Arrangement& a) {
    double low = HUGE_VAL, high = 0;
    for (const AlikeStringsOfArray& s : a.strings)
        low = std::min(low, *s.current.low), high = std::max(high, *s.current.high);
    return high / std::max(low, 1e-12);
}

bool before(const Arrangement& a, const Arrangement& b) {
    if (a.verdict != b.verdict) return a.verdict < b.verdict;
    switch (a.verdict) {
        case Arrangement::Verdict::sound: {
            const double x = std::round(10 * a.efficiency.value), y = std::round(10 * b.efficiency.value);
            return x != y ? x > y : a.resistors() < b.resistors();
        }
        case Arrangement::Verdict::doubtful:
            return spread_of(a) < spread_of(b);
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
