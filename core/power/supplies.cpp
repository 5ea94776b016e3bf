#include "power/supplies.hpp"

#include <fmt/format.h>

#include <cmath>

#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "light/brightness.hpp"
#include "light/rating.hpp"
#include "light/strings.hpp"
#include "power/supply_range.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

struct Candidate {
    const char* cell;
    int count;
};
constexpr Candidate usual[]{{"LR6", 2},      {"LR6", 3},       {"LR6", 4},    {"LR03", 3},
                            {"6LR61", 1},    {"CR2032", 1},    {"CR2450", 1}, {"NiMH-AA", 3},
                            {"NiMH-AAA", 3}, {"Li-ion-1S", 1}, {"USB", 1},    {"Lead-12V", 1}};

/// The row's figures: from the engine's fresh operating point and the discharge.
void fill_figures(SupplyRow& row, const Discharge& run, const OperatingPoint& fresh, const CellType& cell,
                  double ratio, double end_brightness) {
    const auto figure = [&](const char* id, std::string label, double value, Unit unit,
                            std::vector<std::string> working) {
        return Figure{fmt::format("supply.{}.{}", row.name, id),
                      std::move(label) + ", " + row.name,
                      value,
                      unit,
                      {},
                      {},
                      std::move(working)};
    };
    const auto lightness = [](double r) {
        return fmt::format("CIE lightness of {:.3f} of this design's fresh light: {:.0f} %", r,
                           100 * perceived(r));
    };
    const double last = ratio * run.samples.back().light;
    row.start = figure("start", "brightness fresh", 100 * perceived(ratio), Unit::percent,
                       {"light of all LEDs fresh ÷ light of this design from fresh cells", lightness(ratio)});
    row.end = figure("end", "brightness at the end", 100 * perceived(last), Unit::percent,
                     {"the run ends at: " + run.ended_by, lightness(last)});
    row.run_time =
        figure("run_time", "run time", run.hours, Unit::hour,
               {fmt::format(
                    "t = ∫ Q(I) ds / I from full until the light falls below {:.0f} % or the cells are empty",
                    100 * end_brightness),
                fmt::format("{:.3g} Ah taken, {} at the start; ended by: {}", run.delivered,
                            format_quantity(fresh.supply_current(), Unit::ampere), run.ended_by)});
    const bool ends = std::isfinite(run.hours) && run.hours > 0;
    row.cost_per_hour = figure(
        "cost", "cost of cells for an hour", ends ? row.count * cell.price / run.hours : 0, Unit::money,
        {ends ? fmt::format("{} × {:.2f} / {} h", row.count, cell.price, format_plain(run.hours))
              : std::string("nothing is used up")});
}

/// Why a light or a chip of this circuit does not bear the supply; empty if they do.
std::string not_borne(const Circuit& circuit, const LongRun& run) {
    for (const Part& part : circuit.parts) {
        if (!is(part, Role::diode_light) || !(part.number("max_current") > 0) || !led_overdriven(part, run))
            continue;
        const double mean = run.mean().part(part.designator).current, limit = part.number("max_current");
        const bool pulse = quick_pulses(run) && mean <= limit;
        return fmt::format(
            "{} through {}, which may have {}",
            format_quantity(
                run.moves() && mean <= limit ? run.lasting(part.designator, part.pins.front().name) : mean,
                Unit::ampere),
            part.designator,
            format_quantity(pulse ? pulse_limit(part, run) : limit, Unit::ampere) +
                (pulse ? " in pulses" : ""));
    }
    for (const SupplyRange& range : supply_ranges(circuit)) {
        const double most = run.between(range.plus, range.minus).second;
        if (range.high > 0 && most > range.high)
            return fmt::format("{} gets {}, it bears {}", range.designator, format_quantity(most, Unit::volt),
                               format_quantity(range.high, Unit::volt));
    }
    return {};
}

