#include "circuit/connectivity.hpp"

#include <algorithm>
#include <map>
#include <numeric>
#include <set>

namespace elkit {
namespace {

bool is_source(const Part& part) { return part.kind == "battery" || part.kind == "supply"; }

class NetGroups {
  public:
    explicit NetGroups(const Circuit& circuit) : names_(circuit.nets()), parent_(names_.size()) {
        std::iota(parent_.begin(), parent_.end(), std::size_t{0});
    }
    void join(const std::string& a, const std::string& b) { parent_[root(index(a))] = root(index(b)); }
    bool joined(const std::string& a, const std::string& b) { return root(index(a)) == root(index(b)); }

  private:
    std::size_t index(const std::string& net) const {
        return static_cast<std::size_t>(std::find(names_.begin(), names_.end(), net) - names_.begin());
    }
    std::size_t root(std::size_t i) {
        while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
        return i;
    }
    std::vector<std::string> names_;
    std::vector<std::size_t> parent_;
};

void check_nets(const Circuit& circuit, std::vector<Error>& errors) {
    std::map<std::string, std::vector<std::string>> pins;
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins) pins[pin.net].push_back(part.designator + " pin " + pin.name);
    for (const std::string& net : circuit.nets())
        if (pins[net].size() == 1)
            errors.push_back({Fault::design, "net " + net, "only " + pins[net].front() + " is on it",
                              "a second pin on this net"});
    for (const Part& part : circuit.parts)
        if (part.pins.size() == 2 && part.pins[0].net == part.pins[1].net)
            errors.push_back({Fault::design, "part " + part.designator,
                              "both pins are on net " + part.pins[0].net, "two different nets"});
}

void check_paths(const Circuit& circuit, std::vector<Error>& errors) {
    NetGroups all(circuit), shorts(circuit);
    std::string through;
    for (const Part& part : circuit.parts) {
        for (std::size_t i = 1; i < part.pins.size(); ++i) all.join(part.pins[0].net, part.pins[i].net);
        if (part.kind == "switch" && part.number("on") > 0.5) {
            shorts.join(part.net("a"), part.net("b"));
            through += (through.empty() ? "" : ", ") + part.designator;
        }
    }
    const std::string rail = circuit.negative_rail();
    for (const std::string& net : circuit.nets())
        if (!all.joined(net, rail))
            errors.push_back({Fault::design, "net " + net,
                              "there is no path from it to the negative rail " + rail,
                              "a part that joins it to the rest"});
    for (const Part& part : circuit.parts)
        if (is_source(part) && part.net("+") != part.net("-") && shorts.joined(part.net("+"), part.net("-")))
            errors.push_back({Fault::design, "part " + part.designator,
                              "its + and − are shorted through " + through, "a load between them"});
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

std::size_t Chain::count(std::string_view kind) const {
    return static_cast<std::size_t>(
        std::count_if(parts.begin(), parts.end(), [&](const Part* p) { return p->kind == kind; }));
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
        return is_source(*other) || other->pins.size() != 2 || other == &part ? nullptr : other;
    };
    std::set<const Part*> seen;
    std::vector<Chain> all;
    for (const Part& part : circuit.parts) {
        if (is_source(part) || part.pins.size() != 2 || seen.contains(&part)) continue;
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

}  // namespace elkit
