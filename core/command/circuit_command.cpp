#include "command/circuit_command.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <sstream>

#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "engine/history.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"
#include "recipes/blocks.hpp"
#include "words/described_part.hpp"
#include "words/part_places.hpp"
#include "words/words.hpp"

namespace elkit {
namespace {

Words split(const std::string& line) {
    std::istringstream in(line);
    Words words;
    for (std::string w; in >> w;) words.push_back(w);
    return words;
}

Command edit(const Design& design, Circuit circuit, std::string preview) {
    Command c;
    c.kind = Command::Kind::edit;
    c.design = with_circuit(design, std::move(circuit));
    c.preview = std::move(preview);
    return c;
}

struct PinAndNet {
    std::string part, pin, net;
};

/// "r1.a to out", "connect q1 base to out", "rv1.wiper = out".
std::optional<PinAndNet> pin_and_net(Words w, const Circuit& circuit) {
    if (is_among(lower_case(w[0]), {"connect", "join", "move"})) w.erase(w.begin());
    if (w.empty()) return std::nullopt;
    const auto dot = w[0].find('.');
    if (dot != std::string::npos) {
        w.insert(w.begin() + 1, w[0].substr(dot + 1));
        w[0].resize(dot);
    }
    const Part* part = part_from_word(circuit, w[0]);
    if (!part || w.size() != 4 || !is_among(lower_case(w[2]), {"to", "=", "on"})) return std::nullopt;
    const PartKind* kind = part_kind(part->kind);
    const std::string* pin = kind ? pin_from_word(*kind, w[1]) : nullptr;
    if (!pin && (dot == std::string::npos || w[2] == "=")) return std::nullopt;  // "r1.value = 82"
    return PinAndNet{part->designator, pin ? *pin : w[1], net_from_word(circuit, w[3])};
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
    if (const auto place = pin_and_net(w, circuit))
        return finish(move_pin(circuit, place->part, place->pin, place->net),
                      fmt::format("{} pin {} to {}", place->part, place->pin, place->net));
    return std::optional<Command>();
}

}  // namespace

Result<std::optional<Command>> circuit_command(const std::string& line, const Design& design) {
    const Words words = split(line);
    if (words.empty()) return std::optional<Command>();
    auto done = verb(words, design);
    if (!done || done.value()) return done;
    auto part = described_part(line, design.circuit);
    const bool says_where = std::any_of(words.begin(), words.end(), [](const std::string& word) {
        const std::string low = lower_case(word);
        return low == "from" || low == "between" || low == "across";
    });
    if (!part && says_where) return part.error();
    if (!part || !part.value()) return std::optional<Command>();  // "led red": a goal, not an insertion
    Circuit circuit = design.circuit;
    circuit.parts.push_back(*part.value());
    return std::optional<Command>(edit(design, std::move(circuit), "new " + describe(*part.value())));
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
        put_hand(*c.conditions, design.circuit, part->designator, press);
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
