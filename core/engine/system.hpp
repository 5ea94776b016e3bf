#pragma once
#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "engine/device.hpp"
#include "engine/linear_solver.hpp"

namespace elkit {

/// The unknowns at a time, and how charges change there: dq/dt = Σ weight·q(at) as the integration formula
/// has it, so that the currents of parts balance at every net. No terms: at rest.
struct Moment {
    struct Term {
        double weight = 0;
        const double* at = nullptr;
    };
    const double* x = nullptr;
    double time = 0;
    std::array<Term, 4> change{};
};

/// A circuit as equations  dq(x)/dt + f(x, t) = 0  in the net voltages and further unknowns (modified nodal
/// analysis, Ho, Ruehli & Brennan 1975). Owns its devices, so that each analysis has latches of its own.
/// Unknown 0 is the negative rail; vectors have unknowns() + 1 elements.
class System {
  public:
    /// Errors: a part the catalogue does not know, a fit that fails.
    static Result<System> build(const Circuit& circuit, const Catalogue& catalogue,
                                const Conditions& conditions, const Corner& corner = {});

    int unknowns() const { return static_cast<int>(names_.size()) - 1; }
    int nodes() const { return nodes_; }  ///< nets without the rail: unknowns 1 … nodes()
    std::vector<int> voltages() const;    ///< the unknowns that are voltages: nets, and those inside parts
    const std::vector<std::string>& nets() const {
        return nets_;
    }  ///< net k is unknown k; nets()[0] the rail
    const std::string& name(int unknown) const { return names_[static_cast<std::size_t>(unknown)]; }
    int net(std::string_view name) const;  ///< −1 if there is none
    bool is_voltage(int unknown) const {   ///< of a net, an open pin, a node inside
        return voltages_[static_cast<std::size_t>(unknown)];
    }
    bool linear() const { return active_.empty(); }
    bool autonomous() const;  ///< true if nothing follows a clock
    /// The slowest clock of all devices that have their own, its monitor one of all, with as many turns as
    /// bring the others round too; that does not repeat where some never come round with it. Nothing if none
    /// has one.
    std::optional<Device::Clock> clock() const;
    bool can_store() const;  ///< true if anything holds charge or flux, or follows a clock
    std::size_t parts() const { return devices_.size(); }

    /// New conditions at once; true if an equation changed.
    bool configure(const Conditions& conditions);
    /// Device::hasten() of all; what was known of charges no longer holds if true.
    bool hasten(double longest);

    /// Evaluates everything at x. After it: f(), q(), their slopes df() and dq() by entry, and matrix(),
    /// which is df + rate·dq; returns true if a junction was limited.
    bool evaluate(const double* x, double time, double rate, double drive = 1, double gmin = least_gmin);
    const std::vector<double>& f() const { return f_; }
    const std::vector<double>& q() const { return q_; }
    const std::vector<double>& df() const { return df_; }
    const std::vector<double>& dq() const { return dq_; }
    const std::vector<double>& matrix() const { return matrix_; }
    /// Brings f() and q() of the last evaluate() along their slopes to x + step.
    void follow(const double* step);
    /// How much of the largest current that leaves wrong, in a step of a few millivolts: half its square by
    /// the sharpest curve.
    double bend(const double* step, double rate) const;
    static constexpr double sharpest = 0.025;  ///< V, of an exponential at room temperature
    /// Factors the matrix of the last evaluate(); false if it is singular. Where nothing but leaks holds a
    /// piece of the circuit, so that rounding hides them, all nets get a larger one from then on.
    bool factor();
    /// Solves with the last factors; `v` as the other vectors, v[0] is left 0.
    void solve(double* v) const {
        solver_->solve(v + 1);
        v[0] = 0;
    }
    /// True if what is left of every row at x (of the last evaluate()) is no more than rounding makes of it:
    /// 8 ε Σ |a x|. Further rounds of Newton's method would only stir what the rounding leaves open.
    bool only_rounding(const double* x, const double* left) const;
    /// How far rounding in the last factors may move an unknown, as a share of the largest one; 0 mostly, and
    /// for all unless blurred().
    bool blurred() const { return !solver_->blur().empty(); }
    double blur(std::size_t unknown) const {
        return solver_->blur().empty() ? 0 : solver_->blur()[unknown - 1];
    }
    int row(std::size_t entry) const { return rows_[entry]; }  ///< of a matrix entry, for other solvers
    int column(std::size_t entry) const { return columns_[entry]; }
    void limit_junctions(bool on) { limiting_ = on; }  ///< off for a solver that wants the plain equations
    void forget_junctions();                           ///< before a solution that starts from elsewhere

