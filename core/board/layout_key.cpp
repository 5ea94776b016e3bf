#include "board/layout_key.hpp"

#include "board/mount.hpp"
#include "circuit/part_kind.hpp"
#include "design/content.hpp"

namespace elkit {

Digest layout_key(std::string_view method, const Circuit& circuit, const BoardChoices& choices) {
    BoardChoices read = choices;
    read.wire_colours.clear();
    Digester d;
    d << method << content_digest(read);
    const auto parts = mounted(circuit, choices);
    if (!parts) {
        d << content_digest(circuit);
        return d.digest();
    }
    for (const Mounted& m : parts.value()) {
        d << m.part->designator << m.part->kind << place_id(m.place) << m.footprint.id
          << m.footprint.pads.size() << m.part->pins.size();
        for (const Pad& pad : m.footprint.pads) d << pad.pin << pad.x << pad.y;
        for (const Pin& pin : m.part->pins) d << pin.name << pin.net;
        if (is(*m.part, Role::resistor)) d << m.part->number("rating");  // a hot one keeps off the cells
    }
    return d.digest();
}

}  // namespace elkit
