#pragma once
#include <string>
#include <utility>
#include <vector>

#include "engine/steady.hpp"

namespace elkit {

/// What every net and pin of a circuit does in the long run: its state of rest, or one steady cycle.
class LongRun {
  public:
    bool moves() const { return steady_.moves; }
    const Steady& steady() const { return steady_; }

    /// Time averages of all voltages [V], currents [A] and powers [W]; at rest the state itself.
    const OperatingPoint& mean() const { return mean_; }
    /// Lowest and highest voltage [V] of one net against another over a cycle.
    std::pair<double, double> between(const std::string& net, const std::string& reference) const;
    /// Largest |current| [A] into a pin over a cycle; 0 for a pin that does not exist.
    double peak(const std::string& designator, const std::string& pin) const;
    /// Lowest |current| [A] of a pin over a cycle; at rest its current.
    double least(const std::string& designator, const std::string& pin) const;
    /// How often in a cycle the |current| of a pin rises through half of lasting(); 0 at rest.
    int pulses(const std::string& designator, const std::string& pin) const;
    /// √(mean of the current squared) [A] of a pin.
    double rms(const std::string& designator, const std::string& pin) const;
    /// The |current| [A] of a pin that is exceeded for a hundredth of the cycle: its peak without the spikes
    /// that charge a gate.
    double lasting(const std::string& designator, const std::string& pin) const;

    /// Likewise of several pins at once: Σ |current| [A] at each moment.
    double together(const std::string& designator, const std::vector<std::string>& pins) const;

    /// All readings at a moment of the cycle at which lasting() flows into the pin, the part's first where
    /// none is named: what a pulsed light gets while it is on. At rest the state itself. Parts that the
    /// circuit no longer has read as at the end of the cycle.
    OperatingPoint while_on(const Circuit& circuit, const std::string& designator,
                            const std::string& pin = {}) const;

    /// Average current of a part [A], with its peak and rms in the working.
    Figure mean_figure(const std::string& designator, const std::string& pin) const;

  private:
    friend LongRun resting_run(const Circuit&, OperatingPoint);
    friend LongRun passing_run(const Circuit&, Recording);
    friend Result<LongRun> long_run(const Circuit&, const Catalogue&, const Conditions&, const Corner&,
                                    const LongRun*);
    const std::vector<double>* current(const std::string& designator, const std::string& pin) const;
    double lasting_of(const std::vector<double>& values) const;
    /// The end of that piece of the cycle whose |current| is exceeded for a hundredth of it.
    std::size_t lasting_at(const std::vector<double>& values) const;
    Steady steady_;  ///< its cycle has all nets, pins and powers; one sample at rest
    OperatingPoint mean_;
};

/// The long run of a circuit that rests at `op`.
LongRun resting_run(const Circuit& circuit, OperatingPoint op);

/// What a circuit does for a time after something began it, which then ends: its means are over that time.
LongRun passing_run(const Circuit& circuit, Recording course);

/// True if a circuit could move by itself: something with gain and something that stores, or a source that
/// changes.
bool may_move(const Circuit& circuit);

/// A circuit that cannot move by itself is solved at rest; any other is followed to its steady state. Errors
/// as operating_point() and steady_state(). `near`: the same circuit under other conditions, to start from.
Result<LongRun> long_run(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                         const Corner& corner = {}, const LongRun* near = nullptr);

}  // namespace elkit
