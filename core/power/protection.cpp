#include "power/protection.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "power/charging.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

/// Below it a power bank takes its load for finished; typical ones, they differ.
constexpr double bank_sleeps_below = 0.06;  // A
constexpr double harmless = 1e-3;           // A backward through a gadget
constexpr double dimmer_below = 0.97;       // of the current: less is seen
constexpr double opens_at = 2;              // times its trip current: well beyond, within seconds

Figure loss_figure(std::string id, std::string label, double value, Unit unit,
                   std::vector<std::string> working) {
    return {std::move(id), std::move(label), value, unit, {}, {}, std::move(working)};
}

Part part_of(std::string kind, std::string type, std::vector<std::string> pins) {
    Part part;
    part.kind = std::move(kind), part.params["type"] = std::move(type);
    for (std::string& pin : pins) part.pins.push_back({std::move(pin), ""});
    return part;
}

/// A P-MOSFET in the plus: drain to the cells, source to the gadget, gate to minus. Its body diode starts
/// it, and its channel then carries the current.
Result<Circuit> with_mosfet(const Circuit& circuit, const Part& source) {
    Part q{"", "pmos", {{"type", std::string("pmos-logic")}}, {{"g", source.net("-")}}, {}};
    return insert_at_pin(circuit, source.designator, "+", std::move(q), "d", "s", "CELLS");
}

Circuit turned_round(const Circuit& circuit, const std::string& source) {
    Circuit next = circuit;
    auto& pins = next.find(source)->pins;
    if (pins.size() == 2) std::swap(pins[0].net, pins[1].net);
    return next;
}

class Planner {
  public:
    Planner(const ProtectionQuery& q, const Ask& ask, const Part& source)
        : q_(q), ask_(ask), source_(source), fresh_(fresh(q.design.circuit, q.now)) {}

    Result<Protection> plan() {
        const auto run = ask_(RunQuery(Keyed<Circuit>(q_.design.circuit), fresh_));
        if (!run) return run.error();
        amps_ = std::max(1e-9, run->mean().supply_current());
        peak_ = run->moves() ? run->rms(source_.designator, "+") : amps_;
        add("as-is", "as it is", q_.design.circuit, "nothing lost");
        const auto in_plus = [&](Part part) {
            return insert_at_pin(q_.design.circuit, source_.designator, "+", std::move(part), "CELLS");
        };
        const auto with = [&](const char* id, const char* name, Result<Circuit> circuit, const char* remark) {
            if (circuit) add(id, name, std::move(circuit).value(), remark);
        };
        with("schottky", "Schottky diode", in_plus(part_of("diode", "schottky", {"a", "k"})),
             "one part; leaks a little backward");
        with("silicon", "rectifier diode", in_plus(part_of("diode", "rectifier", {"a", "k"})),
             "one part; costs most volts");
        with("pmos", "P-MOSFET", with_mosfet(q_.design.circuit, source_),
             "hardly any volts; three legs, needs volts for its gate");
        if (const auto cell = cell_of(source_, known_catalogue()); cell && cell->chemistry == "lithium-ion")
            lock();
        ProtectionWay keyed;
        keyed.id = "keyed", keyed.name = "keyed plug or holder";
        keyed.drop = out_.ways.front().drop, keyed.run_time = out_.ways.front().run_time;
        keyed.current = out_.ways.front().current, keyed.lasts = out_.ways.front().lasts;
        keyed.reversed = loss_figure("protection.keyed.reversed", "with cells reversed, keyed", 0,
                                     Unit::ampere, {"it cannot be plugged in the wrong way"});
        keyed.remark = "nothing lost; does not help against single cells put in the wrong way";
        out_.ways.push_back(std::move(keyed));
        fuses();
        cautions();
        return std::move(out_);
    }

