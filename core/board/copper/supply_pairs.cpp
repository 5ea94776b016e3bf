#include "board/copper/supply_pairs.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "board/copper/pads.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {

std::optional<SupplyPair> supply_pair(const std::vector<CopperPart>& parts, std::size_t chip,
                                      std::size_t capacitor) {
    const Part &part = *parts[chip].part, &other = *parts[capacitor].part;
    const PartKind* kind = part_kind(part.kind);
    if (!kind || !kind->supply || !kind->is(Role::chip) || parts[chip].place != PartPlace::board ||
        !is(other, Role::capacitor) || other.pins.size() != 2 || parts[capacitor].place != PartPlace::board)
        return {};
    const std::string &plus = part.net(kind->supply->plus), &minus = part.net(kind->supply->minus);
    const Pin &a = other.pins[0], &b = other.pins[1];
    const bool along = a.net == plus && b.net == minus, against = a.net == minus && b.net == plus;
    if (plus.empty() || minus.empty() || (!along && !against)) return {};
    return SupplyPair{chip,
                      capacitor,
                      {plus, minus},
                      {kind->supply->plus, kind->supply->minus},
                      {along ? a.name : b.name, along ? b.name : a.name}};
}

std::vector<SupplyPair> supply_pairs(const std::vector<CopperPart>& parts) {
    std::vector<SupplyPair> all;
    std::set<std::size_t> taken;
    for (std::size_t chip = 0; chip < parts.size(); ++chip) {
        std::optional<SupplyPair> best;
        for (std::size_t c = 0; c < parts.size(); ++c) {
            const auto pair = taken.contains(c) ? std::nullopt : supply_pair(parts, chip, c);
            if (!pair) continue;
            if (!best || (is(*parts[best->capacitor].part, Role::polar) && !is(*parts[c].part, Role::polar)))
                best = pair;
        }
        if (!best) continue;
        taken.insert(best->capacitor);
        all.push_back(*best);
    }
    return all;
}

Beside beside_chip(const std::vector<CopperPart>& parts, const SupplyPair& pair, double room) {
    const CopperPart &chip = parts[pair.chip], &capacitor = parts[pair.capacitor];
    constexpr double grid = 1.27, reach = 20, around_hole = 0.9;  // mm
    const auto box_of_part = [&](const CopperPart& p, const Beside& lies) {
        Box box = no_box;
        const Box& b = p.footprint.body;
        for (const Point corner :
             {Point{b.x0, b.y0}, Point{b.x1, b.y0}, Point{b.x0, b.y1}, Point{b.x1, b.y1}})
            widen(box, lies.at + turned(corner, lies.turn));
        for (const Pad& pad : p.footprint.pads)
            widen_by_pad(box, pad, lies.at, lies.turn, around_hole, room / 2);
        return box;
    };
    const auto pad_at = [](const CopperPart& p, const std::string& pin) {
        Point at;
        for (const Pad& pad : p.footprint.pads)
            if (pad.pin == pin) at = {pad.x, pad.y};
        return at;
    };
    const Box body = box_of_part(chip, {});
    const double edge = grid * std::ceil(reach / grid);
    Beside best;
    double least = 1e9;
    const auto line = [&](double mm) { return static_cast<int>(std::lround(mm / grid)); };
    for (const double turn : {0.0, 90.0, 180.0, 270.0})
        for (int row = line(body.y0 - edge); row <= line(body.y1 + edge); ++row)
            for (int column = line(body.x0 - edge); column <= line(body.x1 + edge); ++column) {
                const Beside lies{{grid * column, grid * row}, turn};
                if (box_of_part(capacitor, lies).overlaps(body)) continue;
                double sum = 0, longest = 0;
                for (std::size_t k = 0; k < 2; ++k) {
                    const double far =
                        distance(pad_at(chip, pair.chip_pins[k]),
                                 lies.at + turned(pad_at(capacitor, pair.capacitor_pins[k]), turn));
                    sum += far, longest = std::max(longest, far);
                }
                if (sum + 2 * longest < least - 1e-9) least = sum + 2 * longest, best = lies;
            }
    return best;
}

}  // namespace elkit
