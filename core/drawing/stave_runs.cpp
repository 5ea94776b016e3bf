#include "drawing/stave_runs.hpp"

#include <algorithm>
#include <map>
#include <set>

#include "circuit/part_kind.hpp"

namespace elkit {

Stance stance_of(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (kind && !kind->side_pin.empty() && part.pins.size() == 3 && part.pins[1].name == kind->side_pin)
        return Stance::three_legs;
    return part.pins.size() == 2 ? Stance::hanging : Stance::body;
}

std::pair<std::size_t, std::size_t> hanging_pins(const Part& part) { return {0, part.pins.size() - 1}; }

namespace {

const std::string& other_end(const Part& part, const std::string& net) {
    const auto [first, last] = hanging_pins(part);
    return part.pins[first].net == net ? part.pins[last].net : part.pins[first].net;
}

/// Finds which nets are joints and follows them.
class RunFinder {
  public:
    explicit RunFinder(const Circuit& circuit) : circuit_(circuit) {
        for (const Part& part : circuit.parts)
            for (std::size_t k = 0; k < part.pins.size(); ++k)
                touching_[part.pins[k].net].push_back({&part, k});
    }

    std::vector<StaveRun> runs() {
        std::vector<StaveRun> all;
        for (const Part& part : circuit_.parts)
            if (stance_of(part) != Stance::body && !seen_.contains(&part)) add(follow(part), all);
        for (StaveRun& run : all) find_host(run);
        return all;
    }

  private:
    struct Touch {
        const Part* part;
        std::size_t pin;
    };

    /// True if the part hangs on the net by one of its ends, whatever its side leg does.
    static bool hangs_by_one_end(const Part& part, const std::string& net) {
        if (stance_of(part) == Stance::body) return false;
        const auto [first, last] = hanging_pins(part);
        return (part.pins[first].net == net) != (part.pins[last].net == net);
    }

    /// The part that follows at a joint; nullptr if the net is none.
    const Part* next(const Part& part, const std::string& net) const {
        const Part* other = nullptr;
        for (const Touch& t : touching_.at(net)) {
            if (t.part == &part || t.part == other) continue;
            if (other) return nullptr;
            other = t.part;
        }
        if (!other || !hangs_by_one_end(part, net) || !hangs_by_one_end(*other, net)) return nullptr;
        return is(part, Role::source) == is(*other, Role::source) ? other : nullptr;
    }

    StaveRun follow(const Part& part) {
        const auto [first, last] = hanging_pins(part);
        StaveRun run;
        run.parts = {&part}, run.from = part.pins[first].net, run.to = part.pins[last].net;
        seen_.insert(&part);
        while (const Part* p = next(*run.parts.back(), run.to)) {
            if (!seen_.insert(p).second) return run;  // a ring: broken where it was begun
            run.to = other_end(*p, run.to);
            run.parts.push_back(p);
        }
        while (const Part* p = next(*run.parts.front(), run.from)) {
            if (!seen_.insert(p).second) return run;
            run.from = other_end(*p, run.from);
            run.parts.insert(run.parts.begin(), p);
        }
        return run;
    }

    /// A run that comes back to where it began is broken in its middle.
    static void add(StaveRun run, std::vector<StaveRun>& all) {
        if (run.from != run.to || run.parts.size() < 2) return all.push_back(std::move(run));
        const auto half = static_cast<std::ptrdiff_t>(run.parts.size() / 2);
        StaveRun rest;
        rest.parts.assign(run.parts.begin() + half, run.parts.end());
        rest.from = joint_between(*run.parts[static_cast<std::size_t>(half) - 1], *rest.parts.front());
        rest.to = run.to;
        run.parts.resize(static_cast<std::size_t>(half));
        run.to = rest.from;
        all.push_back(std::move(run));
        all.push_back(std::move(rest));
    }

    void find_host(StaveRun& run) const {
        if (is(*run.parts.front(), Role::source)) return;
        const auto host = [&](const std::string& net, const Part& end) -> const Touch* {
            const auto& here = touching_.at(net);
            if (here.size() != 2) return nullptr;
            const Touch& other = here[0].part == &end ? here[1] : here[0];
            return stance_of(*other.part) == Stance::body && other.part->pins.size() > 1 ? &other : nullptr;
        };
        const Touch* found = host(run.from, *run.parts.front());
        if (!found) {
            found = host(run.to, *run.parts.back());
            if (!found) return;
            std::reverse(run.parts.begin(), run.parts.end());
            std::swap(run.from, run.to);
        }
        run.host = found->part, run.host_pin = found->part->pins[found->pin].name;
    }

    const Circuit& circuit_;
    std::map<std::string, std::vector<Touch>> touching_;
    std::set<const Part*> seen_;
};

}  // namespace

std::vector<StaveRun> runs_of(const Circuit& circuit) { return RunFinder(circuit).runs(); }

const std::string& joint_between(const Part& upper, const Part& lower) {
    const auto [a, b] = hanging_pins(upper);
    const auto [c, d] = hanging_pins(lower);
    for (const std::size_t mine : {b, a})
        for (const std::size_t its : {c, d})
            if (upper.pins[mine].net == lower.pins[its].net) return upper.pins[mine].net;
    static const std::string none;
    return none;
}

std::vector<std::string> joints_of(const StaveRun& run) {
    std::vector<std::string> joints;
    for (std::size_t k = 1; k < run.parts.size(); ++k)
        joints.push_back(joint_between(*run.parts[k - 1], *run.parts[k]));
    return joints;
}

}  // namespace elkit
