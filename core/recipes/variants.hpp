#pragma once
#include "engine/queries.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

/// One way to meet a block's goals, as the engine sees it.
struct VariantRow {
    Variant variant;
    Figure value;    ///< the first number that it chooses; 0 if it finds none
    Figure current;  ///< of the first part that the recipe watches, fresh and lit [A]
    bool chosen = false;
    std::string note;  ///< "on target", "3 % under target", or why there is none
};

/// The ways that a block's recipe offers; empty where it offers none. Design error without that block.
struct VariantsQuery {
    VariantsQuery(const Design& of, std::size_t which, const Conditions& under, std::vector<double> own);
    Design design;  ///< of which circuit and blocks matter
    std::size_t block;
    Conditions conditions;
    std::vector<double> owned;  ///< resistors in the drawer [Ω]
    using Value = std::vector<VariantRow>;
    static constexpr std::string_view name = "variants";
    static constexpr bool quick = true;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The design with this way taken. What comes from the drawer is then known as set by hand. Errors as
/// with_goals().
Result<Design> with_variant(const Design& design, std::size_t block, const Variant& variant,
                            const std::vector<double>& owned);

}  // namespace elkit
