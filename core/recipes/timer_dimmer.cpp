#include "recipes/timer_dimmer.hpp"

#include <fmt/format.h>

#include <array>
#include <cmath>

#include "light/flicker.hpp"
#include "quantity/brightness.hpp"
#include "recipes/switching.hpp"
#include "recipes/timer_parts.hpp"

namespace elkit {
namespace {

constexpr const char* steering_type = "signal";
constexpr double far_off = 1.5;  // times the rate that was asked for
constexpr std::array quarters{0.0, 0.25, 0.5, 0.75, 1.0};

/// The resistances of the cycle: the track, and a resistor before each of its ends.
struct Track {
    double ohms = 0, charge_end = 0, discharge_end = 0;
};

/// Ends that leave the knob this range, 0 to 1: both are parts of the whole row that the track is the rest
/// of.
Track track_for(double ohms, double least, double most) {
    const double whole = ohms / (most - least);
    return {ohms, least * whole, (1 - most) * whole};
}

/// The cycle with the knob at `turn`, 0 at the dim end.
class Dimmed {
  public:
    Dimmed(const TimerChip& chip, double farads) : chip_(chip), capacitor_(timing_capacitor(farads)) {
        auto law = junction_model({"D1", "diode", {{"type", std::string(steering_type)}}, {}, {}},
                                  known_catalogue(), 21, 0);
        if (law) diode_ = law.value();
    }
    Result<HighLow> at(const Track& t, double turn) const {
        return steered_times(t.charge_end + turn * t.ohms,
                             t.discharge_end + (1 - turn) * t.ohms + chip_.of("discharge_resistance"),
                             capacitor_, chip_.volts(), diode_);
    }

