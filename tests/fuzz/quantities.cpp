// Any text as a quantity of any unit: an error, or a finite number that reads the same when it is written.
#include <cmath>

#include "engine/sweep.hpp"
#include "fuzz.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text(fuzz::text_of(data, size));
    for (int unit = 0; unit <= static_cast<int>(Unit::count); ++unit) {
        const auto value = parse_quantity(text, static_cast<Unit>(unit));
        if (!value) {
            fuzz::require_good_error(value.error());
            continue;
        }
        fuzz::require(std::isfinite(value.value()), "a quantity is a finite number");
        fuzz::require(!format_quantity(value.value(), static_cast<Unit>(unit)).empty(), "it can be shown");
    }
    if (auto range = range_from_words(text); !range) fuzz::require_good_error(range.error());
    return 0;
}
