#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "engine/queries.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// Of the supply's volts, in its leads, that nobody minds. Bench practice.
inline constexpr double drop_nobody_minds = 0.03;

/// Whether a gauge is about one of these: those of mm² and of AWG differ by as much.
bool is_about(const std::vector<double>& areas, double area);

/// What a pair of leads is to carry.
struct WireQuestion {
    double volts = 0;      ///< V of the supply
    double amps = 0;       ///< A
    double metres = 0.12;  ///< one way; the current runs out and back
    double celsius = 21;
    std::vector<double> owned{};  ///< mm², to choose the best from; empty: any of the catalogue
};

/// The same on wire of one gauge.
struct WireRow {
    double area = 0;  ///< mm²
    int awg = 0;
    Figure resistance;    ///< Ω, out and back
    Figure drop;          ///< V
    Figure share;         ///< % of the supply
    Figure heat;          ///< W in both wires
    Figure bears;         ///< A that it carries well
    bool enough = false;  ///< 3 % at most, and its current
    bool owned = false;   ///< about so thick a wire is among the owned ones
    std::string reason;   ///< why not; empty if it is
};

struct Wiring {
    std::vector<WireRow> rows;  ///< thin to thick, as in the catalogue
    int best = -1;              ///< the thinnest that is enough, of the owned ones; −1: none
    Figure longest;             ///< m, one way, that the best may have; the thickest if none is enough
};

/// What a switch, fuse or other contact in the current's way loses.
struct ContactLoss {
    std::string designator, name;
    Figure drop;  ///< V across it, fresh cells, on average
    Figure heat;  ///< W
};

/// Drop and heat of a pair of leads by gauge: R = 2 l ρ/A (IEC 60028), V = I R, P = I² R, against 3 % of the
/// supply and what the gauge carries. Usage errors: volts, amperes or length out of range.
Result<Wiring> plan_wires(const WireQuestion& question);

/// The leads of a design's source at its current from fresh cells, rms where it moves; a length of 0 is its
/// own.
struct WiringQuery : Situated {
    WiringQuery(const Keyed<Circuit>& of, const Conditions& under, double length,
                std::vector<double> from = {})
        : Situated(of, fresh(*of, under)), metres(length), owned(std::move(from)) {}
    double metres;
    std::vector<double> owned;
    struct Value {
        WireQuestion question;
        Wiring wiring;
        std::vector<ContactLoss> contacts;  ///< those that carry current, the most first
        Figure connector;                   ///< V that a two-pin plug in the leads would lose
    };
    static constexpr std::string_view name = "wiring";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The design with leads of this length [m] and cross-section [mm²] on its source. Design error without one.
Result<Design> with_leads(const Design& design, double metres, double area);

}  // namespace elkit
