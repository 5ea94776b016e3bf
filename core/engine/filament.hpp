#pragma once

/// A glowing tungsten wire. T is its temperature, all in proportion to what they are at its rated voltage.
namespace elkit {

/// R ∝ T^1.2 (tungsten between 300 and 3,000 K; Jones & Langmuir, General Electric Review 30, 1927).
inline constexpr double filament_resistance_by_heat = 1.2;
/// W lost ∝ T⁴ (Stefan–Boltzmann); visible light ∝ T⁹ around 2,500 K (Planck's law under the eye's curve).
inline constexpr double filament_power_by_heat = 4, filament_light_by_heat = 9;

/// From these, with P = I² R: I ∝ T^1.4, so that light and power follow the current with these exponents. The
/// current then goes with the voltage to the power 0.54, as data sheets have it.
inline constexpr double filament_current_by_heat = (filament_power_by_heat - filament_resistance_by_heat) / 2,
                        filament_light_by_current = filament_light_by_heat / filament_current_by_heat,
                        filament_power_by_current = filament_power_by_heat / filament_current_by_heat,
                        filament_current_by_volts = filament_current_by_heat /
                                                    (filament_current_by_heat + filament_resistance_by_heat);
/// What a cold one has, by which its resistance is lowest.
inline constexpr double room_in_kelvin = 293;

/// Of its rated current, below which a filament is hardly seen to glow: a thousandth of its light.
inline constexpr double filament_glows_from = 0.34;

}  // namespace elkit