  private:
    void add(const std::string& id, const std::string& name, Circuit circuit, std::string remark) {
        ProtectionWay way;
        way.id = id, way.name = name, way.remark = std::move(remark);
        const std::string of = "protection." + id + ".";
        const auto run = ask_(RunQuery(Keyed<Circuit>(circuit), fresh_));
        double lost = 0;
        if (run && id != "as-is") {
            std::string plus;
            for (const Pin& pin : source_.pins)
                if (pin.name == "+") plus = pin.net;
            const auto at_cells = circuit.find(source_.designator);
            for (const Pin& pin : at_cells->pins)
                if (pin.name == "+") lost = run->mean().voltage(pin.net) - run->mean().voltage(plus);
        }
        way.drop =
            loss_figure(of + "drop", "lost in: " + name, lost, Unit::volt,
                        {fmt::format("fresh cells, {} on average", format_quantity(amps_, Unit::ampere))});
        const double amps = run ? run->mean().supply_current() : 0;
        way.current = loss_figure(of + "current", "from the cells with: " + name, amps, Unit::ampere,
                                  {"fresh cells, on average"});
        if (run && amps < dimmer_below * amps_)
            way.remark = fmt::format("{:.0f} % of the current is left: size the resistors anew; {}",
                                     100 * amps / amps_, way.remark);
        Design with = q_.design;
        with.circuit = circuit;
        const auto life = ask_(LifeQuery(with, Keyed<Circuit>(circuit), q_.now));
        way.lasts = bool(life);
        if (life) way.run_time = life->run_time;
        way.run_time.id = of + "run_time", way.run_time.label = "run time with: " + name;
        way.reversed = reversed(of, name, circuit);
        if (id == "as-is") {
            if (const std::string dies = what_dies(); !dies.empty()) {
                way.reversed.value = std::numeric_limits<double>::quiet_NaN();
                way.remark = "cells put in the wrong way may destroy " + dies;
            } else if (way.reversed.value >= harmless) {
                way.remark = fmt::format("reversed cells drive {} through the parts", way.reversed.text());
            }
        } else if (!(way.reversed.value < harmless)) {
            way.remark = "does not keep reversed cells off; " + way.remark;
        }
        if (id != "as-is") way.circuit = std::move(circuit);
        out_.ways.push_back(std::move(way));
    }

    /// A module that lets a lithium cell go when it is empty, full or shorted.
    void lock() {
        for (const PartKind& kind : part_kinds()) {
            if (!kind.module || !kind.is(Role::protects)) continue;
            const ModuleSpec& module = *kind.module;
            const Part lock{"", kind.id, {}, {{module.minus, source_.net("-")}}, {}};
            const double back = lock.number("threshold"), lets_go = back - lock.number("hysteresis");
            auto circuit = insert_at_pin(q_.design.circuit, source_.designator, "+", lock, module.plus,
                                         module.outputs.front().pin, "CELLS");
            if (!circuit) return;
            add("lock", kind.name, std::move(circuit).value(), "");
            out_.ways.back().remark =
                fmt::format("lets go below {}, back at {}; not against reversed cells",
                            format_quantity(lets_go, Unit::volt), format_quantity(back, Unit::volt));
            out_.ways.back().reversed.value = std::numeric_limits<double>::quiet_NaN();
            return;
        }
    }

    /// Parts whose models hold for one polarity only, and which the other one kills.
    std::string what_dies() const {
        std::string names;
        for (const Part& part : q_.design.circuit.parts) {
            const PartKind* kind = part_kind(part.kind);
            if (!kind || !(kind->is(Role::chip) || kind->is(Role::polar) || kind->module)) continue;
            names += (names.empty() ? "" : ", ") + part.designator;
        }
        return names;
    }

    /// The engine with the cells turned round.
    Figure reversed(const std::string& of, const std::string& name, const Circuit& circuit) const {
        const Circuit turned = turned_round(circuit, source_.designator);
        const auto op = ask_(RestQuery(Keyed<Circuit>(turned), fresh_));
        const double amps = op ? std::abs(op->supply_current()) : std::numeric_limits<double>::quiet_NaN();
        return loss_figure(of + "reversed", "with cells reversed: " + name, amps, Unit::ampere,
                           {"the circuit at rest with the cells turned round, fresh"});
    }

