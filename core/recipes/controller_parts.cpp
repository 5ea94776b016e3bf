#include "recipes/controller_parts.hpp"

#include <fmt/format.h>

#include "recipes/switching.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double taken_share = 0.8;

/// Its pins, those first for which `rank` is lowest.
template <class Rank>
std::vector<std::string> ranked(const ControllerSpec& controller, Rank rank) {
    std::vector<std::string> pins;
    for (int wanted = 0; wanted < 4; ++wanted)
        for (const PinAbility& pin : controller.pins)
            if (rank(pin) == wanted) pins.push_back(pin.pin);
    return pins;
}

}  // namespace

double taken_of(const PartKind& kind, const char* rating) { return taken_share * usual_number(kind, rating); }

std::vector<std::string> pins_for_lights(const ControllerSpec& controller) {
    return ranked(controller, [](const PinAbility& p) { return (p.dims ? 0 : 2) + (p.measures ? 1 : 0); });
}

std::vector<std::string> pins_for_sensors(const ControllerSpec& controller) {
    return ranked(controller, [](const PinAbility& p) { return !p.measures ? 4 : p.dims ? 1 : 0; });
}

Result<void> add_controller(Sketch& s, const PartKind& kind, const Feed& feed, const std::string& behaviour,
                            const std::map<std::string, std::string>& pins, double reference) {
    if (auto fits = fits_supply(kind, feed.fresh.voltage); !fits) return fits;
    auto table = behaviour_of(behaviour);
    if (!table) return table.error();
    Part part{
        "Ucontroller", kind.id, {{"behaviour", text_of(table.value())}, {"reference", reference}}, {}, {}};
    for (const std::string& pin : kind.pins) {
        const auto joined = pins.find(pin);
        const std::string net = pin == "vcc" ? feed.net : pin == "gnd" ? "GND" : std::string();
        if (!net.empty() || joined != pins.end())
            part.pins.push_back({pin, net.empty() ? joined->second : net});
    }
    s.add(std::move(part));
    s.capacitor("Csupply", 1e-7, feed.net, "GND");
    return success();
}

std::vector<const PartKind*> controllers_of_recipe(std::string_view recipe) {
    std::vector<const PartKind*> all;
    for (const std::string& id : find_recipe(recipe)->goal("controller")->info.choices)
        all.push_back(part_kind(id));
    return all;
}

double awake_current(const PartKind& kind, double volts) {
    return volts / own_current_at * usual_number(kind, "active_current");
}

double asleep_current(const PartKind& kind, double volts, double looks) {
    const double awake = looks > 0 ? look_seconds / looks : 0;
    return volts / own_current_at * usual_number(kind, "sleep_current") + awake * awake_current(kind, volts);
}

Result<void> lights_at_pin(Sketch& s, const Goals& goals, const PartKind& kind, const Feed& feed) {
    const Lights lights = lights_of(goals);
    if (goals.text("drives") == "transistor") {
        add_gate(s, "LAMP");
        return s.lights(lights, feed.fresh, feed.net, "LAMP");
    }
    if (lights.total() > taken_of(kind, "max_current"))
        return Error{Fault::design, "lights hang",
                     fmt::format("a pin would carry {}", amps_text(lights.total())),
                     fmt::format("{} at most, or a transistor", amps_text(taken_of(kind, "max_current")))};
    Thevenin from = feed.fresh;
    from.resistance += usual_number(kind, "resistance");
    return s.lights(lights, from, "OUT", "GND");
}

std::string drive_for(const PartKind& kind, const Lights& lights) {
    return lights.total() > taken_of(kind, "max_current") ? "transistor" : "direct";
}

}  // namespace elkit
