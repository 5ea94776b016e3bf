// Bought modules, as what they do at their pins.
#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <utility>

#include "circuit/module.hpp"
#include "circuit/part_kind.hpp"
#include "engine/devices/latch.hpp"
#include "engine/devices/makers.hpp"
#include "matrix/frames.hpp"

namespace elkit {
namespace {

using By = ModuleSpec::By;
using Gives = ModuleSpec::Gives;

constexpr double off_leak = 1e-9;  // S, of an output that is off

/// A step-up or step-down converter: its output holds the set voltage behind its output resistance, as far as
/// the input allows and up to 1.3 times its rating; the input gives the power that leaves, divided by the
/// efficiency. 10 µF stand across either side; it starts and stops softly, as its supply comes and goes.
/// Corners are rounded over some 20 mV, or a fiftieth of the current limit.
class Converter {
  public:
    Converter(const Part& p, bool up)
        : up_(up),
          set_(p.number("voltage")),
          g_(1 / p.number("resistance")),
          efficiency_(p.number("efficiency")),
          low_(std::max(p.number("lowest_supply"), 0.2)),
          limit_(1.3 * p.number("max_current")),
          corner_(std::min(limit_ / 1000, 0.01 * g_)) {}
    void bind(const Part& part, Binder& b, int plus, int minus, int out) {
        nodes_ = {plus, minus, out, b.inner_node(part.designator + " start")};
        memory_ = b.memory();
        across_in_.bind(b, plus, minus), across_out_.bind(b, out, minus);
        for (std::size_t row = 0; row < 4; ++row)
            for (std::size_t column = 0; column < 4; ++column)
                entries_[row][column] = b.entry(nodes_[row], nodes_[column]);
    }
    void load(Load& l, bool on) const {
        const double in = l.x[nodes_[0]] - l.x[nodes_[1]], out = l.x[nodes_[2]] - l.x[nodes_[1]];
        const double start = std::clamp(l.x[nodes_[3]], 0.0, 1.0);
        const auto [aim, aim_in, aim_start] = aim_at(in, start);
        // From beyond its limit to no current at all, or back, Newton's step overshoots without end: it stops
        // in between.
        const double width = limit_ / g_, wanted = aim - out, before = l.memory[memory_];
        const bool crosses = l.limiting && ((wanted < 0 && before > width) || (wanted > width && before < 0));
        const double short_by = crosses ? width / 2 : wanted;
        l.memory[memory_] = short_by;
        if (crosses) l.limited = true;
        const Soft free = soft_positive(g_ * short_by, corner_);
        const Soft over = soft_positive(free.value - limit_, limit_ / 50);
        const double by_aim = free.slope * (1 - over.slope) * g_;
        const double given = free.value - over.value + by_aim * (wanted - short_by);
        // without an input nothing is given, and nothing where `held` below is more than the input
        constexpr double asleep = wakes * 2 / 3;
        const auto [awake, awake_in] = smooth_step(in, asleep, wakes);
        const double i = awake * given;
        const Slopes by{awake * by_aim * aim_in + awake_in * given, -awake * by_aim,
                        awake * by_aim * aim_start};
        // P in = P out / efficiency
        const Soft above = soft_positive(in - wakes / 2, 0.01), positive = soft_positive(out, 1e-3);
        const double held = wakes / 2 + above.value, share = positive.value / (efficiency_ * held);
        const double taken = i * share;
        const Slopes taken_by{by.in * share - taken / held * above.slope,
                              by.out * share + i * positive.slope / (efficiency_ * held), by.start * share};
        add(l, 0, taken, taken_by);  // leaves plus
        add(l, 2, -i, {-by.in, -by.out, -by.start});
        add(l, 1, i - taken, {by.in - taken_by.in, by.out - taken_by.out, by.start - taken_by.start});
        across_in_.charge(l, capacitance * in, capacitance),
            across_out_.charge(l, capacitance * out, capacitance);
        // d start/dt = (ready − start)/soft
        constexpr double from = 0.7;  // of its lowest supply, where it begins
        const auto [ready, ready_in] = smooth_step(in, from * low_, low_);
        const double target = on ? ready * l.drive : 0;
        l.q[nodes_[3]] += soft * l.x[nodes_[3]], l.dq[entries_[3][3]] += soft;
        add(l, 3, l.x[nodes_[3]] - target, {on ? -ready_in * l.drive : 0, 0, 1});
    }

