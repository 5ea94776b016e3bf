#include "situations/propose.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "circuit/part_kind.hpp"
#include "engine/filament.hpp"
#include "engine/history.hpp"
#include "quantity/parallel.hpp"

namespace elkit {
namespace {

constexpr double press_at = 1, press_for = 0.3;  // s after power-up
constexpr double just_after = 0.1;               // s: what a press starts has not ended by then
constexpr std::size_t most_situations = 12;
constexpr std::size_t most_work = 400'000;  // parts solved, over all that are tried: a second or so

/// One way in which a situation may differ from another.
struct Cause {
    std::string name;
    std::string axis;  ///< two causes of one axis exclude each other
    std::function<void(Conditions&)> apply;
    bool world = false;  ///< something of the world, not a hand
};

/// What is compared to tell whether two situations are one.
struct Look {
    std::vector<double> currents;  ///< A of the source, then of each light
    bool lit = false;
};

struct Candidate {
    std::string name;
    Conditions conditions;
    std::vector<std::string> axes;
    bool world = false;
    std::optional<Look> look;
};

double tenths(double seconds) { return std::round(10 * seconds) / 10; }

bool can_stay_open(const Part& part) {
    return is(part, Role::stays) && part_kind(part.kind)->joined_open.empty();
}

std::vector<Cause> causes_of(const Circuit& circuit) {
    std::vector<Cause> causes;
    const auto add = [&](std::string name, std::string axis, std::function<void(Conditions&)> apply,
                         bool world = false) {
        causes.push_back({std::move(name), std::move(axis), std::move(apply), world});
    };
    if (any(circuit, Role::light_sensor))
        for (const Ambience& a : ambiences)
            add(
                a.name, "light", [a](Conditions& c) { c.lux = a.lux, c.infrared = a.infrared; }, true);
    const bool has_memory = remembers(circuit);
    for (const Part& part : circuit.parts) {
        const std::string name = part.designator;
        if (is(part, Role::momentary)) {
            // let go first: where that comes out like holding it, it stayed on by itself
            if (has_memory)
                add("after " + name, "hand", [=](Conditions& c) {
                    c.events.push_back({press_at, name, true});
                    c.events.push_back({press_at + press_for, name, false});
                });
            add(name + " pressed", "hand", [=](Conditions& c) {
                if (!has_memory) c.switches[name] = true;
                if (has_memory) c.events.push_back({press_at, name, true});
            });
            if (has_memory)
                add("just after " + name, "hand", [=](Conditions& c) {
                    c.events.push_back({press_at, name, true});
                    c.events.push_back({press_at + press_for, name, false});
                    c.moment = just_after;
                });
        } else if (is(part, Role::stays)) {
            const bool on = !closed_as_drawn(part);
            const bool two_ways = !part_kind(part.kind)->joined_open.empty();
            add(name + (two_ways ? (on ? " at b" : " at a") : (on ? " on" : " off")), name,
                [=](Conditions& c) { c.switches[name] = on; });
        }
    }
    for (const Part& part : circuit.parts)
        if (is(part, Role::sensor) && !is(part, Role::light_sensor)) {
            add(
                "cold", "warmth", [](Conditions& c) { c.celsius = -10; }, true);
            add(
                "hot", "warmth", [name = part.designator](Conditions& c) { c.warmth[name] = 60; }, true);
            break;
        }
    for (const Part& part : circuit.parts)
        if (const PartKind* kind = part_kind(part.kind); kind && kind->reads_condition("knob"))
            for (const double end : {0.0, 1.0})
                add(fmt::format("{} at {:.0f} %", part.designator, 100 * end), part.designator,
                    [=, name = part.designator](Conditions& c) { c.knobs[name] = end; });
    return causes;
}

Conditions switched_off_all(const Circuit& circuit, Conditions c) {
    for (const Part& part : circuit.parts)
        if (can_stay_open(part)) c.switches[part.designator] = false;
    return c;
}

/// A from which a light is seen.
double least_to_shine(const Part& light) {
    const PartKind* kind = part_kind(light.kind);
    return kind->filament_light.empty() ? gives_light : filament_glows_from * light.number("test_current");
}

Look look_at(const Circuit& circuit, const OperatingPoint& mean) {
    Look l;
    l.currents.push_back(mean.supply_current());
    for (const Part& part : circuit.parts) {
        if (!is(part, Role::light)) continue;
        double amps = 0;
        for (const double i : mean.part(part.designator).pins) amps = std::max(amps, std::abs(i));
        l.currents.push_back(amps);
        l.lit = l.lit || amps > least_to_shine(part);
    }
    return l;
}

class Proposer {
  public:
    Proposer(const Ask& ask, const Keyed<Circuit>& circuit)
        : ask_(ask), circuit_(circuit), causes_(causes_of(*circuit)) {}

