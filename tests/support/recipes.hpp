#pragma once
#include <gtest/gtest.h>

#include "recipes/blocks.hpp"
#include "recipes/measured.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {

using Said = std::map<std::string, ParamValue>;

/// A design of one recipe, its other goals planned.
Result<Design> made(const char* recipe, const Said& said, const Environment& drawer = {});

std::string told(const Said& said);  ///< for messages

/// Every combination of these values of goals.
std::vector<Said> combined(const std::map<std::string, std::vector<ParamValue>>& values);

/// Asks a recipe for each: the engine finds what it promises, or it says what it cannot and what was
/// expected.
struct Swept {
    int met = 0;
    std::vector<Said> refused;
};
Swept sweep(const char* recipe, const std::vector<Said>& all);

/// Every expectation of the only block is what the engine finds.
void expect_met(const Design& design, const std::string& words);
/// The recipe's own number for what the engine finds first.
void expect_reckoned(const Design& design, const std::string& words);

}  // namespace elkit::test
