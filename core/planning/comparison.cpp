#include "planning/comparison.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <limits>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"
#include "quantity/brightness.hpp"
#include "quantity/preferred.hpp"

namespace elkit {

Figure seen_share(const std::string& id, const std::string& label, double share) {
    const double seen = 100 * perceived(share);
    return {id,
            label,
            seen,
            Unit::percent,
            {},
            {},
            {fmt::format("{:.3g} of the fresh light; CIE 1976 lightness makes {:.0f} % of it", share, seen)}};
}

Figure spread_ratio(const Figure& current) {
    const double low = current.low.value_or(current.value), high = current.high.value_or(current.value);
    return {current.id + ".spread",
            "spread of the " + current.label,
            low > 0 ? high / low : std::numeric_limits<double>::infinity(),
            Unit::none,
            {},
            {},
            {fmt::format("{} at the lowest corner, {} at the highest", format_quantity(low, current.unit),
                         format_quantity(high, current.unit))}};
}

double most_current(const Part& source) {
    if (const auto cell = cell_of(source, known_catalogue())) return cell->max_current;
    return source.number("max_current");
}

double rating_for(double worst) { return std::max(0.25, resistor_rating_at_least(2 * worst)); }

}  // namespace elkit
