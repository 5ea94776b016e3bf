// Dividers that empty the cells while a gadget waits, and supplies whose minuses are apart.
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "circuit/connectivity.hpp"
#include "circuit/edit.hpp"
#include "power/standby.hpp"
#include "quantity/preferred.hpp"
#include "review/rules.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr double least_drain = 2e-6;      // A, of a divider that is worth a word
constexpr double short_wait = 2;          // years that cells should last while a gadget waits
constexpr double same_current = 0.1;      // of each other, in resistors that follow each other
constexpr double most_raised = 5e6;       // Ω in all: beyond, leaks and hum say where the middle is
constexpr double middle_may_move = 0.03;  // of the supply

/// Resistors from plus to minus that the same current passes, first to last.
struct Divider {
    std::vector<const Part*> resistors;
    std::vector<std::string> middles;
    double amps = 0;
};

class DividerFinder {
  public:
    DividerFinder(const Circuit& circuit, const OperatingPoint& op) : circuit_(circuit), op_(op) {
        const Part* source = circuit.source();
        minus_ = circuit.negative_rail();
        plus_.insert(source->net("+"));
        if (const auto main = main_switch(circuit))
            plus_.insert(circuit.find(main->designator)->net(main->pin));
    }
    std::vector<Divider> all() const {
        std::vector<Divider> found;
        for (const Part& part : circuit_.parts) {
            if (!is_resistor(part)) continue;
            for (const std::size_t end : {std::size_t{0}, std::size_t{1}})
                if (plus_.contains(part.pins[end].net))
                    if (auto d = from(part, part.pins[1 - end].net)) found.push_back(std::move(*d));
        }
        return found;
    }

  private:
    static bool is_resistor(const Part& part) { return is(part, Role::resistor) && part.pins.size() == 2; }
    double amps(const Part& part) const { return std::abs(op_.part(part.designator).current); }

    std::optional<Divider> from(const Part& first, std::string net) const {
        Divider d{{&first}, {}, amps(first)};
        if (d.amps < least_drain) return std::nullopt;
        while (net != minus_) {
            if (plus_.contains(net)) return std::nullopt;
            d.middles.push_back(net);
            const auto next = std::find_if(circuit_.parts.begin(), circuit_.parts.end(), [&](const Part& p) {
                return is_resistor(p) &&
                       std::find(d.resistors.begin(), d.resistors.end(), &p) == d.resistors.end() &&
                       (p.pins[0].net == net || p.pins[1].net == net) &&
                       std::abs(amps(p) - d.amps) < same_current * d.amps;
            });
            if (next == circuit_.parts.end()) return std::nullopt;
            d.resistors.push_back(&*next);
            net = next->pins[0].net == net ? next->pins[1].net : next->pins[0].net;
        }
        if (d.resistors.size() < 2) return std::nullopt;
        return d;
    }
    const Circuit& circuit_;
    const OperatingPoint& op_;
    std::string minus_;
    std::set<std::string> plus_;
};

/// The situation in which it takes least, and takes anything: in which it waits.
const Situation* waiting(const Evidence& e) {
    const Situation* least = nullptr;
    double most = 0;
    for (const Situation& s : e.situations) {
        const auto run = e.run_in(s);
        if (!run) continue;
        const double amps = run->mean().supply_current();
        if (amps < 1e-8 || (least && amps >= most)) continue;
        least = &s, most = amps;
    }
    return least;
}

/// All resistors of the divider ten times as large, if its middles then stay where they were.
void add_tenfold(const Evidence& e, const Situation& waits, const Divider& d, Finding& f) {
    double ohms = 0;
    for (const Part* r : d.resistors) ohms += r->number("value");
    if (10 * ohms > most_raised) return;
    std::vector<std::string> names;
    for (const Part* r : d.resistors) names.push_back(r->designator);
    const auto raised = [names](Circuit& circuit) -> std::optional<Error> {
        for (const std::string& name : names)
            if (Part* part = circuit.find(name)) part->params["value"] = 10 * part->number("value");
        return {};
    };
    const auto before = e.run_in(waits);
    Circuit trial = *e.circuit;
    raised(trial);
    const auto after = long_run(trial, known_catalogue(), fresh(trial, waits.under({})));
    if (!before || !after) return;
    const double supply = before->mean().voltage(e.circuit->source()->net("+"));
    for (const std::string& net : d.middles)
        if (std::abs(after.value().mean().voltage(net) - before->mean().voltage(net)) >
            middle_may_move * supply)
            return;
    f.remedies.push_back(
        circuit_remedy(fmt::format("Make {} ten times as large", fmt::join(names, " and ")), raised));
}

