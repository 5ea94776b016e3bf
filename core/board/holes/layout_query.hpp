#pragma once
#include <string>
#include <string_view>

#include "board/holes/layout.hpp"
#include "board/layout_key.hpp"
#include "store/store.hpp"

namespace elkit {

/// The layout of a board of holes, kept while only values change that it does not depend on. Errors: those of
/// `parts` and `lay_out`.
struct HoleLayoutQuery {
    std::string_view method;
    Keyed<Circuit> circuit;
    const BoardChoices& choices;
    Result<HoleParts> (*parts)(const Circuit&, const BoardChoices&);
    Result<HoleLayout> (*lay_out)(const HoleParts&, const BoardChoices&, const Progress&);
    using Value = HoleLayout;
    static constexpr std::string_view name = "holes";
    static constexpr std::size_t weight = 10;
    Digest key() const { return layout_key(method, *circuit, choices); }
    Result<Value> compute(const Ask& ask) const {
        const auto all = parts(*circuit, choices);
        if (!all) return all.error();
        return lay_out(all.value(), choices, ask.progress());
    }
};

}  // namespace elkit
