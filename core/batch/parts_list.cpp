#include "batch/parts_list.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "batch/bought.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

class Collector {
  public:
    Collector(const std::vector<DrawerItem>& drawer, const std::string& batch, double kits, double spares)
        : drawer_(drawer), batch_(batch), kits_(kits), spares_(spares) {}

    void add(const std::string& key, const std::string& name, double pieces,
             const std::string& designator = "", const std::string& mark = "", bool spare = false,
             bool bands = false) {
        for (PartsLine& line : lines_)
            if (line.key == key) {
                line.per_kit.value += pieces;
                if (!designator.empty())
                    line.designators += (line.designators.empty() ? "" : ", ") + designator;
                return;
            }
        PartsLine line;
        line.key = key, line.name = name, line.designators = designator, line.marking = mark;
        line.per_kit.value = pieces, line.spare = spare, line.bands = bands;
        lines_.push_back(line);
    }

    std::vector<PartsLine> finish() {
        for (PartsLine& line : lines_) {
            const bool whole = line.per_kit.value == std::floor(line.per_kit.value);
            // spare cells, holders and boards are not bought: only what breaks or gets lost at the bench
            const bool spare = line.spare;
            const double exact = line.per_kit.value * kits_ * (spare ? 1 + spares_ : 1);
            const double needed = whole ? std::ceil(exact - 1e-9) : std::ceil(exact * 100 - 1e-9) / 100;
            const auto figure = [&](const char* id, const char* label, double value,
                                    std::vector<std::string> working) {
                return Figure{"batch." + line.key + "." + id,
                              label + line.name,
                              value,
                              Unit::none,
                              {},
                              {},
                              std::move(working)};
            };
            line.per_kit = figure(
                "per_kit", "in one kit: ", line.per_kit.value,
                {line.designators.empty() ? "from the board's size or the usual amount" : line.designators});
            line.needed = figure(
                "needed", "for the batch: ", needed,
                {fmt::format("{:.4g} a kit × {:.0f} kits{} = {:.4g}{}", line.per_kit.value, kits_,
                             spare ? fmt::format(" × (1 + {:.0f} % spares)", 100 * spares_) : "", exact,
                             needed != exact ? fmt::format(", rounded up to {:.4g}", needed) : "")});
            const DrawerItem* item = find_item(drawer_, line.key);
            line.unit_price = item ? item->unit_price() : std::numeric_limits<double>::quiet_NaN();
            if (!item) {  // what it does not know has to be bought in full
                line.to_buy = figure("to_buy", "to buy: ", std::ceil(needed - 1e-9),
                                     {fmt::format("{:.4g} needed; the drawer does not know it", needed)});
                continue;
            }
            line.name = item->name, line.stock = item->stock, line.pack_price = item->price;
            line.promised = item->promised(batch_);
            const double lacking = std::max(0.0, std::ceil(needed - item->free_for(batch_) - 1e-9));
            line.packs = lacking > 0 ? std::ceil(lacking / item->pack - 1e-9) : 0;
            line.to_buy =
                figure("to_buy", "to buy: ", lacking,
                       {fmt::format("{:.4g} needed − {:.4g} in the drawer{} = {:.4g}", needed, item->stock,
                                    line.promised > 0
                                        ? fmt::format(" + {:.4g} promised to other batches", line.promised)
                                        : "",
                                    lacking),
                        fmt::format("{:.0f} × pack of {:.0f} at {:.2f} = {:.2f}", line.packs, item->pack,
                                    item->price, line.packs * item->price)});
        }
        return std::move(lines_);
    }

  private:
    const std::vector<DrawerItem>& drawer_;
    std::string batch_;
    double kits_, spares_;
    std::vector<PartsLine> lines_;
};

}  // namespace

Digest PartsQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(board) << kits << spares << batch << drawer.digest();
    return d.digest();
}

std::string batch_name(const Design& design, const std::vector<DrawerItem>& drawer) {
    const bool promised = std::any_of(drawer.begin(), drawer.end(),
                                      [&](const DrawerItem& i) { return i.reserved.contains(design.name); });
    return promised ? design.name : "";
}

PartsQuery parts_query(const Design& design, const Keyed<std::vector<DrawerItem>>& drawer) {
    return {design.circuit, board_choices(design),      design.brief.kits, design.batch.spares,
            drawer,         batch_name(design, *drawer)};
}

Result<PartsList> PartsQuery::compute(const Ask& ask) const {
    Collector collector(*drawer, batch, kits, spares);
    const auto made = ask(BoardQuery{circuit, board});
    for (const Part& part : circuit->parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || kind->is(Role::bench)) continue;
        const Identity& identity = kind->identity;
        const double pieces = identity.pieces.empty() ? 1 : part.number(identity.pieces);
        const BoardPart* lying = made ? made->part(part.designator) : nullptr;
        const Bought bought = bought_as(part, lying ? &lying->footprint : nullptr);
        collector.add(bought.key, bought.name, pieces, part.designator, bought.marking, identity.spare,
                      bought.bands);
        const auto cell = cell_of(part, known_catalogue());
        if (!identity.also_key.empty() && !(cell && cell->endless()))
            collector.add(fill_words(identity.also_key, part), fill_words(identity.also_name, part), 1);
    }
    if (made)
        for (const BoardMaterial& m : made->materials) collector.add(m.key, m.name, m.amount, "", m.marking);
    PartsList list;
    list.kits = kits;
    list.lines = collector.finish();
    double cost = 0, spend = 0;
    for (const PartsLine& line : list.lines) {
        if (!line.known()) {
            ++list.unknown;
            continue;
        }
        cost += line.per_kit.value * line.unit_price;
        spend += line.packs * line.pack_price;
        list.cost_per_kit.working.push_back(
            fmt::format("{:.3g} × {} at {:.3f}", line.per_kit.value, line.name, line.unit_price));
        if (line.packs > 0)
            list.to_spend.working.push_back(
                fmt::format("{:.0f} × pack of {} at {:.2f}", line.packs, line.name, line.pack_price));
    }
    auto cost_working = std::move(list.cost_per_kit.working),
         spend_working = std::move(list.to_spend.working);
    cost_working.push_back(
        fmt::format("sum = {:.2f}{}", cost,
                    list.unknown ? fmt::format(", without {} parts of unknown price", list.unknown) : ""));
    spend_working.push_back(fmt::format("sum = {:.2f}", spend));
    list.cost_per_kit = {"batch.cost", "parts cost for one kit", cost, Unit::money, {},
                         {},           std::move(cost_working)};
    list.to_spend = {"batch.spend",           "to buy for this batch", spend, Unit::money, {}, {},
                     std::move(spend_working)};
    return list;
}

CsvTable parts_csv(const PartsList& list) {
    CsvTable table{{"part", "designators", "marking", "per kit",
                    "needed for " + format_plain(list.kits) + " kits", "in stock", "to buy", "packs",
                    "unit price", "pack price"}};
    for (const auto& l : list.lines)
        table.push_back({l.name, l.designators, l.marking, fmt::format("{:.4g}", l.per_kit.value),
                         format_plain(l.needed.value), format_plain(l.stock), format_plain(l.to_buy.value),
                         format_plain(l.packs), l.known() ? fmt::format("{:.4f}", l.unit_price) : "",
                         l.known() ? fmt::format("{:.2f}", l.pack_price) : ""});
    return table;
}

}  // namespace elkit
