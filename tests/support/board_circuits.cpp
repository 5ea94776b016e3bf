#include "support/board_circuits.hpp"

#include <algorithm>
#include <array>
#include <map>
#include <random>
#include <string>
#include <vector>

#include "circuit/connectivity.hpp"
#include "circuit/part_kind.hpp"

namespace elkit::test {
namespace {

/// How often what is met among twenty parts of a small gadget.
constexpr std::array kinds{"resistor",  "resistor",  "resistor",     "resistor", "resistor",
                           "resistor",  "led",       "led",          "led",      "led",
                           "capacitor", "capacitor", "electrolytic", "diode",    "diode",
                           "npn",       "nmos",      "timer",        "button",   "switch"};

}  // namespace

Circuit board_circuit(int parts, unsigned seed) {
    std::mt19937 random(seed);
    const auto below = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
    Circuit circuit;
    circuit.parts.push_back({"B1", "battery", {}, {{"+", "VCC"}, {"-", "GND"}}, {}});
    std::map<std::string, int> count;
    for (int k = 1; k < parts; ++k) {
        const PartKind& kind = *part_kind(kinds[below(kinds.size())]);
        Part part{kind.prefix + std::to_string(++count[kind.prefix]), kind.id, {}, {}, {}};
        for (const std::string& pin : kind.pins) part.pins.push_back({pin, ""});
        circuit.parts.push_back(std::move(part));
    }
    std::vector<Pin*> open;
    for (Part& part : circuit.parts)
        for (Pin& pin : part.pins)
            if (pin.net.empty()) open.push_back(&pin);
    for (std::size_t k = open.size(); k > 1; --k) std::swap(open[k - 1], open[below(k)]);
    constexpr std::size_t on_a_rail = 6;  // of which one is
    const std::size_t railed = open.size() / on_a_rail;
    for (std::size_t k = 0; k < 2 * railed && k < open.size(); ++k) open[k]->net = k % 2 == 0 ? "VCC" : "GND";
    int net = 0;
    for (std::size_t k = 2 * railed; k < open.size();) {
        const std::size_t left = open.size() - k, size = left <= 4 ? left : 2 + below(3);
        const std::string name = left < 2 ? "GND" : "N" + std::to_string(++net);
        for (std::size_t end = k + size; k < end; ++k) open[k]->net = name;
    }
    // what could not be supplied hangs on a rail
    for (int round = 0; round < 200; ++round) {
        const auto errors = connectivity_errors(circuit);
        if (errors.empty()) break;
        const std::string& place = errors.front().place;
        const std::string rail = round % 2 == 0 ? "VCC" : "GND";
        const std::string name = place.substr(place.find(' ') + 1);
        if (name == "B1") {  // shorted through contacts
            for (Part& part : circuit.parts)
                if (is(part, Role::contact) &&
                    errors.front().found.find(part.designator) != std::string::npos)
                    part.kind = "resistor";
            continue;
        }
        if (place.starts_with("part")) {
            Pin& pin = circuit.find(name)->pins[static_cast<std::size_t>(round / 2 % 2)];
            pin.net = pin.net == rail ? (rail == "VCC" ? "GND" : "VCC") : rail;
            continue;
        }
        for (Part& part : circuit.parts)
            for (Pin& pin : part.pins)
                if (pin.net == name) pin.net = rail;
    }
    return circuit;
}

}  // namespace elkit::test
