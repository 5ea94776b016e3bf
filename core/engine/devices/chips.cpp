// Chips as what they do at their pins: timer, comparator, linear regulator.
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "engine/devices/latch.hpp"
#include "engine/devices/makers.hpp"

namespace elkit {
namespace {

constexpr double input_leak = 1e-11;  // S from each input to ground

/// A current that flows one way through a conductance, once the voltage is above a drop: an emitter follower.
/// The corner is rounded over a fortieth of the drop: about as sharp as an exponential, which Newton's last
/// steps count on, and so little that nothing flows without a voltage: it never gives power.
struct OneWay {
    double conductance, drop, round;
    OneWay(double g, double v) : conductance(g), drop(v), round(g * v / 40) {}
    void load(Load& l, const Pair& p) const {
        const Soft flow = soft_positive(conductance * (p.voltage(l.x) - drop), round);
        p.current(l, flow.value, flow.slope * conductance);
    }
};

/// The two-threshold timer: three equal resistors set 2/3 (at cont) and half of that; a latch is set when
/// trig falls below the lower one and reset when thr rises above the upper one; trig wins, reset wins over
/// both.
class Timer final : public Latched {
  public:
    explicit Timer(const Part& p)
        : Latched(p.number("delay")),
          divider_(1 / p.number("divider")),
          high_side_(1 / p.number("source_resistance"), p.number("high_drop")),
          sink_(1 / p.number("sink_resistance")),
          discharge_(1 / p.number("discharge_resistance")),
          own_(p.number("own_current") / 5) {}
    void bind(const Part& part, Binder& b) override {
        gnd_ = b.net(part, "gnd"), trig_ = b.net(part, "trig"), reset_ = b.net(part, "reset");
        cont_ = b.net(part, "cont"), thr_ = b.net(part, "thr");
        const int vcc = b.net(part, "vcc"), out = b.net(part, "out"), disch = b.net(part, "disch");
        upper_.bind(b, vcc, cont_), lower_.bind(b, cont_, gnd_), supply_.bind(b, vcc, gnd_);
        high_.bind(b, vcc, out), low_.bind(b, out, gnd_), drain_.bind(b, disch, gnd_);
        pull_up_.bind(b, vcc, reset_), trig_in_.bind(b, trig_, gnd_), thr_in_.bind(b, thr_, gnd_);
    }
    /// An output with a drop lets current out only; one without is a switch.
    bool one_way() const { return high_side_.drop > 0; }
    Nature nature() const override { return one_way() ? Nature::nonlinear : Nature::linear; }
    void load(Load& l) const override {
        const auto ohmic = [&l](const Pair& p, double g) { p.current(l, g * p.voltage(l.x), g); };
        ohmic(upper_, divider_), ohmic(lower_, divider_ / 2), ohmic(supply_, own_);
        ohmic(pull_up_, 1e-7), ohmic(trig_in_, input_leak), ohmic(thr_in_, input_leak);
        ohmic(drain_, latch_.shown() ? input_leak : discharge_);
        if (!latch_.shown())
            ohmic(low_, sink_);
        else if (one_way())
            high_side_.load(l, high_), ohmic(low_, input_leak);
        else
            ohmic(high_, high_side_.conductance);
    }
    int monitors() const override { return 2; }
    void watch(const double* x, double* values) const override {
        const double ground = x[gnd_], upper = x[cont_] - ground, lower = upper / 2;
        const double trig = x[trig_] - ground, thr = x[thr_] - ground, reset = x[reset_] - ground - 0.7;
        if (latch_.decided())
            values[0] = std::min(thr - upper, trig - lower), values[1] = -reset;
        else
            values[0] = std::min(lower - trig, reset), values[1] = -1;
    }
    std::vector<int> watched() const override { return {trig_, thr_, cont_}; }

