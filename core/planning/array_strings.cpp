#include "planning/array_strings.hpp"

#include <fmt/format.h>

#include <cmath>

namespace elkit {

Arrangement split_into(int count, int per_string) {
    Arrangement a;
    a.per_string = per_string;
    const int full = count / per_string, rest = count % per_string;
    a.strings.resize(rest > 0 ? 2 : 1);
    a.strings.front().leds = per_string, a.strings.front().strings = full;
    if (rest > 0) a.strings.back().leds = rest;
    return a;
}

Circuit strings_on_source(const ArrayQuestion& question, const Arrangement& arrangement) {
    Circuit circuit;
    Part source = question.source;
    source.pins = {{"+", "V+"}, {"-", "GND"}};
    circuit.parts.push_back(std::move(source));
    int nets = 0;
    const auto add = [&](const char* prefix, Part part) {
        part.designator = circuit.free_designator(prefix);
        circuit.parts.push_back(std::move(part));
    };
    for (const AlikeStringsOfArray& s : arrangement.strings)
        for (int k = 0; k < s.strings; ++k) {
            std::string net = "V+";
            if (s.resistance > 0) {
                net = fmt::format("A{}", ++nets);
                Part resistor{"", "resistor", {{"value", s.resistance}}, {{"a", "V+"}, {"b", net}}, {}};
                if (s.rating > 0.25 && std::isfinite(s.rating)) resistor.params["rating"] = s.rating;
                add("R", std::move(resistor));
            }
            for (int n = 1; n <= s.leds; ++n) {
                const std::string next = n == s.leds ? "GND" : fmt::format("A{}", ++nets);
                add("L", {"", question.led.kind, question.led.params, {{"a", net}, {"k", next}}, {}});
                net = next;
            }
        }
    return circuit;
}

}  // namespace elkit
