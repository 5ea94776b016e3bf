#pragma once
#include <functional>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "circuit/part_kind.hpp"
#include "drawing/drawing.hpp"
#include "quantity/figure.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A goal's value by its key.
class Goals {
  public:
    double number(const std::string& key) const;
    std::string text(const std::string& key) const;
    PointList points(const std::string& key) const;
    bool operator==(const Goals&) const = default;
    std::map<std::string, ParamValue> values;
};

inline constexpr std::string_view recipe_source = "B1";  ///< a recipe's own name of its source

/// What a recipe wants to know, declared in data/catalogue/recipes.json like a part's parameters.
struct GoalInfo {
    ParamInfo info;
    std::vector<std::string> words;   ///< other names in the do-anything line
    std::vector<std::string> labels;  ///< of the choices, for people
    /// Parts say it: those whose name in the recipe starts with `mirror_parts` have it as `mirror_param`.
    /// Then the value is kept there and nowhere else.
    std::string mirror_parts, mirror_param;
    std::string station;            ///< where it is asked for, if not on the recipe's own station
    std::vector<std::string> when;  ///< it only matters while this other goal is one of these: key, choices
    bool wide = false;              ///< its card gives it a row of its own
    bool yields =
        false;  ///< may be another than the standard where that cannot be met, unless a person says it
    bool follows = false;  ///< chosen to suit the others, unless a person says it
    bool mirrored() const { return !mirror_parts.empty(); }
    bool of_source() const { return mirror_parts == recipe_source; }  ///< whether the source says it
    std::string label_of(const std::string& choice) const;
    bool matters(const Goals& goals) const;  ///< beside these others
};

/// A change of goals that settles findings of some rules.
struct GoalRemedy {
    std::vector<std::string> rules;
    std::string label;
    std::map<std::string, ParamValue> set;
    std::map<std::string, double> add, at_most;
};

/// What a recipe builds on.
struct Environment {
    std::vector<double> owned;       ///< resistors in the drawer [Ω]; empty: any preferred value
    std::vector<double> capacitors;  ///< of any kind in the drawer [F]; empty: any preferred value
    std::optional<Part> source;      ///< what feeds it, where its goals do not say that
};

/// A supply of the bench that rises from nothing in place of a part, or falls to nothing.
struct BenchSupply {
    std::string part;
    double volts = 0, seconds = 0.2;
};

/// What the engine should find in a circuit that a recipe sized, in the recipe's names.
struct Expectation {
    std::string label;
    std::string probe;  ///< "part:L1" or "net:OUT"
    double target = 0, low = 0, high = 0;
    /// A name of measurement() over its steady cycle, "mean" at rest too; empty: the current [A] while the
    /// light is lit, from fresh cells; one of is_edge(): the light [lx] or warmth [°C] of edge_level();
    /// "triggers": the volts of the bench supply at which the probe comes on; "triggered": what it is in the
    /// end; "stops": the volts at which it goes off as the supply falls; "starts": those with which it comes
    /// on from power-up.
    std::string reading = {};
    Unit unit = Unit::ampere;
    /// Buttons that are pressed one after the other, each for `pressed` [s]. The reading is then "lasts", how
    /// long from the last press the probe stays above `level` of its most [s], or "after", what it is `wait`
    /// [s] after that press began.
    std::vector<std::string> presses = {};
    double pressed = 0.2, wait = 0.4;              ///< `wait` also of each step of an edge
    double level = 0.5;                            ///< of its most, for "lasts"
    BenchSupply bench = {};                        ///< for "triggers", "triggered", "starts", "stops"
    std::map<std::string, double> knobs = {};      ///< where knobs stand, 0…1
    std::optional<double> celsius = {}, lux = {};  ///< how warm [°C] and light [lx] it is
    std::optional<double> infrared_per_lux = {};   ///< W/m² that comes with each lux
};

/// A circuit that meets goals, under the recipe's own names for parts and nets.
struct Sized {
    std::vector<Part> parts;
    std::map<std::string, Figure> figures;  ///< "R1.value" → the number chosen, with its working
    std::vector<Figure> results;  ///< what comes out of it by the recipe's own reckoning, with its spread
    std::vector<Expectation> expected;
};

/// A net on which another recipe can build, or by which one can be driven.
struct RecipeNet {
    std::string net, label;
    /// The goal that says that it is joined, and its value then. Of a net that is offered both are empty.
    std::string goal, value;
};

/// Another way to meet the same goals, to choose from.
struct Variant {
    std::string label;
    Goals goals;
    bool from_drawer = false;  ///< its values come from the drawer: a choice of this design, not of its goals
};

/// A way from goals to a circuit. Registered in recipes(); everything else knows it by this only.
struct Recipe {
    std::string id, name;
    std::string intent;             ///< what it makes a gadget do, after "make it": "blink"
    std::string about;              ///< what it is made of
    std::string station;            ///< that shows its goals
    std::string group;              ///< of intents, such as "by hand"
    std::string effort;             ///< the goal that costs run time; empty if there is none
    bool watches_cells = false;     ///< of a design that has cells, behind the switch that all hangs behind
    bool behind_switch = false;     ///< hangs behind such a switch in place of one of its own
    std::vector<std::string> says;  ///< how the do-anything line asks for it: "blink", "flash"
    std::vector<std::string> examples;  ///< such lines in full
    std::vector<RecipeNet> offers, takes;
    std::vector<GoalInfo> goals;
    std::vector<GoalRemedy> remedies;
    std::function<Result<Sized>(const Goals&, const Environment&)> size;
    /// Ways to meet the goals, with values of the drawer where it has any.
    std::function<std::vector<Variant>(const Goals&, const Environment& drawer)> variants;
    /// The goals with what was not said chosen to suit what was.
    std::function<Goals(Goals, const std::set<std::string>& said, const Environment&)> complete;
    std::function<bool(const Goals&)> works_at;  ///< whether the effort changes anything; empty: it does
    std::function<Goals(Goals)> suited;          ///< as one would have them once the supply is another

    /// To work by; its title says what it shows.
    std::function<Result<Drawing>(const Goals&, const Environment&)> picture;

    const GoalInfo* goal(std::string_view key) const;
    Goals standard() const;
};

const std::vector<Recipe>& recipes();
const Recipe* find_recipe(std::string_view id);  ///< nullptr if unknown

/// Goals from those that a person said, by key: the others are the recipe's standard ones, or what suits.
Goals planned(const Recipe& recipe, const std::map<std::string, ParamValue>& said,
              const Environment& environment = {});

/// The declarations of one recipe, without its functions; file error if the table has none of that id.
Result<Recipe> declared_recipe(std::string_view id);

}  // namespace elkit
