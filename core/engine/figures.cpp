#include "engine/figures.hpp"

#include <fmt/format.h>

namespace elkit {

Figure power_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& designator) {
    const PartState& s = op.part(designator);
    Figure f{"op.power." + designator, "power in " + designator, s.power(), Unit::watt, {}, {}, {}};
    const Part* part = circuit.find(designator);
    if (part && part->pins.size() > 2) {  // what flows in at each pin, times its voltage
        f.working = {"P = Σ V × I over its pins, from the operating point"};
        for (std::size_t k = 0; k < part->pins.size() && k < s.pins.size(); ++k) {
            const double volts = op.voltage(part->pins[k].net);
            f.working.push_back(fmt::format(
                "  {}: {} × {} = {}", part->pins[k].name, format_quantity(volts, Unit::volt),
                format_quantity(s.pins[k], Unit::ampere), format_quantity(volts * s.pins[k], Unit::watt)));
        }
        f.working.push_back("  = " + f.text());
        return f;
    }
    f.working = {"P = V × I, from the operating point",
                 fmt::format("  = {} × {} = {}", format_quantity(s.voltage, Unit::volt),
                             format_quantity(s.current, Unit::ampere), f.text())};
    return f;
}

Figure total_figure(const OperatingPoint& op) {
    Figure f{"op.total", "current from the supply", op.supply_current(), Unit::ampere, {}, {}, {}};
    f.working = {"out of " + op.source + " at its + pin, by Kirchhoff's current law"};
    return f;
}

Figure current_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& designator) {
    const PartState& s = op.part(designator);
    const Part* part = circuit.find(designator);
    const std::string pin = part && s.main < part->pins.size() ? part->pins[s.main].name : "first pin";
    Figure f{"op.current." + designator,
             "current of " + designator,
             s.current,
             Unit::ampere,
             {},
             {},
             {"into its pin " + pin + ", by its own curve at these voltages:"}};
    if (part)
        for (const Pin& p : part->pins)
            f.working.push_back(fmt::format("  {} on {}: {}", p.name, p.net,
                                            format_quantity(op.voltage(p.net), Unit::volt, 4)));
    return f;
}

Figure voltage_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& net) {
    Figure f{"op.voltage." + net, "voltage of " + net, op.voltage(net), Unit::volt, {}, {}, {}};
    f.working = {"against the negative rail; the currents that leave this net sum to zero:"};
    for (const Part& part : circuit.parts) {
        const auto& flows = op.part(part.designator).pins;
        for (std::size_t k = 0; k < part.pins.size() && k < flows.size(); ++k)
            if (part.pins[k].net == net)
                f.working.push_back(fmt::format("  {} {}: {}", part.designator, part.pins[k].name,
                                                format_quantity(flows[k], Unit::ampere)));
    }
    return f;
}

}  // namespace elkit
