// Resistances and currents that follow light.
#include <cmath>
#include <utility>

#include "engine/devices/makers.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

/// A light-dependent resistor.
class LightResistance final : public Device {
  public:
    LightResistance(const Part& part, double factor, const Conditions& c)
        : part_(part), factor_(factor), g_(1 / (factor * ldr_resistance(part, c.lux))) {}
    void bind(const Part& part, Binder& b) override { pair_.bind(b, b.net(part, "a"), b.net(part, "b")); }
    void load(Load& l) const override { pair_.current(l, g_ * pair_.voltage(l.x), g_); }
    bool configure(const Conditions& c) override {
        return std::exchange(g_, 1 / (factor_ * ldr_resistance(part_, c.lux))) != g_;
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

}  // namespace

void add_sensor_devices(Makers& makers) {
    makers["ldr"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<LightResistance>(m.part, m.spread(), m.conditions);
    };
    makers["phototransistor"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<Phototransistor>(m.part, m.spread(), m.conditions);
    };
}

}  // namespace elkit
