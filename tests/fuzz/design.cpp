// Any text: an error with its place, or a design that is written and read back the same; cleaning too.
#include "design/clean.hpp"
#include "fuzz.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto text = fuzz::text_of(data, size);
    if (auto design = read_design(text)) {
        fuzz::require_writable(design.value());
        fuzz::require(design_errors(text).empty(), "a design that reads has no errors");
    } else {
        fuzz::require_good_error(design.error());
        fuzz::require(!design.error().place.empty(), "an error names its place");
    }
    if (auto cleaned = cleaned_design(text))
        fuzz::require_writable(cleaned.value().design);
    else
        fuzz::require_good_error(cleaned.error());
    return 0;
}
