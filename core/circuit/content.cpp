#include "circuit/content.hpp"

namespace elkit {

Digest content_digest(const Circuit& circuit) {
    Digester d;
    for (const Part& part : circuit.parts) {
        d << part.designator << part.kind << part.params << part.pins.size();
        for (const Pin& pin : part.pins) d << pin.name << pin.net;
    }
    return d.digest();
}

}  // namespace elkit