/// The chip that this supply leaves below its least voltage; empty if there is none.
std::string starved(const Circuit& circuit, const LongRun& run) {
    for (const SupplyRange& range : supply_ranges(circuit)) {
        const double most = run.between(range.plus, range.minus).second;
        if (most < range.low)
            return fmt::format("{} wants {} at least and gets {}", range.designator,
                               format_quantity(range.low, Unit::volt), format_quantity(most, Unit::volt));
    }
    return {};
}

/// What the row says of a string while it is on; of a circuit without strings, what it takes.
void fill_current(SupplyRow& row, const Circuit& circuit, const WhileOn& on, const LedString* string) {
    const std::string& name = row.name;
    if (!string) {
        row.current = {"supply." + name + ".current",
                       "current from the supply, fresh, " + name,
                       on.run().mean().supply_current(),
                       Unit::ampere,
                       {},
                       {},
                       {"the engine's answer with fresh " + name + ", on average"}};
        return;
    }
    const PartState& led = on->part(string->leds.front()->designator);
    row.current = {
        "supply." + name + ".current",
        "current of a string, fresh, " + name,
        led.current,
        Unit::ampere,
        {},
        {},
        {fmt::format("the engine's answer with fresh {}: {} across each LED{}", name,
                     format_quantity(led.voltage, Unit::volt), on.run().moves() ? " while it is on" : "")}};
    if (!string->resistor) return;
    const PartState& r = on->part(string->resistor->designator);
    row.resistor = {"supply." + name + ".resistor",
                    "series resistor, " + name,
                    circuit.find(string->resistor->designator)->number("value"),
                    Unit::ohm,
                    {},
                    {},
                    {fmt::format("{} across it at {}, fresh", format_quantity(r.voltage, Unit::volt),
                                 format_quantity(r.current, Unit::ampere))}};
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

}  // namespace

SuppliesQuery::SuppliesQuery(const Design& of, const Conditions& under, SupplyPolicy how)
    : conditions(as_seen(of.circuit, fresh(of.circuit, under))), policy(how) {
    design.circuit = of.circuit, design.blocks = of.blocks;
    design.brief.end_brightness = of.brief.end_brightness;
    conditions.celsius = under.celsius;  // any cell reads it
}

Digest SuppliesQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << design.brief.end_brightness << static_cast<int>(policy);
    return d.digest();
}

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
    std::vector<Candidate> candidates;
    if (own_cell) candidates.push_back({own_id.c_str(), own_count});
    for (const Candidate& c : usual)
        if (c.cell != own_id || c.count != own_count) candidates.push_back(c);
    std::vector<SupplyRow> rows(candidates.size());
    for (std::size_t k = 0; k < rows.size(); ++k) {
        stop_point();
        ask.tell("comparing supplies", double(k) / static_cast<double>(rows.size()));
        const Candidate& c = candidates[k];
        SupplyRow& row = rows[k];
        row.cell = c.cell, row.count = c.count,
        row.name = c.count > 1 ? fmt::format("{} × {}", c.count, c.cell) : c.cell;
        row.present = own_cell && k == 0;
        const CellType& cell = row.present ? *own_cell : *known_catalogue().cell(c.cell);
        row.mass = {"supply." + row.name + ".mass",
                    "mass of the cells, " + row.name,
                    c.count * cell.mass,
                    Unit::gram,
                    {},
                    {},
                    {fmt::format("{} × {} g", c.count, format_plain(cell.mass))}};
        auto variant = row.present                          ? Result<Design>(design)
                       : policy == SupplyPolicy::same_parts ? same_parts(design, c.cell, c.count)
                                                            : with_supply(design, c.cell, c.count);
        if (variant)
            measure(ask, row, row.present ? own : Keyed<Circuit>(variant.value().circuit), *this, cell,
                    reference);
        else
            row.reason = variant.error().found;
    }
    return rows;
}

}  // namespace elkit