  private:
    static constexpr double wakes = 0.15;        // V
    static constexpr double soft = 5e-4;         // s, of its start; typical datasheets
    static constexpr double capacitance = 1e-5;  // F
    struct Slopes {
        double in, out, start;
    };
    struct Aim {
        double volts, by_in, by_start;
    };
    Aim aim_at(double in, double start) const {
        constexpr double drop = 0.3, round = 0.02;
        const double own = set_ * start, through = in - drop;
        if (up_) {  // its diode lets a higher input through
            const Soft more = soft_positive(through - own, round);
            return {own + more.value, more.slope, set_ * (1 - more.slope)};
        }
        const Soft less = soft_positive(own - through, round);  // never above its input
        return {own - less.value, less.slope, set_ * (1 - less.slope)};
    }
    void add(Load& l, std::size_t row, double value, const Slopes& by) const {
        l.f[nodes_[row]] += value;
        const std::array<double, 4> d{by.in, -by.in - by.out, by.out, by.start};
        for (std::size_t column = 0; column < 4; ++column) l.df[entries_[row][column]] += d[column];
    }
    bool up_;
    double set_, g_, efficiency_, low_, limit_, corner_;
    int memory_ = 0;
    Pair across_in_, across_out_;
    std::array<int, 4> nodes_{};  // plus, minus, out, and how far it has started
    std::array<std::array<int, 4>, 4> entries_{};
};

class Module final : public Latched {
  public:
    Module(const Part& part, const ModuleSpec& spec, const Conditions& c)
        : Latched(spec.by == By::level ? part.number("delay") : 0),
          part_(part),
          spec_(spec),
          on_(1 / std::max(part.number("resistance"), 1e-3)),
          idle_(part.number("idle_current")),
          active_(part.number("active_current")),
          from_(std::max(part.number("lowest_supply") / 3, 0.2)),
          hand_(spec.by == By::hand && c.closed(part)) {
        if (spec.by == By::level)
            threshold_ = part.number("threshold"),
            let_go_ = threshold_ - std::min(part.number("hysteresis"), 0.9 * threshold_),
            input_g_ = 1 / part.number("input_resistance");
        if (spec.by == By::pattern) {
            const double period = part.number("period");
            steps_ = {{std::min(part.number("on_time"), 0.999 * period), 1}, {period, 0}};
        }
        if (spec.by == By::frames) steps_ = steps_of(part);
        if (steps_.size() > 1) {
            double shortest = steps_.front().until;
            for (std::size_t k = 1; k < steps_.size(); ++k)
                shortest = std::min(shortest, steps_[k].until - steps_[k - 1].until);
            edge_ = 1e-4 * shortest;
        }
        for (const auto& o : spec.outputs)
            if (converts(o.gives)) converter_.emplace(part, o.gives == Gives::steps_up);
    }

    void bind(const Part& part, Binder& b) override {
        const int plus = b.net(part, spec_.plus), minus = b.net(part, spec_.minus);
        supply_.bind(b, plus, minus);
        if (spec_.by == By::level) input_.bind(b, b.net(part, spec_.input), minus);
        for (const auto& o : spec_.outputs) {
            const int pin = b.net(part, o.pin);
            Pair& high = highs_.emplace_back();
            Pair& low = lows_.emplace_back();
            const int other = o.gives == Gives::passes ? b.net(part, o.other) : plus;
            if (converts(o.gives))
                converter_->bind(part, b, plus, minus, pin);
            else
                high.bind(b, other, pin), low.bind(b, pin, minus);
        }
        if (varies()) {  // a voltage of its own says whether its pattern begins: a mark to find its cycle by
            phase_ = b.inner_node(part.designator + " pattern");
            phase_entry_ = b.entry(phase_, phase_);
        }
    }

    Nature nature() const override { return varies() ? Nature::varying : Nature::nonlinear; }

    void load(Load& l) const override {
        const double on = share_on(l.time);
        const double t = std::tanh(supply_.voltage(l.x) / from_);
        const double own = (idle_ + (active_ - idle_) * on) * l.drive;
        supply_.current(l, own * t, own * (1 - t * t) / from_);
        if (spec_.by == By::level) input_.current(l, input_g_ * input_.voltage(l.x), input_g_);
        for (std::size_t k = 0; k < spec_.outputs.size(); ++k) {
            const auto& o = spec_.outputs[k];
            const double share = o.inverted ? 1 - on : on;
            if (converts(o.gives)) {
                converter_->load(l, share > 0.5);
                continue;
            }
            const auto ohmic = [&l](const Pair& p, double g) { p.current(l, g * p.voltage(l.x), g); };
            ohmic(highs_[k], o.gives == Gives::minus ? off_leak : off_leak + on_ * share);
            ohmic(lows_[k], o.gives == Gives::minus  ? off_leak + on_ * share
                            : o.gives == Gives::both ? off_leak + on_ * (1 - share)
                                                     : off_leak);
        }
        if (phase_) {
            l.f[phase_] +=
                l.x[phase_] - blended(l.time, [](std::size_t step) { return step == 0 ? 1.0 : 0.0; });
            l.df[phase_entry_] += 1;
        }
    }

