#pragma once
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "board/holes/clusters.hpp"
#include "board/holes/layout.hpp"
#include "board/holes/placer.hpp"
#include "quantity/progress.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Makes a board of so many columns and rows.
using BoardMaker = std::function<Substrate(int columns, int rows)>;

/// A board to try: what it is, how close the parts lie on it, and how wide its strings of parts may be.
struct BoardTry {
    Substrate board;
    double airy;
    int widest;  ///< holes
};

/// What kind of boards to try.
struct BoardFamily {
    BoardMaker board;
    double room = 1;     ///< how much more of it a circuit takes than of pads
    int least_rows = 5;  ///< where they are not chosen
    StringShape strings = StringShape::column;
};
/// Boards of different shapes, the closest first; only the chosen one where both sides are chosen.
std::vector<BoardTry> board_tries(const HoleParts& parts, const BoardChoices& choices,
                                  const BoardFamily& family);

/// How a kind of board of holes is laid out.
struct HoleSearch {
    std::vector<BoardTry> tries;
    std::function<std::unique_ptr<Placer>(const BoardTry&, std::uint64_t seed)> placer;
    /// Joins what is placed, and breaks off what is not used; thorough only for the best, and with less care
    /// where there will be more wires than are worth a closer look.
    struct Care {
        bool thorough = false;
        std::size_t wires = 1U << 20U;
    };
    std::function<HoleLayout(HoleLayout placed, const Care& care)> join;
    std::function<double(const HoleLayout&)> score;  ///< the less, the better
    BoardMaker board{};                              ///< none: boards as they are sold
    bool columns_free = true, rows_free = true;      ///< not chosen
    double joining_takes = 1;                        ///< how much longer one joining takes than on pads
    std::string choice = "/board";                   ///< that is too small where the parts fit on none
    std::string larger = "a larger board, or 0 for automatic";  ///< what helps then
};

/// Parts that one board of holes takes: more would be placed badly, after a long wait.
inline constexpr std::size_t most_on_holes = 300;

/// The best of several boards, varied: a few parts are moved, and what makes it better stays. Errors: more
/// than most_on_holes parts; connectivity errors; the parts fit on none of the boards; stopped by `progress`,
/// which is asked before each try.
Result<HoleLayout> best_layout(const HoleParts& parts, const HoleSearch& search, const Progress& progress);

}  // namespace elkit
