#pragma once
#include <optional>
#include <string>

#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

struct PartKind;

/// A converter module of the catalogue that makes `wanted` volts of a supply that gives `fresh` when it is
/// new; nullptr if the catalogue has none, or the two are too near each other for one: a step-up module lets
/// a higher supply through, a step-down module drops some tenths of a volt.
const PartKind* converter_for(double fresh, double wanted);

/// Whether a converter module makes more volts of fewer.
bool steps_up(const PartKind& converter);

/// The converter whose output a net is; nullptr if it is none's.
const Part* converter_at(const Circuit& circuit, const std::string& net);

/// Whether a circuit has a converter already.
bool has_converter(const Circuit& circuit);

/// The circuit with such a module between its source's + and what that feeds, set to `volts`: behind the
/// switch where one stands there alone, so that it drinks nothing while the gadget is off. Design error
/// without a source.
Result<Circuit> with_converter(const Circuit& circuit, const PartKind& kind, double volts);

}  // namespace elkit
