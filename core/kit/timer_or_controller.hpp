#pragma once
#include <optional>
#include <string>
#include <vector>

#include "batch/parts_list.hpp"
#include "design/design.hpp"
#include "engine/queries.hpp"
#include "quantity/figure.hpp"

/// The same behaviour made by a timer and by a small controller, side by side.
namespace elkit {

/// One way of making what a block does.
struct MadeBy {
    std::string name;                        ///< "timer, CMOS", "small controller, 8 pins"
    std::string brief;                       ///< "CMOS timer", "controller"
    bool present = false;                    ///< it is the design's own
    bool programmed = false;                 ///< a program has to be written into its chip
    std::string reason;                      ///< why it cannot be; empty if it can
    std::string recipe;                      ///< that makes it
    std::map<std::string, ParamValue> said;  ///< goals for it
    Figure parts;                            ///< how many, the source apart
    Figure cost;                             ///< of the parts of a kit, where the drawer knows their prices
    Figure lit, waits;  ///< A on average while it blinks or shines; while it waits for a press
    Figure lasts;       ///< h from fresh cells, blinking; years, waiting; endless on a supply
    Figure area;        ///< mm² of the board by the design's method
    Figure pace;        ///< Hz of a blinker or s of one that shines for a time, over a batch
};

/// Whether a block does what both can do: blink by itself, or shine for a time after a press.
bool both_can(const Design& design, std::size_t block);

/// The ways, each with its lights on the block's own supply; measured by the engine from fresh cells, the
/// pace also with every part at either end of its tolerance. Design error where both_can() does not hold;
/// those of the engine for the design's own.
struct MadeByQuery {
    MadeByQuery(const Design& of, std::size_t which, const Keyed<std::vector<DrawerItem>>& drawer);
    Design design;  ///< of which circuit, blocks, method of the board and the end of the light matter
    std::size_t block;
    Keyed<std::vector<DrawerItem>> drawer;
    using Value = std::vector<MadeBy>;
    static constexpr std::string_view name = "timer or controller";
    static constexpr std::size_t weight = 20;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The design with the block made another way. Errors as with_block(), and where other blocks hang on it.
Result<Design> made_by(const Design& design, std::size_t block, const MadeBy& way);

}  // namespace elkit
