#include "light/situation_table.hpp"

#include <fmt/format.h>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "light/strings.hpp"
#include "situations/afterglow.hpp"
#include "situations/propose.hpp"
#include "situations/words.hpp"

namespace elkit {

Digest SituationTableQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(situations);
    return d.digest();
}

Result<std::vector<SituationRow>> SituationTableQuery::compute(const Ask& ask) const {
    auto all = placed_situations(ask, situations, circuit);
    if (!all) return all.error();
    std::vector<SituationRow> rows;
    for (const Placed& known : all.value()) {
        const Situation& s = known.situation;
        SituationRow row;
        row.situation = s;
        const auto run = ask(RunQuery(circuit, s.under({})));
        if (!run) {
            row.fault = run.error().text();
            rows.push_back(std::move(row));
            continue;
        }
        const std::string where = situation_text(s).empty() ? "as drawn" : situation_text(s);
        row.lit = known.lit;
        if (row.lit) row.afterwards = afterglow_text(ask, circuit, s);
        row.current = {"situation.current." + s.name,
                       "current in \"" + s.name + "\"",
                       known.current,
                       Unit::ampere,
                       {},
                       {},
                       {where, run->moves() ? fmt::format("the average over one cycle of {}",
                                                          format_quantity(run->steady().period, Unit::second))
                                            : "at rest"}};
        row.light = {"situation.light." + s.name,
                     "light in \"" + s.name + "\"",
                     total_intensity(*circuit, known_catalogue(), run->mean()),
                     Unit::candela,
                     {},
                     {},
                     {where, "sum over all lights of their intensity at the current they get"}};
        rows.push_back(std::move(row));
    }
    return rows;
}

}  // namespace elkit
