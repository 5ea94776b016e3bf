// Any text pasted as a table of parts: an error with its place, or parts that can be written and copied
// again.
#include "command/parts_table.hpp"
#include "fuzz.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto design = with_parts_from_table({}, fuzz::text_of(data, size), Merge::rename);
    if (!design) {
        fuzz::require_good_error(design.error());
        fuzz::require(!design.error().place.empty(), "an error names its place");
        return 0;
    }
    if (!check_writable(design.value())) return 0;  // the session refuses it
    const auto& parts = design.value().circuit.parts;
    const auto again = with_parts_from_table({}, parts_as_csv(parts), Merge::rename);
    fuzz::require(parts.empty() || (again && again.value().circuit.parts.size() == parts.size()),
                  "parts that are copied can be pasted");
    return 0;
}
