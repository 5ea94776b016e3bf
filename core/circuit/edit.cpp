#include "circuit/edit.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>

#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

Error no_part(const std::string& designator) {
    return {Fault::usage, designator, "there is no such part", "a part of the circuit"};
}

bool same_word(const std::string& a, const std::string& b) {
    return a.size() == b.size() &&
           std::equal(a.begin(), a.end(), b.begin(),
                      [](unsigned char x, unsigned char y) { return std::tolower(x) == std::tolower(y); });
}

/// Copies the circuit and changes one part of it.
template <class Change>
Result<Circuit> with_part(const Circuit& circuit, const std::string& designator, Change change) {
    Circuit next = circuit;
    Part* part = next.find(designator);
    if (!part) return no_part(designator);
    if (auto error = change(next, *part)) return *error;
    return next;
}
using Trouble = std::optional<Error>;

}  // namespace

std::string find_net(const Circuit& circuit, const std::string& typed) {
    for (const auto& net : circuit.nets())
        if (same_word(net, typed)) return net;
    return {};
}

Result<Circuit> delete_part(const Circuit& circuit, const std::string& designator) {
    Circuit next = circuit;
    if (std::erase_if(next.parts, [&](const Part& p) { return p.designator == designator; }) == 0)
        return no_part(designator);
    return next;
}

Result<Circuit> duplicate_part(const Circuit& circuit, const std::string& designator) {
    return with_part(circuit, designator, [](Circuit& next, const Part& part) -> Trouble {
        Part copy = part;
        const PartKind* kind = part_kind(part.kind);
        copy.designator = next.free_designator(kind ? kind->prefix : "X");
        const auto at = std::find_if(next.parts.begin(), next.parts.end(),
                                     [&](const Part& p) { return p.designator == part.designator; });
        next.parts.insert(at + 1, std::move(copy));
        return {};
    });
}

Result<Circuit> rename_part(const Circuit& circuit, const std::string& designator, const std::string& name) {
    if (name.empty())
        return Error{Fault::usage, designator, "the new name is empty", "a designator such as R5"};
    if (name != designator && circuit.find(name))
        return Error{Fault::usage, name, "there is a part of that name already", "another designator"};
    return with_part(circuit, designator, [&](Circuit&, Part& part) -> Trouble {
        part.designator = name;
        return {};
    });
}

Result<Circuit> rename_net(const Circuit& circuit, const std::string& net, const std::string& name) {
    if (name.empty()) return Error{Fault::usage, net, "the new name is empty", "a net name such as OUT"};
    Circuit next = circuit;
    bool found = false;
    for (Part& part : next.parts)
        for (Pin& pin : part.pins)
            if (pin.net == net) pin.net = name, found = true;
    if (!found) return Error{Fault::usage, net, "there is no such net", "a net of the circuit"};
    return next;
}

Result<Circuit> move_pin(const Circuit& circuit, const std::string& designator, const std::string& pin,
                         const std::string& net) {
    return with_part(circuit, designator, [&](Circuit&, Part& part) -> Trouble {
        for (Pin& p : part.pins)
            if (same_word(p.name, pin)) {
                p.net = net;
                return {};
            }
        const PartKind* kind = part_kind(part.kind);
        if (kind && kind->optional(pin)) {  // it was left open until now
            part.pins.push_back({pin, net});
            const auto place = [&](const Pin& p) {
                return std::find(kind->pins.begin(), kind->pins.end(), p.name);
            };
            std::sort(part.pins.begin(), part.pins.end(),
                      [&](const Pin& a, const Pin& b) { return place(a) < place(b); });
            return {};
        }
        return Error{Fault::usage, designator + "." + pin, "there is no such pin",
                     kind ? fmt::format("one of {}", fmt::join(kind->pins, ", ")) : "a pin of the part"};
    });
}

Result<Circuit> flip_part(const Circuit& circuit, const std::string& designator) {
    return with_part(circuit, designator, [&](Circuit&, Part& part) -> Trouble {
        if (part.pins.size() != 2)
            return Error{Fault::usage, designator, fmt::format("has {} pins", part.pins.size()),
                         "a part with two pins"};
        std::swap(part.pins[0].net, part.pins[1].net);
        return {};
    });
}

