#pragma once
#include <optional>
#include <string>
#include <vector>

#include "engine/operating_point.hpp"
#include "quantity/figure.hpp"
#include "quantity/progress.hpp"
#include "quantity/unit.hpp"

namespace elkit {

/// How exactly a run follows the equations.
struct Accuracy {
    double relative = 5e-3;  ///< error of one step against the largest value that an unknown has had
    double volts = 1e-5,
           others = 1e-8;     ///< absolute error allowed for voltages; for currents and other states
    double longest_step = 0;  ///< s; 0: a fiftieth of the run
};

enum class Start { rest, power_up };

/// A change of the conditions while a run is going on, such as a switch pressed.
struct TimedChange {
    double time = 0;  ///< s
    Conditions conditions;
    std::string what;  ///< "press S1"
};

/// Something that happened at an exact moment: a latch, a contact, a change of conditions.
struct Happening {
    double time = 0;
    std::string what;
};

/// Something to record: "net:OUT" [V], "part:L1" or "part:U1.out" [A into that pin], "power:L1" [W],
/// "light:L1" [cd].
struct Trace {
    std::string probe;
    Unit unit = Unit::volt;
    std::vector<double> values;
};

/// What came and went over a run.
struct Balance {
    double charge = 0;        ///< C out of the first source's + pin
    double charge_error = 0;  ///< largest ∫ of the currents of a net against the charge left on it, as a
                              ///< fraction of the charge that the largest current moved
    double given = 0;         ///< J from all parts that gave more than they took
    double taken = 0;         ///< J taken up by all others; what is stored at the end included
    double energy_error = 0;  ///< |given − taken| / given
    Figure figure() const;    ///< the energy error in percent, with charge and energies as its working
};

struct Recording {
    std::vector<double> time;  ///< s, the stage and the end of each accepted step, and two at a jump
    std::vector<Trace> traces;
    std::vector<Happening> happenings;
    Balance balance;
    OperatingPoint end;                  ///< readings at the end
    std::vector<OperatingPoint> frames;  ///< of everything, about evenly spaced, if asked for
    std::vector<double> frame_time;      ///< s
    long steps = 0, rejected = 0, evaluations = 0, factorisations = 0;
    long copied_cycles = 0;

    const Trace* trace(std::string_view probe) const;  ///< nullptr if it was not recorded
};

/// What tells all that was to be known: a run ends with the first step after `after` with more at the probe.
struct Enough {
    std::string probe;
    double level = 0, after = 0;  ///< in the probe's unit; s
};

struct RunRequest {
    double until = 1;                   ///< s
    std::optional<Enough> enough = {};  ///< ends it sooner
    Start start = Start::rest;
    std::vector<std::string> probes = {};
    std::vector<TimedChange> changes = {};  ///< in order of time
    Accuracy accuracy = {};
    bool copy_cycles = true;  ///< cycles that come out alike are computed once and copied
    bool balance = true;      ///< energies of all parts; costs about as much as the run itself
    std::size_t most_samples = 4'000'000;
    int frames = 0;  ///< pictures of the whole circuit to keep; cycles are then not copied
};

/// Follows the circuit through time: TR-BDF2 on the charges (Bank et al., IEEE Trans. CAD 4, 1985; error
/// estimate and filter after Hosea & Shampine, Appl. Num. Math. 20, 1996), steps by local error, thresholds
/// and changes located by root finding to 1e-9 of the step and the state made consistent after each. From
/// rest where there is one in which the circuit stays, else from power-up. Errors: connectivity; a probe that
/// does not exist; the net or part that would not settle; stopped by `progress`.
Result<Recording> simulate(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                           const RunRequest& request, const Corner& corner = {},
                           const Progress& progress = {});

/// The state in which the circuit comes to rest when power is put on with its capacitors empty, and after the
/// events of the conditions.
Result<OperatingPoint> state_from_power_up(const Circuit& circuit, const Catalogue& catalogue,
                                           const Conditions& conditions, const Corner& corner = {});
/// What it does at the moment that the conditions name, so long after the last of their events.
Result<OperatingPoint> state_at_moment(const Circuit& circuit, const Catalogue& catalogue,
                                       const Conditions& conditions, const Corner& corner = {});
/// Likewise, for as long as it goes on so: what its controllers show in all, up to a minute; only that moment
/// if there is no more to it.
Result<Recording> course_at_moment(const Circuit& circuit, const Catalogue& catalogue,
                                   const Conditions& conditions, const Corner& corner = {});
/// The state of rest next to `from`; design error if the circuit leaves it when let go.
Result<OperatingPoint> stable_state(const Circuit& circuit, const Catalogue& catalogue,
                                    const Conditions& conditions, const OperatingPoint& from);

}  // namespace elkit
