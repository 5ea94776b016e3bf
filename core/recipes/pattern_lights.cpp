#include "recipes/pattern_lights.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <array>

#include "recipes/pin_plan.hpp"
#include "recipes/switching.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double pressed_for = 0.2, pressed_wait = 0.5;  // s of the button; after it went down
constexpr std::array<const char*, 3> colour_names{"red", "green", "blue"}, colour_pins{"r", "g", "b"},
    colour_nets{"RED", "GREEN", "BLUE"};

/// Colours as the eye sees them, one after the other.
std::string path_of(const std::string& colours) {
    if (colours == "sunset") return "ff3000 ff8010 803060 200830";
    if (colours == "sea") return "0030ff 00c0a0 40ff60 0080ff";
    return "ff0000 ffc000 00ff00 00c0ff 0000ff c000ff";  // rainbow
}

bool in_colours(const Goals& g) { return g.text("effect") == "colours"; }
bool by_press(const Goals& g) { return g.text("begins") == "press"; }
bool dims(const Goals& g) {
    const std::string effect = g.text("effect");
    return effect == "breathe" || effect == "flicker" || effect == "colours";
}
std::size_t count_of(const Goals& g) { return static_cast<std::size_t>(g.number("count")); }

/// What each pin lights: each light, or each colour of all lights.
std::vector<PinPlan::Use> channels(const Goals& g) {
    const bool transistor = g.text("drives") == "transistor";
    std::vector<PinPlan::Use> all;
    if (in_colours(g)) {
        for (const char* colour : colour_names)
            all.push_back({"", std::string(colour) + " of every light",
                           transistor ? 0 : g.number("current") * static_cast<double>(count_of(g))});
        return all;
    }
    for (std::size_t k = 1; k <= count_of(g); ++k)
        all.push_back({"", fmt::format("light {}", k), transistor ? 0 : g.number("current")});
    return all;
}

Result<PinPlan> plan_of(const Goals& g) {
    return plan_pins(*part_kind(g.text("controller")), channels(g), dims(g), by_press(g));
}

std::string table_of(const PinPlan& plan, const Goals& g) {
    std::vector<std::string> pins;
    for (const PinPlan::Use& use : plan.lights) pins.push_back(use.pin);
    const std::string all = fmt::format("{}", fmt::join(pins, " ")), effect = g.text("effect"),
                      every = fmt::format("{:.0f}ms", 1000 * g.number("every"));
    std::string row = fmt::format("{} {} {}", all, effect, every);
    if (effect == "on") row = all + " on";
    if (effect == "blink") row += fmt::format(" {:.2f}%", g.number("share"));
    if (effect == "flicker") {  // each by itself
        row.clear();
        for (const std::string& pin : pins)
            row += fmt::format("{}{} flicker {}", row.empty() ? "" : "; ", pin, every);
    }
    if (effect == "colours") row = fmt::format("{} colours {} {}", all, path_of(g.text("colours")), every);
    if (!by_press(g)) return "state plays; " + row;
    const std::string& button = plan.button->pin;
    return fmt::format(
        "state rest sleeps; press {0} to plays; state plays; {1}; press {0} to rest; after {2:.0f}ms to rest",
        button, row, 1000 * g.number("lasts"));
}

void expect_lit(Sketch& s, const Goals& g, const std::string& light, double amps) {
    Expectation lit{"light 1", "part:" + light, amps, 0.7 * amps, 1.3 * amps, {}, Unit::ampere};
    if (by_press(g)) {
        if (dims(g) || g.text("effect") != "on") return;  // what it is at one moment tells nothing
        lit.presses = {"Sgo"}, lit.pressed = pressed_for, lit.wait = pressed_wait, lit.reading = "after";
    }
    s.expect(std::move(lit));
}

std::string numbered(const char* name, std::size_t k) { return k == 0 ? name : name + std::to_string(k + 1); }

