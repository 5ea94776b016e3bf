#include "engine/devices/makers.hpp"

#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

const Makers& makers() {
    static const Makers all = [] {
        Makers m;
        add_contact_devices(m);
        add_source_devices(m);
        add_reactive_devices(m);
        add_junction_devices(m);
        add_transistor_devices(m);
        add_sensor_devices(m);
        add_warm_devices(m);
        add_chip_devices(m);
        add_bar_driver(m);
        return m;
    }();
    return all;
}

}  // namespace

Result<std::unique_ptr<Device>> make_device(const Part& part, const Catalogue& catalogue,
                                            const Conditions& conditions, const Corner& corner, bool coils) {
    if (is(part, Role::no_current)) return std::unique_ptr<Device>();
    const PartKind* kind = part_kind(part.kind);
    const auto maker = makers().find(part.kind);
    const bool described = kind && (kind->module || kind->controller);
    if (maker == makers().end() && !described)
        return Error{Fault::design, "part " + part.designator, "unknown kind \"" + part.kind + "\"",
                     "a kind the engine knows"};
    const auto make = [&](const Conditions& under) {
        const Making making{part, catalogue, under, corner, coils};
        if (kind && kind->controller) return make_controller(making);
        return kind && kind->module ? make_module(making, *kind->module) : maker->second(making);
    };
    if (!conditions.warmth.contains(part.designator)) return make(conditions);
    Conditions own = conditions;
    own.celsius = conditions.celsius_of(part.designator);
    return make(own);
}

}  // namespace elkit
