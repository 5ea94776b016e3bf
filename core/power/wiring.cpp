#include "power/wiring.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "catalogue/copper.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "engine/models.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

WireRow row_for(const WireType& wire, const WireQuestion& q) {
    const auto figure = [&](const char* id, const char* label, double value, Unit unit, std::string working) {
        return Figure{fmt::format("wire.{}.{}", wire.area, id),
                      fmt::format("{}, {} mm²", label, wire.area),
                      value,
                      unit,
                      {},
                      {},
                      {std::move(working)}};
    };
    const double ohms = copper_resistance(2 * q.metres, wire.area, q.celsius), drop = q.amps * ohms;
    WireRow r;
    r.area = wire.area, r.awg = wire.awg;
    r.resistance = figure("resistance", "resistance out and back", ohms, Unit::ohm,
                          fmt::format("R = 2 × {} × 0.0172 Ω mm²/m / {} mm² at {:.0f} °C",
                                      format_quantity(q.metres, Unit::metre), wire.area, q.celsius));
    r.drop = figure("drop", "volts lost", drop, Unit::volt,
                    fmt::format("{} × {}", format_quantity(q.amps, Unit::ampere), r.resistance.text()));
    r.share = figure("share", "share of the supply lost", 100 * drop / q.volts, Unit::percent,
                     fmt::format("{} of {}", r.drop.text(), format_quantity(q.volts, Unit::volt)));
    r.heat =
        figure("heat", "heat in both wires", drop * q.amps, Unit::watt,
               fmt::format("I² R = ({})² × {}", format_quantity(q.amps, Unit::ampere), r.resistance.text()));
    r.bears = figure("bears", "current that it carries well", wire.max_current, Unit::ampere,
                     "of the catalogue: in air, bundled with others");
    if (q.amps > wire.max_current)
        r.reason = fmt::format("carries {}", r.bears.text());
    else if (drop > drop_nobody_minds * q.volts)
        r.reason = fmt::format("loses {}", r.share.text(2));
    r.enough = r.reason.empty();
    r.owned = is_about(q.owned, wire.area);
    return r;
}

std::vector<ContactLoss> contact_losses(const Circuit& circuit, const LongRun& run) {
    std::vector<ContactLoss> all;
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        const bool contact =
            is(part, Role::contact) || (kind && !kind->joined.empty() && kind->joined_param.empty());
        if (!contact || part.pins.size() != 2) continue;
        const PartState& state = run.mean().part(part.designator);
        if (!(std::abs(state.current) > 1e-9)) continue;
        const auto figure = [&](const char* id, const char* label, double value, Unit unit) {
            return Figure{fmt::format("wire.{}.{}", part.designator, id),
                          fmt::format("{} {}", label, part.designator),
                          std::abs(value),
                          unit,
                          {},
                          {},
                          {fmt::format("the engine's answer at {}, fresh cells",
                                       format_quantity(std::abs(state.current), Unit::ampere))}};
        };
        all.push_back({part.designator, shop_name(part), figure("drop", "lost in", state.voltage, Unit::volt),
                       figure("heat", "heat in", state.power(), Unit::watt)});
    }
    std::stable_sort(all.begin(), all.end(),
                     [](const ContactLoss& a, const ContactLoss& b) { return a.drop.value > b.drop.value; });
    return all;
}

}  // namespace

bool is_about(const std::vector<double>& areas, double area) {
    constexpr double about = 0.2;
    return std::any_of(areas.begin(), areas.end(),
                       [&](double one) { return std::abs(one / area - 1) < about; });
}

Result<Wiring> plan_wires(const WireQuestion& q) {
    for (const auto& [place, value, most, unit] : {std::tuple("volts", q.volts, highest_supply, Unit::volt),
                                                   std::tuple("current", q.amps, 100.0, Unit::ampere),
                                                   std::tuple("length", q.metres, 100.0, Unit::metre)})
        if (!(value > 0 && value <= most))
            return Error{Fault::usage, place, format_quantity(value, unit),
                         fmt::format("more than 0, {} at most", format_quantity(most, unit))};
    Wiring w;
    for (const WireType& wire : known_catalogue().wires) {
        w.rows.push_back(row_for(wire, q));
        const WireRow& row = w.rows.back();
        if (w.best < 0 && row.enough && (q.owned.empty() || row.owned))
            w.best = static_cast<int>(w.rows.size()) - 1;
    }
    const WireRow& best = w.best < 0 ? w.rows.back() : w.rows[static_cast<std::size_t>(w.best)];
    const double metres = drop_nobody_minds * q.volts / q.amps / copper_resistance(2, best.area, q.celsius);
    w.longest = {"wire.longest",
                 fmt::format("longest leads of {} mm²", best.area),
                 metres,
                 Unit::metre,
                 {},
                 {},
                 {fmt::format("{:.0f} % of {} at {}, out and back", 100 * drop_nobody_minds,
                              format_quantity(q.volts, Unit::volt), format_quantity(q.amps, Unit::ampere))}};
    return w;
}

Digest WiringQuery::key() const {
    Digester d;
    d << Situated::key() << metres << owned;
    return d.digest();
}

Result<WiringQuery::Value> WiringQuery::compute(const Ask& ask) const {
    const Part* source = circuit->source();
    if (!source) return Error{Fault::design, "circuit", "it has no source", "cells or a supply"};
    const auto run = ask(RunQuery(circuit, conditions));
    if (!run) return run.error();
    auto model = source_model(*source, known_catalogue(), conditions);
    if (!model) return model.error();
    Value found;
    WireQuestion& q = found.question;
    q.volts = model.value().voltage;
    q.amps = std::max(1e-9, run->moves() ? run->rms(source->designator, "+") : run->mean().supply_current());
    q.metres = metres > 0 ? metres : std::max(0.001, source->number("lead_length"));
    q.celsius = conditions.celsius, q.owned = owned;
    auto wiring = plan_wires(q);
    if (!wiring) return wiring.error();
    found.wiring = std::move(wiring).value();
    found.contacts = contact_losses(*circuit, *run);
    constexpr double pin = 0.02;  // Ω of a plugged contact, typical datasheets
    found.connector = {
        "wire.connector",
        "lost in a two-pin plug",
        q.amps * 2 * pin,
        Unit::volt,
        {},
        {},
        {fmt::format("{} × 2 × {}", format_quantity(q.amps, Unit::ampere), format_quantity(pin, Unit::ohm))}};
    return found;
}

Result<Design> with_leads(const Design& design, double metres, double area) {
    const Part* source = design.circuit.source();
    if (!source) return Error{Fault::design, "circuit", "it has no source", "cells or a supply"};
    Circuit next = design.circuit;
    Part& fed = *next.find(source->designator);
    fed.params["lead_length"] = metres, fed.params["lead_area"] = area;
    return with_circuit(design, std::move(next));
}

}  // namespace elkit