    Result<std::vector<Placed>> run() {
        Candidate base{"", {}, {}, false, {}};
        base.conditions.as_set = true;
        base.look = look(base.conditions);
        if (!base.look) return *error_;
        add(base);
        const auto off = switched_off_all(*circuit_, base.conditions);
        const bool can_open = off != base.conditions;
        vary(base);
        press_on();
        const Candidate* lit = first_lit();
        if (!lit) lit = search_pairs(base);
        if (lit && !lit->axes.empty()) {  // what else there is to do while it is lit
            const Candidate from = *lit;
            vary(from);
        }
        if (can_open) add({"off", off, {"off"}, false, look(off)});
        return result();
    }

  private:
    std::optional<Look> look(const Conditions& c) {
        work_ += circuit_->parts.size();
        return taken(ask_(RunQuery(circuit_, c)));
    }

    std::optional<Look> taken(const Answer<LongRun>& run) {
        if (!run) {
            if (run.there() && !error_) error_ = run.error();
            return {};
        }
        return look_at(*circuit_, run->mean());
    }

    static bool alike(const Look& a, const Look& b) {
        if (a.lit != b.lit) return false;
        for (std::size_t k = 0; k < a.currents.size(); ++k) {
            const double least = k == 0 ? 2e-6 : gives_light;
            const double x = a.currents[k], y = b.currents[k];
            if (std::abs(x - y) > 0.1 * std::max(std::abs(x), std::abs(y)) + least) return false;
        }
        return true;
    }

    bool add(Candidate c) {
        for (const Candidate& known : found_)
            if (c.look && known.look && alike(*known.look, *c.look)) return false;
        found_.push_back(std::move(c));
        return true;
    }

    static Candidate with(const Candidate& from, const Cause& cause) {
        Candidate next = from;
        next.name = from.name.empty() ? cause.name : from.name + ", " + cause.name;
        cause.apply(next.conditions);
        next.axes.push_back(cause.axis);
        next.world = from.world || cause.world;
        next.look.reset();
        return next;
    }

    static bool has(const Candidate& c, const std::string& axis) {
        return std::find(c.axes.begin(), c.axes.end(), axis) != c.axes.end();
    }

    void vary(const Candidate& from) {
        std::vector<Candidate> next;
        for (const Cause& cause : causes_) {
            if (has(from, cause.axis)) continue;
            if (work_ > most_work) break;
            work_ += circuit_->parts.size();
            next.push_back(with(from, cause));
        }
        std::vector<Answer<LongRun>> runs(next.size());
        parallel(next.size(), [&](std::size_t k) { runs[k] = ask_(RunQuery(circuit_, next[k].conditions)); });
        for (std::size_t k = 0; k < next.size(); ++k) {
            next[k].look = taken(runs[k]);
            add(std::move(next[k]));
        }
    }

    /// A controller may go on from state to state: the same button pressed again, until nothing new comes.
    void press_on() {
        const auto controlled = [](const Part& p) {
            return part_kind(p.kind) && part_kind(p.kind)->controller;
        };
        if (std::none_of(circuit_->parts.begin(), circuit_->parts.end(), controlled)) return;
        for (const Part& part : circuit_->parts) {
            const std::string once = "after " + part.designator;
            const auto first = std::find_if(found_.begin(), found_.end(),
                                            [&](const Candidate& c) { return c.name == once; });
            if (!is(part, Role::momentary) || first == found_.end()) continue;
            Candidate next = *first;
            for (std::size_t presses = 2; presses < most_situations; ++presses) {
                const double at = press_at + 3 * press_for * static_cast<double>(presses - 1);
                next.conditions.events.push_back({tenths(at), part.designator, true});
                next.conditions.events.push_back({tenths(at + press_for), part.designator, false});
                next.name = fmt::format("after {} presses of {}", presses, part.designator);
                if (work_ > most_work) return;
                next.look = look(next.conditions);
                if (!add(next)) break;
            }
        }
    }

    const Candidate* first_lit() const {
        for (const Candidate& c : found_)
            if (c.look && c.look->lit) return &c;
        return nullptr;
    }

    /// Two causes together, until something is lit.
    const Candidate* search_pairs(const Candidate& base) {
        if (!any(*circuit_, Role::light)) return nullptr;
        int tried = 0;
        for (std::size_t a = 0; a < causes_.size(); ++a)
            for (std::size_t b = a + 1; b < causes_.size(); ++b) {
                if (causes_[a].axis == causes_[b].axis && causes_[a].axis != "hand") continue;
                if (++tried > 60 || work_ > most_work) return nullptr;
                Candidate pair = with(with(base, causes_[a]), causes_[b]);
                std::stable_sort(pair.conditions.events.begin(), pair.conditions.events.end(),
                                 [](const HandEvent& x, const HandEvent& y) { return x.time < y.time; });
                pair.look = look(pair.conditions);
                if (!pair.look || !pair.look->lit) continue;
                add(std::move(pair));
                return first_lit();
            }
        return nullptr;
    }

