#pragma once
#include "circuit/content.hpp"
#include "drawing/stave.hpp"
#include "store/store.hpp"

namespace elkit {

/// The stave's layout from the fresh circuit with its switches closed; a plain order if it cannot be solved.
/// `before` as in lay_out_stave(); empty rows: none.
struct StaveLayoutQuery {
    Keyed<Circuit> circuit;
    StaveLayout before;
    using Value = StaveLayout;
    static constexpr std::string_view name = "stave layout";
    static constexpr bool quick = true;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
