#include "batch/parts_list.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

constexpr double sheet_width = 160, sheet_height = 100;  // mm, the pad board as bought

std::string marking(const Part& part) {
    if (part.kind == "resistor") {
        const auto bands = colour_bands(part.number("value"), part.number("tolerance"));
        return bands ? fmt::format("{}", fmt::join(bands.value().names, " ")) : "";
    }
    if (part.kind == "led") return "long leg +";
    if (part.kind == "diode") return "stripe −";
    return "";
}

std::string plain_name(const Part& part) {
    if (part.kind == "resistor")
        return fmt::format("{} resistor {}", format_quantity(part.number("value"), Unit::ohm),
                           rating_text(part.number("rating")));
    if (part.kind == "led") {
        const LedType* type = built_in_catalogue().led(part.text("type"));
        return type ? type->name : part.text("type");
    }
    if (part.kind == "battery") return part.text("cell") + " cell";
    return value_text(part);
}

class Collector {
  public:
    Collector(const std::vector<DrawerItem>& drawer, double kits, double spares)
        : drawer_(drawer), kits_(kits), spares_(spares) {}

    void add(const std::string& key, const std::string& name, double pieces,
             const std::string& designator = "", const std::string& mark = "") {
        for (PartsLine& line : lines_)
            if (line.key == key) {
                line.per_kit.value += pieces;
                if (!designator.empty())
                    line.designators += (line.designators.empty() ? "" : ", ") + designator;
                return;
            }
        PartsLine line;
        line.key = key, line.name = name, line.designators = designator, line.marking = mark;
        line.per_kit.value = pieces;
        lines_.push_back(line);
    }

    std::vector<PartsLine> finish() {
        for (PartsLine& line : lines_) {
            const bool whole = line.key != "board/pad";
            // spare cells, holders and boards are not bought: only what breaks or gets lost at the bench
            const bool spare = line.key.starts_with("resistor/") || line.key.starts_with("led/") ||
                               line.key.starts_with("diode/") || line.key.starts_with("switch/");
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
            if (!item) continue;
            line.name = item->name, line.stock = item->stock, line.pack_price = item->price;
            const double lacking = std::max(0.0, std::ceil(needed - item->stock - 1e-9));
            line.packs = lacking > 0 ? std::ceil(lacking / item->pack - 1e-9) : 0;
            line.to_buy = figure(
                "to_buy", "to buy: ", lacking,
                {fmt::format("{:.4g} needed − {:.4g} in the drawer = {:.4g}", needed, item->stock, lacking),
                 fmt::format("{:.0f} × pack of {:.0f} at {:.2f} = {:.2f}", line.packs, item->pack,
                             item->price, line.packs * item->price)});
        }
        return std::move(lines_);
    }

  private:
    const std::vector<DrawerItem>& drawer_;
    double kits_, spares_;
    std::vector<PartsLine> lines_;
};

}  // namespace

std::string drawer_key(const Part& part) {
    if (part.kind == "resistor")
        return "resistor/" + format_plain(part.number("value")) +
               (part.number("rating") > 0.3 ? "/" + format_plain(part.number("rating")) + "W" : "");
    if (part.kind == "led" || part.kind == "diode") return part.kind + "/" + part.text("type");
    if (part.kind == "battery") return "cell/" + part.text("cell");
    if (part.kind == "switch") return "switch/slide";
    return part.kind;
}

PartsList parts_list(const Design& design, const std::vector<DrawerItem>& drawer, const PadLayout* layout) {
    Collector collector(drawer, design.brief.kits, design.batch.spares);
    for (const Part& part : design.circuit.parts) {
        const double pieces = part.kind == "battery" ? part.number("count") : 1;
        collector.add(drawer_key(part), plain_name(part), pieces, part.designator, marking(part));
        const CellType* cell =
            part.kind == "battery" ? built_in_catalogue().cell(part.text("cell")) : nullptr;
        if (cell && !cell->endless())
            collector.add(fmt::format("holder/{:.0f}x{}", pieces, cell->id),
                          fmt::format("holder for {:.0f} {} with leads", pieces, cell->id), 1);
    }
    if (layout) {
        const double across = std::max(
            1.0, std::floor(sheet_width / layout->width()) * std::floor(sheet_height / layout->height()));
        const double turned = std::max(
            1.0, std::floor(sheet_width / layout->height()) * std::floor(sheet_height / layout->width()));
        collector.add("board/pad", "pad board 100 × 160 mm", 1 / std::max(across, turned), "",
                      fmt::format("{} × {} holes", layout->columns, layout->rows));
    }
    collector.add("wire/tinned", "tinned wire 0.5 mm, 1 m", 0.2);
    PartsList list;
    list.kits = design.brief.kits;
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
