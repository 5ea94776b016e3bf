#pragma once
#include "engine/queries.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

/// One way to meet a block's goals, as the engine sees it.
struct VariantRow {
    Variant variant;
    Figure value;  ///< the first number that it chooses; 0 if it finds none
    Figure found;  ///< the first of the recipe's expectations, as the engine finds it
    bool chosen = false;
    std::string note;  ///< "on target", "3 % under target", or why there is none
};

/// The ways that a block's recipe offers; empty where it offers none. Design error without that block.
struct VariantsQuery {
    VariantsQuery(const Design& of, std::size_t which, const Conditions& under, Environment own);
    Design design;  ///< of which circuit and blocks matter
    std::size_t block;
    Conditions conditions;
    Environment drawer;  ///< values that are owned
    using Value = std::vector<VariantRow>;
    static constexpr std::string_view name = "variants";
    static constexpr bool quick = true;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The design with this way taken. What comes from the drawer is then known as set by hand. Errors as
/// with_goals().
Result<Design> with_variant(const Design& design, std::size_t block, const Variant& variant,
                            const Environment& drawer);

}  // namespace elkit
