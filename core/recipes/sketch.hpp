#pragma once
#include <algorithm>
#include <string>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"
#include "quantity/preferred.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// What a recipe's circuit hangs on: a net, and what fresh cells (or a supply) give there.
struct Feed {
    std::string net;
    Thevenin fresh;
};

/// LEDs in strings, as the goals that recipes share under "lights" say.
struct Lights {
    std::string type;
    int count = 1, per_string = 1;
    double current = 0;  ///< A of each string
    int strings() const { return (count + per_string - 1) / per_string; }
    int longest() const { return std::min(count, per_string); }  ///< LEDs of its longest string
    double total() const { return current * strings(); }         ///< A
};
Lights lights_of(const Goals& goals);
/// The curve of one of them at 21 °C. Errors as junction_model().
Result<Junction> light_junction(const Lights& lights);

/// The source that the goals name, or what feeds the recipe in their place; under the name B1, between V+ and
/// GND.
Part source_of(const Goals& goals, const Environment& environment);
/// Open-circuit voltage [V] and resistance of that source, fresh. Errors as source_model().
Result<Thevenin> fresh_source(const Goals& goals, const Environment& environment);

/// A circuit as a recipe puts it down, part by part, with the number that it chose for each and why. Names
/// are the recipe's own and tell what a part is for, so that it keeps its owner's mark through every change.
class Sketch {
  public:
    Sketch(const Goals& goals, const Environment& environment) : goals_(goals), environment_(environment) {}

    void add(Part part) { out_.parts.push_back(std::move(part)); }
    /// `name` begins with R or C. From 1 µF on a capacitor is an electrolytic one, its + at `a`.
    void resistor(const std::string& name, double ohms, const std::string& a, const std::string& b);
    /// One whose value matters little: that of the drawer next to it, if one is within a factor of three.
    double rough_resistor(const std::string& name, const std::string& label, double ohms,
                          const std::string& a, const std::string& b, std::vector<std::string> working);
    void capacitor(const std::string& name, double farads, const std::string& a, const std::string& b);
    void button(const std::string& name, const std::string& a, const std::string& b);
    /// Tells how the number of a part came about.
    void chose(const std::string& name, const std::string& label, double value, Unit unit,
               std::vector<std::string> working);
    /// A resistor of this value, or the nearest that exists or is in the drawer, with its working; the ohms
    /// that it has. Design error where the drawer has none within a fifth.
    Result<double> chosen_resistor(const std::string& name, const std::string& label, double exact,
                                   const std::string& a, const std::string& b,
                                   std::vector<std::string> working = {});

    /// Source and, where the goals want one, switch: what the rest hangs on. Errors as source_model().
    Result<Feed> feed();
    /// The lights between two nets, each string with its resistor, fed by `from` while they are lit. Errors
    /// as size_string().
    Result<void> lights(const Lights& lights, const Thevenin& from, const std::string& high,
                        const std::string& low);

    /// The resistor of a string of LEDs between two nets, one that bears its heat. `total` flows in all [A].
    /// Errors as size_string().
    Result<void> light_resistor(const std::string& name, const std::string& label, const Lights& string,
                                double total, const Thevenin& from, const std::string& high,
                                const std::string& low);

    /// So many amperes go through source and switch: leads and contact that carry them.
    void carries(double amps);

    void expect(Expectation e) { out_.expected.push_back(std::move(e)); }
    void result(Figure f) { out_.results.push_back(std::move(f)); }
    /// Lights that are added from now on are lit after these presses of `pressed` [s], and `wait` [s] after
    /// the last one began.
    void lit_after(std::vector<std::string> presses, double pressed, double wait) {
        lit_.presses = std::move(presses), lit_.pressed = pressed, lit_.wait = wait, lit_.reading = "after";
    }
    /// Likewise once a bench supply has set them.
    void lit_once_triggered(BenchSupply bench) { lit_.bench = std::move(bench), lit_.reading = "triggered"; }
    /// Another block lights them: by itself nothing is to be seen of them.
    void lit_by_another() { by_another_ = true; }
    /// Likewise in so much light [lx], with what infrared [W/m²] comes with each lux.
    void lit_in_light(double lux, double infrared_per_lux) {
        lit_.lux = lux, lit_.infrared_per_lux = infrared_per_lux;
    }
    /// Likewise where it is so warm [°C].
    void lit_at(double celsius) { lit_.celsius = celsius; }
    const Sized& sized() const { return out_; }  ///< so far
    Sized done() { return std::move(out_); }
    const Environment& environment() const { return environment_; }

  private:
    const Goals& goals_;
    const Environment& environment_;
    Expectation lit_;  ///< how its lights come to be lit
    bool by_another_ = false;
    Sized out_;
};

/// Values that a resistor or capacitor can have around an exact one, nearest first: those of the drawer, else
/// preferred ones of the series. At most `count`.
std::vector<double> values_near(double exact, const std::vector<double>& owned, Series series,
                                std::size_t count);

/// The comparator for a fresh supply of so many volts: the one that takes least; nullptr if none bears it.
const PartType* comparator_for(double volts);

/// Without a word on the colour of the lights one that `fresh` [V] light to the cells' end. For
/// Recipe::complete.
void suit_led(Goals& goals, const std::set<std::string>& said, double fresh);
/// V of the goals' source, fresh; 0 where it is unknown.
double fresh_volts(const Goals& goals, const Environment& environment);

/// How long the cells of the goals' source last if nothing but so many amperes flow, in words; nothing for a
/// supply.
std::optional<std::string> lasts_on(const Goals& goals, const Environment& environment, double amps);

/// What a number of a kind's parts is where nobody says it.
double usual_number(const PartKind& kind, const char* param);
/// Design error where a kind with a lowest and a highest supply does not work with so many volts.
Result<void> fits_supply(const PartKind& kind, double volts);
/// Fractions by which parts of a kind differ, as the catalogue has it.
double usual_tolerance(const std::string& kind);

/// The voltage rating [V] of an electrolytic capacitor for a supply: the next usual one at or above 1.25
/// times it.
double electrolytic_rating(double volts);

/// Capacitors from here on [F] are electrolytic ones.
inline constexpr double least_electrolytic = 0.99e-6;

}  // namespace elkit