    void fuses() {
        auto model = source_model(source_, known_catalogue(), fresh_);
        for (const PartType& type : known_catalogue().types) {
            if (type.kind != "fuse") continue;
            auto circuit = insert_at_pin(q_.design.circuit, source_.designator, "+",
                                         part_of("fuse", type.id, {"a", "b"}), "CELLS");
            if (!circuit) continue;
            FuseWay fuse;
            fuse.type = type.id, fuse.name = type.name, fuse.circuit = std::move(circuit).value();
            const std::string of = "protection.fuse." + type.id + ".";
            const double ohms = type.value("resistance"), hold = type.value("hold"),
                         trip = type.value("trip");
            fuse.drop = loss_figure(of + "drop", "lost in: " + type.name, ohms * amps_, Unit::volt,
                                    {fmt::format("V = I R = {} × {}", format_quantity(amps_, Unit::ampere),
                                                 format_quantity(ohms, Unit::ohm))});
            fuse.hold = loss_figure(of + "hold", "carried for ever: " + type.name, hold, Unit::ampere,
                                    {"at 20 °C; a resettable one less where it is warm"});
            const double volts = model ? model.value().voltage : 0,
                         inside = model ? model.value().resistance : 0;
            const double shorted = volts / std::max(1e-3, inside + ohms);
            fuse.short_circuit = loss_figure(
                of + "short", "with the leads shorted: " + type.name, shorted, Unit::ampere,
                {fmt::format("I = V / (R of the cells + R of the fuse) = {} / ({} + {})",
                             format_quantity(volts, Unit::volt), format_quantity(inside, Unit::ohm),
                             format_quantity(ohms, Unit::ohm))});
            fuse.holds = peak_<hold, fuse.opens = shorted> opens_at * trip;
            fuse.remark =
                !fuse.holds ? fmt::format("opens in use: {} against {}", format_quantity(peak_, Unit::ampere),
                                          fuse.hold.text())
                : !fuse.opens
                    ? fmt::format("may never open: a short draws {}, it wants {} for sure",
                                  fuse.short_circuit.text(), format_quantity(opens_at * trip, Unit::ampere))
                    : "holds in use, opens on a short";
            out_.fuses.push_back(std::move(fuse));
        }
        std::stable_sort(out_.fuses.begin(), out_.fuses.end(), [](const FuseWay& a, const FuseWay& b) {
            return (a.holds && a.opens) > (b.holds && b.opens);
        });
    }

    void cautions() {
        const auto cell = cell_of(source_, known_catalogue());
        if (!cell) return;
        if (cell->id == "USB" || cell->endless()) {
            if (amps_ < bank_sleeps_below)
                out_.cautions.push_back(fmt::format(
                    "a power bank switches itself off below some {}: {} is asked. Draw more now and then, or "
                    "take "
                    "one with a mode for small loads",
                    format_quantity(bank_sleeps_below, Unit::ampere), format_quantity(amps_, Unit::ampere)));
            if (peak_ > port_limit)
                out_.cautions.push_back(fmt::format(
                    "a port gives {} without being asked for more: {} is asked",
                    format_quantity(port_limit, Unit::ampere), format_quantity(peak_, Unit::ampere)));
        }
        const bool lithium = cell->chemistry.find("lithium-ion") != std::string::npos ||
                             cell->chemistry.find("Li-ion") != std::string::npos;
        if (lithium && !cell->protection)
            out_.cautions.push_back(
                "a lithium cell without protection: take a protected one or a module that cuts "
                "off when it is empty, full or shorted, and a fuse; keep it from heat");
    }

    const ProtectionQuery& q_;
    const Ask& ask_;
    const Part& source_;
    Conditions fresh_;
    double amps_ = 0, peak_ = 0;
    Protection out_;
};

}  // namespace

Digest ProtectionQuery::key() const {
    Digester d;
    d << LifeQuery(design, Keyed<Circuit>(design.circuit), now).key();
    return d.digest();
}

Result<Protection> ProtectionQuery::compute(const Ask& ask) const {
    const Part* source = design.circuit.source();
    if (!source || source->pins.size() != 2)
        return Error{Fault::design, "circuit", "it has no source", "cells or a supply"};
    return Planner(*this, ask, *source).plan();
}

}  // namespace elkit
