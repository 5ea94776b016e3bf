#pragma once
#include <optional>
#include <string>
#include <vector>

#include "light/flicker.hpp"
#include "planning/arrays_of_design.hpp"

namespace elkit {

/// Where the resistors of a grid sit: what shares one lights unequally.
enum class GridResistor { row, column, light };

/// Lights at the crossings of rows, which feed, and columns, which take away.
struct GridQuestion {
    ArrayQuestion array;  ///< source, LED, current of one light, contact of a switch or driver, values
    int rows = 3, columns = 3;
    GridResistor resistor = GridResistor::row;
    bool for_all = false;     ///< values for all that share one lit at once, not for one alone
    double refresh = 100;     ///< Hz, of a scanned grid
    double pin_limit = 0.02;  ///< A that a controller's pin gives or takes well
};

/// One way to wire as many lights.
struct GridScheme {
    std::string id, name;
    int lines = 0;  ///< that something must switch
    int resistors = 0;
    double duty = 1;     ///< share of the time in which each light is on when all are
    Figure peak;         ///< A in a light while it is on, for the average that is asked for
    Figure allowed;      ///< A that it bears at this duty
    Figure seen;         ///< %, perceived, when the peak is held at what LED and pins bear
    Figure line;         ///< A in the busiest line
    std::string remark;  ///< what to mind; empty if nothing
};

struct Grid {
    GridQuestion question;
    Figure resistor;             ///< Ω, each, with its rating in the working
    double rating = 0;           ///< W
    int sharing = 1;             ///< lights on one resistor
    std::vector<Figure> by_lit;  ///< A in each of 1, 2 … lights lit on one resistor; spread by LED bins
    std::vector<Figure> seen;    ///< perceived of each then, % of one alone
    Figure alone, all;           ///< A in a light: one lit in the whole grid, and all of them
    Figure total;                ///< A from the source, all lit
    std::vector<std::string> remarks;   ///< what to mind, worst first
    std::vector<GridScheme> schemes;    ///< one line each; rows and columns scanned; between pairs of pins
    double line_rate = 0;               ///< Hz, of the scanned rows
    Flicker flicker = Flicker::steady;  ///< of the scanned grid at the refresh asked for
};

/// A grid's resistor, light by how many are lit, and the ways to wire as many lights with their lines, duty
/// and peak. Currents are the engine's for one resistor with its lights, the source loaded by all the others.
/// Pairwise between n pins there is room for n(n − 1) lights, of which one pin feeds n − 1 at a time. A
/// pulsed LED bears its pulse limit, but not more than its continuous limit over the duty. Usage errors: rows
/// or columns out of 1…32, a refresh out of 1 Hz…100 kHz; errors of size_string().
Result<Grid> plan_grid(const GridQuestion& question);

/// Rows × columns in which a circuit's single LEDs stand, with where their resistors sit; nothing if they
/// stand in no grid.
struct GridShape {
    int rows = 1, columns = 1;
    GridResistor resistor = GridResistor::light;
};
std::optional<GridShape> grid_of(const Circuit& circuit);

/// The grid of a design's lights, or of what is asked otherwise.
struct GridQuery {
    ArraysQuery array;
    std::optional<int> rows, columns;
    std::optional<GridResistor> resistor;
    bool for_all = false;
    double refresh = 100;
    using Value = Grid;
    static constexpr std::string_view name = "grid";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
