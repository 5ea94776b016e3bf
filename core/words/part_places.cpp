#include "words/part_places.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <map>

#include "circuit/edit.hpp"
#include "quantity/plain_text.hpp"
#include "words/words.hpp"

namespace elkit {
namespace {

/// Other names of pins, as they stand on leaflets.
constexpr std::pair<const char*, const char*> pin_words[] = {
    {"collector", "c"}, {"base", "b"},     {"emitter", "e"},    {"gate", "g"},      {"drain", "d"},
    {"source", "s"},    {"anode", "a"},    {"cathode", "k"},    {"plus", "+"},      {"minus", "-"},
    {"ground", "gnd"},  {"supply", "vcc"}, {"vdd", "vcc"},      {"power", "vcc"},   {"v+", "vcc"},
    {"input", "in"},    {"com", "common"}, {"middle", "wiper"}, {"slider", "wiper"}};

}  // namespace

const std::string* pin_from_word(const PartKind& kind, const std::string& typed) {
    const std::string word = lower_case(typed);
    const std::string* begins = nullptr;
    for (const std::string& pin : kind.pins) {
        const std::string name = lower_case(pin);
        if (name == word) return &pin;
        if (name.size() >= 3 && word.size() > name.size() && word.starts_with(name)) begins = &pin;
    }
    for (const auto& [other, name] : pin_words)
        if (word == other)
            for (const std::string& pin : kind.pins)
                if (lower_case(pin) == name) return &pin;
    return begins;
}

namespace {

/// Nets of two words. Where both mean one net, as "v+" and "vcc" do before there is a net VCC, the one that
/// is no net's name begins a net of its own: no part has both ends on one net.
Ends two_ends(const Circuit& circuit, const std::string& first, const std::string& second) {
    Ends ends{net_from_word(circuit, first), net_from_word(circuit, second)};
    if (ends.first != ends.second || lower_case(first) == lower_case(second)) return ends;
    const auto named = [](const std::string& word) { return word.size() > 2; };  // not "0", "-", "0v"
    if (find_net(circuit, second).empty() && named(second))
        ends.second = upper_case(second);
    else if (find_net(circuit, first).empty() && named(first))
        ends.first = upper_case(first);
    return ends;
}

}  // namespace

Result<std::optional<Ends>> take_ends(std::vector<std::string>& line, const Circuit& circuit) {
    std::optional<Ends> ends;
    for (std::size_t k = 0; k < line.size(); ++k) {
        const std::string word = lower_case(line[k]);
        const auto next = [&](std::size_t n) { return k + n < line.size() ? line[k + n] : std::string(); };
        std::size_t used = 0;
        if (is_among(word, {"from", "between"})) {
            if (next(1).empty() || next(3).empty() || !is_among(lower_case(next(2)), {"to", "and"}))
                return usage(word, "two nets are wanted", "from A to B");
            ends = two_ends(circuit, next(1), next(3));
            used = 4;
        } else if (word == "across") {
            const Part* other =
                lower_case(next(1)) == "supply" ? circuit.source() : part_from_word(circuit, next(1));
            const std::size_t second = lower_case(next(2)) == "and" ? 3 : 2;
            if (other && other->pins.size() >= 2) {
                ends = {other->pins[0].net, other->pins[1].net};
                used = 2;
            } else if (!next(1).empty() && !next(second).empty()) {
                ends = two_ends(circuit, next(1), next(second));
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
        const std::string* pin = pin_from_word(kind, line[k]);
        if (!pin || nets.contains(*pin)) {
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
    std::vector<std::string> missing;
    for (const auto& name : pins) {
        if (nets.contains(name))
            all.push_back({name, nets.at(name)});
        else if (!kind.optional(name))
            missing.push_back(name);
    }
    if (!missing.empty())
        return usage(
            kind.name,
            nets.empty() ? "it is not said where"
                         : fmt::format("no net yet for {} {}", missing.size() == 1 ? "pin" : "pins",
                                       fmt::join(missing, ", ")),
            pins.size() == 2 ? "from A to B" : fmt::format("a net behind each of {}", fmt::join(pins, ", ")));
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
