#include "power/supply_range.hpp"

#include "circuit/part_kind.hpp"

namespace elkit {

std::vector<SupplyRange> supply_ranges(const Circuit& circuit) {
    std::vector<SupplyRange> ranges;
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->supply) continue;
        const SupplyPins& pins = *kind->supply;
        double low = 0;
        if (!kind->is(Role::charges))  // fed only while it is plugged in
            for (const std::string& key : pins.low) low += part.number(key);
        ranges.push_back({part.designator, part.net(pins.plus), part.net(pins.minus), low,
                          part.number(pins.high), pins.stops});
    }
    return ranges;
}

}  // namespace elkit
