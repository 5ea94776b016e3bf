#include "recipes/switching.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "light/strings.hpp"

namespace elkit {
namespace {

constexpr double gate_series = 100;                             // Ω
constexpr double usual_celsius = 21, threshold_slope = -0.002;  // °C, V/°C

}  // namespace

void add_gate(Sketch& s, const std::string& drain, double down_ohms, const std::string& input,
              const std::string& number) {
    const std::string gate = "GATE" + number;
    s.rough_resistor("Rgate" + number, "gate resistor", gate_series, input, gate,
                     {"slows the edge and keeps the gate from ringing; the gate takes no current"});
    s.rough_resistor("Rdown" + number, "gate pull-down", down_ohms, gate, "GND",
                     {"holds the gate at ground while nothing drives it, as during building"});
    s.add({"Q" + (number.empty() ? "1" : number),
           "nmos",
           {{"type", std::string(switch_mosfet)}},
           {{"d", drain}, {"g", gate}, {"s", "GND"}},
           {}});
}

Figure gate_time(const Sketch& s, double source_ohms, double rate) {
    double ohms = source_ohms;
    for (const Part& part : s.sized().parts)
        if (part.designator == "Rgate") ohms += part.number("value");
    const PartType& gate = *known_catalogue().type("nmos", switch_mosfet);
    const double farads = gate.value("cgs") + 2 * gate.value("cgd"), time = 2.2 * ohms * farads;
    return {
        "recipe.gate_time",
        "gate switches in",
        time,
        Unit::second,
        {},
        {},
        {fmt::format("2.2 R C with {} of output and gate resistor and {} of gate (Cgs + 2 Cgd)",
                     format_quantity(ohms, Unit::ohm), format_quantity(farads, Unit::farad)),
         fmt::format("{:.2g} % of a cycle, twice: it warms the transistor in between", 100 * time * rate)}};
}

Result<double> gate_volts(const char* type, double amps, const char* kind) {
    const auto fit = mosfet_fit({"Q1", kind, {{"type", std::string(type)}}, {}, {}});
    if (!fit) return fit.error();
    const double vt = thermal_voltage(usual_celsius), n_vt = mosfet_slope * vt;
    const double scale = 2 * mosfet_slope * fit.value().beta * vt * vt;
    const double root = std::sqrt(amps / scale);
    return fit.value().threshold + threshold_slope * (usual_celsius - 25) +
           2 * n_vt * (root > 30 ? root : std::log(std::expm1(root)));
}

double base_volts(const PartType& transistor, double collector) {
    return thermal_voltage(usual_celsius) * std::log(collector / transistor.value("saturation_current"));
}

Result<const PartType*> transistor_for(const std::string& kind, double amps) {
    for (const char* size : {"-small", "-medium"})
        if (const PartType* t = known_catalogue().type(kind, kind + size);
            t && amps <= 0.5 * t->value("max_current"))
            return t;
    return Error{Fault::design, "switched by",
                 format_quantity(amps, Unit::ampere) + " is much for a transistor's base drive", "a MOSFET"};
}

double strip_current(const Part& strip, double volts) {
    const auto law = junction_model({"L1", "led", {{"type", strip.text("type")}}, {}, {}}, known_catalogue(),
                                    usual_celsius, 0);
    if (!law) return 0;
    double amps = 0.01;
    for (int round = 0; round < 20; ++round)
        amps = std::max(1e-6, (volts - strip.number("in_series") * law.value().voltage_at(amps)) /
                                  strip.number("resistance"));
    return strip_rows(strip) * amps;
}

}  // namespace elkit