/// A light between a net and plus or ground, and its resistor at the net.
class Placer {
  public:
    Placer(Sketch& s, const Goals& g, const PinPlan& plan, const Feed& feed)
        : s_(s), g_(g), feed_(feed), from_(feed.fresh), behind_(g.text("drives") == "transistor") {
        const double lights = in_colours(g) ? static_cast<double>(count_of(g)) : 1;  // at one pin
        if (!behind_) from_.resistance += lights * usual_number(*plan.kind, "resistance");
        for (std::size_t k = 0; k < plan.lights.size(); ++k) {
            nets_.push_back(numbered("OUT", k));
            if (!behind_) continue;
            add_gate(s, numbered("LOW", k), 100e3, nets_.back(), k == 0 ? "" : std::to_string(k + 1));
            nets_.back() = numbered("LOW", k);
        }
    }
    Result<void> lights() {
        for (std::size_t k = 0; k < count_of(g_); ++k)
            if (auto placed = in_colours(g_) ? of_three_colours(k) : plain(k); !placed) return placed;
        s_.carries(g_.number("current") * static_cast<double>((in_colours(g_) ? 3 : 1) * count_of(g_)));
        return success();
    }

  private:
    Result<void> plain(std::size_t k) {
        const std::string n = std::to_string(k + 1), led = g_.text("led");
        if (auto placed = resistor("Rlight" + n, "resistor of light " + n, led, nets_[k], "LIGHT" + n);
            !placed)
            return placed;
        s_.add({"L" + n,
                "led",
                {{"type", led}},
                {{"a", behind_ ? feed_.net : "LIGHT" + n}, {"k", behind_ ? "LIGHT" + n : "GND"}},
                {}});
        return success();
    }
    /// With a common cathode at pins, a common anode in front of transistors.
    Result<void> of_three_colours(std::size_t k) {
        const std::string n = std::to_string(k + 1);
        Part rgb{"L" + n, "rgb", {{"common", std::string(behind_ ? "anode" : "cathode")}}, {}, {}};
        for (std::size_t c = 0; c < colour_names.size(); ++c) {
            const std::string colour = colour_names[c], net = colour_nets[c] + n;
            if (auto placed = resistor("R" + colour + n, colour + " resistor of light " + n, rgb.text(colour),
                                       nets_[c], net);
                !placed)
                return placed;
            rgb.pins.push_back({colour_pins[c], net});
        }
        rgb.pins.push_back({"common", behind_ ? feed_.net : "GND"});
        s_.add(std::move(rgb));
        return success();
    }
    Result<void> resistor(const std::string& name, const std::string& label, const std::string& led,
                          const std::string& driven, const std::string& light) {
        const double amps = g_.number("current");
        return s_.light_resistor(name, label, {led, 1, 1, amps}, amps, from_, behind_ ? light : driven,
                                 behind_ ? driven : light);
    }
    Sketch& s_;
    const Goals& g_;
    const Feed& feed_;
    Thevenin from_;
    bool behind_;
    std::vector<std::string> nets_;  // that are driven, of each channel
};

