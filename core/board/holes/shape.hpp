#pragma once
#include <functional>
#include <string>
#include <string_view>
#include <utility>

#include "board/holes/parts.hpp"
#include "board/holes/search.hpp"
#include "board/holes/substrate.hpp"
#include "design/design.hpp"
#include "outline/outline.hpp"

namespace elkit {

/// What is sawn and drilled out of a rectangle of holes: an outline, and holes for screws in its corners.
class BoardShape {
  public:
    /// As chosen. Design error: an outline that is none.
    static Result<BoardShape> chosen(const BoardChoices& choices);

    bool plain() const { return kind_.empty() && screw_ <= 0; }
    bool drawn() const { return kind_ == "outline"; }
    bool round() const { return kind_ == "round"; }

    /// A rectangle of holes as it is after that. A round board is as wide as the shorter side; a drawn
    /// outline lies in the middle.
    Substrate cut_from(Substrate rectangle) const;
    /// Columns and rows of the rectangle that it takes, for as many holes as one of these has.
    Hole rectangle_for(int columns, int rows) const;
    /// mm from where a drawn outline has its places to where they are on its board.
    std::pair<double, double> drawing_to_board() const;

  private:
    Hole hole_for_screw(const Substrate& rectangle, double x, double y) const;
    Outline outline_on(const Substrate& rectangle) const;

    std::string kind_;  // "rounded", "round", "outline"; empty: a rectangle
    Outline drawn_;
    double screw_ = 0;  // mm
};

/// True if a board of this method keeps its size while parts are moved by hand on it: it has a shape.
bool keeps_its_size(const BoardChoices& choices, std::string_view method);

/// Lays parts out on a rectangle of chosen columns and rows, of which `cut` makes the board.
using LayOutOn = std::function<Result<HoleLayout>(const HoleParts& parts, const BoardChoices& choices,
                                                  const BoardMaker& cut, const Progress& progress)>;
/// The smallest board of a shape, cut from a family of rectangles, that the parts fit on without jumpers, or
/// of three the one with the fewest. Lights that the face has stand in its middle, or where a drawn outline
/// has them. Errors: those of the last board that was tried.
Result<HoleLayout> on_shaped_board(const HoleParts& parts, const BoardChoices& choices,
                                   const BoardShape& shape, const BoardFamily& family,
                                   const LayOutOn& lay_out, const Progress& progress);

/// On a rectangle of the family, or on the shape that was chosen. Errors: no outline; as above.
Result<HoleLayout> on_chosen_board(const HoleParts& parts, const BoardChoices& choices,
                                   const BoardFamily& family, const LayOutOn& lay_out,
                                   const Progress& progress);

}  // namespace elkit
