#include "kit/stave_picture.hpp"

#include "drawing/layout_query.hpp"
#include "light/light.hpp"

namespace elkit {

Result<Drawing> stave_picture(const Ask& ask, const Keyed<Circuit>& circuit, const Conditions& conditions) {
    const auto run = ask(RunQuery(circuit, conditions));
    if (!run) return run.error();
    const auto layout = ask(StaveLayoutQuery{circuit, {}});
    if (!layout) return layout.error();
    StaveView view;
    view.glow = glow_of(*circuit, run->mean());
    return draw_stave(*circuit, *layout, run->mean(), conditions, view);
}

}  // namespace elkit
