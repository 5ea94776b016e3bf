// Wound cores: what keeps a booster from starting, and cores that are full.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "light/strings.hpp"
#include "quantity/preferred.hpp"
#include "review/rules.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

bool wound(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->param("turns1");
}

/// A winding that feeds a transistor's input through a resistor, as in a blocking oscillator.
struct Feedback {
    const Part *core, *resistor, *transistor;
};

std::optional<Feedback> feedback(const Circuit& circuit) {
    for (const Part& core : circuit.parts) {
        if (!wound(core) || core.net("1a").empty() || core.net("2a").empty()) continue;
        for (const Part& r : circuit.parts) {
            if (!is(r, Role::resistor) || r.pins.size() != 2) continue;
            for (const Part& q : circuit.parts) {
                const std::string& base = is(q, Role::gain) ? q.net("b") : std::string();
                if (base.empty()) continue;
                for (std::size_t k = 0; k < 2; ++k)
                    if (r.pins[k].net == base &&
                        (r.pins[1 - k].net == core.net("2a") || r.pins[1 - k].net == core.net("2b")))
                        return Feedback{&core, &r, &q};
            }
        }
    }
    return {};
}

/// A single change that may make it start, and what it would say of the fault.
struct Cure {
    std::string fault;
    Remedy remedy;
};

std::vector<Cure> cures(const Feedback& f) {
    const std::string core = f.core->designator, r = f.resistor->designator, q = f.transistor->designator;
    std::vector<Cure> all{
        {fmt::format("one winding of {} is the wrong way round", core),
         swap_pins(fmt::format("Swap the ends of {}'s second winding", core), core, "2a", "2b")}};
    const double ohms = f.resistor->number("value");
    for (const double part : {1.0 / 3, 1.0 / 10, 1.0 / 100}) {
        const double less = nearest_preferred(ohms * part, Series::e12);
        all.push_back(
            {fmt::format("{} of {} drives the base too little", r, format_quantity(ohms, Unit::ohm)),
             set_param("Take " + format_quantity(less, Unit::ohm), r, "value", less)});
    }
    for (const PartType& type : known_catalogue().types)
        if (type.kind == f.transistor->kind && type.id != f.transistor->text("type"))
            all.push_back({fmt::format("{} has too little gain", q),
                           set_param("Take a " + type.name, q, "type", type.id)});
    for (const PartType& type : known_catalogue().types)
        if (type.kind == f.core->kind && type.id != f.core->text("type"))
            all.push_back({fmt::format("the core of {} gives too little inductance for its losses", core),
                           set_param("Take a " + type.name, core, "type", type.id)});
    const double turns = std::round(2 * f.core->number("turns1"));
    all.push_back({fmt::format("{} has too few turns", core),
                   circuit_remedy(fmt::format("Wind {:.0f} turns each", turns),
                                  [=](Circuit& circuit) -> std::optional<Error> {
                                      Part* part = circuit.find(core);
                                      if (!part)
                                          return Error{Fault::design, "part " + core, "it is gone", "a part"};
                                      part->params["turns1"] = part->params["turns2"] = turns;
                                      return {};
                                  })});
    return all;
}

void does_not_start(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run || run->moves() || !any(*e.circuit, Role::light) || is_lit(*e.circuit, run->mean())) return;
    const auto loop = feedback(*e.circuit);
    if (!loop) return;
    std::string fault;
    std::vector<Remedy> remedies;
    for (const Cure& cure : cures(*loop)) {
        if (!fault.empty() && cure.fault == fault) continue;  // the mildest of a sort does
        const auto cured = cure.remedy.apply(e.design);
        const auto trial =
            cured ? e.ask(RunQuery(Keyed<Circuit>(cured.value().circuit), e.fresh)) : Answer<LongRun>();
        if (!trial || !trial->moves()) continue;
        if (fault.empty()) fault = cure.fault;
        remedies.push_back(cure.remedy);
        if (remedies.size() == 3) break;
    }
    const std::string core = loop->core->designator;
    auto& f = add_finding(
        out, Severity::error, "circuit", "part:" + core,
        fault.empty() ? fmt::format("It does not start, whichever way {} is wound", core)
                      : "It does not start: " + fault,
        fault.empty()
            ? fmt::format("Neither another end of a winding, nor less than {} at the base, another "
                          "transistor, core or more turns makes it shine by itself. Look for what "
                          "else the cell feeds, and for joints under enamel.",
                          format_quantity(loop->resistor->number("value"), Unit::ohm))
            : "Each winding has to push the transistor further the way it is going. Every remedy here "
              "was tried by the engine, alone, and starts it. At the bench try them in this order, and "
              "scrape the enamel off the ends first.");
    f.remedies = std::move(remedies);
}

/// Ampere-turns of a core at the worst moment of a cycle.
double most_ampere_turns(const Part& core, const LongRun& run) {
    std::vector<double> sum;
    for (int k = 1; k <= 8; ++k) {
        const Trace* trace = run.steady().cycle.trace(fmt::format("part:{}.{}a", core.designator, k));
        if (!trace) continue;
        const double turns = core.number(fmt::format("turns{}", k));
        sum.resize(trace->values.size());
        for (std::size_t n = 0; n < sum.size(); ++n) sum[n] += turns * trace->values[n];
    }
    double most = 0;
    for (const double theta : sum) most = std::max(most, std::abs(theta));
    return most;
}

double full_at(const Part& core) {
    return core.number("bsat") * core.number("area") * 1e-6 / core.number("al");
}

void core_full(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        if (!wound(part)) continue;
        const double most = most_ampere_turns(part, *run), full = full_at(part);
        if (!(most > full)) continue;
        auto& f = add_finding(
            out, Severity::warning, "circuit", "part:" + part.designator,
            fmt::format("The core of {} is full: {} on it at the peak, and it holds {}", part.designator,
                        format_quantity(most, Unit::ampere), format_quantity(full, Unit::ampere)),
            "Ampere-turns are meant, all windings together. Above that the inductance is gone: the current "
            "runs up at once, heats transistor and cell, and gives no more light.");
        add_goal_remedies(e.design, "core-full", part.designator, f);
        for (const PartType& type : known_catalogue().types) {
            if (type.kind != part.kind) continue;
            Part other = part;
            other.params["type"] = type.id;
            if (full_at(other) > 1.3 * most)
                f.remedies.push_back(set_param("Take a " + type.name, part.designator, "type", type.id));
        }
    }
}

}  // namespace

std::vector<Rule> coil_rules() {
    return {
        {"booster-start",
         "a booster that does not start",
         "it stays dark",
         "the long run as drawn, and with a winding turned, less base resistor, another transistor, core or "
         "more "
         "turns",
         {On::conditions},
         does_not_start},
        {"core-full",
         "a core with more on it than it holds",
         "its inductance is gone, and the current runs up",
         "ampere-turns over a steady cycle, fresh cells, against Bsat·Ae/AL",
         {On::conditions},
         core_full},
    };
}

}  // namespace elkit
