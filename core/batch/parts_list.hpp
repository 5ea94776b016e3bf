#pragma once
#include <string>
#include <vector>

#include "board/board.hpp"
#include "design/design.hpp"
#include "drawer/drawer.hpp"
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
    bool spare = false;       ///< bought with spares
    bool bands = false;       ///< its marking are colour bands
    double stock = 0, packs = 0;
    double promised = 0;    ///< of the stock, to other batches
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

/// Parts for one kit and for the batch, held against what is free in the drawer; with what the board adds,
/// where there is one.
struct PartsQuery {
    Keyed<Circuit> circuit;
    BoardChoices board;
    double kits = 1, spares = 0;
    Keyed<std::vector<DrawerItem>> drawer;
    std::string batch{};  ///< whose promises in the drawer are its own; empty where it has none
    using Value = PartsList;
    static constexpr std::string_view name = "parts list";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};
/// The name under which the drawer promises parts to this design; empty if it promises none, so that a design
/// without promises may be renamed without being judged again.
std::string batch_name(const Design& design, const std::vector<DrawerItem>& drawer);
/// Of a whole design.
PartsQuery parts_query(const Design& design, const Keyed<std::vector<DrawerItem>>& drawer);
CsvTable parts_csv(const PartsList& list);

}  // namespace elkit
