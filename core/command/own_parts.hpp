#pragma once
#include <filesystem>
#include <string>
#include <string_view>

#include "quantity/result.hpp"

namespace elkit {

/// How many of each a user's file of own parts brought.
struct OwnParts {
    std::size_t types = 0, modules = 0, words = 0, footprints = 0, making = 0;
};

/// Takes up a user's own parts: an object with any of the lists "cells", "leds", "diodes", "types" (as in
/// data/catalogue/catalogue.json), "modules" (modules.json), "words" (words.json) and
/// "footprints" (footprints.json, with "kinds": those it suits), and an object "making" (making.json). To be
/// called once, before any part is asked for. File error with list, entry and id where one cannot be read or
/// is impossible, usage error where an id is taken; then nothing is taken up.
Result<OwnParts> take_up_own_parts(std::string_view json);

/// Likewise from a file; no file is no error.
Result<OwnParts> take_up_own_parts_of(const std::filesystem::path& file);

/// Where they stand: own-parts.json in the data folder.
std::filesystem::path own_parts_file();

}  // namespace elkit
