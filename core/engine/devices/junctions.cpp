// Diodes, LEDs, and what is made of them.
#include <algorithm>
#include <cmath>

#include "engine/devices/makers.hpp"
#include "engine/devices/semiconductor.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

constexpr double leak = 1e-12;  // S, keeps a chain of dark junctions determined

/// Adds a junction between two nodes; limited where it has no series resistance to bound its slope.
void load_junction(Load& l, const Pair& pair, const JunctionLaw& j, double critical, int memory) {
    if (l.charges_only) return;
    const double v = pair.voltage(l.x), before = l.memory[memory];
    const double at = j.resistance() <= 0 && l.limiting ? limit_junction(v, before, j.slope(), critical) : v;
    // where it conducts, a tangent from more than a few n·Vt away says little
    const bool far =
        std::abs(at - before) > 2 * j.slope() && std::max(at, before) > critical - 12 * j.slope();
    l.limited = l.limited || at != v || far;
    l.memory[memory] = at;
    const auto [i, g] = j.at(at);
    pair.current(l, i + g * (v - at) + leak * v, g + leak);
}

void load_breakdown(Load& l, const Pair& pair, const Knee& knee) {
    const auto [i, g] = knee.at(-pair.voltage(l.x));
    pair.current(l, -i, g);
}

/// Datasheets allow 5 V and measure no more; LEDs of all colours stand some 30 V before they conduct
/// backwards.
Knee led_breakdown(double in_series = 1) { return {30 * in_series, 20 * in_series}; }

class JunctionDevice final : public Device {
  public:
    JunctionDevice(Junction j, double capacitance, Knee breakdown)
        : j_(j), critical_(critical_voltage(j)), c_(capacitance), breakdown_(breakdown) {}
    void bind(const Part& part, Binder& b) override {
        pair_.bind(b, b.net(part, part.pins[0].name), b.net(part, part.pins[1].name));
        memory_ = b.memory();
    }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        load_junction(l, pair_, j_, critical_, memory_);
        load_breakdown(l, pair_, breakdown_);
        if (c_ > 0) pair_.charge(l, c_ * pair_.voltage(l.x), c_);
    }

  private:
    JunctionLaw j_;
    double critical_, c_;
    Knee breakdown_;
    int memory_ = 0;
    Pair pair_;
};

/// A diode that breaks down: a second exponential the other way round, with the dynamic resistance at the
/// test current.
class Zener final : public Device {
  public:
    Zener(Junction forward, double volts, double amps, double ohms) : forward_(forward) {
        reverse_.slope = std::max(0.05, volts / 300);
        const double most = 0.5 * volts / amps;  // the rest is the breakdown's own
        reverse_.resistance = std::clamp(ohms - reverse_.slope / amps, std::min(0.1, most), most);
        reverse_.saturation = amps / std::expm1((volts - amps * reverse_.resistance) / reverse_.slope);
        if (forward_.resistance <= 0) forward_.resistance = 0.1;  // bounds its slope
        forward_law_ = JunctionLaw(forward_), reverse_law_ = JunctionLaw(reverse_);
    }
    void bind(const Part& part, Binder& b) override { pair_.bind(b, b.net(part, "a"), b.net(part, "k")); }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        if (l.charges_only) return;
        const double v = pair_.voltage(l.x);
        const auto f = forward_law_.at(v), r = reverse_law_.at(-v);
        pair_.current(l, f.current - r.current + leak * v, f.conductance + r.conductance + leak);
    }

  private:
    Junction forward_, reverse_;
    JunctionLaw forward_law_, reverse_law_;
    Pair pair_;
};

class RgbLed final : public Device {
  public:
    RgbLed(const std::vector<Junction>& dice, bool common_cathode) : cathode_(common_cathode) {
        for (const Junction& j : dice) dice_.push_back({JunctionLaw(j), critical_voltage(j)});
    }
    void bind(const Part& part, Binder& b) override {
        const int common = b.net(part, "common");
        for (const char* pin : {"r", "g", "b"}) {
            const int n = b.net(part, pin);
            pairs_.emplace_back().bind(b, cathode_ ? n : common, cathode_ ? common : n);
            memory_.push_back(b.memory());
        }
    }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        for (std::size_t k = 0; k < dice_.size(); ++k)
            load_junction(l, pairs_[k], dice_[k].law, dice_[k].critical, memory_[k]);
        for (const Pair& pair : pairs_) load_breakdown(l, pair, led_breakdown());
    }
    int main_pin() const override { return 3; }

  private:
    struct Die {
        JunctionLaw law;
        double critical;
    };
    std::vector<Die> dice_;
    bool cathode_;
    std::vector<Pair> pairs_;
    std::vector<int> memory_;
};

