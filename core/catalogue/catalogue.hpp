#pragma once
#include <array>
#include <functional>
#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "catalogue/curve.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A battery or cell type. State of charge runs from 0 (empty) to 1 (fresh).
struct CellType {
    /// What a heavy load wears away for a while: a resistance that shows only after a time, and goes with it.
    struct Sag {
        double resistance = 0, seconds = 1;  ///< Ω fresh, at 21 °C, and its time constant
    };
    std::string id, name, chemistry;
    Curve open_circuit;  ///< state of charge → V
    Curve resistance;    ///< state of charge → Ω at 21 °C
    Curve capacity;  ///< discharge current [A] → usable charge [Ah]; empty: endless (a mains supply unit)
    double max_current = 0;              ///< A, continuous, without harm or steep loss
    double self_discharge_per_year = 0;  ///< fraction
    double mass = 0;                     ///< g
    double price = 0;                    ///< workshop's currency
    std::array<double, 2> size{};        ///< mm, diameter × height or width × height
    double cutoff = 0;                   ///< V under load at which it is empty, or its protection opens
    std::vector<Sag> sag;                ///< coin and button cells; empty: none worth following
    bool protection = false;             ///< stops by itself when empty, full or shorted
    bool limits_itself = false;  ///< its own resistance limits an LED's current (coin and button cells)
    Curve resistance_factor, capacity_factor;  ///< °C → factor
    std::string source;

    bool endless() const { return capacity.points.empty(); }
    double usable_charge(double ampere, double celsius) const {
        return capacity.at_log(ampere) * capacity_factor.at(celsius);
    }
};

struct LedType {
    std::string id, name, rgb;
    double vf_low = 0, vf_typical = 0, vf_high = 0;  ///< V at test_current, 25 °C
    double test_current = 0.02;
    double emission = 2, series_resistance = 5;  ///< n and Rs of the diode equation
    double intensity = 0;                        ///< cd at test_current
    double max_current = 0.03, reverse_voltage = 5, diameter = 5, tempco = -0.002;
    double thermal_resistance = 300;  ///< K/W from junction to air, as it is usually mounted
    double thermal_case = 120;        ///< K/W of that from junction to its body
    double viewing_angle = 0;         ///< ° between the directions of half intensity; 0: not stated
    bool visible = true;
    std::string caution, source;
    unsigned colour() const;  ///< 0xRRGGBB; amber if `rgb` is none
};

struct DiodeType {
    std::string id, name;
    double vf_typical = 0, test_current = 0, emission = 1.8, series_resistance = 1, max_current = 0,
           reverse_voltage = 0, tempco = -0.002;
    double breakdown = 0;  ///< V at breakdown_current [A], a Zener's; 0 if it has none
    double breakdown_current = 0.005, breakdown_resistance = 10;
    std::string source;
};

/// A typical part of any other kind: its values by parameter name.
struct PartType {
    std::string kind, id, name;
    std::map<std::string, double, std::less<>> values;
    std::string source;
    double value(std::string_view key) const;  ///< NaN if the type does not say
};

struct WireType {
    double area = 0;  ///< mm²
    int awg = 0;
    double max_current = 0;
};

struct Catalogue {
    std::vector<CellType> cells;
    std::vector<LedType> leds;
    std::vector<DiodeType> diodes;
    std::vector<WireType> wires;
    std::vector<PartType> types;

    const CellType* cell(std::string_view id) const;  ///< nullptr if unknown; likewise below
    const LedType* led(std::string_view id) const;
    const DiodeType* diode(std::string_view id) const;
    const PartType* type(std::string_view kind, std::string_view id) const;
    /// The ids of a list: "cells", "leds", "diodes", or "types" of one kind.
    std::vector<std::string> ids(std::string_view list, std::string_view kind) const;
    /// What the catalogue calls a type of a kind; empty if it does not know it.
    std::string name_of(std::string_view kind, std::string_view id) const;
    /// A type's value by the name of the parameter that may replace it; NaN if it has none.
    double type_value(std::string_view kind, std::string_view id, std::string_view key) const;
    const WireType& wire_at_least(
        double area) const;  ///< the first gauge not thinner than `area` mm², else the thickest
};

/// Reads a catalogue; design error with a JSON pointer when a field is missing or of the wrong type.
Result<Catalogue> read_catalogue(std::string_view json);

/// The catalogue that ships with Elkit, and behind it the user's own parts.
const Catalogue& known_catalogue();

/// Reads parts of one's own: the lists of a catalogue, each of which may be missing. Design error as
/// read_catalogue().
Result<Catalogue> read_own_catalogue(std::string_view json);

/// Behind the names of the user's own parts.
inline constexpr std::string_view own_mark = " (own)";

/// Takes up the user's own parts, with " (own)" behind their names. To be called before a part is asked for,
/// as at the start. Usage error, and nothing taken up, if one has the id of another.
Result<void> add_own_parts(Catalogue own);

}  // namespace elkit