    std::vector<Placed> result() {
        const auto rank = [](const Candidate& c) { return c.look && c.look->lit ? 0 : 1; };
        std::stable_sort(found_.begin(), found_.end(),
                         [&](const Candidate& a, const Candidate& b) { return rank(a) < rank(b); });
        thin_out();
        std::vector<Placed> list;
        const bool lights = any(*circuit_, Role::light);
        for (const Candidate& c : found_) {
            const bool is_lit = c.look && c.look->lit;
            std::string name = c.name;
            const char* state = !lights ? "as drawn" : is_lit ? "lit" : "waiting";
            if (name.empty())
                name = state;
            else if (lights && c.world)
                name += is_lit ? ", lit" : ", waiting";
            list.push_back(
                {{std::move(name), {}, c.conditions, {}}, is_lit, c.look ? c.look->currents[0] : 0});
        }
        return list;
    }

    /// At most so many: of the lit ones the last goes if they are more than half, else the last dark one but
    /// "off".
    void thin_out() {
        while (found_.size() > most_situations) {
            const auto last_lit = static_cast<std::size_t>(std::count_if(
                found_.begin(), found_.end(), [](const Candidate& c) { return c.look && c.look->lit; }));
            const bool from_lit = last_lit > most_situations / 2;
            const std::size_t at =
                from_lit ? last_lit - 1 : found_.size() - (found_.back().name == "off" ? 2 : 1);
            found_.erase(found_.begin() + static_cast<std::ptrdiff_t>(at));
        }
    }

    const Ask& ask_;
    const Keyed<Circuit>& circuit_;
    std::vector<Cause> causes_;
    std::vector<Candidate> found_;
    std::optional<Error> error_;
    std::size_t work_ = 0;
};

}  // namespace

bool is_lit(const Circuit& circuit, const OperatingPoint& readings) { return look_at(circuit, readings).lit; }

Conditions with_strip(const Situation& situation, const Conditions& now) {
    const Conditions usual;
    Conditions c = situation.under(now);
    if (now.celsius != usual.celsius) c.celsius = now.celsius;
    if (now.lux != usual.lux) c.lux = now.lux;
    if (now.infrared != usual.infrared) c.infrared = now.infrared;
    for (const auto& [name, on] : now.switches) c.switches[name] = on;
    for (const auto& [name, at] : now.knobs) c.knobs[name] = at;
    for (const auto& [name, level] : now.levels) c.levels[name] = level;
    for (const auto& [name, celsius] : now.warmth) c.warmth[name] = celsius;
    c.events.insert(c.events.end(), now.events.begin(), now.events.end());
    return c;
}

Conditions lit_conditions(const Ask& ask, const Design& design, const Keyed<Circuit>& circuit,
                          const Conditions& now) {
    if (now.as_set) return now;
    const std::vector<Situation> all = situations_of(ask, design, circuit);
    return all.empty() ? now : with_strip(all.front(), now);
}

Placed placed(const Ask& ask, const Situation& situation, const Keyed<Circuit>& circuit) {
    const auto run = ask(RunQuery(circuit, situation.under({})));
    if (!run) return {situation, false, 0};
    const Look l = look_at(*circuit, run->mean());
    return {situation, l.lit, l.currents.front()};
}

Result<std::vector<Placed>> ProposalsQuery::compute(const Ask& ask) const {
    return Proposer(ask, circuit).run();
}

const Placed* standby_of(const std::vector<Placed>& situations) {
    const Placed* least = nullptr;
    for (const Placed& p : situations)
        if (!p.lit && (!least || p.current < least->current)) least = &p;
    return least;
}

Result<std::vector<Placed>> placed_situations(const Ask& ask, const std::vector<Situation>& own,
                                              const Keyed<Circuit>& circuit) {
    if (own.empty()) {
        const auto found = ask(ProposalsQuery{circuit});
        if (!found) return found.error();
        return *found;
    }
    std::vector<Placed> list(own.size());
    parallel(own.size(), [&](std::size_t k) { list[k] = placed(ask, own[k], circuit); });
    return list;
}

std::vector<Situation> situations_of(const Ask& ask, const Design& design, const Keyed<Circuit>& circuit) {
    if (!design.situations.empty()) return design.situations;
    std::vector<Situation> list;
    if (const auto found = ask(ProposalsQuery{circuit}))
        for (const Placed& placed : *found) list.push_back(placed.situation);
    return list;
}

}  // namespace elkit