Result<Sized> size_pattern(const Goals& g, const Environment& environment) {
    Sketch s(g, environment);
    auto fed = s.feed();
    if (!fed) return fed.error();
    const Feed& feed = fed.value();
    auto planned = plan_of(g);
    if (!planned) return planned.error();
    const PinPlan& plan = planned.value();
    if (g.text("effect") == "chase" && plan.lights.size() < 2)
        return Error{Fault::design, "lights", "1 to chase", "2 or more"};
    std::map<std::string, std::string> pins;
    for (std::size_t k = 0; k < plan.lights.size(); ++k) pins[plan.lights[k].pin] = numbered("OUT", k);
    if (plan.button) pins[plan.button->pin] = "GO";
    const std::string table = table_of(plan, g);
    if (auto added = add_controller(s, *plan.kind, feed, table, pins); !added) return added.error();
    if (by_press(g)) s.button("Sgo", "GO", "GND");
    if (auto placed = Placer(s, g, plan, feed).lights(); !placed) return placed.error();
    const auto program =
        program_of(behaviour_of(table).value(), plan.kind->controller->pins, plan.kind->controller->bits);
    if (!program) return program.error();
    const double volts = feed.fresh.voltage;
    double lit = awake_current(*plan.kind, volts);
    const auto shares =
        mean_shares(program.value(), by_press(g) ? std::optional(g.number("lasts")) : std::nullopt);
    for (const double share : shares)
        lit += share * g.number("current") * (in_colours(g) ? static_cast<double>(count_of(g)) : 1);
    if (!in_colours(g)) expect_lit(s, g, "L1", g.number("current"));
    const double waits = by_press(g) ? asleep_current(*plan.kind, volts, 0) : lit;
    Expectation least{by_press(g) ? "takes while it sleeps" : "takes on average",
                      "part:" + std::string(recipe_source),
                      waits,
                      std::max(0.0, 0.75 * waits - 1e-6),
                      1.25 * waits + 1e-6,
                      by_press(g) ? "after" : "mean",
                      Unit::ampere};
    // one press begins it, another one ends it
    if (by_press(g)) least.presses = {"Sgo", "Sgo"}, least.pressed = pressed_for, least.wait = pressed_wait;
    s.expect(std::move(least));
    Figure takes{"recipe.takes",
                 "takes while it plays",
                 lit,
                 Unit::ampere,
                 {},
                 {},
                 {amps_text(awake_current(*plan.kind, volts)) + " by the controller itself"}};
    for (std::size_t k = 0; k < shares.size(); ++k)
        takes.working.push_back(
            fmt::format("{}: on for {:.0f} % of the time", plan.lights[k].what, 100 * shares[k]));
    if (const auto lasts = lasts_on(g, environment, lit)) takes.working.push_back(*lasts);
    s.result(std::move(takes));
    s.result(plan.figure());
    return s.done();
}

/// The smallest controller that has the pins, and transistors where none bears the current.
Goals complete_pattern(Goals g, const std::set<std::string>& said, const Environment& environment) {
    if (!in_colours(g)) suit_led(g, said, fresh_volts(g, environment));
    if (!said.contains("count") && g.text("effect") == "chase") g.values["count"] = 4.0;
    if (!said.contains("every")) {
        const std::string effect = g.text("effect");
        g.values["every"] = effect == "chase"     ? 0.2
                            : effect == "flicker" ? 0.08
                            : effect == "blink"   ? 1.0
                                                  : 4.0;
    }
    for (const char* drives : {"direct", "transistor"}) {
        if (said.contains("drives") && g.text("drives") != drives) continue;
        g.values["drives"] = std::string(drives);
        if (said.contains("controller")) {
            if (plan_of(g)) return g;
            continue;
        }
        for (const char* kind : {"controller_8", "controller_14", "controller_20"}) {
            g.values["controller"] = std::string(kind);
            if (plan_of(g)) return g;
        }
    }
    return g;
}

std::vector<Variant> other_controllers(const Goals& goals, const Environment&) {
    std::vector<Variant> all;
    for (const char* drives : {"direct", "transistor"})
        for (const PartKind* kind : controllers_of_recipe("pattern-lights")) {
            if (drives != goals.text("drives") && kind->id != goals.text("controller")) continue;
            Variant v{fmt::format("{}, {}", kind->name,
                                  drives == std::string("direct") ? "on its pins" : "by transistors"),
                      goals, false};
            v.goals.values["controller"] = kind->id, v.goals.values["drives"] = std::string(drives);
            all.push_back(std::move(v));
        }
    return all;
}

}  // namespace

Recipe pattern_lights() {
    Recipe r = declared_recipe("pattern-lights").value();
    r.size = size_pattern, r.complete = complete_pattern, r.variants = other_controllers;
    return r;
}

}  // namespace elkit
