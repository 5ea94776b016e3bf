#include "recipes/light_eye.hpp"

#include <cmath>

#include "engine/models.hpp"

namespace elkit {
namespace {

constexpr double eye_saturation = 0.15;  // V: a phototransistor's curve is I tanh(V/0.15 V), as the engine's

/// The x between two limits, by halves of their logarithm, at which a rising function reaches `wanted`.
template <typename F>
double where(F rising, double wanted, double low, double high) {
    for (int k = 0; k < 100; ++k) {
        const double middle = std::sqrt(low * high);
        (rising(middle) < wanted ? low : high) = middle;
    }
    return std::sqrt(low * high);
}

}  // namespace

double LightEye::amps(double lux, double volts) const {
    if (part.kind == "ldr") return volts / ldr_resistance(part, lux);
    Conditions c;
    c.lux = lux, c.infrared = lux * infrared_per_lux;
    return photocurrent(part, c) * std::tanh(volts / eye_saturation);
}

double LightEye::lux_for(double wanted, double volts) const {
    return where([&](double lux) { return amps(lux, volts); }, wanted, 1e-3, 1e6);
}

double LightEye::volts_behind(double ohms, double supply, double lux) const {
    return where([&](double v) { return amps(lux, v) + v / ohms; }, supply / ohms, 1e-9, supply);
}

double LightEye::steepness() const { return part.kind == "ldr" ? part.number("gamma") : 1; }

Part LightEye::placed(const std::string& name, const std::string& plus, const std::string& minus) const {
    Part placed = part;
    placed.designator = name;
    const bool ldr = part.kind == "ldr";
    placed.pins = {{ldr ? "a" : "c", plus}, {ldr ? "b" : "e", minus}};
    return placed;
}

double infrared_of(const std::string& light) {
    return light == "daylight" ? 4e-3 : light == "filament" ? 20e-3 : 0;
}

LightEye light_eye(const std::string& id, double ldr_ohms, const std::string& light) {
    if (id == "ldr") return {{"", "ldr", {{"value", ldr_ohms}}, {}, {}}, infrared_of(light)};
    return {{"", "phototransistor", {{"type", id}}, {}, {}}, infrared_of(light)};
}

}  // namespace elkit
