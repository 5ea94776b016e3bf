#include "drawing/array.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "catalogue/catalogue.hpp"
#include "drawing/symbol.hpp"
#include "quantity/format.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

constexpr double step = 62, top_rail = 26, first_x = 56, gap = 118;

void add_bands(Drawing& d, const Part& resistor, double x, double middle) {
    const auto bands = colour_bands(resistor.number("value"), resistor.number("tolerance"));
    if (!bands) return;
    const auto& names = bands.value().names;
    for (std::size_t k = 0; k < names.size(); ++k)
        d.add(Rect{x - 6.4, middle - 13 + (k + 1 == names.size() ? 22 : 5.2 * double(k)), 12.8, 3, 0},
              {Ink::none, 0, Ink::rgb, 1, band_rgb(names[k])}, "part:" + resistor.designator);
}

}  // namespace

Drawing draw_array(const Circuit& circuit, const OperatingPoint& op,
                   const std::map<std::string, double>& glow, std::size_t limit) {
    Drawing d;
    d.title = "Arrangement";
    const auto strings = led_strings(circuit);
    const std::size_t shown = std::min(strings.size(), limit);
    std::size_t longest = 1;
    for (const auto& s : strings) longest = std::max(longest, s.leds.size() + (s.resistor ? 1 : 0));
    const double bottom = top_rail + step * static_cast<double>(longest);
    d.width = first_x + gap * static_cast<double>(std::max<std::size_t>(shown, 1)) + 40;
    d.height = bottom + 34;
    if (strings.empty()) {
        d.text(20, 40,
               any(circuit, Role::light) ? "Its lights sit inside other parts."
                                         : "There is no LED in this circuit yet.",
               13, Ink::muted);
        return d;
    }
    const double right = first_x + gap * static_cast<double>(shown - 1) + 30;
    d.add(Line{first_x - 30, top_rail, right, top_rail}, {Ink::light, 3}, "net:" + strings[0].from);
    d.add(Line{first_x - 30, bottom, right, bottom}, {Ink::structure, 3}, "net:" + strings[0].to);
    d.text(right + 8, top_rail + 5, format_quantity(op.voltage(strings[0].from), Unit::volt), 12.5, Ink::ink,
           true);
    d.text(right + 8, bottom + 5, format_quantity(op.voltage(strings[0].to), Unit::volt), 12.5, Ink::ink,
           true);
    for (std::size_t i = 0; i < shown; ++i) {
        const LedString& s = strings[i];
        const double x = first_x + gap * static_cast<double>(i);
        std::vector<const Part*> parts;
        if (s.resistor) parts.push_back(s.resistor);
        parts.insert(parts.end(), s.leds.begin(), s.leds.end());
        const double pitch = (bottom - top_rail) / static_cast<double>(parts.size());
        for (std::size_t k = 0; k < parts.size(); ++k) {
            const Part& part = *parts[k];
            const double y0 = top_rail + pitch * static_cast<double>(k), y1 = y0 + pitch,
                         middle = (y0 + y1) / 2;
            SymbolState look;
            if (const auto g = glow.find(part.designator); g != glow.end()) look.glow = g->second;
            if (const LedType* type =
                    is(part, Role::light) ? known_catalogue().led(part.text("type")) : nullptr)
                look.light_rgb = static_cast<unsigned>(std::stoul(type->rgb.substr(1), nullptr, 16));
            add_symbol(d, part, x, y0, y1, middle, false, look);
            if (is(part, Role::resistor)) add_bands(d, part, x, middle);
            const double tx = x + (is(part, Role::light) ? 28 : 16);
            const std::string value =
                is(part, Role::resistor) ? format_quantity(part.number("value"), Unit::ohm) : part.designator;
            d.text(tx, middle - 2, value, 12.5, Ink::ink, true, Anchor::start, "part:" + part.designator);
            d.text(tx, middle + 13, format_quantity(op.part(part.designator).voltage, Unit::volt), 12,
                   Ink::muted, false, Anchor::start, "part:" + part.designator);
        }
        d.text(x, bottom + 22, format_quantity(op.part(s.leds.front()->designator).current, Unit::ampere),
               12.5, Ink::attention, true, Anchor::middle);
    }
    if (shown < strings.size())
        d.text(right + 8, (top_rail + bottom) / 2, fmt::format("and {} more", strings.size() - shown), 12,
               Ink::muted);
    return d;
}

}  // namespace elkit
