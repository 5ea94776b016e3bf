#include "power/supplies.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <cmath>

#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "light/dimming.hpp"
#include "light/strings.hpp"
#include "power/converter.hpp"
#include "power/supply_row.hpp"
#include "quantity/parallel.hpp"
#include "quantity/preferred.hpp"
#include "recipes/blocks.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr int most_in_a_row = 6, most_own_in_a_row = 3;
constexpr double least_volts = 0.4, most_volts = 3;  // of the design's own supply; others are not tried
constexpr double same_light = 0.05;                  // from which resistors are scaled
constexpr double converter_steps = 20;               // a volt, to which a converter is set

struct Trial {
    const CellType* cell;
    int count;
    const PartKind* converter = nullptr;
    double volts() const { return count * cell->open_circuit.at(1); }
    std::string name() const {
        std::string words = count > 1 ? fmt::format("{} × {}", count, cell->id) : cell->id;
        if (converter) words += steps_up(*converter) ? ", stepped up" : ", stepped down";
        return words;
    }
};

constexpr std::pair<const char*, int> at_hand[]{
    {"LR6", 2},    {"LR6", 3},     {"LR6", 4},      {"LR03", 3},      {"6LR61", 1}, {"CR2032", 1},
    {"CR2450", 1}, {"NiMH-AA", 3}, {"NiMH-AAA", 3}, {"Li-ion-1S", 1}, {"USB", 1},   {"Lead-12V", 1}};

/// Of what does not empty one, and of cells no more than 60 V.
std::vector<Trial> candidates_of(SupplyScope scope) {
    std::vector<Trial> all;
    if (scope != SupplyScope::all)
        for (const auto& [cell, count] : at_hand) all.push_back({known_catalogue().cell(cell), count});
    for (const CellType& cell : known_catalogue().cells)
        for (int count = 1; count <= most_in_a_row; ++count) {
            const Trial c{&cell, count};
            if (count > 1 && (cell.endless() || c.volts() > highest_supply)) break;
            const bool own = cell.name.ends_with(own_mark);
            if (scope == SupplyScope::all || (own && count <= most_own_in_a_row)) all.push_back(c);
        }
    return all;
}

void measure(const Ask& ask, SupplyRow& row, const Keyed<Circuit>& circuit, const SuppliesQuery& query,
             const CellType& cell, double reference) {
    const double end = query.design.brief.end_brightness;
    const auto run = ask(DischargeQuery(circuit, query.conditions, end));
    const auto full = ask(RunQuery(circuit, fresh(*circuit, query.conditions)));
    if (!run || !full) {
        row.reason = (run ? full.error() : run.error()).text();
        return;
    }
    const OperatingPoint& op = full->mean();
    const auto strings = led_strings(*circuit);
    const LedString* first = strings.empty() ? nullptr : &strings.front();
    fill_current(row, *circuit,
                 WhileOn(*circuit, full, first ? first->leds.front()->designator : std::string()), first);
    const double light = total_intensity(*circuit, known_catalogue(), op);
    const double ratio = reference > 0 ? light / reference : 1;
    row.reason = not_borne(*circuit, *full);
    if (!row.reason.empty()) return;
    row.possible = true;
    fill_figures(row, *run, op, cell, ratio, end);
    const double total = op.supply_current();
    if (total > cell.max_current * 1.0001)
        row.reason = fmt::format("{} is above the {} it can give", format_quantity(total, Unit::ampere),
                                 format_quantity(cell.max_current, Unit::ampere));
    else if (row.reason = starved(*circuit, *full); !row.reason.empty())
        row.lasts = false;
    else if (reference > 0 && row.start.value < 50)
        row.reason = "too dim from the start", row.lasts = row.start.value >= 1;
}

/// The design with another supply and nothing else changed.
Result<Design> same_parts(const Design& design, const std::string& cell, int count) {
    Design bare = design;
    bare.blocks.clear();
    return with_supply(bare, cell, count);
}

bool same_resistors(const Circuit& a, const Circuit& b) {
    for (const Part& part : a.parts) {
        const Part* other = is(part, Role::resistor) ? b.find(part.designator) : &part;
        if (!other || other->number("value") != part.number("value")) return false;
    }
    return true;
}

Circuit with_values(Circuit circuit, const std::map<std::string, ScaledResistor>& values) {
    for (const auto& [designator, scaled] : values)
        if (Part* part = circuit.find(designator)) {
            part->params["value"] = scaled.ohms;
            if (scaled.rating > part->number("rating")) part->params["rating"] = scaled.rating;
        }
    return circuit;
}

using Scaled = std::map<std::string, ScaledResistor>;

