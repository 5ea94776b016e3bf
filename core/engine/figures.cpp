#include "engine/figures.hpp"

#include <fmt/format.h>

namespace elkit {

Figure power_figure(const OperatingPoint& op, const std::string& designator) {
    const PartState& s = op.part(designator);
    Figure f{"op.power." + designator, "power in " + designator, s.power(), Unit::watt, {}, {}, {}};
    f.working = {"P = V × I, from the operating point",
                 fmt::format("  = {} × {} = {}", format_quantity(s.voltage, Unit::volt),
                             format_quantity(s.current, Unit::ampere), f.text())};
    return f;
}

Figure current_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& designator) {
    Figure f{"op.current." + designator,
             "current of " + designator,
             op.part(designator).current,
             Unit::ampere,
             {},
             {},
             {"into its first pin, by its own curve at these voltages:"}};
    if (const Part* part = circuit.find(designator))
        for (const Pin& pin : part->pins)
            f.working.push_back(fmt::format("  {} on {}: {}", pin.name, pin.net,
                                            format_quantity(op.voltage(pin.net), Unit::volt, 4)));
    return f;
}

Figure voltage_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& net) {
    Figure f{"op.voltage." + net, "voltage of " + net, op.voltage(net), Unit::volt, {}, {}, {}};
    f.working = {"against the negative rail; the currents that leave this net sum to zero:"};
    for (const Part& part : circuit.parts)
        for (std::size_t pin = 0; pin < part.pins.size() && pin < 2; ++pin)
            if (part.pins[pin].net == net)
                f.working.push_back(fmt::format(
                    "  {} {}: {}", part.designator, part.pins[pin].name,
                    format_quantity((pin == 0 ? 1 : -1) * op.part(part.designator).current, Unit::ampere)));
    return f;
}

}  // namespace elkit
