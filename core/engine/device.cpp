#include "engine/device.hpp"

#include <algorithm>
#include <cmath>

#include "engine/equations.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

/// A resistance; also a closed or open contact.
class Conductor final : public Device {
  public:
    Conductor(int a, int b, double ohms) : Device(a, b), g_(1 / std::max(ohms, 1e-6)) {}
    void stamp(Equations& eq, double, double) const override { eq.conductance(a(), b(), g_); }
    double current(double voltage, double) const override { return g_ * voltage; }

  private:
    double g_;
};

/// An open-circuit voltage behind a resistance, in Norton form; `a` is the + pin.
class Source final : public Device {
  public:
    Source(int a, int b, Thevenin t) : Device(a, b), t_(t), g_(1 / std::max(t.resistance, 1e-4)) {}
    void stamp(Equations& eq, double, double drive) const override {
        eq.conductance(a(), b(), g_);
        eq.current(b(), a(), g_ * t_.voltage * drive);
    }
    double current(double voltage, double drive) const override {
        return g_ * (voltage - t_.voltage * drive);
    }

  private:
    Thevenin t_;
    double g_;
};

class JunctionDevice final : public Device {
  public:
    JunctionDevice(int a, int b, Junction j)
        : Device(a, b), j_(j), critical_(j.slope * std::log(j.slope / (std::sqrt(2.0) * j.saturation))) {}
    void stamp(Equations& eq, double voltage, double) const override {
        const auto [i, g] = j_.at(voltage);
        eq.conductance(a(), b(), g + leak);
        eq.current(a(), b(), i - g * voltage);
    }
    double current(double voltage, double) const override { return j_.at(voltage).current + leak * voltage; }
    /// Nagel's junction limiting (SPICE2, 1975): beyond the critical voltage, step by the logarithm.
    /// A junction with Rs is bounded by 1/Rs and needs none.
    double limit(double before, double wanted) const override {
        if (j_.resistance > 0 || wanted < critical_ || std::abs(wanted - before) < 2 * j_.slope)
            return wanted;
        if (before <= 0) return critical_;
        const double argument = 1 + (wanted - before) / j_.slope;
        return argument > 0 ? before + j_.slope * std::log(argument) : critical_;
    }
    bool nonlinear() const override { return true; }

  private:
    static constexpr double leak = 1e-12;  // S, keeps a chain of dark junctions determined
    Junction j_;
    double critical_;
};

}  // namespace

double lead_resistance(const Part& source, double celsius) {
    // copper: 0.0172 Ω mm²/m at 20 °C, +0.39 %/K; current runs out and back
    const double area = std::max(source.number("lead_area"), 1e-3);
    return 2 * 0.0172 * source.number("lead_length") / area * (1 + 0.0039 * (celsius - 20));
}

Result<Thevenin> source_model(const Part& part, const Catalogue& catalogue, const Conditions& conditions) {
    const double leads = lead_resistance(part, conditions.celsius);
    const auto refuse = [&](double volts) {
        return Error{Fault::design, "part " + part.designator, "gives " + format_quantity(volts, Unit::volt),
                     "60 V DC at most; above that use a ready-made certified supply, wired by a licensed "
                     "electrician to the local code"};
    };
    if (part.kind == "supply") {
        if (part.number("voltage") > highest_supply) return refuse(part.number("voltage"));
        return Thevenin{part.number("voltage"), part.number("resistance") + leads};
    }
    const CellType* cell = catalogue.cell(part.text("cell"));
    if (!cell)
        return Error{Fault::design, "part " + part.designator, "unknown cell \"" + part.text("cell") + "\"",
                     "a cell of the catalogue, such as LR6"};
    const double count = part.number("count");
    if (count * cell->open_circuit.at(1) > highest_supply) return refuse(count * cell->open_circuit.at(1));
    const double charge = std::clamp(conditions.battery, 0.0, 1.0);
    return Thevenin{
        count * cell->open_circuit.at(charge),
        count * cell->resistance.at(charge) * cell->resistance_factor.at(conditions.celsius) + leads};
}

Result<Junction> junction_model(const Part& part, const Catalogue& catalogue, double celsius, double bin) {
    const auto named = [&](Error e) {
        e.place = "part " + part.designator;
        return e;
    };
    if (part.kind == "diode") {
        const DiodeType* type = catalogue.diode(part.text("type"));
        if (!type)
            return named({Fault::design, "", "unknown diode \"" + part.text("type") + "\"",
                          "signal, rectifier or schottky"});
        return fit_junction({{type->test_current, type->vf_typical}},
                            {type->emission, type->series_resistance, type->tempco}, celsius);
    }
    const LedType* type = catalogue.led(part.text("type"));
    if (!type)
        return named({Fault::design, "", "unknown LED \"" + part.text("type") + "\"",
                      "an LED of the catalogue, such as red-5mm"});
    PointList points{{type->test_current, type->vf_typical}};
    const bool measured = part.points("points") && !part.points("points")->empty();
    if (measured) points = *part.points("points");
    const std::string own_bin = part.text("bin");
    double position = bin;  // a stated bin holds half of the spread on its side
    if (own_bin == "low") position = -0.75 + bin / 4;
    if (own_bin == "high") position = 0.75 + bin / 4;
    const double shift = position < 0 ? -position * (type->vf_low - type->vf_typical)
                                      : position * (type->vf_high - type->vf_typical);
    if (!measured)
        for (auto& [i, v] : points) v += shift;
    auto fitted = fit_junction(points, {type->emission, type->series_resistance, type->tempco}, celsius);
    if (!fitted) return named(fitted.error());
    return fitted;
}

Result<std::unique_ptr<Device>> make_device(const Part& part, int a, int b, const Catalogue& catalogue,
                                            const Conditions& conditions, const Corner& corner) {
    constexpr double open_contact = 1e12;  // Ω
    if (part.kind == "resistor")
        return std::make_unique<Conductor>(
            a, b, part.number("value") * (1 + corner.resistance * part.number("tolerance")));
    if (part.kind == "switch")
        return std::make_unique<Conductor>(
            a, b, conditions.closed(part) ? part.number("on_resistance") : open_contact);
    if (part.kind == "led" || part.kind == "diode") {
        auto junction =
            junction_model(part, catalogue, conditions.celsius, part.kind == "led" ? corner.led_vf : 0);
        if (!junction) return junction.error();
        return std::make_unique<JunctionDevice>(a, b, junction.value());
    }
    if (part.kind == "battery" || part.kind == "supply") {
        auto model = source_model(part, catalogue, conditions);
        if (!model) return model.error();
        return std::make_unique<Source>(a, b, model.value());
    }
    return Error{Fault::design, "part " + part.designator, "unknown kind \"" + part.kind + "\"",
                 "a kind the engine knows"};
}

}  // namespace elkit
