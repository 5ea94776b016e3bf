#include "build/steps.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "build/readings.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

std::string bands_text(const Part& resistor) {
    const auto bands = colour_bands(resistor.number("value"), resistor.number("tolerance"));
    return bands ? fmt::format("{}", fmt::join(bands.value().names, ", ")) : std::string();
}

/// The bridges of one net as straight runs "L2–L7", walked from an end.
std::vector<std::string> straight_runs(std::vector<Bridge> left) {
    std::vector<std::string> runs;
    const auto degree = [&](Hole h) {
        return std::count_if(left.begin(), left.end(), [&](const Bridge& b) { return b.a == h || b.b == h; });
    };
    while (!left.empty()) {
        Hole at = left.front().a;
        for (const Bridge& b : left)
            for (const Hole h : {b.a, b.b})
                if (degree(h) == 1) at = h;
        for (bool going = true; going;) {
            going = false;
            const Hole start = at;
            std::optional<Hole> step;
            for (std::size_t i = 0; i < left.size();) {
                const Bridge b = left[i];
                if (b.a != at && b.b != at) {
                    ++i;
                    continue;
                }
                const Hole to = b.a == at ? b.b : b.a, move{to.column - at.column, to.row - at.row};
                if (step && move != *step) {
                    ++i;
                    continue;
                }
                step = move, at = to;
                left.erase(left.begin() + static_cast<std::ptrdiff_t>(i));
                i = 0;
            }
            if (at != start) runs.push_back(hole_name(start) + "–" + hole_name(at)), going = true;
        }
    }
    return runs;
}

class StepWriter {
  public:
    StepWriter(const Design& design, const PadLayout& layout, const Readings& readings)
        : design_(design), layout_(layout), readings_(readings) {}

    std::vector<BuildStep> write() {
        prepare();
        solder_parts();
        join_pads();
        unpowered();
        powered();
        close();
        return std::move(steps_);
    }

  private:
    BuildStep& step(std::string id, Phase phase, std::string title, std::string text) {
        BuildStep s;
        s.id = std::move(id), s.phase = phase, s.title = std::move(title), s.text = std::move(text);
        return steps_.emplace_back(std::move(s));
    }

    void prepare() {
        step("prepare.board", Phase::prepare, "Cut the pad board",
             fmt::format("{} × {} holes, {:.0f} × {:.0f} mm. Score along a row of holes, break over an edge, "
                         "smooth with a file.",
                         layout_.columns, layout_.rows, layout_.width(), layout_.height()))
            .caution = "Board dust irritates: file outdoors or wipe wet, do not blow.";
        for (const Part& part : design_.circuit.parts) {
            if (part.kind != "resistor") continue;
            const double value = part.number("value"), tolerance = part.number("tolerance");
            auto& s = step("measure." + part.designator, Phase::prepare,
                           fmt::format("Sort out {}: {}", part.designator, format_quantity(value, Unit::ohm)),
                           fmt::format("Bands {}. Measure it before it goes in; bend the legs to {} holes.",
                                       bands_text(part), footprint(part).pins[1].second.column + 1));
            s.check = Check{
                CheckKind::ohms, "one leg", "other leg",
                Figure{"build." + s.id,
                       "resistance of " + part.designator,
                       value,
                       Unit::ohm,
                       value * (1 - tolerance),
                       value * (1 + tolerance),
                       {fmt::format("{} ± {:.0f} %", format_quantity(value, Unit::ohm), 100 * tolerance)}}};
            s.ref = "part:" + part.designator;
        }
    }

