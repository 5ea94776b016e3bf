// A small controller: its table at work at its pins.
#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <string>

#include "behaviour/machine.hpp"
#include "circuit/part_kind.hpp"
#include "engine/devices/makers.hpp"

namespace elkit {
namespace {

constexpr double pin_leak = 1e-9;                  // S, of a pin that is looked at
constexpr double high_from = 0.6, low_from = 0.4;  // of the supply, an input's thresholds
constexpr double runs_again = 1.03;                // of the lowest supply
constexpr double converter_noise = 0.3;            // counts, around each step
constexpr double wakes_within = 1e-5;              // s, from a change at a pin
constexpr double together = 1e-9;                  // s, within which things happen at one moment
constexpr double never = std::numeric_limits<double>::infinity();
constexpr int most_changes_at_rest = 3000;

/// Inputs and sensors are watched; at the next tick after a change, and at every tick while something goes on
/// by itself, the program makes a step. Its outputs are switches to either supply pin, that dim by pulses.
class Controller final : public Device {
  public:
    Controller(const Part& part, Program program, double slow)
        : part_(part),
          program_(std::move(program)),
          tick_length_(tick_seconds * slow),
          on_(1 / part.number("resistance")),
          pull_up_(1 / part.number("pull_up")),
          active_(part.number("active_current") / own_current_at),
          asleep_(part.number("sleep_current") / own_current_at),
          lowest_(part.number("lowest_supply")),
          reference_(part.number("reference")),
          rail_(has(part, "pin_voltage") ? std::min(part.number("pin_voltage"), lowest_) : 0),
          start_(part.number("start")),
          // a whole number of pulses in a tick, so that what repeats does so to the last digit
          pulse_(tick_length_ / std::max(1.0, std::round(part.number("pwm") * tick_seconds))) {
        high_.resize(program_.inputs.size(), true);
        for (std::size_t s = 0; s < program_.sensors.size(); ++s)
            for (const ProgramState& state : program_.states)
                for (const Leaves& l : state.leaves)
                    if ((l.on == BehaviourWhen::On::above || l.on == BehaviourWhen::On::below) && l.pin == s)
                        levels_.push_back({s, l.amount, false});
        std::sort(levels_.begin(), levels_.end(), [](const Level& a, const Level& b) {
            return std::pair(a.sensor, a.counts) < std::pair(b.sensor, b.counts);
        });
        drives_.resize(program_.outputs.size());
    }

    void bind(const Part& part, Binder& b) override {
        const int vcc = b.net(part, "vcc"), gnd = b.net(part, "gnd");
        supply_.bind(b, vcc, gnd);
        const auto pairs = [&](const std::string& pin, Wire& wire) {
            const int node = b.net(part, pin);
            wire.up.bind(b, vcc, node), wire.down.bind(b, node, gnd);
        };
        outputs_.resize(program_.outputs.size()), inputs_.resize(program_.inputs.size());
        sensors_.resize(program_.sensors.size());
        for (std::size_t k = 0; k < outputs_.size(); ++k) pairs(program_.outputs[k], outputs_[k]);
        for (std::size_t k = 0; k < inputs_.size(); ++k) pairs(program_.inputs[k], inputs_[k]);
        for (std::size_t k = 0; k < sensors_.size(); ++k) pairs(program_.sensors[k], sensors_[k]);
    }

    void load(Load& l) const override {
        const auto ohmic = [&l](const Pair& p, double g) { p.current(l, g * p.voltage(l.x), g); };
        ohmic(supply_, runs() && !sleeps() ? active_ : asleep_);
        const bool begun = machine_.has_value();  // before its first step its pins drive nothing
        for (std::size_t k = 0; k < outputs_.size(); ++k) {
            pull_high(l, outputs_[k], begun && drives_[k] ? on_ : 0);
            ohmic(outputs_[k].down, begun && !drives_[k] ? on_ : pin_leak);
        }
        for (std::size_t k = 0; k < inputs_.size(); ++k) {
            pull_high(l, inputs_[k], runs() && program_.pulled_up[k] ? pull_up_ : 0);
            ohmic(inputs_[k].down, pin_leak);
        }
        for (const Wire& wire : sensors_) ohmic(wire.down, pin_leak);
    }
    Nature nature() const override { return Nature::linear; }
    bool follows_clock() const override { return true; }

