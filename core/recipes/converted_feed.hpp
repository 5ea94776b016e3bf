#pragma once
#include <string>

#include "recipes/sketch.hpp"

/// Modules and boards that want about 5 V, on a supply of other volts.
namespace elkit {

/// "direct" where the source suits a kind, also when its cells are tired; else the converter that makes 5 V.
std::string feed_for(const PartKind& fed, const Part& source, double fresh);

/// What parts of a kind hang on that take so much together [A]: the feed itself, or the net FIVE of a
/// converter, as `way` says; add_converter() then puts that in. Design error in the name of the goal `takes`
/// for more than the converter gives; those of fits_supply().
Result<Feed> converted_feed(Sketch& sketch, const std::string& way, const PartKind& fed, const Feed& feed,
                            double amps, const char* takes);
/// Between the supply's net and the one that converted_feed() named; nothing where they are the same.
void add_converter(Sketch& sketch, const std::string& way, const std::string& from, const std::string& to);

/// A that the feed gives for so much behind a converter, when its cells are tired.
double before_converter(const std::string& way, const Feed& feed, double amps);

}  // namespace elkit
