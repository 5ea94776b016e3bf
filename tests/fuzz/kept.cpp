// Any bytes as a kept copy of unsaved work: an error, or a design that can be written. The fuzzer cannot
// guess checksums, so a text of records without them is also given them.
#include "design/kept.hpp"

#include "fuzz.hpp"

using namespace elkit;

static void look(std::string_view text) {
    const auto kept = read_kept(text);
    if (!kept) return fuzz::require_good_error(kept.error());
    fuzz::require(kept.value().good <= text.size(), "no more is read than there is");
    fuzz::require(kept.value().done <= kept.value().history.size(), "what is done is in the history");
    fuzz::require_writable(*kept.value().last);
}

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto text = fuzz::text_of(data, size);
    look(text);
    std::string sealed = kept_head("x.json", Design{});
    for (std::size_t at = 0; at < text.size();) {
        const auto end = std::min(text.find('\x1e', at), text.size());  // between records
        const std::string_view one = text.substr(at, end - at);
        if (!one.empty()) sealed += kept_record(one[0], one.substr(1));
        at = end + 1;
    }
    look(sealed);
    return 0;
}