/// V at `celsius` of a diode that breaks down at `volts` at 25 °C: tunnelling falls with warmth, the
/// avalanche rises, and near 5.5 V they cancel (typical datasheets of 2.4 V to 24 V: 1.2 mV/K for each volt
/// from there).
double zener_voltage(double volts, double celsius) { return volts + 1.2e-3 * (volts - 5.5) * (celsius - 25); }

using Made = Result<std::unique_ptr<Device>>;

Made simple(const Making& m) {
    auto j = junction_model(m.part, m.catalogue, m.conditions.celsius,
                            is(m.part, Role::light) ? m.corner.of(m.part, m.corner.led_vf) : 0);
    if (!j) return j.error();
    const DiodeType* type = is(m.part, Role::blocks) ? m.catalogue.diode(m.part.text("type")) : nullptr;
    double vz = m.part.number("vz");
    if (type && !(vz > 0)) vz = type->breakdown;
    if (type && vz > 0)
        return std::make_unique<Zener>(j.value(), zener_voltage(vz * m.spread(), m.conditions.celsius),
                                       type->breakdown_current, type->breakdown_resistance);
    // a diode stands about a third more than its rating
    const double own = m.part.number("reverse_voltage");  // an LED's
    const Knee breakdown = type && type->reverse_voltage > 0 ? Knee(1.3 * type->reverse_voltage, 5)
                           : own > 5                         ? Knee(1.3 * own, 5)
                                                             : led_breakdown();
    return std::make_unique<JunctionDevice>(j.value(), m.part.number("capacitance"), breakdown);
}

Result<Junction> die(const Making& m, const std::string& id) {
    const LedType* type = m.catalogue.led(id);
    if (!type)
        return Error{Fault::design, "part " + m.part.designator, "unknown LED \"" + id + "\"",
                     "an LED of the catalogue, such as red-5mm"};
    return led_junction(*type, m.conditions.celsius, m.corner.of(m.part, m.corner.led_vf));
}

Made prewired(const Making& m) {
    auto j = junction_model(m.part, m.catalogue, m.conditions.celsius, m.corner.of(m.part, m.corner.led_vf));
    if (!j) return j.error();
    j.value().resistance += m.part.number("resistance");
    return std::make_unique<JunctionDevice>(j.value(), 0, led_breakdown());
}

/// Whole cut lengths in parallel, each of chains side by side of m LEDs and a resistor in series. The tracks
/// feed them one after the other: a third of the tracks' resistance carries the whole current on average.
Made strip(const Making& m) {
    auto j = die(m, m.part.text("type"));
    if (!j) return j.error();
    const double series = m.part.number("in_series"), length = m.part.number("length");
    const double pieces = strip_rows(m.part);
    Junction all = j.value();
    all.slope *= series;
    all.saturation *= pieces;
    all.resistance = (all.resistance * series + m.part.number("resistance")) / pieces +
                     m.part.number("track") * length / 3;
    return std::make_unique<JunctionDevice>(all, 0, led_breakdown(series));
}

Made rgb(const Making& m) {
    std::vector<Junction> dice;
    for (const char* key : {"red", "green", "blue"}) {
        auto j = die(m, m.part.text(key));
        if (!j) return j.error();
        dice.push_back(j.value());
    }
    return std::make_unique<RgbLed>(std::move(dice), m.part.text("common") == "cathode");
}

}  // namespace

void add_junction_devices(Makers& makers) {
    makers["led"] = makers["diode"] = simple;
    makers["prewired_led"] = prewired;
    makers["strip"] = strip;
    makers["rgb"] = rgb;
}

}  // namespace elkit