    bool configure(const Conditions& c) override {
        const bool hand = spec_.by == By::hand && c.closed(part_);
        return std::exchange(hand_, hand) != hand;
    }

    int monitors() const override { return spec_.by == By::level ? 1 : 0; }
    void watch(const double* x, double* values) const override {
        const double v = input_.voltage(x);
        values[0] = latch_.decided() ? let_go_ - v : v - threshold_;
    }
    std::vector<int> watched() const override { return {input_.a, input_.b}; }
    bool fire(int monitor, double now) override {
        const bool changed = Latched::fire(monitor, now);
        if (changed) turn_over();
        return changed;
    }
    void arrive(double now) override {
        const bool before = latch_.shown();
        Latched::arrive(now);
        if (latch_.shown() != before) turn_over();
    }
    double next_corner(double t) const override {
        if (!varies()) return Latched::next_corner(t);
        const double start = std::floor(t / period()) * period();
        for (int turn = 0; turn < 2; ++turn)
            for (std::size_t k = 0; k < steps_.size(); ++k) {
                const double begin = start + turn * period() + (k == 0 ? 0 : steps_[k - 1].until);
                for (const double at : {begin, begin + edge_})
                    if (at > t * (1 + 1e-12)) return at;
            }
        return start + 2 * period();
    }
    bool keeps_state() const override { return converter_.has_value() || varies(); }
    std::optional<double> round() const override { return varies() ? std::optional(period()) : std::nullopt; }
    int main_pin() const override { return 0; }

  private:
    static bool converts(Gives g) { return g == Gives::steps_up || g == Gives::steps_down; }
    struct Step {
        double until;  ///< s, from the start of its period
        double share;  ///< of what it takes while on
    };
    /// By the lights that each picture has on; one step if that never changes.
    static std::vector<Step> steps_of(const Part& part) {
        const auto frames = frames_of(part.text("pattern"));
        if (!frames) return {{1, 0}};  // refused where it was read
        const double each = part.number("brightness") / 100 / (matrix_side * matrix_side);
        std::vector<Step> steps;
        double end = 0;
        for (const MatrixFrame& frame : frames.value())
            steps.push_back({end += frame.seconds, frame.lit() * each});
        if (!frames_change(part)) steps.resize(1);
        return steps;
    }
    bool varies() const { return steps_.size() > 1; }
    double period() const { return steps_.back().until; }
    /// A value of the step that goes on at this time, blended with the one before on the edge between them.
    template <class Value>
    double blended(double time, Value value) const {
        const double t = time - std::floor(time / period()) * period();
        const auto at = static_cast<std::size_t>(
            std::find_if(steps_.begin(), steps_.end() - 1, [&](const Step& s) { return t < s.until; }) -
            steps_.begin());
        const double since = t - (at == 0 ? 0 : steps_[at - 1].until);
        if (since >= edge_ || time < edge_) return value(at);  // it begins without one
        const double share = since / edge_;
        return share * value(at) + (1 - share) * value(at == 0 ? steps_.size() - 1 : at - 1);
    }
    void turn_over() {
        if (latch_.shown() && spec_.latching) kept_ = !kept_;
    }
    /// 1 on, 0 off; between them where pictures have a part of its lights on, and on the edges of a pattern.
    double share_on(double time) const {
        switch (spec_.by) {
            case By::always:
                return 1;
            case By::hand:
                return hand_ ? 1 : 0;
            case By::level:
                return (spec_.latching ? kept_ : latch_.shown()) ? 1 : 0;
            case By::pattern:
            case By::frames:
                break;
        }
        return varies() ? blended(time, [this](std::size_t step) { return steps_[step].share; })
                        : steps_.front().share;
    }

    Part part_;
    ModuleSpec spec_;
    double on_, idle_, active_, from_;
    double threshold_ = 0, let_go_ = 0, input_g_ = 0, edge_ = 0;
    std::vector<Step> steps_;  // of a pattern
    bool hand_, kept_ = false;
    int phase_ = 0, phase_entry_ = 0;
    std::optional<Converter> converter_;
    Pair supply_, input_;
    std::vector<Pair> highs_, lows_;
};

}  // namespace

Result<std::unique_ptr<Device>> make_module(const Making& m, const ModuleSpec& spec) {
    return std::make_unique<Module>(m.part, spec, m.conditions);
}

}  // namespace elkit
