#include "power/plain_cells.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "design/content.hpp"
#include "engine/models.hpp"
#include "quantity/brightness.hpp"
#include "recipes/blocks.hpp"
#include "recipes/measured.hpp"

namespace elkit {
namespace {

constexpr int most_cells = 10;
constexpr double nearly_flat = 0.1;  // of the charge

Figure percent(std::string id, std::string label, double value, std::vector<std::string> working) {
    return {"cells." + std::move(id), std::move(label), value, Unit::percent, {}, {}, std::move(working)};
}

/// What of the power that the cells give goes into the lights, %.
Result<double> efficiency(const Ask& ask, const Keyed<Circuit>& circuit, Conditions conditions, double charge,
                          std::vector<std::string>& working) {
    conditions.battery = charge;
    const auto run = ask(RunQuery(circuit, conditions));
    if (!run) return run.error();
    double lights = 0, given = 0;
    for (const Part& part : circuit->parts) {
        const double power = run->mean().part(part.designator).power();
        if (is(part, Role::light)) lights += power;
        if (is(part, Role::source)) given -= power;
    }
    working.push_back(fmt::format("{:.0f} % charged: {} into the lights of {}", 100 * charge,
                                  format_quantity(lights, Unit::watt), format_quantity(given, Unit::watt)));
    return given > 0 ? 100 * lights / given : 0;
}

/// The light at a state of charge, perceived, % of fresh.
double light_at(const Discharge& run, double charge) {
    if (run.charge_left > charge) return 0;
    const auto after = std::find_if(run.samples.begin(), run.samples.end(),
                                    [&](const DischargeSample& s) { return s.charge <= charge; });
    if (after == run.samples.begin() || after == run.samples.end()) return 0;
    const auto before = std::prev(after);
    const double t = (before->charge - charge) / std::max(1e-12, before->charge - after->charge);
    return 100 * perceived(before->light + t * (after->light - before->light));
}

Result<void> measure(const Ask& ask, CellsRow& row, const Keyed<Circuit>& circuit, const Conditions& given,
                     int cells, double end) {
    const Conditions conditions = fresh(*circuit, given);
    const auto run = ask(DischargeQuery(circuit, conditions, end));
    if (!run) return run.error();
    const auto full = ask(RunQuery(circuit, conditions));
    if (!full) return full.error();
    const auto led = std::find_if(circuit->parts.begin(), circuit->parts.end(),
                                  [](const Part& p) { return is(p, Role::light); });
    if (led == circuit->parts.end())
        return Error{Fault::design, "/blocks", "it has no light", "a light on the booster"};
    row.light = {"cells.light",
                 "light, fresh",
                 std::abs(full->mean().part(led->designator).current),
                 Unit::ampere,
                 {},
                 {},
                 {"the engine's, through " + led->designator + " on average"}};
    std::vector<std::string> early, late;
    auto at_first = efficiency(ask, circuit, conditions, 1, early);
    auto half = efficiency(ask, circuit, conditions, 0.5, late);
    if (!at_first) return at_first.error();
    if (!half) return half.error();
    row.run = *run;
    row.efficiency = percent("efficiency", "into the lights, fresh", at_first.value(), early);
    row.late_efficiency = percent("late efficiency", "into the lights, half empty", half.value(), late);
    row.late_light =
        percent("late light", "light with a tenth left", light_at(*run, nearly_flat),
                {fmt::format("perceived, against fresh; counts as spent below {:.0f} %", 100 * end)});
    row.left = percent("left", "left in the cells", 100 * run->energy_left, {run->ended_by});
    row.run_time = {"cells.run", "run time", run->hours, Unit::hour, {}, {}, {run->ended_by}};
    row.per_cell = {"cells.each",
                    "run time for each cell",
                    run->hours / cells,
                    Unit::hour,
                    {},
                    {},
                    {fmt::format("{} / {}", format_quantity(run->hours, Unit::hour), cells)}};
    return success();
}

/// The same light on so many cells with a resistor. Errors as with_block().
Result<Design> plain(const Goals& own, const Part& source, double amps, int cells) {
    const Recipe& steady = *find_recipe("steady-light");
    const Goals goals = planned(steady, {{"cell", source.text("cell")},
                                         {"cells", static_cast<double>(cells)},
                                         {"led", own.text("led")},
                                         {"count", own.number("count")},
                                         {"per_string", own.number("per_string")},
                                         {"current", amps}});
    return with_block({}, steady.id, goals);
}

const Part* source_of_block(const Design& design, std::size_t block) {
    const Part* source = design.circuit.source();
    return block < design.blocks.size() && source && is(*source, Role::cells) ? source : nullptr;
}

}  // namespace

bool boosts(const Design& design, std::size_t block) {
    if (!source_of_block(design, block)) return false;
    const auto& parts = design.blocks[block].parts;
    return std::any_of(parts.begin(), parts.end(), [&](const auto& entry) {
        const Part* part = design.circuit.find(entry.second);
        return part && part_kind(part->kind) && part_kind(part->kind)->param("turns1");
    });
}

PlainCellsQuery::PlainCellsQuery(const Design& of, std::size_t which, const Conditions& under)
    : block(which), conditions(as_seen(of.circuit, fresh(of.circuit, under))) {
    design.circuit = of.circuit, design.blocks = of.blocks;
    design.brief.end_brightness = of.brief.end_brightness;
}

Digest PlainCellsQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << block << design.brief.end_brightness;
    return d.digest();
}

Result<std::vector<CellsRow>> PlainCellsQuery::compute(const Ask& ask) const {
    const Part* source = source_of_block(design, block);
    if (!source || !boosts(design, block))
        return Error{Fault::design, "/blocks", "nothing lifts the volts of cells here", "a booster on cells"};
    const double end = design.brief.end_brightness;
    const std::string cell = source->text("cell");
    const int own_cells = static_cast<int>(source->number("count"));
    std::vector<CellsRow> rows(1);
    rows[0].name = fmt::format("{} × {}, boosted", own_cells, cell), rows[0].present = true,
    rows[0].cells = own_cells;
    const Keyed<Circuit> own(circuit_of_block(design, block));
    if (auto done = measure(ask, rows[0], own, conditions, own_cells, end); !done) return done.error();
    const Goals goals = goals_of(design, design.blocks[block]);
    Conditions beside;  // as warm as here
    beside.celsius = conditions.celsius;
    bool found = false;
    for (int cells = 2; cells <= most_cells && (cells <= 3 || !found); ++cells) {
        CellsRow row;
        row.name = fmt::format("{} × {} and a resistor", cells, cell), row.cells = cells;
        const auto other = plain(goals, *source, rows[0].light.value, cells);
        if (!other) {
            row.reason = other.error().found;
        } else {
            const Keyed<Circuit> circuit(other.value().circuit);
            if (auto done = measure(ask, row, circuit, beside, cells, end); !done)
                row.reason = done.error().found;
            found |= row.reason.empty();
        }
        if (cells <= 3 || row.reason.empty()) rows.push_back(std::move(row));
    }
    return rows;
}

}  // namespace elkit
