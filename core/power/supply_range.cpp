#include "power/supply_range.hpp"

namespace elkit {

std::vector<SupplyRange> supply_ranges(const Circuit& circuit) {
    std::vector<SupplyRange> ranges;
    for (const Part& p : circuit.parts) {
        if (p.kind == "timer" || p.kind == "comparator")
            ranges.push_back({p.designator, p.net("vcc"), p.net("gnd"), p.number("lowest_supply"),
                              p.number("highest_supply"), true});
        if (p.kind == "regulator")
            ranges.push_back({p.designator, p.net("in"), p.net("gnd"),
                              p.number("voltage") + p.number("dropout"), p.number("highest_supply"), false});
        if (p.kind == "buzzer" || p.kind == "motor")
            ranges.push_back(
                {p.designator, p.net("+"), p.net("-"), p.number("low"), p.number("high"), false});
        if (p.kind == "prewired_led")
            ranges.push_back(
                {p.designator, p.net("a"), p.net("k"), p.number("low"), p.number("high"), false});
    }
    return ranges;
}

}  // namespace elkit
