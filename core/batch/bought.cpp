#include "batch/bought.hpp"

#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

std::string marking_on_surface(const Part& part, const PartKind& kind) {
    if (kind.marking == "bands") return resistor_code(part.number("value"));
    if (kind.marking == "code") return "nothing is printed on it";
    return kind.marking.empty() ? "" : "stripe, dot or notch: see the bag";
}

}  // namespace

Bought bought_as(const Part& part, const Footprint* footprint) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return {part.kind, part.kind, "", false};
    if (!footprint || !footprint->surface)
        return {drawer_key(part), shop_name(part), marking_of(part), kind->marking == "bands"};
    Part flat = part;
    if (kind->param("rating") && footprint->power > 0) flat.params["rating"] = footprint->power;
    return {drawer_key(flat) + "/" + footprint->id, shop_name(flat) + ", " + footprint->name,
            marking_on_surface(part, *kind), false};
}

}  // namespace elkit
