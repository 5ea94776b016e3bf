#include "circuit/connectivity.hpp"

#include <algorithm>
#include <map>
#include <numeric>
#include <set>

#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

class NetGroups {
  public:
    explicit NetGroups(const Circuit& circuit) : names_(circuit.nets()), parent_(names_.size()) {
        std::iota(parent_.begin(), parent_.end(), std::size_t{0});
        for (std::size_t k = 0; k < names_.size(); ++k) index_.emplace(names_[k], k);
    }
    void join(const std::string& a, const std::string& b) { parent_[root(index(a))] = root(index(b)); }
    bool joined(const std::string& a, const std::string& b) { return root(index(a)) == root(index(b)); }

  private:
    std::size_t index(const std::string& net) const { return index_.at(net); }
    std::size_t root(std::size_t i) {
        while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
        return i;
    }
    std::vector<std::string> names_;
    std::map<std::string_view, std::size_t> index_;  // into names_
    std::vector<std::size_t> parent_;
};

void check_nets(const Circuit& circuit, std::vector<Error>& errors) {
    std::map<std::string, std::vector<std::pair<const Part*, const Pin*>>> pins;
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins) pins[pin.net].emplace_back(&part, &pin);
    for (const std::string& net : circuit.nets()) {
        if (pins[net].size() != 1) continue;
        const auto& [part, pin] = pins[net].front();
        const PartKind* kind = part_kind(part->kind);
        if (kind && kind->optional(pin->name)) continue;
        errors.push_back({Fault::design, "net " + net,
                          "only " + part->designator + " pin " + pin->name + " is on it",
                          "a second pin on this net"});
    }
    for (const Part& part : circuit.parts)
        if (part.pins.size() > 1 && std::all_of(part.pins.begin(), part.pins.end(),
                                                [&](const Pin& p) { return p.net == part.pins[0].net; }))
            errors.push_back({Fault::design, "part " + part.designator,
                              (part.pins.size() == 2 ? "both pins are on net " : "all pins are on net ") +
                                  part.pins[0].net,
                              part.pins.size() == 2 ? "two different nets" : "different nets"});
}

/// Pairs of nets that a part joins with next to no resistance, as drawn and at rest.
std::vector<std::pair<std::string, std::string>> short_pairs(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    std::vector<std::pair<std::string, std::string>> nets;
    if (!kind) return nets;
    const auto add = [&](const std::vector<PartKind::Joint>& pins) {
        for (const auto& [a, b] : pins) nets.emplace_back(part.net(a), part.net(b));
    };
    if (kind->is(Role::contact)) add(closed_as_drawn(part) ? kind->joined_closed : kind->joined_open);
    if (kind->joined_param.empty() || part.number(kind->joined_param) < kind->joined_below) add(kind->joined);
    return nets;
}

/// The parts through which `from` and `to` are shorted, in order; empty if they are not.
std::vector<std::string> short_path(const Circuit& circuit, const std::string& from, const std::string& to) {
    std::map<std::string, std::pair<std::string, std::string>> came;  // net → the part and net before it
    std::vector<std::string> front{from};
    came[from] = {};
    while (!front.empty() && !came.contains(to)) {
        std::vector<std::string> next;
        for (const Part& part : circuit.parts)
            for (const auto& [a, b] : short_pairs(part))
                for (const auto& [here, there] : {std::pair(a, b), std::pair(b, a)})
                    if (std::find(front.begin(), front.end(), here) != front.end() && !came.contains(there)) {
                        came[there] = {part.designator, here};
                        next.push_back(there);
                    }
        front = std::move(next);
    }
    std::vector<std::string> path;
    if (came.contains(to))
        for (std::string net = to; net != from; net = came[net].second)
            path.insert(path.begin(), came[net].first);
    return path;
}

void check_paths(const Circuit& circuit, std::vector<Error>& errors) {
    NetGroups all(circuit);
    for (const Part& part : circuit.parts)
        for (std::size_t i = 1; i < part.pins.size(); ++i) all.join(part.pins[0].net, part.pins[i].net);
    const std::string rail = circuit.negative_rail();
    for (const std::string& net : circuit.nets())
        if (!all.joined(net, rail))
            errors.push_back({Fault::design, "net " + net,
                              "there is no path from it to the negative rail " + rail,
                              "a part that joins it to the rest"});
    for (const Part& part : circuit.parts) {
        if (!is(part, Role::source) || part.net("+") == part.net("-")) continue;
        const auto path = short_path(circuit, part.net("+"), part.net("-"));
        if (path.empty()) continue;
        std::string through;
        for (const auto& designator : path) through += (through.empty() ? "" : ", ") + designator;
        errors.push_back({Fault::design, "part " + part.designator,
                          "its + and − are shorted through " + through, "a load between them"});
    }
}

