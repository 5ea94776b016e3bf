#include "command/circuit_command.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <sstream>

#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

using Words = std::vector<std::string>;

std::string lower_case(std::string text) {
    for (char& c : text) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

std::string upper_case(std::string text) {
    for (char& c : text) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    return text;
}

Words split(const std::string& line) {
    std::istringstream in(line);
    Words words;
    for (std::string w; in >> w;) words.push_back(w);
    return words;
}

const Part* part_from_word(const Circuit& circuit, const std::string& typed) {
    for (const Part& part : circuit.parts)
        if (lower_case(part.designator) == lower_case(typed)) return &part;
    return nullptr;
}

/// An existing net in its own spelling; "gnd" and "0" mean the negative rail, "v+" the supply's plus, when
/// nothing else is called so; anything else is a new net in capitals.
std::string net_from_word(const Circuit& circuit, const std::string& typed) {
    if (std::string net = find_net(circuit, typed); !net.empty()) return net;
    const std::string word = lower_case(typed);
    if ((word == "gnd" || word == "0" || word == "minus") && circuit.source()) return circuit.negative_rail();
    if ((word == "v+" || word == "plus") && circuit.source()) return circuit.source()->net("+");
    return upper_case(typed);
}

Command edit(const Design& design, Circuit circuit, std::string preview) {
    Command c;
    c.kind = Command::Kind::edit;
    c.design = with_circuit(design, std::move(circuit));
    c.preview = std::move(preview);
    return c;
}

std::string pins_text(const Part& part) {
    std::string text;
    for (const Pin& p : part.pins) text += (text.empty() ? "" : ", ") + p.name + " on " + p.net;
    return text;
}

/// Nets of the new part's pins from the words behind kind and value.
Result<void> connect(Part& part, const PartKind& kind, const Words& words, const Circuit& circuit) {
    const auto set = [&](const std::string& pin, const std::string& net) { part.pins.push_back({pin, net}); };
    const auto two = [&](const std::string& a, const std::string& b) -> Result<void> {
        if (kind.pins.size() < 2) return Error{Fault::usage, kind.name, "has one pin", "its pin and a net"};
        set(kind.pins.front(), a);
        set(kind.pins.size() == 2 ? kind.pins[1] : kind.pins.back(), b);
        return success();
    };
    for (std::size_t k = 0; k < words.size(); ++k) {
        const std::string word = lower_case(words[k]);
        const auto next = [&](std::size_t n) { return k + n < words.size() ? words[k + n] : std::string(); };
        if (word == "from" || word == "between") {
            const std::string middle = lower_case(next(2));
            if (next(1).empty() || next(3).empty() || (middle != "to" && middle != "and"))
                return Error{Fault::usage, word, "two nets are wanted", "from A to B"};
            if (auto done = two(net_from_word(circuit, next(1)), net_from_word(circuit, next(3))); !done)
                return done;
            k += 3;
        } else if (word == "across") {
            const Part* other = part_from_word(circuit, next(1));
            if (lower_case(next(1)) == "supply") other = circuit.source();
            if (other && other->pins.size() >= 2) {
                if (auto done = two(other->pins[0].net, other->pins[1].net); !done) return done;
                k += 1;
            } else if (!next(1).empty() && !next(2).empty()) {
                const std::size_t second = lower_case(next(2)) == "and" ? 3 : 2;
                if (next(second).empty())
                    return Error{Fault::usage, word, "one net is missing", "across A and B"};
                if (auto done = two(net_from_word(circuit, next(1)), net_from_word(circuit, next(second)));
                    !done)
                    return done;
                k += second;
            } else {
                return Error{Fault::usage, word, "across what?", "across supply, a part, or two nets"};
            }
        } else {
            const auto pin = std::find_if(kind.pins.begin(), kind.pins.end(),
                                          [&](const std::string& p) { return lower_case(p) == word; });
            if (pin == kind.pins.end() || next(1).empty())
                return Error{Fault::usage, words[k], "cannot be read here",
                             fmt::format("from A to B, across A B, or pins: {}", fmt::join(kind.pins, ", "))};
            set(*pin, net_from_word(circuit, next(1)));
            k += 1;
        }
    }
    std::vector<Pin> pins;
    for (const auto& name : kind.pins) {
        const auto at =
            std::find_if(part.pins.begin(), part.pins.end(), [&](const Pin& p) { return p.name == name; });
        if (at != part.pins.end())
            pins.push_back(*at);
        else if (!kind.optional(name))
            return Error{Fault::usage, kind.name, "pin " + name + " has no net yet",
                         fmt::format("all of {}", fmt::join(kind.pins, ", "))};
    }
    part.pins = std::move(pins);
    return success();
}

/// The usual kind behind a designator such as "r9": letters, then a number.
const PartKind* kind_of_designator(const std::string& word) {
    const auto digits = word.find_first_of("0123456789");
    if (digits == 0 || digits == std::string::npos ||
        word.find_first_not_of("0123456789", digits) != std::string::npos)
        return nullptr;
    const std::string prefix = upper_case(word.substr(0, digits));
    const PartKind* found = nullptr;  // where several share a letter, the one that is meant by it alone
    for (const PartKind& kind : part_kinds())
        if (kind.prefix == prefix && (!found || kind.is(Role::usual))) found = &kind;
    return found;
}

Result<std::optional<Command>> insertion(const Words& words, const Design& design) {
    std::size_t at = 0;
    const PartKind* kind = part_kind_from_word(words[0]);
    std::string designator;
    if (!kind && words.size() > 1 && !part_from_word(design.circuit, words[0]) &&
        (kind = part_kind_from_word(words[1]))) {
        designator = upper_case(words[0]);
        at = 1;
    }
    if (!kind && !part_from_word(design.circuit, words[0]) && (kind = kind_of_designator(words[0])))
        designator = upper_case(words[0]);
    if (!kind || words.size() == at + 1) return std::optional<Command>();
    static constexpr std::array stops{"from", "across", "between"};
    std::size_t end = at + 1;  // value words come before the first net word or pin name
    while (end < words.size() &&
           std::find(stops.begin(), stops.end(), lower_case(words[end])) == stops.end() &&
           std::none_of(kind->pins.begin(), kind->pins.end(),
                        [&](const std::string& p) { return lower_case(p) == lower_case(words[end]); }))
        ++end;
    if (end == words.size()) return std::optional<Command>();  // "led red-5mm": a goal, not an insertion
    Part part{
        designator.empty() ? design.circuit.free_designator(kind->prefix) : designator, kind->id, {}, {}, {}};
    if (auto connected =
            connect(part, *kind, Words(words.begin() + static_cast<std::ptrdiff_t>(end), words.end()),
                    design.circuit);
        !connected)
        return connected.error();
    Design next = design;
    next.circuit.parts.push_back(part);
    std::string value;
    for (std::size_t k = at + 1; k < end; ++k) value += (value.empty() ? "" : " ") + words[k];
    if (!value.empty()) {
        auto valued = set_parameter(next, part.designator, kind->value_key, value);
        if (!valued) return valued.error();
        next = std::move(valued).value();
    }
    const Part& made = *next.circuit.find(part.designator);
    Circuit circuit = next.circuit;
    return std::optional<Command>(edit(
        design, std::move(circuit),
        fmt::format("new {} {} {}: {}", kind->name, made.designator, value_text(made), pins_text(made))));
}

/// One of the edits that start with a verb.
Result<std::optional<Command>> verb(const Words& w, const Design& design) {
    const Circuit& circuit = design.circuit;
    const std::string first = lower_case(w[0]);
    const auto named = [&](std::size_t k) { return k < w.size() ? part_from_word(circuit, w[k]) : nullptr; };
    const auto finish = [&](Result<Circuit> next, std::string preview) -> Result<std::optional<Command>> {
        if (!next) return next.error();
        return std::optional<Command>(edit(design, std::move(next).value(), std::move(preview)));
    };
    const auto part_wanted = [&](const char* example) {
        return Error{Fault::usage, w[0], w.size() > 1 ? "there is no part " + w[1] : "which part?", example};
    };
    if (first == "delete" || first == "remove") {
        if (!named(1)) return part_wanted("delete R1");
        return finish(delete_part(circuit, named(1)->designator), "delete " + named(1)->designator);
    }
    if (first == "duplicate" || first == "copy") {
        if (!named(1)) return part_wanted("duplicate R1");
        return finish(duplicate_part(circuit, named(1)->designator), "another " + named(1)->designator);
    }
    if (first == "flip" || first == "turn") {
        if (!named(1)) return part_wanted("flip D1");
        return finish(flip_part(circuit, named(1)->designator), "turn " + named(1)->designator + " round");
    }
    if (first == "replace") {
        if (!named(1)) return part_wanted("replace R1 with potentiometer");
        const PartKind* kind = w.size() > 3 ? part_kind_from_word(w[3]) : nullptr;
        if (!kind) return Error{Fault::usage, "replace", "by what kind?", "one of " + known_kinds()};
        return finish(replace_kind(circuit, named(1)->designator, kind->id),
                      fmt::format("{} becomes a {}", named(1)->designator, kind->name));
    }
    if (first == "rename" && w.size() > 3) {
        if (lower_case(w[1]) == "net") {
            const std::string net = find_net(circuit, w[2]);
            const std::string name = w.size() > 4 ? w[4] : w[3];
            return finish(rename_net(circuit, net.empty() ? w[2] : net, name),
                          fmt::format("net {} becomes {}", w[2], name));
        }
        if (!named(1)) return part_wanted("rename R1 to R5, or rename net A to B");
        const std::string name = upper_case(w[3]);
        return finish(rename_part(circuit, named(1)->designator, name),
                      named(1)->designator + " becomes " + name);
    }
    // r1.a to out
    const auto dot = w[0].find('.');
    if (dot != std::string::npos && w.size() == 3 && lower_case(w[1]) == "to") {
        const Part* part = part_from_word(circuit, w[0].substr(0, dot));
        if (part) {
            const std::string pin = w[0].substr(dot + 1), net = net_from_word(circuit, w[2]);
            return finish(move_pin(circuit, part->designator, pin, net),
                          fmt::format("{} pin {} to {}", part->designator, pin, net));
        }
    }
    return std::optional<Command>();
}

}  // namespace

