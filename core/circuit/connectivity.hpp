#pragma once
#include <vector>

#include "circuit/part_kind.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// What is wrong with how the parts are joined, most basic first: no parts, no source, a net with one pin,
/// a part with both pins on one net, a supply shorted by closed contacts, a net with no path to the negative
/// rail. Each error names the part or net. Empty if the circuit can be solved.
std::vector<Error> connectivity_errors(const Circuit& circuit);

/// Nets that only capacitors, gates and chip inputs touch: they hold whatever charge they have, until leakage
/// takes it.
std::vector<std::string> nets_without_dc_path(const Circuit& circuit);

/// Parts in a row: a chain of two-pin parts from `from` to `to`, joined by nets that nothing else touches.
struct Chain {
    std::string from, to;            ///< end nets, `from` nearer the positive side of the first LED or part
    std::vector<const Part*> parts;  ///< in order from `from` to `to`
    std::size_t count(Role role) const;
};
/// All chains of the circuit's two-pin parts, without sources; every part stands in exactly one.
std::vector<Chain> chains(const Circuit& circuit);

/// The net that everything that the source feeds hangs on: its +, or behind a fuse that is alone there with
/// it.
std::string feed_net(const Circuit& circuit);

/// The switch behind which everything that the source feeds hangs: a two-pin contact that stays as it is set
/// and is alone at that net, and its far pin; nothing if something else hangs there too.
struct MainSwitch {
    std::string designator, pin;
};
std::optional<MainSwitch> main_switch(const Circuit& circuit);

}  // namespace elkit
