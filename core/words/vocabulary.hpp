#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "quantity/result.hpp"

namespace elkit {

/// What people say, and the words of kinds and types that it means: "coin cell" → "CR2032 battery".
struct Saying {
    std::vector<std::string> say, means;  ///< plain words
};

/// Reads a list of {"say": …, "means": …}; file error with the place.
Result<std::vector<Saying>> read_sayings(std::string_view json);

/// Those that ship with Elkit (data/catalogue/words.json), and before them what the user added.
const std::vector<Saying>& sayings();

/// Takes up the user's own, which go before Elkit's. To be called before anything is asked, as at the start.
void add_own_sayings(std::vector<Saying> own);

/// The words with each saying replaced by what it means, longest first.
std::vector<std::string> in_plain_terms(const std::vector<std::string>& words);

}  // namespace elkit