  private:
    const TimerChip& chip_;
    TimingCapacitor capacitor_;
    Junction diode_;
};

double high_part(const HighLow& times) { return times.high / times.period(); }

void place_track(Sketch& s, const Goals& goals, const TimerChip& chip, const Feed& feed, const Track& track) {
    add_timer(s, chip, feed, {"TIMING", "TIMING", "DISCHARGE", {}});
    const auto steer = [&](const char* name, const char* a, const char* k) {
        s.add({name, "diode", {{"type", std::string(steering_type)}}, {{"a", a}, {"k", k}}, {}});
    };
    s.resistor("Rcharge", track.charge_end, feed.net, "DISCHARGE");
    steer("Dcharge", "DISCHARGE", "BRIGHT");
    s.add({"RVknob",
           "potentiometer",
           {{"value", track.ohms}},
           {{"a", "BRIGHT"}, {"wiper", "TIMING"}, {"b", "DIM"}},
           {}});
    steer("Ddischarge", "DIM", "BACK");
    s.resistor("Rdischarge", track.discharge_end, "BACK", "DISCHARGE");
    s.capacitor("Ctiming", goals.number("capacitor"), "TIMING", "GND");
}

/// The end resistors as they exist, with their working.
Result<Track> chosen_track(Sketch& s, const Goals& goals) {
    const double least = goals.number("least") / 100, most = goals.number("most") / 100;
    if (!(least < most))
        return Error{Fault::design, "dimmest",
                     fmt::format("{:.0f} % is not below {:.0f} %", 100 * least, 100 * most),
                     "less at the dim end than at the bright end"};
    Track track = track_for(goals.number("knob"), least, most);
    const std::vector<std::string> working{
        fmt::format("the whole row is track / (most − least) = {}",
                    format_quantity(track.ohms / (most - least), Unit::ohm)),
        fmt::format("charging end {:.0f} % of it: {}; discharging end {:.0f} %: {}", 100 * least,
                    format_quantity(track.charge_end, Unit::ohm), 100 * (1 - most),
                    format_quantity(track.discharge_end, Unit::ohm))};
    for (const auto& [name, label, ohms] :
         {std::tuple("Rcharge", "charging end resistor", &track.charge_end),
          std::tuple("Rdischarge", "discharging end resistor", &track.discharge_end)}) {
        if (auto good = check_timing(std::string("the ") + label, *ohms, goals.number("capacitor")); !good)
            return Error{Fault::design, "knob",
                         fmt::format("the {} would be {}", label, format_quantity(*ohms, Unit::ohm)),
                         "1 kΩ at least: a knob of more ohms, or less of a range"};
        *ohms = values_near(*ohms, s.environment().owned, Series::e24, 1).front();
        s.chose(name, label, *ohms, Unit::ohm, working);
    }
    return track;
}

/// What an eye makes of the knob: perceived brightness at its quarters.
Figure seen_figure(const std::array<double, quarters.size()>& shares) {
    Figure f{"recipe.seen",
             "seen at half a turn",
             100 * perceived(shares[2] / shares[4]),
             Unit::percent,
             {},
             {},
             {"CIE 1976 L* of the share of the time, against the bright end"}};
    for (std::size_t k = 0; k < quarters.size(); ++k)
        f.working.push_back(fmt::format("knob at {:.0f} %: lit for {:.0f} %, looks like {:.0f} %",
                                        100 * quarters[k], 100 * shares[k],
                                        100 * perceived(shares[k] / shares[4])));
    return f;
}

Result<Sized> size_dimmer(const Goals& goals, const Environment& environment) {
    auto begun = begin_timer(goals, environment);
    if (!begun) return begun.error();
    auto& [s, feed, chip] = begun.value();
    const bool strip = goals.text("load") == "strip";
    if (strip && goals.text("drives") != "transistor")
        return Error{Fault::design, "lights hang", "the output cannot feed a strip", "a transistor"};
    auto track = chosen_track(s, goals);
    if (!track) return track.error();
    const Dimmed dimmed(chip, goals.number("capacitor"));
    std::array<double, quarters.size()> shares{};
    HighLow middle;
    for (std::size_t k = 0; k < quarters.size(); ++k) {
        auto times = dimmed.at(track.value(), quarters[k]);
        if (!times) return times.error();
        shares[k] = high_part(times.value());
        if (k == 2) middle = times.value();
    }
    const double rate = 1 / middle.period(), wanted = goals.number("rate");
    if (!(rate < far_off * wanted && rate > wanted / far_off))
        return Error{
            Fault::design, "timing capacitor",
            fmt::format("with {} it would be {}", format_quantity(goals.number("capacitor"), Unit::farad),
                        format_quantity(rate, Unit::hertz)),
            fmt::format("about {}", format_quantity(goals.number("capacitor") * rate / wanted, Unit::farad))};
    place_track(s, goals, chip, feed, track.value());
    const double pot = usual_tolerance("potentiometer"), c = capacitor_tolerance(goals.number("capacitor"));
    const Figure f{"recipe.rate",
                   "rate",
                   rate,
                   Unit::hertz,
                   rate / ((1 + pot) * (1 + c)),
                   rate / ((1 - pot) * (1 - c)),
                   {fmt::format("half a turn: {} high, {} low", format_quantity(middle.high, Unit::second),
                                format_quantity(middle.low, Unit::second)),
                    fmt::format("spread: track ±{:.0f} %, capacitor ±{:.0f} %", 100 * pot, 100 * c),
                    flicker_text(rate, 100)}};
    Expectation cycle{"rate", "net:OUT", wanted, *f.low, *f.high, "frequency", Unit::hertz};
    cycle.low = std::min(cycle.low, wanted / far_off), cycle.high = std::max(cycle.high, wanted * far_off);
    cycle.knobs["RVknob"] = 0.5;
    s.expect(std::move(cycle));
    const double least = 100 * shares.front(), most = 100 * shares.back();
    Expectation dim{
        "dimmest", "net:OUT",    goals.number("least"), least * (1 - pot) - 0.5, least * (1 + pot) + 1,
        "duty",    Unit::percent};
    dim.knobs["RVknob"] = 0;
    s.expect(std::move(dim));
    Expectation bright{"brightest",
                       "net:OUT",
                       goals.number("most"),
                       100 - (100 - most) * (1 + pot) - 1,
                       100 - (100 - most) * (1 - pot) + 0.5,
                       "duty",
                       Unit::percent};
    bright.knobs["RVknob"] = 1;
    s.expect(std::move(bright));
    if (strip) {
        add_gate(s, "LAMP");
        Part part{"LS1", "strip", {{"length", goals.number("length")}}, {{"+", feed.net}, {"-", "LAMP"}}, {}};
        s.carries(strip_current(part, chip.volts()));
        s.add(std::move(part));
    } else if (auto lit = add_driven_lights(s, goals, chip, feed); !lit) {
        return lit.error();
    }
    s.result(f);
    s.result(seen_figure(shares));
    if (goals.text("drives") == "transistor") s.result(gate_time(s, chip.of("source_resistance"), rate));
    s.result(own_current(chip, chip.volts() / track.value().ohms / 2, "through the timing parts, about"));
    return s.done();
}

Goals complete_dimmer(Goals g, const std::set<std::string>& said, const Environment& environment) {
    const double volts = fresh_volts(g, environment);
    complete_drive(g, said, volts);
    if (!said.contains("drives") && g.text("load") == "strip") g.values["drives"] = std::string("transistor");
    if (said.contains("capacitor") || !(volts > 0)) return g;
    const auto chip = timer_chip(g, {"ON", {volts, 0, {}}});
    if (!chip) return g;
    const Track track = track_for(g.number("knob"), g.number("least") / 100, g.number("most") / 100);
    double farads = 1 / (g.number("rate") * std::log(2.0) * track.ohms);
    for (int round = 0; round < 4; ++round)
        if (const auto times = Dimmed(chip.value(), farads).at(track, 0.5))
            farads /= g.number("rate") * times.value().period();
    g.values["capacitor"] = environment.capacitors.empty()
                                ? nearest_preferred(std::clamp(farads, 1e-10, 1e-2), Series::e6)
                                : values_near(farads, environment.capacitors, Series::e6, 1).front();
    return g;
}

}  // namespace

Recipe timer_dimmer() {
    Recipe r = declared_recipe("timer-dimmer").value();
    r.size = size_dimmer, r.complete = complete_dimmer;
    return r;
}

}  // namespace elkit
