#pragma once
#include <optional>

#include "design/design.hpp"
#include "engine/queries.hpp"
#include "planning/arrays.hpp"

namespace elkit {

/// What a design asks: the goals of its block of steady lights, or, where it has none, as many LEDs like its
/// first one as it has, at the current they have now from fresh cells; without LEDs the recipe's usual goals.
/// Design error without a source.
Result<ArrayQuestion> array_question(const Ask& ask, const Design& design, const Conditions& conditions);

/// What of the question is asked otherwise than the design does.
struct ArrayWishes {
    std::string led;  ///< an id of the catalogue; empty: the design's
    std::optional<int> count;
    std::optional<double> current;  ///< A
    std::vector<double> owned;      ///< resistors to choose from [Ω]; empty: any preferred value
    bool operator==(const ArrayWishes&) const = default;
};

struct ArraysOfDesign {
    ArrayQuestion question;
    std::vector<Arrangement> list;  ///< the best first
    int present = 0;  ///< LEDs in the design's own strings; 0 if it has other lights than are asked for
};

/// All arrangements of a design's lights. Errors as array_question() and arrangements().
struct ArraysQuery {
    Design design;
    Conditions conditions;
    ArrayWishes wishes;
    using Value = ArraysOfDesign;
    static constexpr std::string_view name = "arrangements";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// array_question() with what is asked otherwise.
Result<ArrayQuestion> asked_array(const Ask& ask, const ArraysQuery& query);

/// The design's block of steady lights on cells; nothing if it has none.
std::optional<std::size_t> lights_block(const Design& design);

/// That block with strings of so many of the asked LEDs; `limiter` is the recipe's "string", "shared" or
/// "none". Errors: those of the recipe.
Result<Design> with_lights_goals(const Design& design, std::size_t block, const ArrayQuestion& question,
                                 int per_string, const std::string& limiter);

/// The design with its lights arranged so: its block of steady lights with other goals, or, where it has
/// none, in place of the lights that it has, or between its source's nets: as such a block where the recipe
/// can size them, or else as resistors and LEDs. Errors: those of the recipe and of without_lights(); an
/// impossible arrangement.
Result<Design> with_arrangement(const Design& design, const ArrayQuestion& question,
                                const Arrangement& arrangement);

}  // namespace elkit