void divider_drain(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.circuit->source();
    if (!source || !is(*source, Role::cells)) return;
    const Situation* waits = waiting(e);
    if (!waits) return;
    const auto run = e.run_in(*waits);
    const double total = run->mean().supply_current();
    for (const Divider& d : DividerFinder(*e.circuit, run->mean()).all()) {
        const Figure with = standby_life(*source, total, e.fresh.celsius),
                     without = standby_life(*source, total - 0.9 * d.amps, e.fresh.celsius);
        if (with.value > short_wait || without.value < 1.3 * with.value) continue;
        std::vector<std::string> names;
        for (const Part* r : d.resistors) names.push_back(r->designator);
        auto& f =
            add_finding(out, Severity::warning, "power", "part:" + names.front(),
                        fmt::format("{} drain {} all the time, {:.0f} % of what it takes",
                                    fmt::join(names, " and "), amps(d.amps), 100 * d.amps / total),
                        fmt::format("While it waits ({}) the cells last {}; with a tenth of that through the "
                                    "divider {}. What looks at its middle takes next to nothing.",
                                    waits->name, with.text(), without.text()));
        f.situation = waits->name;
        add_tenfold(e, *waits, d, f);
    }
}

/// Nets that parts other than sources join, by groups between which a current can flow.
class Islands {
  public:
    explicit Islands(const Circuit& circuit) {
        for (const Part& part : circuit.parts) {
            const PartKind* kind = part_kind(part.kind);
            if (!kind || kind->is(Role::source)) continue;
            if (!kind->direct_current) {
                for (const Pin& pin : part.pins) join(part.pins.front().net, pin.net);
                continue;
            }
            for (const auto& group : *kind->direct_current)
                for (const std::string& pin : group) join(part.net(group.front()), part.net(pin));
        }
    }
    bool together(const std::string& a, const std::string& b) { return root(a) == root(b); }

  private:
    void join(const std::string& a, const std::string& b) {
        if (!a.empty() && !b.empty()) of_[root(a)] = root(b);
    }
    std::string root(const std::string& net) {
        const auto at = of_.find(net);
        return at == of_.end() || at->second == net ? net : root(at->second);
    }
    std::map<std::string, std::string> of_;
};

/// Whether a contact, fuse or wire of next to nothing joins two nets.
bool as_good_as_one(const Circuit& circuit, const std::string& a, const std::string& b) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
        const bool between = p.pins.size() == 2 && ((p.pins[0].net == a && p.pins[1].net == b) ||
                                                    (p.pins[0].net == b && p.pins[1].net == a));
        return between && (is(p, Role::contact) || !part_kind(p.kind)->joined.empty() ||
                           (is(p, Role::resistor) && p.number("value") < 1));
    });
}

void grounds_apart(const Evidence& e, std::vector<Finding>& out) {
    const Part* first = e.circuit->source();
    if (!first) return;
    const std::string ground = first->net("-");
    std::vector<const Part*> sources;
    for (const Part& part : e.circuit->parts)
        if (is(part, Role::source) && !is(part, Role::bench)) sources.push_back(&part);
    Islands islands(*e.circuit);
    for (const Part* other : sources) {
        const std::string minus = other->net("-");
        const auto stacked = [&](const Part* s) {
            return s->net("+") == minus || s->net("+") == ground || s->net("-") == other->net("+");
        };
        if (other == first || minus == ground || std::any_of(sources.begin(), sources.end(), stacked) ||
            as_good_as_one(*e.circuit, minus, ground) || !islands.together(minus, ground))
            continue;
        auto& f = add_finding(
            out, Severity::warning, "circuit", "part:" + other->designator,
            fmt::format("The minus of {} is not joined to that of {}", other->designator, first->designator),
            fmt::format(
                "What goes from one to the other finds its way back through pins that are not made for it: "
                "join {} and {}. Only where a relay or optocoupler keeps them apart do they stay so.",
                minus, ground));
        f.remedies.push_back(circuit_remedy(fmt::format("Join {} to {}", minus, ground),
                                            [minus, ground](Circuit& circuit) -> std::optional<Error> {
                                                for (Part& part : circuit.parts)
                                                    for (Pin& pin : part.pins)
                                                        if (pin.net == minus) pin.net = ground;
                                                return {};
                                            }));
    }
}

}  // namespace

std::vector<Rule> drain_rules() {
    return {{"divider-drain",
             "a divider that empties the cells while the gadget waits",
             "ten times the ohms do the same for a tenth of the current",
             "current of resistors in a row from plus to minus, in the situation that takes least; the "
             "cells' life "
             "with it and without, where they last less than two years",
             {On::conditions},
             divider_drain},
            {"grounds-apart",
             "two supplies whose minuses are not joined, though parts hang on both",
             "signals have no way back, and find one through pins that die of it",
             "nets that parts join with a path for direct current, without the sources",
             {On::conditions},
             grounds_apart}};
}

}  // namespace elkit