Result<Circuit> insert_at_pin(const Circuit& circuit, const std::string& designator, const std::string& pin,
                              Part added, const std::string& between) {
    const PartKind* kind = part_kind(added.kind);
    if (!kind || kind->pins.size() != 2)
        return Error{Fault::usage, added.kind, "does not fit in a row with a pin", "a kind with two pins"};
    added.pins.clear();
    return insert_at_pin(circuit, designator, pin, std::move(added), kind->pins[0], kind->pins[1], between);
}

std::string free_net(const Circuit& circuit, const std::string& like) {
    const auto nets = circuit.nets();
    std::string net = like;
    for (int k = 2; std::find(nets.begin(), nets.end(), net) != nets.end(); ++k)
        net = fmt::format("{}_{}", like, k);
    return net;
}

Result<Circuit> insert_at_pin(const Circuit& circuit, const std::string& designator, const std::string& pin,
                              Part added, const std::string& in, const std::string& out,
                              const std::string& between) {
    const PartKind* kind = part_kind(added.kind);
    if (!kind)
        return Error{Fault::usage, added.kind, "there is no such kind of part", "one of " + known_kinds()};
    const std::string net = free_net(circuit, between);
    return with_part(circuit, designator, [&](Circuit& next, Part& part) -> Trouble {
        const auto at =
            std::find_if(part.pins.begin(), part.pins.end(), [&](const Pin& p) { return p.name == pin; });
        if (at == part.pins.end())
            return Error{Fault::usage, designator + "." + pin, "there is no such pin", "a pin of the part"};
        if (added.designator.empty()) added.designator = next.free_designator(kind->prefix);
        added.pins.push_back({in, net}), added.pins.push_back({out, at->net});
        std::sort(added.pins.begin(), added.pins.end(), [&](const Pin& a, const Pin& b) {
            const auto place = [&](const Pin& p) {
                return std::find(kind->pins.begin(), kind->pins.end(), p.name);
            };
            return place(a) < place(b);  // as a file gives them
        });
        at->net = net;
        next.parts.push_back(std::move(added));  // `part` and `at` end here
        return {};
    });
}

Result<Circuit> replace_kind(const Circuit& circuit, const std::string& designator,
                             const std::string& kind_id) {
    const PartKind* kind = part_kind(kind_id);
    if (!kind)
        return Error{Fault::usage, kind_id, "there is no such kind of part", "one of " + known_kinds()};
    return with_part(circuit, designator, [&](Circuit&, Part& part) -> Trouble {
        std::vector<Pin> left = part.pins, pins;
        const auto take = [&](auto match) {
            const auto at = std::find_if(left.begin(), left.end(), match);
            if (at == left.end()) return std::string();
            std::string net = at->net;
            left.erase(at);
            return net;
        };
        for (const auto& name : kind->pins)
            pins.push_back({name, take([&](const Pin& p) { return p.name == name; })});
        for (Pin& pin : pins)
            if (pin.net.empty()) pin.net = take([](const Pin&) { return true; });
        std::erase_if(pins, [&](const Pin& p) { return p.net.empty() && kind->optional(p.name); });
        for (Pin& pin : pins)
            if (pin.net.empty())
                pin.net = part.designator + "_" + pin.name;  // a net of its own until it is moved
        std::erase_if(part.params, [&](const auto& p) {
            const ParamInfo* info = kind->param(p.first);
            if (!info || info->standard.index() != p.second.index()) return true;
            const auto* text = std::get_if<std::string>(&p.second);
            return text && trouble_of_choice(*kind, *info, *text);
        });
        part.kind = kind->id, part.pins = std::move(pins);
        return {};
    });
}

void put_cell(Part& battery, const std::string& cell) {
    if (battery.text("cell") != cell)
        for (const char* measured : {"capacity", "open_circuit", "cell_resistance", "voltage_curve",
                                     "resistance_curve", "capacity_curve"})
            battery.params.erase(measured);
    battery.params["cell"] = cell;
}

}  // namespace elkit