    void solder_parts() {
        std::vector<const Part*> order;
        for (const Part& part : design_.circuit.parts)
            if (part.kind != "battery" && part.kind != "supply") order.push_back(&part);
        std::stable_sort(order.begin(), order.end(), [](const Part* a, const Part* b) {
            return footprint(*a).height < footprint(*b).height;
        });
        bool first = true;
        for (const Part* part : order) {
            const auto pins = placed_pins(*part, *layout_.placement(part->designator));
            auto& s =
                step("solder." + part->designator, Phase::solder,
                     part->kind == "switch" ? fmt::format("Solder {}: slide switch", part->designator)
                                            : fmt::format("Solder {}: {} {}", part->designator,
                                                          value_text(*part), part_kind(part->kind)->name),
                     "");
            if (part->kind == "led")
                led(s, *part, pins);
            else
                s.text = fmt::format("{} into {} and {}. Tack one pin, press flush, then the other.",
                                     part->kind == "switch" ? "Pins" : "Legs", hole_name(pins[0].hole),
                                     hole_name(pins[1].hole));
            if (part->kind == "switch")
                s.text += fmt::format(" The third pin sits in {} and stays free.", hole_name(pins[2].hole));
            if (part->kind == "diode") s.polarity = fmt::format("Stripe to {}.", hole_name(pins[1].hole));
            if (first)
                s.caution =
                    "The iron is at 350 °C and the fumes irritate: stand it in its holder, air the room, "
                    "wash hands after.";
            first = false;
            s.ref = "part:" + part->designator;
        }
    }

    void led(BuildStep& s, const Part& part, const std::vector<PinHole>& pins) {
        s.text = fmt::format(
            "Long leg into {}, short leg into {}. Solder one leg, straighten, then the other; no longer than "
            "3 s each.",
            hole_name(pins[0].hole), hole_name(pins[1].hole));
        s.polarity = fmt::format("Long leg is +. The flat of the rim and the short leg face {}.",
                                 hole_name(pins[1].hole));
        const LedType* type = built_in_catalogue().led(part.text("type"));
        if (type) s.caution = type->caution;
    }

    /// Bridges of one net, in words: the chain of holes from end to end.
    void join_pads() {
        std::map<std::string, std::string> net_at;
        for (const auto& p : layout_.pins) net_at[hole_name(p.hole)] = p.net;
        std::vector<std::vector<Bridge>> groups = bridge_groups();
        for (const auto& group : groups) {
            std::set<Hole> holes;
            std::string net;
            for (const Bridge& b : group)
                for (const Hole h : {b.a, b.b}) {
                    holes.insert(h);
                    if (const auto at = net_at.find(hole_name(h)); at != net_at.end() && !at->second.empty())
                        net = at->second;
                }
            const std::vector<std::string> runs = straight_runs(group);
            auto& s = step(fmt::format("bridge.{}.{}", net, hole_name(*holes.begin())), Phase::solder,
                           fmt::format("Join {} pads of {}", holes.size(), net),
                           fmt::format("{} {}, on the solder side. Nothing else may touch it.",
                                       holes.size() > 3 ? "Lay bare tinned wire along" : "Bridge with solder",
                                       fmt::join(runs, ", ")));
            s.ref = "net:" + net;
        }
        int n = 0;
        for (const auto& j : layout_.jumpers)
            step(fmt::format("jumper.{}.{}", hole_name(j.a), hole_name(j.b)), Phase::wire,
                 fmt::format("Wire jumper {}", ++n),
                 fmt::format("Insulated wire from {} to {}, on the solder side, joint to joint.",
                             hole_name(j.a), hole_name(j.b)));
        step("trim", Phase::solder, "Cut the legs",
             "Cut each leg just above its joint, then look at every joint through a magnifier: shiny, "
             "concave, no bridge that is not in the plan.")
            .caution = "Cut legs fly: wear glasses, hold the leg while cutting.";
        for (const Part& part : design_.circuit.parts) {
            if (part.kind != "battery" && part.kind != "supply") continue;
            const auto pins = placed_pins(part, *layout_.placement(part.designator));
            auto& s =
                step("wire." + part.designator, Phase::wire, fmt::format("Solder the {} leads", part.kind),
                     fmt::format("Cut two leads of {} mm² to {:.0f} mm, strip 4 mm, tin. Red into {}, black "
                                 "into {}. Leave the cells out.",
                                 format_quantity(part.number("lead_area"), Unit::none),
                                 part.number("lead_length") * 1000, hole_name(pins[0].hole),
                                 hole_name(pins[1].hole)));
            s.polarity = "Red is +, black is −.";
            s.ref = "part:" + part.designator;
        }
    }

