#pragma once
#include <string>

#include "board/board.hpp"
#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

inline constexpr double hand_grid = 0.635;  ///< mm that parts are put on: a quarter of the pitch of pins

/// The design with all parts where they lie on this board, and its tracks, so that they stay there while one
/// is moved: parts that were not put by hand yet only begin there, but for lights that the face has: they
/// stay.
Design with_spots(Design design, const Board& board);

/// The board of a design that chose `made_of`, as another design has put its parts since: what a further
/// change by hand begins with while that is laid out.
Board as_put(Board board, const BoardChoices& made_of, const Design& design);

/// These choices with their pulls and areas that stay free as they lie on the board, mm from its corner: it
/// may have grown beyond where places of the design begin.
BoardChoices lying_on(BoardChoices choices, const Board& board);
/// Other pulls, or areas, in place of all, as they lie on the board; nullptr: as in the design.
Design with_pulls(Design design, std::vector<TrackPull> pulls, const Board* board);
Design with_keep_out(Design design, std::vector<KeepOut> areas, const Board* board);

/// Moved by so many mm, and locked. Design error: no such part on the board.
Result<Design> moved_by_hand(const Design& design, const Board& board, const std::string& part, double dx,
                             double dy);
/// Turned clockwise about the middle of its body, and locked.
Result<Design> turned_by_hand(const Design& design, const Board& board, const std::string& part,
                              double degrees);
/// Its legs bent to so many mm from each other, and locked. Design error: they do not reach so far.
Result<Design> bent_by_hand(const Design& design, const Board& board, const std::string& part, double span);
/// Kept where it is, or free to be laid elsewhere.
Result<Design> locked_by_hand(const Design& design, const Board& board, const std::string& part, bool locked);
/// All but what is locked is laid anew, and no track is pulled; lights that the face has go back to where it
/// has them.
Design arranged_anew(Design design);
/// Parts stay; all tracks are laid anew, by what was pulled.
Design tracks_anew(Design design);

/// A track, joint or link of this net pulled to a place [mm from the board's upper left corner; the nearest
/// hole of a board of holes], parts stay; one pulled near there before goes. Design error: no such net, or
/// not on the board.
Result<Design> pulled_by_hand(const Design& design, const Board& board, TrackPull pull);
/// The pull at this index elsewhere. Design error: no such pull, or as above.
Result<Design> pull_moved_by_hand(const Design& design, const Board& board, std::size_t index, double x,
                                  double y);
/// Without the pull at this index: what joins its net is laid anew. Design error: no such pull.
Result<Design> pull_let_go(const Design& design, std::size_t index);
/// A rectangle of the board [mm] that stays free, cut to the board, to tenths or whole holes; parts in it
/// move aside. Design error: nothing of it is on the board.
Result<Design> kept_free_by_hand(const Design& design, const Board& board, KeepOut area);

/// "GND 12.7 8.9; VCC 20 5 component": net, mm from the left, mm from above, its side where that is not the
/// solder side; and back. Usage error that shows what could not be read.
std::string pulls_text(const std::vector<TrackPull>& pulls);
Result<std::vector<TrackPull>> read_pulls(const std::string& text);

/// "20 10 30 15; 0 0 5 5": left, top, width and height of each area that stays free [mm]; and back. Usage
/// error that shows what could not be read.
std::string keep_out_text(const std::vector<KeepOut>& areas);
Result<std::vector<KeepOut>> read_keep_out(const std::string& text);
/// "3 20 Harbour beacon; 1.2: version 2": left end of the baseline [mm] or nothing for anywhere, with a colon
/// the height of the letters, and the words; and back.
std::string board_texts_text(const std::vector<BoardText>& texts);
Result<std::vector<BoardText>> read_board_texts(const std::string& text);

}  // namespace elkit
