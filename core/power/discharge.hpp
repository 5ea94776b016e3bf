#pragma once
#include <optional>
#include <string>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "engine/queries.hpp"

namespace elkit {

struct DischargeSample {
    double hours = 0, charge = 1;  ///< time since fresh; state of charge
    double volts = 0, amps = 0;    ///< at the source's pins, in the situation that is followed
    double mean_amps = 0;          ///< over the day
    double light = 0;              ///< luminance against fresh
};

/// One discharge of the real cell under the real circuit.
struct Discharge {
    std::vector<DischargeSample> samples;  ///< from fresh until the end
    double hours = 0;                      ///< run time; infinity for a supply that does not empty
    double delivered = 0;                  ///< Ah taken out of the cells, ∫ I dt
    double charge_left = 0;                ///< state of charge at the end
    double energy_left = 0;                ///< fraction of the cell's energy still in it at the end
    double average_light = 0;              ///< perceived, mean over time, fraction of fresh
    std::string ended_by;                  ///< "light below 50 %", "cells empty"
    std::string ended_part;                ///< designator of a chip that stopped; empty if none did

    /// Hours after which the state of charge has come down to `charge`; nothing if the run ends before.
    std::optional<double> hours_at(double charge) const;
    /// Volts at the source's pins under this load, so many hours from fresh; NaN behind the end.
    double volts_at(double hours) const;
};

/// How a day is spent: a share of the time in the situation that is followed, the rest in others.
struct DayShares {
    struct Other {
        Conditions conditions;
        double share = 0;  ///< of the time
    };
    double followed = 1;
    std::vector<Other> others;
};

/// Discharges the circuit with all switches closed from fresh until the perceived brightness falls below
/// `end_brightness` (fraction of fresh), a chip's supply below its lowest, or the source is empty. At each
/// state of charge s the engine solves the circuit, on average over a steady cycle where it moves; time
/// follows from  ds/dt = −Σ share · I / Q(I, T) − self-discharge,  with the cell's rate loss in Q and the sum
/// over the situations of a day; trapezoids over steps in s that are as wide as the readings are straight.
/// Errors are those of the engine.
struct DischargeQuery : Situated {
    DischargeQuery(const Keyed<Circuit>& of, const Conditions& under, double end, Corner at = {})
        : Situated(of, fresh(*of, under), std::move(at)), end_brightness(end) {}
    double end_brightness;
    DayShares day = {};
    using Value = Discharge;
    static constexpr std::string_view name = "discharge";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The cell behind the circuit's source; nothing for a supply that does not empty.
std::optional<CellType> emptying_cell(const Part& source);
Digest digest_of(const DayShares& day);

}  // namespace elkit