    std::vector<std::vector<Bridge>> bridge_groups() const {
        std::vector<std::vector<Bridge>> groups;
        std::vector<bool> used(layout_.bridges.size());
        for (std::size_t i = 0; i < layout_.bridges.size(); ++i) {
            if (used[i]) continue;
            std::vector<Bridge> group{layout_.bridges[i]};
            used[i] = true;
            for (bool grown = true; grown;) {
                grown = false;
                for (std::size_t k = 0; k < layout_.bridges.size(); ++k) {
                    const Bridge& b = layout_.bridges[k];
                    const bool touches =
                        !used[k] && std::any_of(group.begin(), group.end(), [&](const Bridge& g) {
                            return g.a == b.a || g.a == b.b || g.b == b.a || g.b == b.b;
                        });
                    if (touches) group.push_back(b), used[k] = true, grown = true;
                }
            }
            groups.push_back(std::move(group));
        }
        return groups;
    }

    std::string probe(const std::string& net, const Part* except = nullptr) const {
        for (const auto& p : layout_.pins)
            if (p.net == net && (!except || p.designator != except->designator))
                return fmt::format("{} ({} {})", hole_name(p.hole), p.designator, p.pin);
        return net;
    }

    void unpowered() {
        for (const std::string& net : design_.circuit.nets()) {
            std::vector<const PinHole*> pins;
            for (const auto& p : layout_.pins)
                if (p.net == net) pins.push_back(&p);
            if (pins.size() < 2) continue;
            const auto *a = pins.front(), *b = pins.back();
            auto& s = step("beep." + net, Phase::unpowered, fmt::format("{} must beep", net),
                           pins.size() > 2
                               ? fmt::format("Hold one probe on {} and touch the other {} joints of {}.",
                                             hole_name(a->hole), pins.size() - 1, net)
                               : "Both joints are one net.");
            s.check = Check{CheckKind::beep,
                            fmt::format("{} ({} {})", hole_name(a->hole), a->designator, a->pin),
                            fmt::format("{} ({} {})", hole_name(b->hole), b->designator, b->pin),
                            {}};
            s.ref = "net:" + net;
        }
        const Part& source = *design_.circuit.source();
        auto& s = step("silent.supply", Phase::unpowered, "Supply must not beep",
                       "Switch closed, cells out. A beep here is a short that would heat the cells.");
        s.check = Check{CheckKind::silent, probe(source.net("+")), probe(source.net("-")), {}};
        neighbours();
    }

    /// One step for each pair of nets whose pads lie side by side somewhere.
    void neighbours() {
        const auto net_of = pad_nets(layout_);
        std::map<std::pair<std::string, std::string>, std::vector<Bridge>> gaps;
        for (const Bridge& gap : isolation_gaps(layout_)) {
            std::string a = net_of.at(gap.a), b = net_of.at(gap.b);
            gaps[std::minmax(a, b)].push_back(gap);
        }
        for (const auto& [nets, places] : gaps) {
            std::vector<std::string> names;
            for (const Bridge& gap : places) names.push_back(hole_name(gap.a) + "|" + hole_name(gap.b));
            const std::string first = nets.first.empty() ? "free pin" : nets.first;
            auto& g = step(fmt::format("silent.{}.{}", nets.first, nets.second), Phase::unpowered,
                           fmt::format("{} and {} must not beep", first, nets.second),
                           fmt::format("They lie side by side at {}: look there for a whisker of solder.",
                                       fmt::join(names, ", ")));
            for (const Part& part : design_.circuit.parts)
                if (part.kind == "resistor" &&
                    std::minmax(part.pins[0].net, part.pins[1].net) == std::minmax(nets.first, nets.second))
                    g.text += fmt::format(" {} sits between them: {} on the ohms range is right.",
                                          part.designator, format_quantity(part.number("value"), Unit::ohm));
            g.check = Check{CheckKind::silent, hole_name(places.front().a), hole_name(places.front().b), {}};
        }
    }

