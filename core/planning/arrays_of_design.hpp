#pragma once
#include <optional>

#include "design/design.hpp"
#include "engine/queries.hpp"
#include "planning/arrays.hpp"

namespace elkit {

/// What a design asks of the lights among which `light` is, or of its first ones: the goals of its block of
/// steady lights where they are its own; else as many LEDs as hang there, at the current they have now, fresh
/// and lit; without LEDs the recipe's usual goals. Design error without a source; errors of without_lights()
/// for a light that is named.
Result<ArrayQuestion> array_question(const Ask& ask, const Design& design, const Conditions& conditions,
                                     const std::string& light = {});

/// What of the question is asked otherwise than the design does.
struct ArrayWishes {
    std::string light;  ///< an LED of those that are meant; empty: the first ones
    std::string led;    ///< an id of the catalogue; empty: the design's
    std::optional<int> count;
    std::optional<double> current;  ///< A
    std::vector<double> owned;      ///< resistors to choose from [Ω]; empty: any preferred value
    bool operator==(const ArrayWishes&) const = default;
};

struct ArraysOfDesign {
    ArrayQuestion question;
    std::vector<Arrangement> list;  ///< the best first
    int present = 0;  ///< LEDs in the design's own strings; 0 if it has other lights than are asked for
    std::vector<HungLights> places;  ///< all lights that could be meant, by where they hang
};

/// All arrangements of a design's lights, fed as they are where they hang. Errors as array_question(),
/// arrangements() and arrangements_by_coil().
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

/// The design's block of steady lights on cells, if it owns the lights that are meant; nothing if it has
/// none.
std::optional<std::size_t> lights_block(const Design& design, const std::string& light = {});

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
