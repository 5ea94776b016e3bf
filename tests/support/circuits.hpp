#pragma once
#include <string>
#include <vector>

#include "circuit/part_kind.hpp"
#include "engine/transient.hpp"

namespace elkit::test {

/// A circuit from lines such as "resistor R1 a=IN b=OUT value=4700": pins and parameters by their names.
Circuit circuit(const std::vector<std::string>& lines);

/// A light behind a push button S1; a pair of transistors that S1 sets and S2 lets go; a lamp that wakes in
/// the dark.
Circuit button_light(const std::string& ohms = "47");
Circuit held_pair();
Circuit dark_lamp();

/// The two-threshold timer as an astable: Ra from the supply to disch, Rb on to thr and trig, C to ground;
/// the CMOS type by default.
Circuit astable(double volts, double ra, double rb, double farads, const std::string& type = "timer-cmos");

/// A divider of 3 V and a part of this kind with its pins on V, M and ground in turn; it is the last part.
Circuit around(const PartKind& kind);

/// Runs the circuit or fails the test.
Recording recorded(const Circuit& circuit, const RunRequest& request, const Conditions& conditions = {});

}  // namespace elkit::test
