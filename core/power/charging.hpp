#pragma once
#include <string>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "design/design.hpp"
#include "power/life.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// A that a port gives without being asked for more.
inline constexpr double port_limit = 0.5;

/// A cell charged with constant current up to a voltage, and then at that voltage until the current has
/// fallen.
struct Charge {
    double hours = 0;       ///< until it is called full
    double at_current = 0;  ///< h of that at constant current
    double delivered = 0;   ///< Ah taken up
    double energy = 0;      ///< Wh taken up at the cell's pins
    double most_heat = 0;   ///< W in a linear charger at `supply` volts, at its worst
};

/// Whether cells of this chemistry are made to be charged again.
bool rechargeable(const CellType& cell);

/// Of an empty cell: dt = Q ds / I, with I the set current while U(s) + I R(s) stays below the full voltage,
/// which is U(1), and then I = (U(1) − U(s)) / R(s) until a tenth of the set current.
Charge charge_cell(const CellType& cell, double current, double supply);

/// A current of a charger module.
struct ChargeRow {
    double current = 0;    ///< A
    bool present = false;  ///< the circuit's own charger is set to it
    enum class Verdict { gentle, allowed, no } verdict = Verdict::no;
    Figure rate;    ///< C-rate: of the charge that the cell holds, in an hour
    Figure time;    ///< h
    Figure heat;    ///< W in the module at its worst
    Figure warmth;  ///< °C that it gets, in the air of a room
    std::string remark;
};

struct Charging {
    std::string cell;     ///< its name
    std::string charger;  ///< designator; empty where the circuit has none
    std::vector<ChargeRow> rows;
    int advised =
        -1;       ///< the fastest that is gentle, cool and asks no more of a port than any gives; −1: none
    Figure full;  ///< V at which the charger stops
    Figure lock;  ///< V of a cell below which nothing may be taken
    Figure reached;  ///< V of a cell where the gadget's run ends by itself
    std::vector<std::string> cautions;
};

/// Charging of a design's lithium cell by the currents that small modules are set to, and by its own
/// charger's. Design error where the source is no lithium cell that is charged.
struct ChargingQuery {
    Design design;
    Conditions now;
    using Value = Charging;
    static constexpr std::string_view name = "charging";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// A that a charger module gives: its converter limits at 1.3 times what it is rated for.
double charging_current(const Part& charger);
/// Its parameter for that.
double rated_for_charging(double current);

/// The design with its charger set so; where it has none, with a charger module at its cell and a plug for
/// its supply. Errors: anything but a single lithium-ion cell; more than it bears in an hour.
Result<Design> with_charger(const Design& design, double current);

}  // namespace elkit