/// What the resistors of the lights are where a supply of `more` volts leaves all of them to these, at the
/// currents that they have.
Scaled taking_up(double more, const Circuit& own, const LongRun& run) {
    Scaled values;
    for (const LedString& s : led_strings(own)) {
        const Part* resistor = s.resistor ? s.resistor : s.shared;
        if (!resistor || values.count(resistor->designator)) continue;
        const std::string& name = resistor->designator;
        const double amps = std::abs(run.while_on(own, s.leds.front()->designator).part(name).current);
        const double volts = amps * resistor->number("value") + more;
        if (amps > gives_light && volts > 0) values[name].ohms = nearest_preferred(volts / amps, Series::e24);
    }
    return values;
}

/// Resistors of a circuit on another supply with which it is as bright as `reference` [cd], sought from
/// `values`; empty where it is already, or where nothing of that helps.
Scaled scaled_resistors(const Ask& ask, const Circuit& on_supply, const Conditions& conditions,
                        double reference, Scaled values) {
    for (int round = 0; round < 3; ++round) {
        const Keyed<Circuit> now(with_values(on_supply, values));
        const Conditions lit_fresh = fresh(*now, conditions);
        const auto run = ask(RunQuery(now, lit_fresh));
        if (!run) break;
        for (auto& [name, scaled] : values) {
            const double amps = run->rms(name, "a");
            scaled.rating = resistor_rating_at_least(2 * amps * amps * scaled.ohms);
            if (!std::isfinite(scaled.rating)) scaled.rating = 2 * amps * amps * scaled.ohms;
        }
        const double light = total_intensity(*now, known_catalogue(), run->mean());
        if (round == 2 || !(light > 0) || std::abs(light / reference - 1) < same_light) break;
        const auto scaled = ask(ScaledLightQuery(now, lit_fresh, std::clamp(reference / light, 1e-3, 1e3)));
        if (!scaled) break;
        for (const Part& part : scaled->parts)
            if (const Part* before = on_supply.find(part.designator);
                is(part, Role::resistor) && before && before->number("value") != part.number("value"))
                values[part.designator].ohms = part.number("value");
    }
    return values;
}

/// Those that serve, by run time; then those with something to mind; then the impossible ones.
bool serves_better(const SupplyRow& a, const SupplyRow& b) {
    const auto rank = [](const SupplyRow& r) {
        return r.present                                   ? 0
               : r.possible && r.lasts && r.reason.empty() ? 1
               : r.possible && r.lasts                     ? 2
               : r.possible                                ? 3
                                                           : 4;
    };
    if (rank(a) != rank(b)) return rank(a) < rank(b);
    return rank(a) < 3 && a.run_time.value > b.run_time.value;
}

/// On the supply of a row behind its converter.
Result<Design> with_converted_row(const Design& design, const SupplyRow& row) {
    const Part* source = design.circuit.source();
    if (!source) return Error{Fault::design, "circuit", "nothing feeds it", "a battery or a supply"};
    Design bare = design;
    std::erase_if(bare.blocks, [&](const Block& block) {
        const auto has = [&](const auto& names) {
            return std::any_of(names.begin(), names.end(),
                               [&](const auto& n) { return n.second == source->designator; });
        };
        return has(block.parts) || has(block.uses);
    });
    auto next = with_supply(bare, row.cell, row.count);
    if (!next) return next;
    const CellType* cell = known_catalogue().cell(row.cell);
    const PartKind* kind =
        cell ? converter_for(row.count * cell->open_circuit.at(1), row.converted) : nullptr;
    if (!kind) return Error{Fault::design, row.name, "no converter module serves", "another supply"};
    auto circuit = with_converter(next.value().circuit, *kind, row.converted);
    if (!circuit) return circuit.error();
    return with_circuit(next.value(), std::move(circuit).value());
}

}  // namespace

SuppliesQuery::SuppliesQuery(const Design& of, const Conditions& under, SupplyPolicy how, SupplyScope which)
    : conditions(as_seen(of.circuit, fresh(of.circuit, under))), policy(how), scope(which) {
    design.circuit = of.circuit, design.blocks = of.blocks;
    design.brief.end_brightness = of.brief.end_brightness;
    design.brief.width = of.brief.width, design.brief.height = of.brief.height;
    conditions.celsius = under.celsius;  // any cell reads it
}

Digest SuppliesQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << design.brief.end_brightness << design.brief.width << design.brief.height << static_cast<int>(policy)
      << static_cast<int>(scope);
    return d.digest();
}

