#pragma once
#include <string>
#include <vector>

#include "batch/drawer.hpp"
#include "board/pad_board.hpp"
#include "design/design.hpp"
#include "formats/csv.hpp"
#include "quantity/figure.hpp"

namespace elkit {

struct PartsLine {
    std::string key, name;
    std::string designators;  ///< "R1, R2"
    std::string marking;      ///< colour bands, or how to tell the polarity
    Figure per_kit;           ///< pieces, or a fraction of a board
    Figure needed;            ///< for the batch, spares included
    Figure to_buy;            ///< pieces that the drawer lacks
    double stock = 0, packs = 0;
    double unit_price = 0;  ///< NaN if the drawer does not know the part
    double pack_price = 0;
    bool known() const { return unit_price == unit_price; }
};

struct PartsList {
    double kits = 0;
    std::vector<PartsLine> lines;
    Figure cost_per_kit;  ///< parts at pack prices, by the piece
    Figure to_spend;      ///< packs to buy for this batch
    int unknown = 0;      ///< lines without a price
};

/// Parts for one kit and for the batch of the brief, held against the drawer. `layout` gives the board's
/// share and may be null.
PartsList parts_list(const Design& design, const std::vector<DrawerItem>& drawer, const PadLayout* layout);
/// The drawer's key of a part: "resistor/75", "led/amber-5mm".
std::string drawer_key(const Part& part);
CsvTable parts_csv(const PartsList& list);

}  // namespace elkit
