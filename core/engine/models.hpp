#pragma once
#include <optional>
#include <string>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "circuit/part.hpp"
#include "engine/conditions.hpp"
#include "engine/junction.hpp"

namespace elkit {

/// Open-circuit voltage [V] and source resistance [Ω] (cells, leads) of a battery or supply, and what else a
/// lasting load adds to it.
struct Thevenin {
    double voltage = 0, resistance = 0;
    std::vector<CellType::Sag> sag = {};  ///< of the whole row of cells, as it is now
    double lasting() const {              ///< Ω, under a load that lasts
        double sum = resistance;
        for (const CellType::Sag& s : sag) sum += s.resistance;
        return sum;
    }
    bool operator==(const Thevenin&) const;
};
/// Refused above `highest_supply`: such voltages are left to licensed practice.
inline constexpr double highest_supply = 60;  // V DC
Result<Thevenin> source_model(const Part& part, const Catalogue& catalogue, const Conditions& conditions);

/// What sources in a row give between two nets, fresh.
struct SupplySpan {
    double volts = 0;
    std::vector<std::string> parts;  ///< the sources of that row
};
/// The largest; closed contacts count as wire. Nothing without a source.
std::optional<SupplySpan> supply_span(const Circuit& circuit, const Catalogue& catalogue,
                                      const Conditions& conditions);
/// Connectivity errors, and supplies that give more than `highest_supply` together: what is refused before
/// anything is solved.
std::vector<Error> circuit_errors(const Circuit& circuit, const Catalogue& catalogue,
                                  const Conditions& conditions);

/// The cell type of a battery with the part's own capacity, voltage and resistance where it sets them;
/// nothing for another kind or an unknown cell.
std::optional<CellType> cell_of(const Part& battery, const Catalogue& catalogue);

/// Resistance [Ω] of both leads of a source at `celsius`.
double lead_resistance(const Part& source, double celsius);

/// The LED's or diode's curve for its type, bin or measured points, at `celsius`; `bin` −1…+1 over the spread
/// of the type.
Result<Junction> junction_model(const Part& part, const Catalogue& catalogue, double celsius, double bin);

/// The same for an LED type alone, as in an RGB LED or a strip.
Result<Junction> led_junction(const LedType& type, double celsius, double bin);

/// A resistance that follows its own temperature.
struct WarmPoint {
    double ohms, slope;  ///< Ω, Ω/°C
};

/// 1/T = A + B ln R + C (ln R)³ (Steinhart & Hart, Deep-Sea Research 15, 1968); C = 0 is the β law.
struct ThermistorLaw {
    double a = 0, b = 0, c = 0;
    double middle = 0;  ///< ln R of a temperature within what was measured
    /// At a temperature of −100 to 300 °C; beyond, as at its ends.
    WarmPoint at(double celsius) const;
};
/// From β, or through three measured pairs. Design error if the pairs do not fit a falling curve.
Result<ThermistorLaw> thermistor_law(const Part& part);
/// Resistance [Ω] of a thermistor that its own power does not warm. Errors as thermistor_law().
Result<double> thermistor_resistance(const Part& part, double celsius);

/// A PTC's resistance R = R_cold exp(a (T − 20 °C)/100 °C + 12/(1 + e^−((T − 120 °C)/4 °C))): a gentle rise,
/// then a smooth step of five decades. In air of 20 °C it is tripped with `spread` per degree, and carries at
/// most the geometric mean of hold and trip current: a is what makes the largest δ (T − 20 °C)/R(T) its
/// square.
struct PtcCurve {
    double cold = 1, rise = 0;  ///< R_cold [Ω], a
    double spread = 0;          ///< δ [W/°C]
    WarmPoint at(double celsius) const;
};
/// From cold resistance, hold and trip current and power when tripped. Design error if they contradict each
/// other: the cold resistance alone takes more power at that current than the tripped part gives off.
Result<PtcCurve> ptc_curve(const Part& part);

/// Leak resistance [Ω] of a capacitor: its own, or of an electrolytic one by its capacitance, 1000 s / C: a
/// tenth of the usual datasheet limit of 0.01 C V for its current, as most of them have after a while on
/// power.
double leak_resistance(const Part& capacitor);

/// Rows of LEDs side by side in a strip: the chains of each whole cut length.
double strip_rows(const Part& strip);

/// Resistance [Ω] of a light-dependent resistor: R = R10 (E/10 lx)^−γ, not above its dark resistance.
double ldr_resistance(const Part& part, double lux);

/// Photocurrent and dark current [A] of a phototransistor; the dark current doubles every 10 °C.
double photocurrent(const Part& part, const Conditions& conditions);

/// Slope factor n of a MOSFET below threshold: about 85 mV a decade at room temperature.
inline constexpr double mosfet_slope = 1.4;
/// Threshold [V] and transconductance β [A/V²] of a MOSFET: from its on-resistance, or fitted to its
/// datasheet points (I = β/(2n)·(V − Vth)², least squares of √I). Design error if the points give no such
/// curve.
struct MosfetFit {
    double threshold = 0, beta = 0;
};
Result<MosfetFit> mosfet_fit(const Part& part);

}  // namespace elkit