namespace {

/// The design as it is on its own supply.
struct OwnSupply {
    double reference, volts;  ///< its light [cd], its volts, fresh
    const Circuit* circuit;
    const LongRun* run;
};

/// The circuit on a supply that is tried, with what is scaled for it noted in its row. Errors of
/// with_supply() and with_converter().
Result<Circuit> on_supply(const Ask& ask, const SuppliesQuery& query, const Trial& c, SupplyRow& row,
                          const OwnSupply& own) {
    const bool anew = query.policy == SupplyPolicy::sized_anew && !c.converter;
    auto alike = same_parts(query.design, row.cell, row.count);
    if (!alike) return alike.error();
    if (c.converter) return with_converter(alike.value().circuit, *c.converter, row.converted);
    auto variant = anew ? with_supply(query.design, row.cell, row.count) : alike;
    if (!variant) return variant.error();
    Circuit circuit = std::move(variant).value().circuit;
    if (!anew || !(own.reference > 0) || !same_resistors(circuit, alike.value().circuit)) return circuit;
    row.scaled = scaled_resistors(ask, circuit, query.conditions, own.reference,
                                  taking_up(c.volts() - own.volts, *own.circuit, *own.run));
    return with_values(std::move(circuit), row.scaled);
}

}  // namespace

Result<std::vector<SupplyRow>> SuppliesQuery::compute(const Ask& ask) const {
    const Part* source = design.circuit.source();
    if (!source) return Error{Fault::design, "circuit", "nothing feeds it", "a battery or a supply"};
    const Keyed<Circuit> own(design.circuit);
    const auto now = ask(RunQuery(own, fresh(*own, conditions)));
    if (!now) return now.error();
    const double reference = total_intensity(*own, known_catalogue(), now->mean());
    const auto own_cell = cell_of(*source, known_catalogue());
    const std::string own_id = own_cell ? own_cell->id : "";
    const int own_count = own_cell ? static_cast<int>(source->number("count")) : 1;
    auto own_source = source_model(*source, known_catalogue(), fresh(*own, conditions));
    if (!own_source) return own_source.error();
    const double own_volts = own_source.value().voltage;
    const double fed = now->mean().voltage(source->net("+")) - now->mean().voltage(source->net("-"));
    const double fed_volts = std::round(fed * converter_steps) / converter_steps;
    std::vector<Trial> candidates;
    if (own_cell) candidates.push_back({&*own_cell, own_count});
    for (const Trial& c : candidates_of(scope))
        if (c.cell->id != own_id || c.count != own_count) candidates.push_back(c);
    if (scope == SupplyScope::converted && !has_converter(design.circuit) && fed_volts > 0.5)
        for (const Trial& c : candidates_of(scope))
            if (const PartKind* converter = converter_for(c.volts(), fed_volts))
                candidates.push_back({c.cell, c.count, converter});
    std::vector<SupplyRow> rows(candidates.size());
    std::atomic<std::size_t> done{0};
    const Ask quietly = ask.quiet();
    parallel(rows.size(), [&](std::size_t k) {
        const Trial& c = candidates[k];
        SupplyRow& row = rows[k];
        row.cell = c.cell->id, row.count = c.count, row.name = c.name();
        row.present = own_cell && k == 0;
        fill_cells(row, *c.cell, c.converter, design.brief);
        if (c.converter) row.converted = fed_volts;
        if (row.present)
            measure(quietly, row, own, *this, *c.cell, reference);
        else if (!c.converter && (c.volts() < least_volts * own_volts || c.volts() > most_volts * own_volts))
            row.reason = fmt::format("{} in place of {}", format_quantity(c.volts(), Unit::volt),
                                     format_quantity(own_volts, Unit::volt));
        else if (auto circuit = on_supply(quietly, *this, c, row, {reference, own_volts, &*own, &*now}))
            measure(quietly, row, Keyed<Circuit>(std::move(circuit).value()), *this, *c.cell, reference);
        else
            row.reason = circuit.error().found;
        if (!row.present && row.possible && row.reason.empty() && !row.fits)
            row.reason = fmt::format("{:.0f} × {:.0f} mm do not fit", row.width, row.height);
        ask.tell("comparing supplies", double(++done) / static_cast<double>(rows.size()));
    });
    std::stable_sort(rows.begin(), rows.end(), serves_better);
    return rows;
}

Result<Design> with_supply_row(const Design& design, const SupplyRow& row, SupplyPolicy policy) {
    if (row.converted > 0) return with_converted_row(design, row);
    auto next = with_supply(design, row.cell, row.count);
    if (!next) return next;
    if (policy == SupplyPolicy::sized_anew)
        return row.scaled.empty() ? next
                                  : with_circuit(next.value(), with_values(next.value().circuit, row.scaled));
    auto alike = same_parts(design, row.cell, row.count);  // recipes have sized them: set back by hand
    if (!alike) return alike;
    return with_circuit(next.value(), std::move(alike.value().circuit));
}

}  // namespace elkit
