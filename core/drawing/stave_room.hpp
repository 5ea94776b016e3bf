#pragma once
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "drawing/stave.hpp"
#include "drawing/stave_runs.hpp"

namespace elkit {

/// Sizes of the stave's words, which no zoom changes, in units.
namespace stave_words {
inline constexpr double name = 12.5, value = 12, pin = 11, tag = 12, line_height = 13.5;
}

/// Where a part stands.
struct StavePlace {
    struct Leg {
        double x = 0, y = 0;  ///< where it meets its net
        bool up = false;      ///< of a body: leaves it upwards
    };
    double x = 0;                          ///< its axis; of a body the left edge
    double width = 0;                      ///< of a body
    double top = 0, bottom = 0;            ///< where its leads end; of a body its upper and lower edge
    double middle = 0;                     ///< of the symbol
    bool flipped = false;                  ///< the first pin is the lower one
    double words = 0, words_y = 0;         ///< where its words begin, right of the axis, and their middle
    double scale = 1;                      ///< of its symbol
    std::size_t stands_for = 1;            ///< this many alike parts
    std::vector<Leg> legs;                 ///< by pin
    std::vector<std::string_view> others;  ///< the parts that it stands for besides itself
};

struct StaveJoint {
    std::string_view net;
    double x = 0, y = 0;
    double above = 0, below = 0;  ///< free height beside it, for its name
    double room = 0;              ///< right of it
};

/// Marks a group of alike columns.
struct StaveFold {
    std::string_view first;  ///< part
    std::size_t members = 0;
    bool folded = true;
    double x = 0, y = 0;  ///< right end, middle
};

struct StaveLine {
    double y = 0, first = 1e9, last = -1e9, amps = 0;
    bool tagged = true;               ///< at the left edge; else on the line itself
    double tag_x = 0, tag_width = 0;  ///< of a tag on the line
    bool tag_volts = true;            ///< it has room for them
};

/// The stave in numbers: everything that has to be known before it is drawn.
struct StaveRoom {
    double symbol = 1;      ///< size of symbols and dots
    int caption_lines = 3;  ///< 3: name, value, current; 2: name and value share one; 1: all do
    double tag_width = 112, width = 0, height = 0;
    double highest = 0;            ///< V, of any net
    std::vector<StaveLine> lines;  ///< by row of the layout
    std::unordered_map<std::string_view, StavePlace> places;
    std::vector<StaveJoint> joints;
    std::vector<StaveFold> folds;
    std::vector<std::string_view> order;  ///< parts from left to right, as they are drawn
};

inline constexpr double stave_left = 16, stave_top = 20, tag_height = 22, small_tag_height = 16,
                        least_row_gap = 26, side_leg = 30;

/// Measures the stave for a view. Where things stand does not depend on the readings, unless the view asks
/// for true heights.
StaveRoom measure_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                        const StaveView& view);

/// A net's name, shortened where it is long.
std::string tag_name(const std::string& net);

/// The designators that one drawn part stands for: "R1 … R12"; the first alone if there are no others.
std::string range_of(std::string_view first, const std::vector<std::string_view>& others);

}  // namespace elkit
