#pragma once
#include <memory>

#include "catalogue/catalogue.hpp"
#include "circuit/part.hpp"
#include "engine/conditions.hpp"
#include "engine/junction.hpp"

namespace elkit {

class Equations;

/// A part as equations. Adding a part kind means one more class here; the solver does not change.
/// Two-terminal for now: `a` and `b` are node numbers, −1 the negative rail.
class Device {
  public:
    Device(int a, int b) : a_(a), b_(b) {}
    virtual ~Device() = default;

    int a() const { return a_; }
    int b() const { return b_; }
    /// Adds this device, linearised at `voltage` [V] from a to b. `drive` 0…1 scales every source (source
    /// stepping).
    virtual void stamp(Equations& equations, double voltage, double drive) const = 0;
    /// Current [A] that enters at a and leaves at b.
    virtual double current(double voltage, double drive) const = 0;
    /// The step Newton may take from `before` to `wanted`; identity unless the curve is too steep to trust.
    virtual double limit(double before, double wanted) const {
        (void)before;
        return wanted;
    }
    /// True if the stamp depends on the voltage.
    virtual bool nonlinear() const { return false; }

  private:
    int a_, b_;
};

/// The device for `part` under these conditions. Error if a type is not in the catalogue or a fit fails.
Result<std::unique_ptr<Device>> make_device(const Part& part, int a, int b, const Catalogue& catalogue,
                                            const Conditions& conditions, const Corner& corner);

/// Open-circuit voltage [V] and source resistance [Ω] (cells, leads) of a battery or supply.
struct Thevenin {
    double voltage = 0, resistance = 0;
};
/// Refused above `highest_supply`: such voltages are left to licensed practice.
inline constexpr double highest_supply = 60;  // V DC
Result<Thevenin> source_model(const Part& part, const Catalogue& catalogue, const Conditions& conditions);

/// Resistance [Ω] of both leads of a source at `celsius`.
double lead_resistance(const Part& source, double celsius);

/// The LED's or diode's curve for its type, bin or measured points, at `celsius`; `bin` −1…+1 over the spread
/// of the type.
Result<Junction> junction_model(const Part& part, const Catalogue& catalogue, double celsius, double bin);

}  // namespace elkit
