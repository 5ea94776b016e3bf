#include "kit/stave_picture.hpp"

#include "drawing/layout_query.hpp"
#include "light/light.hpp"

namespace elkit {

Result<Drawing> stave_picture(const Ask& ask, const Keyed<Circuit>& circuit, const Conditions& conditions) {
    const auto op = ask(RestQuery(circuit, conditions));
    if (!op) return op.error();
    const auto layout = ask(StaveLayoutQuery{circuit, {}});
    if (!layout) return layout.error();
    StaveView view;
    view.glow = glow_of(*circuit, *op);
    return draw_stave(*circuit, *layout, *op, conditions, view);
}

}  // namespace elkit
