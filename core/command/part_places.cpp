#include "command/part_places.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <map>

#include "circuit/edit.hpp"
#include "command/words.hpp"
#include "quantity/plain_text.hpp"

namespace elkit {

Result<std::optional<Ends>> take_ends(std::vector<std::string>& line, const Circuit& circuit) {
    std::optional<Ends> ends;
    for (std::size_t k = 0; k < line.size(); ++k) {
        const std::string word = lower_case(line[k]);
        const auto next = [&](std::size_t n) { return k + n < line.size() ? line[k + n] : std::string(); };
        std::size_t used = 0;
        if (is_among(word, {"from", "between"})) {
            if (next(1).empty() || next(3).empty() || !is_among(lower_case(next(2)), {"to", "and"}))
                return usage(word, "two nets are wanted", "from A to B");
            ends = {net_from_word(circuit, next(1)), net_from_word(circuit, next(3))};
            used = 4;
        } else if (word == "across") {
            const Part* other =
                lower_case(next(1)) == "supply" ? circuit.source() : part_from_word(circuit, next(1));
            const std::size_t second = lower_case(next(2)) == "and" ? 3 : 2;
            if (other && other->pins.size() >= 2) {
                ends = {other->pins[0].net, other->pins[1].net};
                used = 2;
            } else if (!next(1).empty() && !next(second).empty()) {
                ends = {net_from_word(circuit, next(1)), net_from_word(circuit, next(second))};
                used = second + 1;
            } else {
                return usage(word, "across what?", "across supply, a part, or two nets");
            }
        } else {
            continue;
        }
        line.erase(line.begin() + static_cast<std::ptrdiff_t>(k),
                   line.begin() + static_cast<std::ptrdiff_t>(k + used));
        break;
    }
    return ends;
}

Result<std::vector<Pin>> take_pins(std::vector<std::string>& line, std::size_t from, const PartKind& kind,
                                   const std::optional<Ends>& ends, const Circuit& circuit) {
    std::map<std::string, std::string> nets;
    std::vector<Pin> all;
    const auto& pins = kind.pins;
    if (ends) {
        if (pins.size() < 2) return usage(kind.name, "has one pin", "its pin and a net");
        nets[pins.front()] = ends->first;
        nets[pins.size() == 2 ? pins[1] : pins.back()] = ends->second;
    }
    for (std::size_t k = from; k + 1 < line.size();) {
        const auto pin = std::find_if(pins.begin(), pins.end(), [&](const std::string& p) {
            return lower_case(p) == lower_case(line[k]);
        });
        if (pin == pins.end() || nets.contains(*pin)) {
            ++k;
            continue;
        }
        const bool said = is_among(lower_case(line[k + 1]), {"on", "to"}) && k + 2 < line.size();
        const std::size_t on = said ? 2 : 1;
        nets[*pin] = net_from_word(circuit, line[k + on]);
        line.erase(line.begin() + static_cast<std::ptrdiff_t>(k),
                   line.begin() + static_cast<std::ptrdiff_t>(k + on + 1));
    }
    if (nets.empty() && kind.is(Role::source) && !circuit.source())
        nets = {{"+", net_from_word(circuit, "V+")}, {"-", net_from_word(circuit, "GND")}};
    for (const auto& name : pins) {
        if (nets.contains(name))
            all.push_back({name, nets.at(name)});
        else if (!kind.optional(name))
            return usage(kind.name, nets.empty() ? "it is not said where" : "pin " + name + " has no net yet",
                         pins.size() == 2 ? "from A to B" : fmt::format("all of {}", fmt::join(pins, ", ")));
    }
    if (all.empty()) return usage(kind.name, "it is not said where", "a pin and a net");
    return all;
}

const Part* part_from_word(const Circuit& circuit, const std::string& typed) {
    for (const Part& part : circuit.parts)
        if (lower_case(part.designator) == lower_case(typed)) return &part;
    return nullptr;
}

std::string net_from_word(const Circuit& circuit, const std::string& typed) {
    if (std::string net = find_net(circuit, typed); !net.empty()) return net;
    const std::string word = lower_case(typed);
    if (circuit.source()) {
        if (is_among(word, {"gnd", "0", "0v", "minus", "ground", "vss", "-"})) return circuit.negative_rail();
        if (is_among(word, {"v+", "plus", "vcc", "vdd", "+"})) return circuit.source()->net("+");
    }
    return upper_case(typed);
}

}  // namespace elkit
