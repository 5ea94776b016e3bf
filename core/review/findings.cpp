#include "review/findings.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "review/rules.hpp"

namespace elkit {

Evidence::Evidence(const Design& design_in, const Keyed<Circuit>& circuit_in, const Conditions& conditions,
                   const Keyed<std::vector<DrawerItem>>& drawer, const Ask& ask_in)
    : design(design_in),
      circuit(circuit_in),
      fresh(elkit::fresh(*circuit_in, conditions)),
      ask(ask_in),
      drawer_(drawer) {}

Answer<OperatingPoint> Evidence::rest(const Corner& corner) const {
    if (may_move(*circuit)) {
        const auto moving = run();
        if (!moving || moving->moves()) return {};
    }
    return ask(RestQuery(circuit, fresh, corner));
}

Answer<LongRun> Evidence::run() const { return ask(RunQuery(circuit, fresh)); }

Answer<LongRun> Evidence::flat_run() const {
    const auto life = power();
    if (!life) return {};
    Conditions flat = fresh;
    flat.battery = life->typical.charge_left;
    return ask(RunQuery(circuit, flat));
}

Answer<PowerResult> Evidence::power() const {
    return ask(PowerQuery(circuit, fresh, design.brief.end_brightness));
}

Answer<Board> Evidence::board() const { return ask(BoardQuery{circuit, design.board}); }

Answer<std::vector<BuildStep>> Evidence::steps() const {
    return ask(StepsQuery{circuit, design.board, design.brief.for_children});
}

Answer<PartsList> Evidence::parts() const {
    return ask(PartsQuery{circuit, design.board, design.brief.kits, design.batch.spares, drawer_});
}

const std::vector<Rule>& rules() {
    static const std::vector<Rule> all = [] {
        std::vector<Rule> list;
        for (const auto& more :
             {light_rules(), circuit_rules(), recipe_rules(), stress_rules(), power_rules(), making_rules()})
            list.insert(list.end(), more.begin(), more.end());
        return list;
    }();
    return all;
}

Case::Case(std::shared_ptr<const Design> of, Keyed<Circuit> its, const Conditions& under,
           Keyed<std::vector<DrawerItem>> owned)
    : design(std::move(of)),
      circuit(std::move(its)),
      conditions(as_seen(*circuit, fresh(*circuit, under))),
      drawer(std::move(owned)) {
    const auto set = [&](On on, auto... pieces) {
        Digester d;
        (d << ... << pieces);
        digests[static_cast<std::size_t>(on)] = d.digest();
    };
    const Design& d = *design;
    set(On::conditions, content_digest(conditions));
    set(On::brief, content_digest(d.brief));
    set(On::blocks, content_digest(d.blocks));
    set(On::board, content_digest(d.board), d.brief.for_children);
    set(On::batch, content_digest(d.batch), d.brief.kits, drawer.digest());
    set(On::readings, readings_digest(d.records));
}

Digest JudgementQuery::key() const {
    Digester d;
    d << rule->id << subject->circuit.digest();
    for (const On on : rule->on) d << subject->of(on);
    return d.digest();
}

Result<std::vector<Finding>> JudgementQuery::compute(const Ask& ask) const {
    std::vector<Finding> found;
    rule->find(Evidence(*subject->design, subject->circuit, subject->conditions, subject->drawer, ask),
               found);
    for (Finding& f : found) {
        f.rule = rule->id;
        f.id = f.ref.empty() ? rule->id : rule->id + ":" + f.ref.substr(f.ref.find(':') + 1);
        if (!f.aspect.empty()) f.id += ":" + f.aspect;
    }
    return found;
}

std::vector<Finding> settled(std::vector<Finding> all, const Design& design) {
    for (Finding& f : all)
        if (const Decision* d = design.decision(f.id)) f.known = d->reason;
    std::stable_sort(all.begin(), all.end(), [](const Finding& a, const Finding& b) {
        return std::make_pair(!a.known.empty(), a.severity) < std::make_pair(!b.known.empty(), b.severity);
    });
    return all;
}

std::vector<Finding> review(const Ask& ask, const Design& design, const Conditions& conditions,
                            const Keyed<std::vector<DrawerItem>>& drawer) {
    std::vector<Finding> all;
    const auto subject = std::make_shared<const Case>(std::make_shared<const Design>(design), design.circuit,
                                                      conditions, drawer);
    for (const Rule& rule : rules())
        if (const auto found = ask(JudgementQuery{&rule, subject}))
            all.insert(all.end(), found->begin(), found->end());
    return settled(std::move(all), design);
}

std::string rules_markdown() {
    std::string out =
        "# Findings\n\nMade from the rule table by `elkit-cli rules`; do not edit by hand.\n\n| rule | what "
        "it finds | why | rests on |\n|---|---|---|---|\n";
    for (const Rule& r : rules())
        out += fmt::format("| `{}` | {} | {} | {} |\n", r.id, r.title, r.why, r.source);
    return out;
}

}  // namespace elkit