    void powered() {
        const Part& source = *design_.circuit.source();
        auto& first = step("volts.supply", Phase::powered, "Put the cells in, switch on",
                           "Polarity first, then the switch. All lights come on at once.");
        first.check = Check{CheckKind::volts, probe(source.net("+")), probe(source.net("-")),
                            readings_.between(source.net("+"), source.net("-"), "build.volts.supply",
                                              "battery voltage under load")};
        first.caution = lithium_or_coin(source);
        first.ref = "part:" + source.designator;
        auto& amps = step("amps.supply", Phase::powered, "Current from the cells",
                          "Meter in series with the red lead, mA range.");
        amps.check = Check{CheckKind::amps, "red lead", probe(source.net("+")),
                           readings_.supply_current("build.amps.supply")};
        amps.ref = "part:" + source.designator;
        for (const Part& part : design_.circuit.parts) {
            if (part.kind != "led" && part.kind != "resistor") continue;
            auto& s = step("volts." + part.designator, Phase::powered,
                           fmt::format("Voltage across {}", part.designator), "");
            s.text = part.kind == "led"
                         ? "Too low and dark: shorted or turned round. Near the battery voltage: open joint."
                         : "Zero: no current flows in this string.";
            s.check =
                Check{CheckKind::volts, probe(part.pins[0].net), probe(part.pins[1].net),
                      readings_.between(part.pins[0].net, part.pins[1].net, "build.volts." + part.designator,
                                        "voltage across " + part.designator)};
            s.ref = "part:" + part.designator;
        }
    }

    std::string lithium_or_coin(const Part& source) const {
        const CellType* cell = built_in_catalogue().cell(source.text("cell"));
        if (!cell) return "";
        if (cell->chemistry == "lithium-ion")
            return "Lithium cell: never short, puncture or heat it; charge only in a charger with "
                   "protection, never unattended.";
        if (cell->chemistry == "lithium coin" || cell->chemistry == "alkaline button")
            return "Coin and button cells are deadly if swallowed: keep them from children, close the "
                   "compartment with a screw.";
        return "Do not short the cells; a cell that gets warm comes out at once.";
    }

    void close() {
        auto& s = step("close", Phase::close, "Close the case",
                       "Point of no return: every check above is ticked and in its band. Fix the board, lead "
                       "the wires clear of the lid, close.");
        s.caution = design_.brief.for_children
                        ? "For children: the battery compartment needs a screw, no small part may come loose."
                        : "";
    }

    const Design& design_;
    const PadLayout& layout_;
    const Readings& readings_;
    std::vector<BuildStep> steps_;
};

}  // namespace

std::string phase_name(Phase phase) {
    switch (phase) {
        case Phase::prepare:
            return "Prepare";
        case Phase::solder:
            return "Place and solder";
        case Phase::wire:
            return "Wire";
        case Phase::unpowered:
            return "Check before power";
        case Phase::powered:
            return "Check with power";
        case Phase::close:
            return "Close";
    }
    return {};
}

Reading judge(const BuildStep& step, const StepRecord* record) {
    if (!step.check || !record || !record->measured) return Reading::none;
    const double m = *record->measured;
    switch (step.check->kind) {
        case CheckKind::beep:
            return m > 0.5 ? Reading::within : Reading::outside;
        case CheckKind::silent:
            return m > 0.5 ? Reading::outside : Reading::within;
        default:
            break;
    }
    const Figure& f = *step.check->expected;
    return m >= f.low.value_or(f.value) && m <= f.high.value_or(f.value) ? Reading::within : Reading::outside;
}

Result<std::vector<BuildStep>> build_steps(const Design& design, const PadLayout& layout) {
    auto readings = Readings::solve(design.circuit);
    if (!readings) return readings.error();
    return StepWriter(design, layout, readings.value()).write();
}

}  // namespace elkit
