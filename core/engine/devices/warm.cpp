// Resistances that their own power warms: fuses, thermistors and filament lamps.
#include "engine/devices/warm.hpp"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

#include "engine/devices/makers.hpp"
#include "engine/filament.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

/// Lowers a heat capacity [J/K] so that it settles within `longest` [s] at `spread` [W/K]; true if that is
/// new.
bool settle_within(double longest, double spread, double& heat) {
    const double most = longest * spread;
    return heat > most && (heat = most, true);
}

/// A wire fuse. Its warmth T above ambient is an unknown:  C dT/dt = I² R − δ T. It melts where the mean of
/// hold and trip current, I_hold I_trip R = δ T, brings it, and stays open.
class WireFuse final : public Device {
  public:
    explicit WireFuse(const Part& p)
        : cold_(p.number("resistance")),
          heat_(p.number("heat")),
          spread_(cold_ * p.number("hold") * p.number("trip") / melting_rise) {}
    void bind(const Part& part, Binder& b) override { warm_.bind(part, b); }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override { warm_.load(l, melted_ ? open_contact : cold_, 0, heat_, spread_); }
    int monitors() const override { return 1; }
    void watch(const double* x, double* values) const override {
        values[0] = melted_ ? -1 : x[warm_.warmth] - melting_rise;
    }
    bool fire(int, double) override { return melted_ = true; }
    bool hasten(double longest) override { return settle_within(longest, spread_, heat_); }

  private:
    static constexpr double melting_rise = 100;  // any unit of warmth will do: δ is in the same
    double cold_, heat_, spread_;
    bool melted_ = false;
    WarmResistance warm_;
};

/// A PTC. Its warmth T above ambient is an unknown:  C dT/dt = V²/R − δ T, with δ what keeps it tripped in
/// air of 20 °C and R(T) of PtcCurve.
class Ptc final : public Device {
  public:
    Ptc(const Part& p, const PtcCurve& curve, double ambient)
        : curve_(curve), heat_(p.number("heat")), ambient_(ambient) {}
    void bind(const Part& part, Binder& b) override { warm_.bind(part, b); }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        const auto [r, slope] = curve_.at(ambient_ + l.x[warm_.warmth]);
        warm_.load(l, r, slope, heat_, curve_.spread);
    }
    bool configure(const Conditions& c) override { return std::exchange(ambient_, c.celsius) != c.celsius; }
    bool hasten(double longest) override { return settle_within(longest, curve_.spread, heat_); }

  private:
    PtcCurve curve_;
    double heat_, ambient_;
    WarmResistance warm_;
};

/// A thermistor. Its warmth T above ambient is an unknown, as a PTC's.
class Thermistor final : public Device {
  public:
    Thermistor(const Part& p, const ThermistorLaw& law, double factor, double ambient)
        : law_(law), factor_(factor), ambient_(ambient), spread_(p.number("dissipation")) {
        heat_ = p.number("time_constant") * spread_;
    }
    void bind(const Part& part, Binder& b) override { warm_.bind(part, b); }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        const auto [r, slope] = law_.at(ambient_ + l.x[warm_.warmth]);
        warm_.load(l, factor_ * r, factor_ * slope, heat_, spread_);
    }
    bool configure(const Conditions& c) override { return std::exchange(ambient_, c.celsius) != c.celsius; }
    bool hasten(double longest) override { return settle_within(longest, spread_, heat_); }

  private:
    ThermistorLaw law_;
    double factor_, ambient_, heat_ = 0, spread_;
    WarmResistance warm_;
};

/// A filament lamp. Its unknown is what it loses, as a share of its rated power: s = (T/T₀)⁴ − (room/T₀)⁴, in
/// which the loss is a straight line; R and T follow from it (filament.hpp).
class Filament final : public Device {
  public:
    Filament(const Part& p, double spread)
        : rated_(p.number("voltage") * p.number("test_current") * spread),
          hot_(p.number("voltage") / (p.number("test_current") * spread)),
          room_(std::pow(room_in_kelvin / p.number("filament"), filament_power_by_heat)),
          cools_(p.number("warm_time")) {}
    void bind(const Part& part, Binder& b) override { warm_.bind(part, b); }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        constexpr double by_loss = filament_resistance_by_heat / filament_power_by_heat;
        const double s = heat(l.x), r = hot_ * std::pow(s, by_loss), t = std::pow(s, 0.25);
        const double loss = l.x[warm_.warmth];
        const double held = 4 * cools_ * rated_ * (t - std::pow(room_, 0.25));  // J, from C T₀ = 4 τ P₀
        const double by_s = cools_ * rated_ * t / s;
        const double beyond = loss - (s - room_);  // colder than can be, in a step of Newton's
        warm_.load(l, r, beyond < 0 ? 0 : by_loss * r / s, WarmResistance::Held{held + by_s * beyond, by_s},
                   rated_);
    }
    std::optional<double> glow(const double* x) const override {
        return std::pow(heat(x), filament_light_by_heat / filament_power_by_heat);
    }
    bool hasten(double longest) override { return cools_ > longest && (cools_ = longest, true); }

  private:
    double heat(const double* x) const { return std::max(x[warm_.warmth] + room_, room_ / 2); }
    double rated_, hot_, room_, cools_;
    WarmResistance warm_;
};

}  // namespace

void add_warm_devices(Makers& makers) {
    makers["fuse"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        if (!(m.part.number("trip_power") > 0)) return std::make_unique<WireFuse>(m.part);
        auto curve = ptc_curve(m.part);
        if (!curve) return curve.error();
        return std::make_unique<Ptc>(m.part, curve.value(), m.conditions.celsius);
    };
    makers["lamp"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<Filament>(m.part, m.spread());
    };
    makers["thermistor"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        auto law = thermistor_law(m.part);
        if (!law) return law.error();
        return std::make_unique<Thermistor>(m.part, law.value(), m.spread(), m.conditions.celsius);
    };
}

}  // namespace elkit
