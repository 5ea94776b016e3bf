#include "engine/devices/makers.hpp"

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
        add_chip_devices(m);
        return m;
    }();
    return all;
}

}  // namespace

Result<std::unique_ptr<Device>> make_device(const Part& part, const Catalogue& catalogue,
                                            const Conditions& conditions, const Corner& corner) {
    if (is(part, Role::no_current)) return std::unique_ptr<Device>();
    const auto maker = makers().find(part.kind);
    if (maker == makers().end())
        return Error{Fault::design, "part " + part.designator, "unknown kind \"" + part.kind + "\"",
                     "a kind the engine knows"};
    return maker->second({part, catalogue, conditions, corner});
}

}  // namespace elkit
