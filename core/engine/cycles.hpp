#pragma once
#include <Eigen/Dense>
#include <algorithm>
#include <deque>
#include <limits>
#include <set>
#include <vector>

#include "engine/probe.hpp"
#include "engine/section.hpp"
#include "engine/stepper.hpp"
#include "engine/transient.hpp"

/// One cycle after the other, and how they differ: what steady_state() searches with.
namespace elkit {

/// Extrapolates the fixed point of q → P(q) from the last few cycles (Anderson, J. ACM 12, 1965).
class Anderson {
  public:
    explicit Anderson(std::size_t depth) : depth_(depth) {}
    /// `scale`: what each charge has been; the drifts of all count against that.
    Eigen::VectorXd next(const Eigen::VectorXd& q, const Eigen::VectorXd& after,
                         const std::vector<double>& scale);

  private:
    struct Pass {
        Eigen::VectorXd after, drift;
    };
    std::size_t depth_;
    std::deque<Pass> past_;
};

/// Runs a stepper from one start of a cycle to the next.
class Cycles {
  public:
    Cycles(const Circuit& circuit, System& system, Stepper& stepper, Recorder& recorder,
           const Section& section);

    /// Runs to the next start of a cycle; false if it does not come within twenty times the rough period or
    /// so many steps.
    Result<bool> to_next(long most_steps = std::numeric_limits<long>::max());
    /// Runs to a time, wherever cycles begin.
    Result<void> run_to(double time);
    /// Largest charge that a net kept of the last cycle, or of one of `cycles`, as a fraction of what the
    /// sources moved in it: what else it says of its currents is wrong by as much. 0 where they moved
    /// nothing.
    double kept(const Eigen::VectorXd& before, const Eigen::VectorXd& after, int cycles = 1) const;
    double flow() const { return flow_; }    ///< C that went through the sources in the last cycle, to or fro
    double span() const { return span_; }    ///< s that it took
    bool others() const { return others_; }  ///< a latch has switched that is not the mark
    /// Whether this monitor fired in the last cycle.
    bool fires(int monitor) const { return fired_.contains(monitor); }
    void start_recording(Recording& into);
    void stop_recording() { recording_ = nullptr, s_.before_jump = nullptr; }

  private:
    /// What the last step showed.
    void note_step();
    double source_current();
    void sample(bool step);
    void record(bool step);

    const Circuit& circuit_;
    System& system_;
    Stepper& s_;
    Recorder& recorder_;
    Section section_;
    Recording* recording_ = nullptr;
    bool jumped_ = false;               // since the last record
    std::vector<std::size_t> sources_;  // parts
    double flow_ = 0, span_ = 0;
    double flow_at_pulse_ = 0;  // when the last one began
    bool others_ = false;
    std::set<int> fired_;  // in the last cycle
    std::vector<double> pins_;
};

/// Between which values something was, and how far apart they are, as a fraction.
class Range {
  public:
    void restart() { *this = {}; }
    void note(double value) { least_ = std::min(least_, value), most_ = std::max(most_, value); }
    double differ() const { return most_ > 0 ? (most_ - least_) / most_ : 0; }

  private:
    double least_ = std::numeric_limits<double>::infinity(), most_ = 0;
};

/// True if a charge went one way from cycle to cycle, and by more than `good_enough` of what it has been:
/// `to_and_fro` is the sum of its changes without their signs.
bool drifts(const std::vector<double>& before, const Eigen::VectorXd& after,
            const Eigen::VectorXd& to_and_fro, const std::vector<double>& scale, double good_enough);

inline Eigen::VectorXd vector_of(const std::vector<double>& v) {
    return Eigen::Map<const Eigen::VectorXd>(v.data(), static_cast<Eigen::Index>(v.size()));
}
inline std::vector<double> list_of(const Eigen::VectorXd& v) { return {v.data(), v.data() + v.size()}; }

}  // namespace elkit
