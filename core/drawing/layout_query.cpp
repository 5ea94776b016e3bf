#include "drawing/layout_query.hpp"

#include "engine/queries.hpp"

namespace elkit {

Digest StaveLayoutQuery::key() const {
    Digester d;
    d << circuit.digest() << before.rows << before.tracks << before.columns.size();
    for (const StaveColumn& column : before.columns) {
        d << column.parts << column.alike << column.hung.size();
        for (const auto& hung : column.hung) d << hung.pin << hung.parts;
    }
    return d.digest();
}

Result<StaveLayout> StaveLayoutQuery::compute(const Ask& ask) const {
    const auto op = ask(RestQuery(circuit, fresh(*circuit, {})));
    return lay_out_stave(*circuit, op ? *op : OperatingPoint{}, before.rows.empty() ? nullptr : &before);
}

}  // namespace elkit
