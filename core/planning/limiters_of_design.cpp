// Limiters for a design's own lights, and one of them taken into it.
#include "planning/lights_place.hpp"
#include "planning/limiters.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

Digest LimitersQuery::key() const {
    Digester d;
    d << array.key() << per_string << drawer.digest();
    return d.digest();
}

Result<LimitersQuery::Value> LimitersQuery::compute(const Ask& ask) const {
    const auto arranged = ask(array);
    if (!arranged) return arranged.error();
    if (arranged->question.by_coil)
        return Error{
            Fault::design, arranged->question.at,
            "a coil feeds it by pulses: it gives what it has stored and no more, and a resistor would "
            "only cost light",
            "lights on a steady supply"};
    Value found{{arranged->question, per_string, *drawer}, {}};
    if (found.question.per_string == 0) found.question.per_string = arranged->present;
    if (found.question.per_string == 0) found.question.per_string = arranged->list.front().per_string;
    auto rows = limiters(found.question);
    if (!rows) return rows.error();
    found.rows = std::move(rows).value();
    return found;
}

Result<Design> with_limiter(const Design& design, const LimiterQuestion& question, const LimiterRow& row) {
    if (!row.possible) return Error{Fault::usage, row.name, row.reason, "a possible limiter"};
    static const std::map<std::string, std::string, std::less<>> known_to_recipe{
        {"each", "string"}, {"shared", "shared"}, {"source", "none"}};
    const auto block = lights_block(design, question.array.at);
    if (const auto known = known_to_recipe.find(row.id); block && known != known_to_recipe.end())
        return with_lights_goals(design, *block, question.array, question.per_string, known->second);
    auto place = without_lights(design.circuit, question.array.at);
    if (!place) return place.error();
    Design next = design;
    if (block) next.blocks.erase(next.blocks.begin() + static_cast<std::ptrdiff_t>(*block));
    const Circuit taken = next.blocks.empty() ? place.value().circuit : design.circuit;
    return with_circuit(next, with_lights(std::move(place).value(), row.circuit, taken));
}

}  // namespace elkit
