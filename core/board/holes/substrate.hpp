#pragma once
#include <cstddef>
#include <string>
#include <vector>

#include "board/holes/hole.hpp"
#include "drawing/drawing.hpp"
#include "outline/outline.hpp"

namespace elkit {

/// What a board of holes is before anything is done to it: its holes on a grid of 2.54 mm, and which of them
/// conduct to each other from the start.
struct Substrate {
    enum class Kind {
        pads,    ///< every hole for itself; solder joins
        strips,  ///< a strip of copper along each row, which can be cut at a hole
        sockets  ///< a solderless breadboard: groups of five, and rails
    };
    Kind kind = Kind::pads;
    int columns = 0, rows = 0;
    std::string size;  ///< "18 × 12 holes", "breadboard of 30 columns"
    std::vector<std::vector<Hole>>
        groups;                      ///< joined from the start, each in the order of its holes;
                                     ///< of strips also holes that are off, where copper is all the same
    std::vector<std::size_t> rails;  ///< those of the groups that run along the board, + − + −
    std::string shape{};             ///< "round", in words; empty: a rectangle
    Outline outline{};               ///< mm from its corner, where it is sawn to a shape; else empty
    std::vector<Box> off{};  ///< where it has no holes to use: beyond its outline, under heads of screws
    struct Screw {
        Hole hole;
        double diameter;  ///< mm that it is drilled to
        /// Holes under its head, which is twice as wide.
        Box head() const {
            const double reach = diameter / hole_pitch;
            return {hole.column - reach, hole.row - reach, hole.column + reach, hole.row + reach};
        }
    };
    std::vector<Screw> screws{};

    bool on_grid(Hole h) const { return h.column >= 0 && h.row >= 0 && h.column < columns && h.row < rows; }
    bool has(Hole h)
        const;  ///< a breadboard has none in its channel and beside its rails, others none that is off
    std::string name(Hole h) const;  ///< "C4": column letter, row number; on a breadboard "12c", "+7"
    std::string column_name(int column) const;
    std::string row_name(int row) const;                   ///< empty where there are no holes
    double width() const { return columns * hole_pitch; }  ///< mm
    double height() const { return rows * hole_pitch; }
};

/// Equal kinds of the same size are the same.
Substrate pad_substrate(int columns, int rows);
Substrate strip_substrate(int columns, int rows);

/// Solderless breadboards as they are sold.
struct BreadboardSize {
    std::string id, name;  ///< "half", "half size, 30 columns"
    int columns;
    bool with_rails;
    int boards;  ///< joined, one below the other
};
const std::vector<BreadboardSize>& breadboard_sizes();  ///< the smallest first
Substrate breadboard(const BreadboardSize& size);

}  // namespace elkit
