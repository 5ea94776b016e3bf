#include "design/content.hpp"

namespace elkit {

Digest content_digest(const std::vector<Block>& blocks) {
    Digester d;
    for (const Block& b : blocks) {
        d << b.recipe << b.goals << b.parts << b.uses << b.nets << b.by_hand.size();
        for (const std::string& what : b.by_hand) d << what;
    }
    return d.digest();
}

Digest content_digest(const Brief& b) {
    Digester d;
    d << b.run_time << b.end_brightness << b.kits << b.cost_ceiling << b.width << b.height << b.for_children;
    return d.digest();
}

Digest content_digest(const BoardChoices& c) {
    Digester d;
    d << c.method << c.columns << c.rows;
    return d.digest();
}

Digest content_digest(const BatchChoices& c) {
    Digester d;
    d << c.spares;
    return d.digest();
}

Digest content_digest(const std::vector<StepRecord>& records) {
    Digester d;
    for (const StepRecord& r : records) d << r.step << r.done << r.note << r.measured << r.unit << r.time;
    return d.digest();
}

Digest readings_digest(const std::vector<StepRecord>& records) {
    Digester d;
    for (const StepRecord& r : records)
        if (r.measured) d << r.step << r.unit << *r.measured;
    return d.digest();
}

}  // namespace elkit
