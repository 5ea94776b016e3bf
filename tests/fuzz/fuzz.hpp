#pragma once
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <string>
#include <string_view>

#include "design/delta.hpp"
#include "design/file.hpp"
#include "quantity/plain_text.hpp"
#include "quantity/result.hpp"

/// What libFuzzer calls with each input; a failure is an abort. Each target says which promise it tests.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace elkit::fuzz {

inline std::string_view text_of(const std::uint8_t* data, std::size_t size) {
    return {reinterpret_cast<const char*>(data), size};
}

inline void require(bool good, const char* promise) {
    if (good) return;
    std::fprintf(stderr, "broken promise: %s\n", promise);
    std::abort();
}

/// An error names a place and shows on one line.
inline void require_good_error(const Error& error) {
    const std::string text = error.text();
    require(!error.found.empty(), "an error says what is wrong");
    for (std::size_t at = 0; at < text.size();)
        require(is_plain(next_character(text, at)), "an error is one line of plain characters");
}

/// What was accepted can be written and read again.
inline void require_writable(const Design& design) {
    require(check_writable(design).has_value(), "an accepted design reads back as it was written");
}

}  // namespace elkit::fuzz
