#pragma once
#include <map>
#include <memory>
#include <string_view>

#include "circuit/module.hpp"
#include "engine/device.hpp"

namespace elkit {

/// What a maker may look at.
struct Making {
    const Part& part;
    const Catalogue& catalogue;
    const Conditions& conditions;
    const Corner& corner;
    bool coils = false;  ///< something in the circuit keeps a current going: contacts may arc
    double copper() const { return 1 + 0.0039 * (conditions.celsius - 20); }  ///< resistance against 20 °C
    /// The part's place −1…+1 in the spread of `key`, as a factor 1 + place·tolerance.
    double spread(double otherwise = 0) const {
        return 1 + corner.of(part, otherwise) * part.number("tolerance");
    }
};
using Maker = Result<std::unique_ptr<Device>> (*)(const Making&);
using Makers = std::map<std::string_view, Maker>;

void add_contact_devices(Makers& makers);   ///< resistors, potentiometers, switches, relays, loads
void add_source_devices(Makers& makers);    ///< cells, supplies, waveform sources
void add_reactive_devices(Makers& makers);  ///< capacitors, inductors, wound cores
void add_junction_devices(Makers& makers);  ///< diodes, LEDs and what is made of them
void add_transistor_devices(Makers& makers);
void add_sensor_devices(Makers& makers);
void add_warm_devices(Makers& makers);  ///< fuses, thermistors, filament lamps
void add_chip_devices(Makers& makers);  ///< timer, comparator, regulator
void add_bar_driver(Makers& makers);
/// Any kind that is a controller: what its table says that it does.
Result<std::unique_ptr<Device>> make_controller(const Making& making);
/// Any kind that is a module: what its catalogue entry says that it does at its pins.
Result<std::unique_ptr<Device>> make_module(const Making& making, const ModuleSpec& spec);

}  // namespace elkit
