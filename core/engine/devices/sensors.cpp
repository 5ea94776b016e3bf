// Resistances and currents that follow warmth and light.
#include <cmath>

#include "engine/devices/makers.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

/// A resistance that the conditions set: thermistor or light-dependent resistor.
class SensorResistance final : public Device {
  public:
    SensorResistance(const Part& part, double factor, double ohms)
        : part_(part), factor_(factor), g_(1 / ohms) {}
    void bind(const Part& part, Binder& b) override { pair_.bind(b, b.net(part, "a"), b.net(part, "b")); }
    void load(Load& l) const override { pair_.current(l, g_ * pair_.voltage(l.x), g_); }
    bool configure(const Conditions& c) override {
        const auto ohms = resistance(part_, c);
        return ohms && std::exchange(g_, 1 / (factor_ * ohms.value())) != g_;
    }
    static Result<double> resistance(const Part& part, const Conditions& c) {
        if (part.kind == "ldr") return ldr_resistance(part, c.lux);
        return thermistor_resistance(part, c.celsius);
    }

  private:
    Part part_;
    double factor_, g_;
    Pair pair_;
};

/// I = I_photo tanh(Vce/0.15 V): saturates like a transistor that light drives.
class Phototransistor final : public Device {
  public:
    Phototransistor(const Part& part, double factor, const Conditions& c)
        : part_(part), factor_(factor), photo_(factor * photocurrent(part, c)) {}
    void bind(const Part& part, Binder& b) override { pair_.bind(b, b.net(part, "c"), b.net(part, "e")); }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        const double v = pair_.voltage(l.x), t = std::tanh(v / 0.15);
        pair_.current(l, photo_ * t + 1e-12 * v, photo_ * (1 - t * t) / 0.15 + 1e-12);
    }
    bool configure(const Conditions& c) override {
        const double now = factor_ * photocurrent(part_, c);
        return std::exchange(photo_, now) != now;
    }

  private:
    Part part_;
    double factor_, photo_;
    Pair pair_;
};

Result<std::unique_ptr<Device>> resistance(const Making& m) {
    auto ohms = SensorResistance::resistance(m.part, m.conditions);
    if (!ohms) return ohms.error();
    return std::make_unique<SensorResistance>(m.part, m.spread(), m.spread() * ohms.value());
}

}  // namespace

void add_sensor_devices(Makers& makers) {
    makers["thermistor"] = makers["ldr"] = resistance;
    makers["phototransistor"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<Phototransistor>(m.part, m.spread(), m.conditions);
    };
}

}  // namespace elkit