Result<std::optional<Command>> circuit_command(const std::string& line, const Design& design) {
    const Words words = split(line);
    if (words.empty()) return std::optional<Command>();
    auto done = verb(words, design);
    if (!done || done.value()) return done;
    return insertion(words, design);
}

Result<std::optional<Command>> world_command(const std::string& line, const Design& design,
                                             const Conditions& conditions) {
    const Words words = split(line);
    Command c;
    c.kind = Command::Kind::condition;
    c.conditions = conditions;
    if (words.size() == 2 && (lower_case(words[0]) == "press" || lower_case(words[0]) == "release")) {
        const Part* part = part_from_word(design.circuit, words[1]);
        if (!part || !is(*part, Role::contact))
            return Error{Fault::usage, words[0], "there is no switch " + words[1],
                         "a switch or button of the circuit"};
        const bool press = lower_case(words[0]) == "press";
        c.conditions->switches[part->designator] = press;
        c.preview = lower_case(words[0]) + " " + part->designator;
        return std::optional<Command>(c);
    }
    if (words.size() >= 3 && lower_case(words[1]) == "at") {
        const Part* part = part_from_word(design.circuit, words[0]);
        if (part && is_knob(*part)) {
            std::string typed = words[2];
            for (std::size_t k = 3; k < words.size(); ++k) typed += words[k];
            auto value = parse_quantity(typed, Unit::percent);
            if (!value) return value.error();
            const double share = typed.find('%') == std::string::npos && value.value() <= 1
                                     ? value.value()
                                     : value.value() / 100;
            if (share < 0 || share > 1) return Error{Fault::usage, words[0], "found " + typed, "0 to 100 %"};
            c.conditions->knobs[part->designator] = share;
            c.preview = fmt::format("{} at {:.0f} %", part->designator, 100 * share);
            return std::optional<Command>(c);
        }
        if (part && has_level(*part)) {
            const Unit unit = level_unit(*part);
            auto value = parse_quantity(words[2], unit);
            if (!value) return value.error();
            if (std::abs(value.value()) > 60)
                return Error{Fault::usage, words[0], "found " + words[2], "60 V or 60 A at most"};
            c.conditions->levels[part->designator] = value.value();
            c.preview = part->designator + " at " + format_quantity(value.value(), unit);
            return std::optional<Command>(c);
        }
    }
    if (words.size() >= 2 && (lower_case(words[0]) == "lux" || lower_case(words[0]) == "infrared")) {
        auto value = parse_quantity(words[1], Unit::none);
        if (!value) return value.error();
        const bool lux = lower_case(words[0]) == "lux";
        const double most = lux ? 2e5 : 1000;
        if (value.value() < 0 || value.value() > most)
            return Error{Fault::usage, words[0], "found " + words[1], fmt::format("0 to {}", most)};
        (lux ? c.conditions->lux : c.conditions->infrared) = value.value();
        c.preview = fmt::format("{} {}", words[0], words[1]);
        return std::optional<Command>(c);
    }
    return std::optional<Command>();
}

std::vector<std::string> circuit_completions(const std::string& text, const Design& design) {
    const Words words = split(text);
    std::vector<std::string> lines;
    const bool space = !text.empty() && text.back() == ' ';
    if (words.size() >= 2) {
        const std::string before = lower_case(space ? words.back() : words[words.size() - 2]);
        const std::string begun = space ? "" : lower_case(words.back());
        if (before == "from" || before == "to" || before == "across" || before == "and") {
            const std::string head = space ? text : text.substr(0, text.size() - words.back().size());
            if (before == "across" && std::string("supply").starts_with(begun))
                lines.push_back(head + "supply");
            for (const auto& net : design.circuit.nets())
                if (lower_case(net).starts_with(begun)) lines.push_back(head + net);
        }
        return lines;
    }
    for (const Part& part : design.circuit.parts)
        for (const char* verb : {"delete ", "duplicate "}) lines.push_back(verb + part.designator);
    for (const Part& part : design.circuit.parts) {
        if (is_knob(part)) lines.push_back(part.designator + " at 50 %");
        if (is(part, Role::momentary))
            lines.push_back("press " + part.designator), lines.push_back("release " + part.designator);
    }
    return lines;
}

}  // namespace elkit