  private:
    double divider_;
    OneWay high_side_;
    double sink_, discharge_, own_;
    int gnd_ = 0, trig_ = 0, reset_ = 0, cont_ = 0, thr_ = 0;
    Pair upper_, lower_, supply_, high_, low_, drain_, pull_up_, trig_in_, thr_in_;
};

class Comparator final : public Latched {
  public:
    explicit Comparator(const Part& p)
        : Latched(p.number("delay")),
          half_(p.number("hysteresis") / 2),
          offset_(p.number("offset")),
          bias_(p.number("bias")),
          sink_(1 / p.number("sink_resistance")),
          source_(1 / p.number("source_resistance")),
          own_(p.number("own_current") / 5) {}
    void bind(const Part& part, Binder& b) override {
        plus_ = b.net(part, "in+"), minus_ = b.net(part, "in-");
        const int out = b.net(part, "out"), vcc = b.net(part, "vcc"), gnd = b.net(part, "gnd");
        high_.bind(b, vcc, out), low_.bind(b, out, gnd), supply_.bind(b, vcc, gnd);
        plus_in_.bind(b, plus_, gnd), minus_in_.bind(b, minus_, gnd);
    }
    void load(Load& l) const override {
        const auto ohmic = [&l](const Pair& p, double g) { p.current(l, g * p.voltage(l.x), g); };
        ohmic(supply_, own_);
        ohmic(plus_in_, input_leak), ohmic(minus_in_, input_leak);
        for (const Pair* input : {&plus_in_, &minus_in_}) {  // into the input, whatever its voltage is
            const double t = std::tanh(input->voltage(l.x) / 0.1);
            input->current(l, bias_ * t, bias_ * (1 - t * t) / 0.1);
        }
        ohmic(high_, latch_.shown() ? source_ : 1e-12);
        ohmic(low_, latch_.shown() ? 1e-12 : sink_);
    }
    Nature nature() const override { return bias_ > 0 ? Nature::nonlinear : Nature::linear; }
    int monitors() const override { return 1; }
    void watch(const double* x, double* values) const override {
        const double d = x[plus_] + offset_ - x[minus_];
        values[0] = (latch_.decided() ? -d : d) - half_;
    }
    std::vector<int> watched() const override { return {plus_, minus_}; }

  private:
    double half_, offset_, bias_, sink_, source_, own_;
    int plus_ = 0, minus_ = 0;
    Pair high_, low_, supply_, plus_in_, minus_in_;
};

/// Feeds the output through its output resistance up to the set voltage, or through the pass element's
/// resistance when the input is short of it; never backwards. Corners are rounded over 0.1 mA at most.
class Regulator final : public Device {
  public:
    explicit Regulator(const Part& p)
        : set_(p.number("voltage")),
          dropout_(p.number("dropout")),
          held_(1 / p.number("output_resistance")),
          open_(1 / std::max(p.number("dropout_resistance"), 1e-3)),
          own_(p.number("own_current") / set_),
          round_(std::clamp(open_ * dropout_ / 40, 1e-9, 1e-4)) {}
    void bind(const Part& part, Binder& b) override {
        in_ = b.net(part, "in"), out_ = b.net(part, "out"), gnd_ = b.net(part, "gnd");
        supply_.bind(b, in_, gnd_);
        for (std::size_t k = 0; k < 3; ++k) {
            const int column = std::array{in_, out_, gnd_}[k];
            in_row_[k] = b.entry(in_, column), out_row_[k] = b.entry(out_, column);
        }
    }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        const double held = held_ * (set_ * l.drive - (l.x[out_] - l.x[gnd_]));
        const double starved = open_ * (l.x[in_] - l.x[out_] - dropout_);
        const Soft above = soft_positive(held - starved, round_);  // the lesser of the two: held − above
        const Soft flow = soft_positive(held - above.value, round_);
        const double by_held = flow.slope * (1 - above.slope), by_starved = flow.slope * above.slope;
        const double d_in = by_starved * open_, d_out = -by_held * held_ - by_starved * open_,
                     d_gnd = by_held * held_;
        l.f[in_] += flow.value, l.f[out_] -= flow.value;
        const std::array<double, 3> d{d_in, d_out, d_gnd};
        for (std::size_t k = 0; k < 3; ++k) l.df[in_row_[k]] += d[k], l.df[out_row_[k]] -= d[k];
        supply_.current(l, own_ * supply_.voltage(l.x), own_);
    }
    int main_pin() const override { return 2; }

  private:
    double set_, dropout_, held_, open_, own_, round_;
    int in_ = 0, out_ = 0, gnd_ = 0;
    std::array<int, 3> in_row_{}, out_row_{};
    Pair supply_;
};

template <class T>
Result<std::unique_ptr<Device>> chip(const Making& m) {
    return std::make_unique<T>(m.part);
}

}  // namespace

void add_chip_devices(Makers& makers) {
    makers["timer"] = chip<Timer>;
    makers["comparator"] = chip<Comparator>;
    makers["regulator"] = chip<Regulator>;
}

}  // namespace elkit
