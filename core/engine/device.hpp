#pragma once
#include <limits>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "circuit/part.hpp"
#include "engine/conditions.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// One evaluation of the equations  dq(x)/dt + f(x, t) = 0  at a trial point: every device adds its share.
/// Unknown 0 is the negative rail, held at 0; what is written to row 0 or entry 0 is dropped.
struct Load {
    const double* x = nullptr;  ///< unknowns: net voltages [V], then branch currents [A] and other states
    double time = 0;            ///< s
    double drive = 1;           ///< 0…1 scales every source (source stepping)
    double* f = nullptr;        ///< currents that leave each node [A]; voltages of branch rows [V]
    double* q = nullptr;        ///< charges [C] and flux linkages [Vs] whose derivative counts
    double* df = nullptr;       ///< ∂f/∂x, by entry number
    double* dq = nullptr;       ///< ∂q/∂x, by entry number
    double* memory = nullptr;   ///< what each junction stood at in the last iteration [V]
    bool limited = false;       ///< set by a device that did not take the full step
    bool limiting = true;       ///< false: evaluate exactly at x
    bool charges_only = false;  ///< true: nothing but q is asked, and what costs much else may be left out
};

/// Hands out unknowns and matrix entries while the circuit is put together.
class Binder {
  public:
    virtual ~Binder() = default;
    virtual int net(const Part& part, std::string_view pin) = 0;  ///< a fresh one for a pin left open
    virtual int unknown(std::string name) = 0;  ///< a further unknown with its row: a branch current, warmth
    virtual int inner_node(std::string name) = 0;  ///< likewise: a voltage [V], its row in A
    virtual int entry(int row, int column) = 0;    ///< 0 if either is the rail
    virtual int memory() = 0;
};

/// Two nodes and the four matrix entries between them.
struct Pair {
    int a = 0, b = 0, aa = 0, ab = 0, ba = 0, bb = 0;
    void bind(Binder& binder, int node_a, int node_b) {
        a = node_a, b = node_b;
        aa = binder.entry(a, a), ab = binder.entry(a, b), ba = binder.entry(b, a), bb = binder.entry(b, b);
    }
    double voltage(const double* x) const { return x[a] - x[b]; }
    /// Current i [A] from a to b through the device, with its conductance g [S].
    void current(Load& l, double i, double g) const {
        l.f[a] += i, l.f[b] -= i;
        add(l.df, g);
    }
    /// Charge q [C] on a against b, with its capacitance c [F].
    void charge(Load& l, double q, double c) const {
        l.q[a] += q, l.q[b] -= q;
        add(l.dq, c);
    }
    void add(double* entries, double slope) const {
        entries[aa] += slope, entries[bb] += slope, entries[ab] -= slope, entries[ba] -= slope;
    }
};

/// What the device's equations depend on; the solver loads linear ones once and not in every iteration.
enum class Nature { linear, varying, nonlinear };

/// A part as equations. Adding a part kind means one more class in engine/devices; the solver does not
/// change.
class Device {
  public:
    virtual ~Device() = default;
    virtual void bind(const Part& part, Binder& binder) = 0;
    virtual Nature nature() const { return Nature::linear; }
    virtual void load(Load& l) const = 0;
    /// Charges of the state in which a run from power-up starts; q is zeroed before.
    virtual void initial(double* q) const { (void)q; }
    /// Takes new conditions (a switch moved, a knob turned); true if its equations changed.
    virtual bool configure(const Conditions& conditions) {
        (void)conditions;
        return false;
    }
    /// Things that happen when a function of the unknowns rises through zero: how many, their values, and
    /// what then changes. fire() is true if the equations changed.
    virtual int monitors() const { return 0; }
    virtual void watch(const double* x, double* values) const { (void)x, (void)values; }
    /// Unknowns that the monitors look at: they are followed more strictly.
    virtual std::vector<int> watched() const { return {}; }
    /// `now` [s] is `no_time` when a state of rest is looked for: then nothing is delayed.
    virtual bool fire(int monitor, double now) {
        (void)monitor, (void)now;
        return false;
    }
    static constexpr double no_time = -1;
    /// The next time after `t` at which a source's slope jumps, or what was decided before takes effect.
    virtual double next_corner(double t) const {
        (void)t;
        return std::numeric_limits<double>::infinity();
    }
    /// True at the time when something decided before takes effect; arrive() then lets it.
    virtual bool due(double now) const {
        (void)now;
        return false;
    }
    virtual void arrive(double now) { (void)now; }
    /// What a device does by itself: a monitor that fires where its cycle begins and half way.
    struct Clock {
        int monitor = 0;
        double begins = 0;    ///< s, at the latest; before that it does something else
        double period = 0;    ///< s; 0: it comes to rest
        bool repeats = true;  ///< false: at random, and the period only a time to count by
        int turns = 1;        ///< periods until other clocks too are where they were
    };
    /// Nothing while it rests.
    virtual std::optional<Clock> clock() const { return std::nullopt; }
    /// s, from now on, in which it shows all that it has while it goes on with what it does, however that
    /// ends: what a moment of it stands for. Nothing while it shows the same all the time.
    virtual std::optional<double> round() const { return std::nullopt; }
    /// `span` [s] passed in which the same was repeated.
    virtual void skip(double span) { (void)span; }
    /// Equal pulses, one behind the other, that a device gives within what it does.
    struct Pulses {
        double begin = 0;   ///< s, of the pulse that is going on
        double period = 0;  ///< s
        double until = 0;   ///< s, where something else may come
    };
    virtual std::optional<Pulses> pulses() const { return std::nullopt; }
    /// So many [s] of equal pulses passed; all else goes on when it was to.
    virtual void skip_pulses(double span) { (void)span; }
    /// What takes longer than `longest` [s] to settle may take that long, where only the end counts and not
    /// the way there: warmth, the sag of a cell. True if its equations changed.
    virtual bool hasten(double longest) {
        (void)longest;
        return false;
    }
    /// True for a device whose equations depend on the time, or on a program that does.
    virtual bool follows_clock() const { return nature() == Nature::varying; }
    /// The shortest time [s] between two changes that its monitors ask for; 0: none.
    virtual double delay() const { return 0; }
    /// True for a nonlinear or varying device by which a circuit may swing: coils, fuses, waveforms.
    virtual bool keeps_state() const { return nature() == Nature::varying; }
    /// Its light now as a share of its rated light, where that is not in proportion to its current.
    virtual std::optional<double> glow(const double* x) const {
        (void)x;
        return std::nullopt;
    }
    /// Current [A] to show beside the part, from the currents into its pins; the first pin's by default.
    virtual int main_pin() const { return 0; }
};

/// The device for `part` under these conditions; nullptr for a part without equations (connector, test
/// point). `coils`: some part of the circuit is a coil, so that contacts may arc. Error if a type is not in
/// the catalogue or a fit fails.
Result<std::unique_ptr<Device>> make_device(const Part& part, const Catalogue& catalogue,
                                            const Conditions& conditions, const Corner& corner,
                                            bool coils = false);

}  // namespace elkit
