// The bar driver: a chip that lights LEDs one after another as a voltage rises.
#include <algorithm>
#include <array>
#include <cmath>
#include <string>

#include "engine/devices/latch.hpp"
#include "engine/devices/makers.hpp"

namespace elkit {
namespace {

constexpr std::size_t outputs = 10;
constexpr double driver_leak = 1e-9;                 // S, of an output that is off
constexpr double times_reference = 10;               // what an output sinks, of what the reference gives
constexpr double headroom = 1.5;                     // V, that the reference needs above itself
constexpr double from = 0.5, to = 1.0;               // V of supply, between which its reference wakes
constexpr double ready_from = 0.8, ready_to = 0.95;  // of the lowest supply, between which its outputs do
constexpr double reference_g = 1;                    // S, behind the reference
constexpr double mode_on = 0.5, mode_off = 0.4, mode_g = 1e-6;  // of the supply; S to gnd

/// Ten comparators hold `in` against the taps of a chain of equal resistors between `low` and `high`. Each
/// one that `in` has passed sinks ten times the current that is drawn from `ref`; with `mode` low only the
/// highest of them. As the datasheets of such chips have it. The reference gives no more than brings the
/// outputs to a third above their rating.
class BarDriver final : public Device {
  public:
    explicit BarDriver(const Making& m)
        : reference_(m.part.number("reference") * m.spread()),
          chain_(1 / m.part.number("chain")),
          saturation_(m.part.number("saturation")),
          limit_(1.3 * m.part.number("max_current") / times_reference),
          half_(m.part.number("hysteresis") / 2),
          own_(m.part.number("own_current")),
          lowest_(std::max(m.part.number("lowest_supply"), to)) {}

    void bind(const Part& part, Binder& b) override {
        gnd_ = b.net(part, "gnd"), low_ = b.net(part, "low"), in_ = b.net(part, "in");
        high_ = b.net(part, "high"), mode_ = b.net(part, "mode");
        const int ref = b.net(part, "ref"), vcc = b.net(part, "vcc");
        ref_nodes_ = {vcc, ref, gnd_};
        memory_ = b.memory();
        chain_pair_.bind(b, high_, low_), supply_.bind(b, vcc, gnd_), in_pair_.bind(b, in_, gnd_);
        mode_pair_.bind(b, mode_, gnd_);
        for (std::size_t column = 0; column < 3; ++column) {
            for (std::size_t row = 0; row < 2; ++row)
                ref_entries_[row][column] = b.entry(ref_nodes_[row], ref_nodes_[column]);
            back_by_reference_[column] = b.entry(gnd_, ref_nodes_[column]);
        }
        for (std::size_t k = 0; k < outputs; ++k) {
            const int out = b.net(part, "out" + std::to_string(k + 1));
            sinks_[k].bind(b, out, gnd_), sink_memory_[k] = b.memory();
            for (std::size_t column = 0; column < 3; ++column)
                by_reference_[k][column] = b.entry(out, ref_nodes_[column]);
        }
    }
    Nature nature() const override { return Nature::nonlinear; }

    void load(Load& l) const override {
        const double supply = supply_.voltage(l.x);
        const double fed = std::tanh(supply / to);
        supply_.current(l, own_ * fed, own_ * (1 - fed * fed) / to);
        chain_pair_.current(l, chain_ * chain_pair_.voltage(l.x), chain_);
        in_pair_.current(l, driver_leak * in_pair_.voltage(l.x), driver_leak);
        mode_pair_.current(l, mode_g * mode_pair_.voltage(l.x), mode_g);
        const Given given = reference(l, supply);
        const std::array<double, 3> d{given.by_supply, given.by_ref, -given.by_supply - given.by_ref};
        l.f[ref_nodes_[0]] += given.amps, l.f[ref_nodes_[1]] -= given.amps;
        for (std::size_t k = 0; k < 3; ++k)
            l.df[ref_entries_[0][k]] += d[k], l.df[ref_entries_[1][k]] -= d[k];
        const auto [ready, ready_by_supply] = smooth_step(supply, ready_from * lowest_, ready_to * lowest_);
        const double set = times_reference * given.amps, each = set * ready, woken = set * ready_by_supply;
        const double slope = times_reference * ready;
        const std::array<double, 3> rises{slope * d[0] + woken, slope * d[1], slope * d[2] - woken};
        for (std::size_t k = 0; k < outputs; ++k) {
            const Pair& sink = sinks_[k];
            const double v = sink.voltage(l.x);
            sink.current(l, driver_leak * v, driver_leak);
            if (!lit(k)) continue;
            // from flat to flat, which Newton's steps overshoot, by way of the steep middle
            double& before = l.memory[sink_memory_[k]];
            const bool crosses = l.limiting && ((v > saturation_ && before < -saturation_) ||
                                                (v < -saturation_ && before > saturation_));
            const double at = before = crosses ? 0 : v, t = std::tanh(at / saturation_);
            const double by_volts = (1 - t * t) / saturation_, open = t + by_volts * (v - at);
            if (crosses) l.limited = true;
            sink.current(l, each * open, each * by_volts);
            for (std::size_t column = 0; column < 3; ++column) {
                l.df[by_reference_[k][column]] += open * rises[column];
                l.df[back_by_reference_[column]] -= open * rises[column];
            }
        }
    }

