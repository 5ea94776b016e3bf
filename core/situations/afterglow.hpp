#pragma once
#include <optional>

#include "design/design.hpp"
#include "engine/queries.hpp"

namespace elkit {

/// How long the light that a held button gives goes on when it is let go [s]: until it looks half as bright
/// as it was then (CIE 1976 L*), a second's press before it. 0 where it goes out at once; nothing where no
/// button is held, it was dark anyway, it stays on for more than two hours or the run fails.
struct AfterglowQuery {
    Keyed<Circuit> circuit;
    Conditions held;
    using Value = std::optional<double>;
    static constexpr std::string_view name = "afterglow";
    static constexpr std::size_t weight = 4;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// "stays lit 24.2 s when let go"; empty where there is nothing to tell.
std::string afterglow_text(const Ask& ask, const Keyed<Circuit>& circuit, const Situation& situation);

}  // namespace elkit