    int monitors() const override { return 2 + static_cast<int>(inputs_.size() + levels_.size()); }
    void watch(const double* x, double* values) const override {
        const double supply = supply_.voltage(x), high = rail_ > 0 ? rail_ : supply;
        *values++ = runs() ? lowest_ - supply : supply - runs_again * lowest_;
        *values++ = marked_ ? 1 : -1;
        for (std::size_t k = 0; k < inputs_.size(); ++k) {
            const double v = inputs_[k].down.voltage(x);
            *values++ = !runs() ? -1 : high_[k] ? low_from * high - v : v - high_from * high;
        }
        const double steps = std::exp2(program_.bits);
        for (const Level& level : levels_) {
            const double full = reference_ > 0 ? reference_ : std::max(supply, 0.1);
            const double counts = sensors_[level.sensor].down.voltage(x) / full * steps;
            const double over = counts - level.counts;
            *values++ = !runs() ? -1 : (level.reached ? -over : over) - converter_noise;
        }
    }
    bool fire(int monitor, double now) override {
        if (monitor == 0) {
            powered_ = !powered_, machine_.reset();
            tick_due_ = pulse_due_ = mark_due_ = doze_due_ = never, course_.reset();
            std::fill(drives_.begin(), drives_.end(), false);
            if (powered_ && now != no_time) tick_due_ = now + start_;
            if (powered_ && now == no_time) come_to_rest();
            return true;
        }
        if (monitor == cycle_mark) return marked_ = false;
        const auto k = static_cast<std::size_t>(monitor) - 2;
        if (k < high_.size())
            high_[k] = !high_[k];
        else
            levels_[k - high_.size()].reached = !levels_[k - high_.size()].reached;
        if (now == no_time) return come_to_rest(), true;
        if (!machine_) return false;                      // it has not begun yet
        if (sleeps() && k >= high_.size()) return false;  // it will see that when it looks
        tick_due_ = std::min(tick_due_, sleeps() || tick_ == never ? now + wakes_within : next_look(now));
        return false;
    }

    double next_corner(double t) const override {
        return std::max(std::min({tick_due_, pulse_due_, mark_due_, doze_due_}), t + together);
    }
    bool due(double now) const override {
        return runs() && now + together >= std::min({tick_due_, pulse_due_, mark_due_, doze_due_});
    }
    void arrive(double now) override {
        if (!runs()) return;
        if (now + together >= doze_due_) doze_due_ = never;
        if (now + together >= tick_due_) tick(now);
        if (now + together >= pulse_due_) pulse(now + together);
        if (now + together >= mark_due_) marked_ = true, mark_due_ += course_->period / 2;
    }
    std::optional<Clock> clock() const override { return course_; }
    std::optional<double> round() const override {
        if (!runs() || !machine_ || sleeps()) return std::nullopt;
        const std::uint32_t ticks = machine_->round(seen());
        return ticks > 0 ? std::optional(ticks * tick_length_) : std::nullopt;
    }
    void skip(double span) override {
        for (double* time : {&tick_due_, &tick_, &pulse_due_, &pulse_start_, &mark_due_, &doze_due_})
            *time += span;
        if (course_) course_->begins += span;
    }
    std::optional<Pulses> pulses() const override {
        if (!runs() || !machine_ || !dims()) return std::nullopt;
        return Pulses{pulse_start_, pulse_, std::min({tick_due_, mark_due_, doze_due_})};
    }
    void skip_pulses(double span) override { pulse_start_ += span, pulse_due_ += span; }
    int main_pin() const override {
        const auto& pins = part_kind(part_.kind)->pins;
        return static_cast<int>(std::find(pins.begin(), pins.end(), "vcc") - pins.begin());
    }

  private:
    struct Wire {
        Pair up, down;
    };
    static bool has(const Part& part, const char* param) { return part_kind(part.kind)->param(param); }

    /// A pin to what is high, through a conductance: its supply, or the volts that it makes of it itself. A
    /// linear regulator takes as much at vcc as it gives.
    void pull_high(Load& l, const Wire& pin, double conductance) const {
        if (!(rail_ > 0 && conductance > 0)) {
            const double g = std::max(conductance, pin_leak);
            return pin.up.current(l, g * pin.up.voltage(l.x), g);
        }
        const double amps = conductance * (rail_ * l.drive - pin.down.voltage(l.x));
        l.f[pin.up.a] += amps, l.f[pin.up.b] -= amps;
        l.df[pin.up.ab] -= conductance, l.df[supply_.ab] += conductance;
        l.df[pin.down.aa] += conductance, l.df[pin.down.ab] -= conductance;
    }
    struct Level {
        std::size_t sensor;
        std::uint32_t counts;
        bool reached;
    };
    bool runs() const { return powered_; }
    bool sleeps() const { return machine_ && machine_->sleeps() && doze_due_ == never; }

    /// What the program sees: counts as far as its thresholds tell them apart.
    PinsSeen seen() const {
        PinsSeen s{std::vector<bool>(high_.begin(), high_.end()),
                   std::vector<std::uint32_t>(program_.sensors.size(), 0)};
        for (const Level& level : levels_)
            if (level.reached) s.counts[level.sensor] = std::max(s.counts[level.sensor], level.counts);
        return s;
    }

