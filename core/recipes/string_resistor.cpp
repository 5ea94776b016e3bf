#include "recipes/string_resistor.hpp"

#include <fmt/format.h>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"

namespace elkit {

Result<ResistorAnswer> size_string(const StringQuestion& s) {
    auto source = source_model(s.source, known_catalogue(), {});
    if (!source) return source.error();
    auto junction = junction_model(s.led, known_catalogue(), s.celsius, 0);
    if (!junction) return junction.error();
    const Thevenin cells = s.feed.value_or(source.value());
    const double ohms = cells.lasting() + (s.feed ? 0 : s.contact);
    ResistorQuestion q;
    q.supply = cells.voltage - s.total * ohms;
    q.leds_voltage = s.leds * junction.value().voltage_at(s.led_current);
    q.current = s.current;
    q.series = s.series, q.rounding = s.rounding, q.owned = s.owned;
    auto answer = choose_resistor(q);
    if (!answer) return answer;
    auto& working = answer.value().working;
    working.insert(
        working.begin(),
        {fmt::format("V {}, fresh and loaded = {} − {} × {} = {}", s.feed ? "where they hang" : "supply",
                     format_quantity(cells.voltage, Unit::volt), format_quantity(s.total, Unit::ampere),
                     format_quantity(ohms, Unit::ohm), format_quantity(q.supply, Unit::volt)),
         fmt::format("V LEDs = {} × {} at {}, from the LED's own curve", s.leds,
                     format_quantity(q.leds_voltage / s.leds, Unit::volt),
                     format_quantity(s.led_current, Unit::ampere))});
    return answer;
}

}  // namespace elkit
