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
        for (const auto& more : {light_rules(), circuit_rules(), recipe_rules(), stress_rules(), power_rules(),
                                 making_rules()})
            list.insert(list.end(), more.begin(), more.end());
        return list;
    }();
    return all;
}

Digest JudgementQuery::key() const {
    Digester d;
    d << rule->id << circuit.digest();
    for (const On on : rule->on) switch (on) {
            case On::conditions:
                d << content_digest(as_seen(*circuit, fresh(*circuit, conditions)));
                break;
            case On::brief:
                d << content_digest(design->brief);
                break;
            case On::blocks:
                d << content_digest(design->blocks);
                break;
            case On::board:
                d << content_digest(design->board) << design->brief.for_children;
                break;
            case On::batch:
                d << content_digest(design->batch) << design->brief.kits << drawer.digest();
                break;
            case On::readings:
                d << readings_digest(design->records);
                break;
        }
    return d.digest();
}

Result<std::vector<Finding>> JudgementQuery::compute(const Ask& ask) const {
    std::vector<Finding> found;
    rule->find(Evidence(*design, circuit, conditions, drawer, ask), found);
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
    const Keyed<Circuit> circuit(design.circuit);
    for (const Rule& rule : rules())
        if (const auto found = ask(JudgementQuery{&rule, &design, circuit, conditions, drawer}))
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