/// Groups of pins between which a direct current can flow; pins in no group let none pass.
std::vector<std::vector<std::string>> conducting_pins(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (kind && kind->direct_current) return *kind->direct_current;
    std::vector<std::string> all;
    for (const Pin& pin : part.pins) all.push_back(pin.name);
    return {all};
}

}  // namespace

std::vector<Error> connectivity_errors(const Circuit& circuit) {
    std::vector<Error> errors;
    if (circuit.parts.empty())
        return {{Fault::design, "circuit", "it has no parts", "a battery and something to feed"}};
    if (!circuit.source()) return {{Fault::design, "circuit", "nothing feeds it", "a battery or a supply"}};
    check_nets(circuit, errors);
    check_paths(circuit, errors);
    return errors;
}

std::vector<std::string> nets_without_dc_path(const Circuit& circuit) {
    NetGroups groups(circuit);
    for (const Part& part : circuit.parts)
        for (const auto& pins : conducting_pins(part)) {
            const std::string* first = nullptr;
            for (const auto& pin : pins) {
                const std::string& net = part.net(pin);
                if (net.empty()) continue;
                if (first) groups.join(*first, net);
                first = &net;
            }
        }
    std::vector<std::string> found;
    const std::string rail = circuit.negative_rail();
    if (rail.empty()) return found;
    for (const std::string& net : circuit.nets())
        if (!groups.joined(net, rail)) found.push_back(net);
    return found;
}

std::size_t Chain::count(Role role) const {
    return static_cast<std::size_t>(
        std::count_if(parts.begin(), parts.end(), [&](const Part* p) { return is(*p, role); }));
}

std::vector<Chain> chains(const Circuit& circuit) {
    std::map<std::string, std::vector<const Part*>> at;
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins) at[pin.net].push_back(&part);
    const auto other_end = [](const Part& part, const std::string& net) {
        return part.pins[0].net == net ? part.pins[1].net : part.pins[0].net;
    };
    const auto next = [&](const Part& part, const std::string& net) -> const Part* {
        const auto& here = at[net];
        if (here.size() != 2) return nullptr;
        const Part* other = here[0] == &part ? here[1] : here[0];
        return is(*other, Role::source) || other->pins.size() != 2 || other == &part ? nullptr : other;
    };
    std::set<const Part*> seen;
    std::vector<Chain> all;
    for (const Part& part : circuit.parts) {
        if (is(part, Role::source) || part.pins.size() != 2 || seen.contains(&part)) continue;
        Chain chain{part.pins[0].net, part.pins[1].net, {&part}};
        seen.insert(&part);
        while (const Part* p = next(*chain.parts.front(), chain.from)) {
            if (!seen.insert(p).second) break;
            chain.from = other_end(*p, chain.from);
            chain.parts.insert(chain.parts.begin(), p);
        }
        while (const Part* p = next(*chain.parts.back(), chain.to)) {
            if (!seen.insert(p).second) break;
            chain.to = other_end(*p, chain.to);
            chain.parts.push_back(p);
        }
        all.push_back(std::move(chain));
    }
    return all;
}

/// The only part beside `from` that takes current from a net; nullptr if there is none or another.
static const Part* alone_at(const Circuit& circuit, const std::string& net, const Part* from) {
    const Part* found = nullptr;
    for (const Part& part : circuit.parts) {
        const bool meets =
            std::any_of(part.pins.begin(), part.pins.end(), [&](const Pin& pin) { return pin.net == net; });
        if (!meets || &part == from || is(part, Role::no_current)) continue;
        if (found) return nullptr;
        found = &part;
    }
    return found;
}

/// The pin of a part with two that is not on a net.
static const Pin& far_pin(const Part& part, const std::string& net) {
    return part.pins[part.pins[0].net == net ? 1 : 0];
}

/// Where what the source feeds divides, and the last part before that: the source, or a fuse in a row with
/// it.
static std::pair<const Part*, std::string> feed_end(const Circuit& circuit) {
    const Part* last = circuit.source();
    if (!last) return {};
    std::string net = last->net("+");
    for (std::size_t steps = 0; steps < circuit.parts.size(); ++steps) {
        const Part* next = alone_at(circuit, net, last);
        if (!next || next->pins.size() != 2) break;
        const PartKind& kind = *part_kind(next->kind);
        if (kind.joined.empty() || !kind.joined_param.empty()) break;
        net = far_pin(*next, net).net, last = next;
    }
    return {last, net};
}

std::string feed_net(const Circuit& circuit) { return feed_end(circuit).second; }

std::optional<MainSwitch> main_switch(const Circuit& circuit) {
    const auto [last, net] = feed_end(circuit);
    const Part* part = last ? alone_at(circuit, net, last) : nullptr;
    if (!part || !is(*part, Role::contact) || is(*part, Role::momentary) || part->pins.size() != 2)
        return std::nullopt;
    return MainSwitch{part->designator, far_pin(*part, net).name};
}

}  // namespace elkit
