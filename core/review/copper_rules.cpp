// Boards of copper: what flows in their tracks, and how far it runs.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "board/copper/track_current.hpp"
#include "circuit/part_kind.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

constexpr double track_rise = 10;  // K above its surroundings: the usual measure for boards of this size

/// Tracks of a board of copper against what flows in their nets.
void track_currents(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    const auto board = e.board();
    if (!run || !board) return;
    for (const NetCopper& copper : board->copper) {
        double current = 0;
        for (const Part& part : e.circuit->parts)
            for (const Pin& pin : part.pins)
                if (pin.net == copper.net) current = std::max(current, run->rms(part.designator, pin.name));
        const double may = track_current(copper.narrowest, copper.thickness, track_rise);
        if (!(current > may)) continue;
        const double wide = std::ceil(10 * track_width(current, copper.thickness, track_rise)) / 10;
        auto& f = add_finding(out, Severity::warning, "board", "net:" + copper.net,
                              fmt::format("{} flow in {}, a track of {:.1f} mm carries {}",
                                          format_quantity(current, Unit::ampere), copper.net,
                                          copper.narrowest, format_quantity(may, Unit::ampere)),
                              fmt::format("By IPC-2221 a track on the outside of a board, {:.0f} µm thick, "
                                          "is {:.0f} °C warmer than its surroundings "
                                          "then; it is narrowest at {}. {:.1f} mm would do.",
                                          copper.thickness, track_rise, copper.place, wide));
        f.remedies.push_back({fmt::format("Make tracks {:.1f} mm wide where there is room", wide),
                              [wide](const Design& d) -> Result<Design> {
                                  Design next = d;
                                  next.board.track = wide;
                                  return next;
                              }});
    }
}

void supply_capacitors(const Evidence& e, std::vector<Finding>& out) {
    const auto board = e.board();
    if (!board) return;
    for (const SupplyPath& path : board->supplies)
        if (path.length > path.limit)
            add_finding(out, Severity::note, "board", "part:" + path.capacitor,
                        fmt::format("{:.0f} mm of copper from {} to the supply of {}", path.length,
                                    path.capacitor, path.chip),
                        fmt::format("A chip that switches draws short gulps; a capacitor across its supply "
                                    "gives them only where "
                                    "it is near: {:.0f} mm at most to either pin of this chip. Drag {} to "
                                    "the supply pins of {}, "
                                    "or give it one of its own.",
                                    path.limit, path.capacitor, path.chip),
                        path.chip);
}

/// Resistors on the surface are smaller than those with legs that the circuit was drawn with.
void flat_resistors(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    const auto board = e.board();
    if (!run || !board) return;
    for (const BoardPart& p : board->parts) {
        const Part* part = e.circuit->find(p.designator);
        const double carries = p.footprint.power;
        if (!part || !(carries > 0) || !is(*part, Role::resistor)) continue;
        const double power = run->mean().part(p.designator).power();
        if (!(power > carries)) continue;
        add_finding(out, Severity::warning, "board", "part:" + p.designator,
                    fmt::format("{}: {} in it, this size carries {}", p.designator,
                                format_quantity(power, Unit::watt), format_quantity(carries, Unit::watt)),
                    fmt::format("\"{}\" is smaller than a resistor with legs. Choose a larger size, or one "
                                "with legs, on Board, Parts on it.",
                                p.footprint.name));
    }
}

}  // namespace

std::vector<Rule> copper_rules() {
    return {
        {"track-current",
         "a track thinner than its current asks for",
         "it warms, and its volts are lost",
         "currents of the engine against IPC-2221, 10 °C of rise",
         {On::board, On::conditions},
         track_currents},
        {"supply-far",
         "a supply capacitor too far from its chip",
         "the chip disturbs itself and others",
         "shortest way along the copper of the finished board; 8 mm, and the way round a chip whose supply "
         "pins are at far corners, are bench practice",
         {On::board},
         supply_capacitors},
        {"surface-power",
         "a resistor on the surface over what its size carries",
         "it gets hot enough to unsolder itself",
         "power of the engine against the usual ratings of its size: 0.1 W for 0603 to 1 W for 2512",
         {On::board, On::conditions},
         flat_resistors},
    };
}

}  // namespace elkit
