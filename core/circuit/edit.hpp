#pragma once
#include <string>

#include "circuit/part.hpp"
#include "quantity/result.hpp"

/// Changes of a circuit by name. Each returns the changed circuit; usage error that names what does not
/// exist.
namespace elkit {

Result<Circuit> delete_part(const Circuit& circuit, const std::string& designator);
/// A copy beside it, on the same nets, under the next free designator.
Result<Circuit> duplicate_part(const Circuit& circuit, const std::string& designator);
Result<Circuit> rename_part(const Circuit& circuit, const std::string& designator, const std::string& name);
/// Joins the net's pins to `name`; an existing net of that name takes them in.
Result<Circuit> rename_net(const Circuit& circuit, const std::string& net, const std::string& name);
/// Puts one pin on another net, which may be new.
Result<Circuit> move_pin(const Circuit& circuit, const std::string& designator, const std::string& pin,
                         const std::string& net);
/// Turns a part with two pins round.
Result<Circuit> flip_part(const Circuit& circuit, const std::string& designator);
/// Puts a part in a row with a pin: the first pin of `added` goes to that pin, by a new net named after
/// `between`, and its second to the net that the pin was on. Only its kind, parameters and, if it is given,
/// its designator count.
Result<Circuit> insert_at_pin(const Circuit& circuit, const std::string& designator, const std::string& pin,
                              Part added, const std::string& between);
/// The same for any part: its pin `in` goes to that pin and its pin `out` to the net that the pin was on; its
/// other pins stay as they are given.
Result<Circuit> insert_at_pin(const Circuit& circuit, const std::string& designator, const std::string& pin,
                              Part added, const std::string& in, const std::string& out,
                              const std::string& between);
/// Another kind in its place: pins of the same name keep their nets, others take those left over in order;
/// parameters that the new kind shares are kept.
Result<Circuit> replace_kind(const Circuit& circuit, const std::string& designator, const std::string& kind);

/// Another type of cell in a battery: what was measured of the cells before is forgotten.
void put_cell(Part& battery, const std::string& cell);

/// A net that is not there yet: "IN", or "IN_2" where that is taken.
std::string free_net(const Circuit& circuit, const std::string& like);

/// The circuit's own spelling of a net, whatever the case typed; empty if there is none.
std::string find_net(const Circuit& circuit, const std::string& typed);

}  // namespace elkit