    int monitors() const override { return static_cast<int>(outputs) + 1; }
    void watch(const double* x, double* values) const override {
        for (std::size_t k = 0; k < outputs; ++k) {
            const double tap = x[low_] + (x[high_] - x[low_]) * static_cast<double>(k + 1) / outputs;
            values[k] = (passed_[k] ? tap - x[in_] : x[in_] - tap) - half_;
        }
        const double mode = mode_pair_.voltage(x), supply = std::max(supply_.voltage(x), 0.1);
        values[outputs] = bar_ ? mode_off * supply - mode : mode - mode_on * supply;
    }
    std::vector<int> watched() const override { return {in_, low_, high_}; }
    bool fire(int monitor, double) override {
        const auto k = static_cast<std::size_t>(monitor);
        bool& turned = k < outputs ? passed_[k] : bar_;
        turned = !turned;
        return true;
    }
    int main_pin() const override { return 5; }  // vcc

  private:
    struct Given {
        double amps, by_supply, by_ref;
    };
    bool lit(std::size_t k) const { return passed_[k] && (bar_ || k + 1 == outputs || !passed_[k + 1]); }
    /// What the reference lets out, never in and never more than `limit_`, and its slopes. Newton's steps
    /// from beyond that limit to no current, or back, stop in between: both are flat.
    Given reference(Load& l, double supply) const {
        const double set = reference_ * l.drive;
        const Soft less = soft_positive(set - (supply - headroom), 0.02);  // never above what it is fed with
        const double aim = set - less.value, v = l.x[ref_nodes_[1]] - l.x[gnd_];
        const double width = limit_ / reference_g, wanted = aim - v, before = l.memory[memory_];
        const bool crosses = l.limiting && ((wanted < 0 && before > width) || (wanted > width && before < 0));
        const double short_by = crosses ? width / 2 : wanted;
        l.memory[memory_] = short_by;
        if (crosses) l.limited = true;
        const Soft free = soft_positive(reference_g * short_by, limit_ / 1000);
        const Soft over = soft_positive(free.value - limit_, limit_ / 50);
        const double by_volts = free.slope * (1 - over.slope) * reference_g;
        const double given = std::max(0.0, free.value - over.value + by_volts * (wanted - short_by));
        const auto [awake, awake_by_supply] = smooth_step(supply, from, to);
        const double slope = awake * by_volts;
        return {awake * given, slope * less.slope + awake_by_supply * given, -slope};
    }

    double reference_, chain_, saturation_, limit_, half_, own_, lowest_;
    int memory_ = 0, gnd_ = 0, low_ = 0, in_ = 0, high_ = 0, mode_ = 0;
    std::array<int, 3> ref_nodes_{}, back_by_reference_{};  // vcc, ref, gnd
    std::array<std::array<int, 3>, 2> ref_entries_{};
    std::array<std::array<int, 3>, outputs> by_reference_{};
    std::array<Pair, outputs> sinks_;
    std::array<int, outputs> sink_memory_{};
    Pair chain_pair_, supply_, in_pair_, mode_pair_;
    std::array<bool, outputs> passed_{};
    bool bar_ = false;
};

}  // namespace

void add_bar_driver(Makers& makers) {
    makers["bar_driver"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<BarDriver>(m);
    };
}

}  // namespace elkit
