#include "power/converter.hpp"

#include <algorithm>

#include "circuit/connectivity.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

using Gives = ModuleSpec::Gives;

constexpr double least_step = 0.1;  // of the wanted volts, that a supply lies above or below them

/// The kind's output that is a converter's; nullptr if it has none.
const ModuleSpec::Output* converted(const PartKind& kind) {
    if (!kind.module || kind.is(Role::charges)) return nullptr;
    for (const ModuleSpec::Output& out : kind.module->outputs)
        if (out.gives == Gives::steps_up || out.gives == Gives::steps_down) return &out;
    return nullptr;
}

}  // namespace

const PartKind* converter_for(double fresh, double wanted) {
    for (const PartKind& kind : part_kinds()) {
        if (!converted(kind)) continue;
        if (steps_up(kind) ? fresh <= wanted * (1 - least_step) : fresh >= wanted * (1 + least_step))
            return &kind;
    }
    return nullptr;
}

bool steps_up(const PartKind& converter) {
    const ModuleSpec::Output* out = converted(converter);
    return out && out->gives == Gives::steps_up;
}

const Part* converter_at(const Circuit& circuit, const std::string& net) {
    const auto found = std::find_if(circuit.parts.begin(), circuit.parts.end(), [&](const Part& part) {
        const PartKind* kind = part_kind(part.kind);
        const ModuleSpec::Output* out = kind ? converted(*kind) : nullptr;
        return out && part.net(out->pin) == net;
    });
    return found == circuit.parts.end() ? nullptr : &*found;
}

bool has_converter(const Circuit& circuit) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [](const Part& part) {
        const PartKind* kind = part_kind(part.kind);
        return kind && converted(*kind);
    });
}

Result<Circuit> with_converter(const Circuit& circuit, const PartKind& kind, double volts) {
    const Part* source = circuit.source();
    if (!source) return Error{Fault::design, "circuit", "nothing feeds it", "a battery or a supply"};
    const auto behind = main_switch(circuit).value_or(MainSwitch{source->designator, "+"});
    const ModuleSpec& module = *kind.module;
    Part converter{"", kind.id, {{"voltage", volts}}, {{module.minus, source->net("-")}}, {}};
    return insert_at_pin(circuit, behind.designator, behind.pin, std::move(converter), module.plus,
                         converted(kind)->pin, "IN");
}

}  // namespace elkit
