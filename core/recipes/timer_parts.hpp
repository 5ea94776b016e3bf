#pragma once
#include "catalogue/catalogue.hpp"
#include "recipes/sketch.hpp"
#include "recipes/timer_times.hpp"

namespace elkit {

/// A timer of a type on a feed: what its output does.
struct TimerChip {
    const PartType* type = nullptr;
    Thevenin feed;
    double volts() const { return feed.voltage; }
    double of(std::string_view key) const { return type->value(key); }
    Thevenin high() const;  ///< the output as it drives what hangs between it and ground
    Thevenin low() const;   ///< likewise, the supply and the output, of what hangs between plus and it
    /// V of the output while high and low, under the load that the goals hang on it.
    std::pair<double, double> swing(const Goals& goals) const;
};

/// The timer that the goals name. Design error if the feed is more or less than it works from.
Result<TimerChip> timer_chip(const Goals& goals, const Feed& feed);

/// What every timer recipe begins with: source, switch, chip. Errors as Sketch::feed() and timer_chip().
struct TimerSketch {
    Sketch sketch;
    Feed feed;
    TimerChip chip;
};
Result<TimerSketch> begin_timer(const Goals& goals, const Environment& environment);

/// U1 with its capacitors (100 nF at the supply pins, 10 nF at the control pin); of the pins that are not
/// named here reset is at the feed, disch open.
struct TimerPins {
    std::string trig, thr, disch = {}, reset = {};
};
void add_timer(Sketch& sketch, const TimerChip& chip, const Feed& feed, const TimerPins& pins);

/// Lights where the goal "drives" wants them: from the output to ground, from plus to the output, behind a
/// transistor, or none. Errors: more current than the output gives; those of lights.
Result<void> add_driven_lights(Sketch& sketch, const Goals& goals, const TimerChip& chip, const Feed& feed);

/// Those goals that fit a load: whether the output drives it alone. For Recipe::complete.
void complete_drive(Goals& goals, const std::set<std::string>& said, double fresh);

/// The chip's own current on average [A] with its working: what it takes at rest, its divider, and `timing`
/// [A] of the parts around it.
Figure own_current(const TimerChip& chip, double timing, const std::string& timing_words);

/// Resistors that a timer's leak and discharge pin leave exact [Ω].
inline constexpr double least_timing = 1e3, most_timing = 3e6;
/// Design error if a timing resistor is outside; it names a capacitor that would do.
Result<void> check_timing(const std::string& what, double ohms, double farads);

/// Preferred capacitors [F], or those of the drawer: the smallest for which `ohms(F)` is little enough that
/// neither damp fingers nor, of an electrolytic one, its leak disturb it.
double suitable_capacitor(const Environment& environment, const std::function<double(double)>& ohms);

/// What each capacitor would give in place of the one that the goals name: those of the drawer, or preferred
/// ones around it. For Recipe::variants.
std::vector<Variant> capacitor_variants(const Goals& goals, const Environment& drawer);

/// The timing capacitor as the catalogue has its kind.
TimingCapacitor timing_capacitor(double farads);

/// The fraction by which timing capacitors differ.
double capacitor_tolerance(double farads);

}  // namespace elkit