    /// Without time it goes on until nothing changes any more, or stays at what it shows by then; once there
    /// is time it goes on from there.
    void come_to_rest() {
        const PinsSeen pins = seen();
        if (!lived_ || !machine_) machine_.emplace(program_, pins);  // what is seen at power-up is no press
        machine_->step(pins);
        for (int k = 0; k < most_changes_at_rest; ++k) {
            const std::uint32_t ticks = machine_->quiet(pins);
            if (ticks == Machine::for_ever) break;
            machine_->pass(ticks), machine_->step(pins);
        }
        for (std::size_t k = 0; k < drives_.size(); ++k) drives_[k] = machine_->levels()[k] > 127;
        tick_due_ = machine_->quiet(pins) == Machine::for_ever && !dims() && !machine_->looks() ? never : 0;
        pulse_due_ = mark_due_ = doze_due_ = never, course_.reset();
    }

    /// It looks every tick, though it may have nothing to do until much later.
    double next_look(double now) const {
        return tick_ + (std::floor((now - tick_) / tick_length_ + 1e-6) + 1) * tick_length_;
    }
    bool dims() const {
        const auto& levels = machine_->levels();
        return std::any_of(levels.begin(), levels.end(), [](int l) { return l > 0 && l < 255; });
    }
    void tick(double now) {
        const PinsSeen pins = seen();
        const double at = std::abs(now - tick_due_) < 10 * together ? tick_due_ : now;
        if (machine_ && lived_ && !machine_->sleeps())
            if (const double passed = std::round((at - tick_) / tick_length_) - 1; passed > 0)
                machine_->pass(static_cast<std::uint32_t>(passed));
        tick_ = at, lived_ = true;
        if (!machine_) machine_.emplace(program_, pins);
        machine_->step(pins);
        doze_due_ = machine_->looks() ? tick_ + look_seconds : never;
        const std::uint32_t quiet = machine_->looks() ? 0 : machine_->quiet(pins);
        tick_due_ =
            quiet == Machine::for_ever ? never : tick_ + (quiet + 1.0) * machine_->nap() * tick_length_;
        pulse_start_ = tick_;
        begin_pulse();
        if (quiet == Machine::for_ever)
            follow(dims() ? std::optional(Clock{cycle_mark, tick_, pulse_, true}) : std::nullopt);
        else if (!course_ || pins != course_for_)
            follow(clock_of(machine_->course(pins)));
        course_for_ = pins;
    }
    Clock clock_of(const Machine::Course& c) const {
        return {cycle_mark, tick_ + c.begins * tick_length_, c.period * tick_length_, !c.random};
    }
    /// Marks where a cycle begins, and half way, from now on.
    void follow(const std::optional<Clock>& course) {
        course_ = course;
        mark_due_ = course_ && course_->period > 0 ? course_->begins : never;
    }
    void begin_pulse() {
        const auto& levels = machine_->levels();
        for (std::size_t k = 0; k < drives_.size(); ++k) drives_[k] = levels[k] > 0;
        set_pulse_due();
    }
    void set_pulse_due() {
        pulse_due_ = never;
        if (!dims()) return;
        pulse_due_ = pulse_start_ + pulse_;
        const auto& levels = machine_->levels();
        for (std::size_t k = 0; k < drives_.size(); ++k)
            if (drives_[k] && levels[k] < 255)
                pulse_due_ = std::min(pulse_due_, pulse_start_ + levels[k] / 255.0 * pulse_);
    }
    void pulse(double now) {
        if (now >= pulse_start_ + pulse_) {
            pulse_start_ += pulse_;
            return begin_pulse();
        }
        const auto& levels = machine_->levels();
        for (std::size_t k = 0; k < drives_.size(); ++k)
            if (levels[k] < 255 && now >= pulse_start_ + levels[k] / 255.0 * pulse_) drives_[k] = false;
        set_pulse_due();
    }
    static constexpr int cycle_mark = 1;  // monitor
    Part part_;
    Program program_;
    double tick_length_;  // s, of this one, whose clock is a little fast or slow
    double on_, pull_up_, active_, asleep_, lowest_, reference_;
    double rail_;  // V of its high pins; 0: its supply's
    double start_, pulse_;
    std::optional<Machine> machine_;  // from its first tick on, while it has enough to run on
    std::vector<char> high_;
    std::vector<Level> levels_;
    std::vector<char> drives_;
    bool powered_ = false, lived_ = false;  // it has enough to run on; some time has passed with it
    bool marked_ = false;
    std::optional<Clock> course_;  // what it does while the same is seen, which is
    PinsSeen course_for_;
    double tick_ = never, tick_due_ = never, pulse_start_ = 0, pulse_due_ = never, mark_due_ = never;
    double doze_due_ = never;  // it has looked, and goes on sleeping
    Pair supply_;
    std::vector<Wire> outputs_, inputs_, sensors_;
};

}  // namespace

Result<std::unique_ptr<Device>> make_controller(const Making& m) {
    auto program = program_of(m.part);
    if (!program) return program.error();
    return std::make_unique<Controller>(m.part, std::move(program).value(), m.spread());
}

}  // namespace elkit
