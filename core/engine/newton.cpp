#include "engine/newton.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "quantity/format.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

constexpr double driven_limit = 1e4;  // where low voltage is driven, no net comes near it

class Newton {
  public:
    explicit Newton(System& system)
        : s_(system), x(static_cast<std::size_t>(system.unknowns()) + 1), step_(x.size()) {}

    /// Where the circuit was a while ago.
    struct Past {
        const std::vector<double>&x, &charges;
        double rate;  ///< 1/s
    };
    /// One Newton run from the present unknowns. True when settled.
    bool run(double gmin, double drive, int budget, const Past* past = nullptr) {
        int balanced = 0;
        double change = 1;
        for (int round = 0; round <= budget; ++round) {
            stop_point();
            const bool limited = s_.evaluate(x.data(), 0, past ? past->rate : 0, drive, gmin);
            residual = 0;
            for (std::size_t k = 1; k < step_.size(); ++k) {
                step_[k] = -s_.f()[k];
                if (past && static_cast<int>(k) <= s_.nodes()) step_[k] += gmin * past->x[k];
                if (past) step_[k] -= past->rate * (s_.q()[k] - past->charges[k]);
                residual = std::max(residual, std::abs(step_[k]));
            }
            // Behind open contacts rounding moves a voltage by more than 1 nV although all currents balance:
            // often in balance counts as settled too. What hangs by leaks alone may still be on its way.
            balanced = round > 0 && !limited && within_tolerance() ? balanced + 1 : 0;
            if (balanced > 0 && (change < 1e-9 || (balanced > 1 && change < 1e-5) || balanced > 8))
                return true;
            if (round == budget || !s_.factor()) return false;
            s_.solve(step_.data());
            change = 0;
            // far into a run that does not settle, shorter steps break cycles
            const double damping = round > 25 ? 0.5 : 1;
            for (std::size_t k = 1; k < step_.size(); ++k) {
                if (!std::isfinite(step_[k])) return false;
                x[k] += damping * step_[k];
                if (std::abs(step_[k]) > change) change = std::abs(step_[k]), worst = static_cast<int>(k);
            }
            ++iterations;
        }
        return false;
    }

    void restart() {
        std::fill(x.begin(), x.end(), 0.0);
        s_.forget_junctions();
    }

  private:
    /// The residual is at most 1e-9 of the largest current, and what rounding in the matrix makes of the
    /// voltages.
    bool within_tolerance() const {
        double terms = 0;
        for (const double a : s_.matrix()) terms = std::max(terms, std::abs(a));
        double volts = 0;
        for (const double v : x) volts = std::max(volts, std::abs(v));
        const double rounding = 1e-15 * terms * (1 + volts);
        // no current exceeds the largest conductance times the largest voltage: saves the exact one mostly
        if (residual > 2e-9 * terms * (1 + volts) + rounding) return false;
        return residual <= 1e-9 * largest_current() + rounding;
    }
    double largest_current() const {
        double largest = 0;
        for (std::size_t part = 0; part < s_.parts(); ++part) {
            s_.pin_currents(part, {x.data()}, flows_);
            for (const double i : flows_) largest = std::max(largest, std::abs(i));
        }
        return largest;
    }

    System& s_;

  public:
    std::vector<double> x;
    int iterations = 0, worst = 1;
    double residual = 0;

  private:
    std::vector<double> step_;
    mutable std::vector<double> flows_;
};

/// Lets the circuit creep to a state of rest: every net is held at its last voltage by a conductance that
/// grows weaker as long as Newton follows, and charges and warmth come along in steps of time that grow with
/// it (pseudo-transient continuation, Kelley & Keyes, SIAM J. Numer. Anal. 35, 1998). Where a latch is about
/// to turn over, or a thermistor runs away, this goes the way that the circuit itself would.
bool creep(Newton& newton, System& system, const std::vector<double>& start) {
    constexpr double per_second = 1e9;  // S·s: held by 1 S, a nanosecond passes
    newton.restart();
    newton.x = start;
    std::vector<double> at = start;
    system.evaluate(at.data(), 0, 0);
    std::vector<double> charges = system.q();
    double hold = 1;  // S
    for (int round = 0; round < 400; ++round) {
        const Newton::Past past{at, charges, per_second * hold};
        if (newton.run(hold, 1, 40, &past)) {
            at = newton.x, charges = system.q();
            if (hold <= 1e-14) return newton.run(System::least_gmin, 1, 100);
            hold /= 2;
            continue;
        }
        newton.x = at;
        if ((hold *= 5) > 1e6) return false;
    }
    return false;
}

bool settle(Newton& newton, System& system) {
    const std::vector<double> start = newton.x;
    if (newton.run(System::least_gmin, 1, 60)) return true;
    newton.restart();
    bool good = true;
    for (double g = 1e-2; good && g > System::least_gmin; g /= 10) good = newton.run(g, 1, 100);
    if (good && newton.run(System::least_gmin, 1, 100)) return true;
    newton.restart();
    good = true;
    for (int k = 1; good && k <= 40; ++k) good = newton.run(System::least_gmin, k / 40.0, 100);
    return good || creep(newton, system, start);
}

/// A net that a source drives a current into without a way out: its voltage is made of leaks alone.
std::optional<Error> driven_nowhere(const System& system, const std::vector<double>& x) {
    for (int k = 1; k <= system.nodes(); ++k)
        if (const double volts = x[static_cast<std::size_t>(k)]; !(std::abs(volts) < driven_limit))
            return Error{Fault::design, system.name(k), "is driven to " + format_quantity(volts, Unit::volt),
                         "a path for the current that is driven into it"};
    return std::nullopt;
}

}  // namespace

Result<RestPoint> settle_at_rest(System& system, const std::vector<double>* start) {
    Newton newton(system);
    if (start) {
        newton.x = *start;
        system.limit_junctions(false);  // they stand where the start has them
        system.evaluate(start->data(), 0, 0);
        system.limit_junctions(true);
    }
    std::vector<double> wants(static_cast<std::size_t>(system.monitors()));
    RestPoint rest;
    for (int turn = 0;; ++turn) {
        if (!settle(newton, system))
            return Error{Fault::design, system.name(newton.worst), "it would not settle",
                         "a circuit with a definite state"};
        system.watch(newton.x.data(), wants.data());
        const auto most = std::max_element(wants.begin(), wants.end());
        if (most == wants.end() || !(*most > 0)) break;
        if (turn > 4 * system.monitors() + 4) {
            rest.oscillates = true;
            break;
        }
        system.fire(static_cast<int>(most - wants.begin()));
    }
    if (auto nowhere = driven_nowhere(system, newton.x)) return *nowhere;
    rest.x = newton.x, rest.iterations = newton.iterations, rest.residual = newton.residual;
    return rest;
}

}  // namespace elkit
