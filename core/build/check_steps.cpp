#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "build/contributions.hpp"
#include "engine/meter.hpp"
#include "engine/models.hpp"
#include "power/standby.hpp"
#include "situations/words.hpp"

namespace elkit {
namespace {

std::string at(const PlacedPin& p) { return fmt::format("{} ({} {})", p.place, p.designator, p.pin); }

/// A hand can open something between cells and lights.
bool has_switch(const Circuit& circuit) { return any(circuit, Role::stays); }

std::string cell_caution(const Part& source) {
    const auto cell = cell_of(source, known_catalogue());
    if (!cell) return "";
    if (cell->chemistry == "lithium-ion")
        return "Lithium cell: never short, puncture or heat it; charge only in a charger with protection, "
               "never "
               "unattended.";
    if (cell->chemistry == "lithium coin" || cell->chemistry == "alkaline button")
        return "Coin and button cells are deadly if swallowed: keep them from children, close the "
               "compartment with "
               "a screw.";
    return "Do not short the cells; a cell that gets warm comes out at once.";
}

/// Every contact open, cells out.
Conditions untouched(const Circuit& circuit) {
    Conditions c = switched_off(circuit, {});
    c.as_set = true;
    return c;
}

/// What a meter says of a good unit between two nets.
Result<MeterReading> metered(const Circuit& circuit, const std::string& red, const std::string& black,
                             MeterMode mode) {
    return read_meter(circuit, known_catalogue(), untouched(circuit), {red, black, mode, {}});
}

bool beeps(const Circuit& circuit, const std::string& red, const std::string& black) {
    const auto good = metered(circuit, red, black, MeterMode::beep);
    return good && good.value().beeps;
}

void add_neighbours(const Circuit& circuit, const Board& board, std::vector<BuildStep>& steps) {
    for (const Neighbours& n : board.neighbours) {
        if (n.b.empty()) continue;
        // through a motor or a coil a good one beeps too: nothing can be learned there
        if (!n.a.empty() && beeps(circuit, n.a, n.b)) continue;
        auto& g = add_step(steps, fmt::format("silent.{}.{}", n.a, n.b), Phase::unpowered, 2,
                           fmt::format("{} and {} must not beep", n.a.empty() ? "free pin" : n.a, n.b),
                           fmt::format("They lie side by side at {}: look there for a whisker of solder.",
                                       fmt::join(n.places, ", ")));
        for (const Part& part : circuit.parts)
            if (is(part, Role::resistor) &&
                std::minmax(part.pins[0].net, part.pins[1].net) == std::minmax(n.a, n.b))
                g.text += fmt::format(" {} sits between them: {} on the ohms range is right.",
                                      part.designator, format_quantity(part.number("value"), Unit::ohm));
        const std::string& place = n.places.front();
        g.check =
            Check{CheckKind::silent, place.substr(0, place.find('|')), place.substr(place.find('|') + 1), {}};
    }
}

constexpr double as_good_as_nothing = 0.02;  // V, beside a meter's own counts

}  // namespace

void add_unpowered_checks(const Circuit& circuit, const Board& board, std::vector<BuildStep>& steps) {
    for (const std::string& net : circuit.nets()) {
        std::vector<const PlacedPin*> pins;
        for (const PlacedPin& p : board.pins)
            if (p.net == net) pins.push_back(&p);
        if (pins.size() < 2) continue;
        auto& s = add_step(steps, "beep." + net, Phase::unpowered, 0, fmt::format("{} must beep", net),
                           pins.size() > 2
                               ? fmt::format("Hold one probe on {} and touch the other {} joints of {}.",
                                             pins.front()->place, pins.size() - 1, net)
                               : "Both joints are one net.");
        s.check = Check{CheckKind::beep, at(*pins.front()), at(*pins.back()), {}};
        s.ref = "net:" + net;
    }
    if (const Part* source = circuit.source()) {
        const std::string &plus = source->net("+"), &minus = source->net("-");
        const std::string before = has_switch(circuit) ? "Switches off, cells out." : "Cells out.";
        const bool loud = beeps(circuit, plus, minus);
        const auto ohms = metered(circuit, plus, minus, MeterMode::ohms);
        auto& s = loud ? add_step(steps, "ohms.supply", Phase::unpowered, 1, "Resistance across the supply",
                                  before +
                                      " A good one beeps here too; much less than this is a short that would "
                                      "heat the cells.")
                       : add_step(steps, "silent.supply", Phase::unpowered, 1, "Supply must not beep",
                                  before + " A beep here is a short that would heat the cells.");
        s.check = Check{CheckKind::silent, board.probe(plus), board.probe(minus), {}};
        if (loud && ohms) {
            Figure f = ohms.value().value;
            f.low = 0.7 * f.value, f.high = 1.3 * f.value + 1;  // leads and joints add to it
            s.check->kind = CheckKind::ohms, s.check->expected = f;
        }
    }
    add_neighbours(circuit, board, steps);
}

void add_powered_checks(const Circuit& circuit, const Board& board, const PoweredState& state,
                        std::vector<BuildStep>& steps) {
    const Part* source = circuit.source();
    if (!source) return;
    const Readings& readings = state.readings;
    const std::string &plus = source->net("+"), &minus = source->net("-");
    const std::string orders = situation_orders(circuit, state.situation);
    const std::string then =
        (readings.swings() ? " The meter follows it to and fro: this is the middle." : "") +
        (orders.empty() ? "" : " " + orders);
    auto& first =
        add_step(steps, "volts.supply", Phase::powered, 0, "Put the cells in", "Polarity first." + then);
    first.check = Check{CheckKind::volts, board.probe(plus), board.probe(minus),
                        readings.between(plus, minus, "build.volts.supply", "battery voltage under load")};
    first.caution = cell_caution(*source);
    first.ref = "part:" + source->designator;
    auto& amps = add_step(steps, "amps.supply", Phase::powered, 1, "Current from the supply",
                          "Meter in series with the red lead, mA range." + then);
    amps.check =
        Check{CheckKind::amps, "red lead", board.probe(plus), readings.supply_current("build.amps.supply")};
    amps.ref = "part:" + source->designator;
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->build.check || part.pins.size() < 2) continue;
        const std::string &a = part.pins[0].net, &b = part.pins[1].net;
        const Figure volts =
            readings.between(a, b, "build.volts." + part.designator, "voltage across " + part.designator);
        const std::string hint = std::abs(volts.value) < as_good_as_nothing
                                     ? "About zero is right: hardly any current flows through it here."
                                     : kind->build.hint;
        auto& s = add_step(steps, "volts." + part.designator, Phase::powered, 2,
                           fmt::format("Voltage across {}", part.designator), hint + then);
        s.check = Check{CheckKind::volts, board.probe(a), board.probe(b), volts};
        s.ref = "part:" + part.designator;
    }
}

void add_waiting_check(const Circuit& circuit, const Board& board, const PoweredState& state,
                       std::vector<BuildStep>& steps) {
    const Part* source = circuit.source();
    if (!source) return;
    const std::string orders = situation_orders(circuit, state.situation);
    auto& s = add_step(steps, "amps.waiting", Phase::powered, 3, "Current while it is dark",
                       "Meter in series with the red lead, µA range." + (orders.empty() ? "" : " " + orders));
    s.check = Check{CheckKind::amps, "red lead", board.probe(source->net("+")),
                    state.readings.supply_current("build.amps.waiting")};
    s.ref = "part:" + source->designator;
}

}  // namespace elkit