    /// What may happen by itself: all monitors in the order of the devices.
    int monitors() const { return static_cast<int>(watched_.size()); }
    void watch(const double* x, double* values) const;
    /// Lets it happen; true if an equation changed. A device with a delay changes at a corner later on.
    bool fire(int monitor, double now = Device::no_time);
    bool due(double now) const;  ///< something decided before takes effect at this time
    void arrive(double now);     ///< lets it
    void skip(double span);      ///< `span` [s] passed in a state that repeats
    /// The equal pulses of one device, as long as no other does anything by the clock; nothing if it is not
    /// so.
    std::optional<Device::Pulses> pulses() const;
    void skip_pulses(double span);  ///< so many [s] of them passed
    double delay(int monitor) const;
    std::vector<int> watched_unknowns() const;
    std::size_t monitor_part(int monitor) const;  ///< index of its part
    const std::string& monitor_name(int monitor) const { return designators_[monitor_part(monitor)]; }
    double next_corner(double t) const;
    void initial_charges(double* q) const;

    /// Currents [A] into the pins of part k (in the circuit's order). Pins that share a net are given
    /// together at the first of them.
    void pin_currents(std::size_t part, const Moment& moment, std::vector<double>& out) const;
    int main_pin(std::size_t part) const;
    /// The longest Device::round(); nothing if there is none.
    std::optional<double> round() const;
    /// Device::glow() of part k.
    std::optional<double> glow(std::size_t part, const double* x) const;
    int pin_unknown(std::size_t part, std::size_t pin) const { return pins_[part][pin]; }

    static constexpr double least_gmin =
        1e-14;  ///< S from every net and open pin to the rail: none is undefined
    static constexpr double most_leak = 1e-9;  ///< S that factor() goes up to: 5 nA at 5 V

  private:
    class Numbering;
    void linearise();
    void prepare();

    std::vector<std::string> nets_, names_, designators_;
    int nodes_ = 0, memories_ = 1;
    bool limiting_ = true;
    double leak_ = least_gmin;                          ///< S from every net to the rail at least
    std::vector<std::unique_ptr<Device>> devices_;      // by part; null for a part without equations
    std::vector<std::vector<int>> pins_;                // unknown of each pin of each part
    std::vector<std::vector<std::size_t>> first_pins_;  // of each part's pins the first on each net
    std::vector<const Device*> active_;                 // not linear: loaded in every evaluation
    std::vector<Device*> timed_;                        // may have corners
    struct Watched {
        std::size_t part;
        int monitor;
    };
    std::vector<Watched> watched_;
    std::vector<int> rows_, columns_;  // of the entries; entry 0 is scratch
    std::vector<int> diagonal_;        // entry of each unknown with itself
    std::vector<int> leaking_;         // nets and open pins
    std::vector<int> inner_;           // nodes inside parts
    std::vector<bool> voltages_;       // by unknown: true for all of those
    std::size_t diagonal(int unknown) const {
        return static_cast<std::size_t>(diagonal_[static_cast<std::size_t>(unknown) - 1]);
    }
    std::unique_ptr<LinearSolver> solver_;
    std::vector<double> f0_, conductances_, capacitances_;  // of all linear devices
    struct Term {
        int row, column, entry;
    };
    std::vector<Term> conducting_, storing_;  // entries where they are not zero
    std::vector<Term> curved_;  // entries between voltages that nonlinear devices have a share in
    std::vector<double> f_, q_, df_, dq_, matrix_, memory_;
    mutable std::vector<double> scratch_f_, scratch_q_, scratch_entries_, scratch_memory_;
};

}  // namespace elkit
