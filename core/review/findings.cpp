#include "review/findings.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "design/content.hpp"
#include "recipes/recipe.hpp"
#include "review/rules.hpp"
#include "situations/worst.hpp"

namespace elkit {

Evidence::Evidence(const Design& design_in, const Keyed<Circuit>& circuit_in, const Conditions& conditions,
                   const Keyed<std::vector<DrawerItem>>& drawer, const std::vector<Situation>& judged,
                   const Ask& ask_in)
    : design(design_in),
      circuit(circuit_in),
      fresh(elkit::fresh(*circuit_in, conditions)),
      situations(judged),
      ask(ask_in),
      drawer_(drawer) {}

Answer<OperatingPoint> Evidence::rest(const Corner& corner) const {
    if (may_move(*circuit)) {
        const auto moving = run();
        if (!moving || moving->moves()) return {};
    }
    return ask(RestQuery(circuit, fresh, corner));
}

Answer<LongRun> Evidence::run(const Corner& corner) const { return ask(RunQuery(circuit, fresh, corner)); }

WhileOn Evidence::while_on(const std::string& light, const Corner& corner, const std::string& pin) const {
    return {*circuit, run(corner), light, pin};
}

Answer<LongRun> Evidence::run_in(const Situation& situation) const {
    return ask(RunQuery(circuit, elkit::fresh(*circuit, situation.under({}))));
}

Answer<LongRun> Evidence::flat_run() const {
    const auto life = power();
    if (!life) return {};
    Conditions flat = fresh;
    flat.battery = life->typical.charge_left;
    return ask(RunQuery(circuit, flat));
}

Answer<PowerResult> Evidence::power() const { return ask(LifeQuery(design, circuit, {})); }

Answer<Board> Evidence::board() const { return ask(BoardQuery{circuit, board_choices(design)}); }

Answer<std::vector<BuildStep>> Evidence::steps() const {
    return ask(StepsQuery{circuit, board_choices(design), design.brief.for_children, design.situations});
}

Answer<PartsList> Evidence::parts() const {
    return ask(PartsQuery{circuit, board_choices(design), design.brief.kits, design.batch.spares, drawer_,
                          batch_name(design, *drawer_)});
}

const std::vector<Rule>& rules() {
    static const std::vector<Rule> all = [] {
        std::vector<Rule> list;
        for (const auto& more :
             {light_rules(), limiter_rules(), sight_rules(), circuit_rules(), pitfall_rules(), coil_rules(),
              timing_rules(), controller_rules(), matrix_rules(), warmth_rules(), recipe_rules(),
              stress_rules(), drain_rules(), power_rules(), making_rules(), copper_rules()})
            list.insert(list.end(), more.begin(), more.end());
        return list;
    }();
    return all;
}

Case::Case(std::shared_ptr<const Design> of, Keyed<Circuit> its, const Conditions& under,
           Keyed<std::vector<DrawerItem>> owned)
    : design(std::move(of)),
      circuit(std::move(its)),
      now(as_seen(*circuit, under)),
      drawer(std::move(owned)) {
    now.battery = 1;  // judged from fresh cells
    const auto set = [&](On on, auto... pieces) {
        Digester d;
        (d << ... << pieces);
        digests[static_cast<std::size_t>(on)] = d.digest();
    };
    const Design& d = *design;
    set(On::conditions, content_digest(now), content_digest(d.situations), content_digest(d.use));
    set(On::brief, content_digest(d.brief));
    set(On::blocks, content_digest(d.blocks));
    set(On::board, content_digest(board_choices(d)), d.brief.for_children);
    set(On::batch, content_digest(d.batch), d.brief.kits, batch_name(d, *drawer), drawer.digest());
    set(On::readings, readings_digest(d.records));
}

/// Whether recipes know changes of goals that settle what a rule finds.
static bool settled_by_goals(const Rule& rule) {
    return std::any_of(recipes().begin(), recipes().end(), [&](const Recipe& recipe) {
        return std::any_of(recipe.remedies.begin(), recipe.remedies.end(), [&](const GoalRemedy& r) {
            return std::find(r.rules.begin(), r.rules.end(), rule.id) != r.rules.end();
        });
    });
}

Digest JudgementQuery::key() const {
    Digester d;
    d << rule->id << subject->circuit.digest();
    for (const On on : rule->on) d << subject->of(on);
    if (settled_by_goals(*rule)) d << subject->of(On::blocks);
    return d.digest();
}

Digest JudgedQuery::key() const {
    Digester d;
    d << subject->circuit.digest() << subject->of(On::conditions);
    return d.digest();
}

Result<std::vector<Situation>> JudgedQuery::compute(const Ask& ask) const {
    const Keyed<Circuit>& circuit = subject->circuit;
    std::vector<Situation> list = situations_of(ask, *subject->design, circuit);
    if (list.empty()) {  // it cannot be solved as it is drawn: the rules say why
        list.push_back({"", {}, lit(*circuit, subject->now), {}});
        return list;
    }
    const Conditions now = subject->now;
    const auto same = [&](const Situation& s) {
        Conditions there = as_seen(*circuit, s.under(now));
        there.as_set = now.as_set;
        return there == now;
    };
    Conditions untouched = as_seen(*circuit, {});
    untouched.as_set = now.as_set;
    const bool turned = now != untouched && std::none_of(list.begin(), list.end(), same);
    if (const auto worst = ask(WorstQuery{circuit, list}))
        list.insert(list.end(), worst->begin(), worst->end());
    if (turned) list.push_back({"now", {}, now, {}});
    return list;
}

namespace {

/// Keeps one finding of each id, the most serious, and notes where it is so.
class Merging {
  public:
    explicit Merging(std::size_t situations) : situations_(situations) {}
    void add(std::vector<Finding> found, const std::string& situation) {
        for (Finding& f : found) {
            const auto known = std::find_if(places_.begin(), places_.end(),
                                            [&](const Place& p) { return p.finding.id == f.id; });
            if (known == places_.end()) {
                places_.push_back({std::move(f), {situation}});
                continue;
            }
            known->names.push_back(situation);
            if (f.severity < known->finding.severity) {
                known->finding = std::move(f);
                std::rotate(known->names.begin(), known->names.end() - 1, known->names.end());
            }
        }
    }
    std::vector<Finding> result() {
        std::vector<Finding> all;
        for (Place& p : places_) {
            constexpr std::size_t most_names = 3;
            const bool many = p.names.size() > most_names;
            if (p.names.size() < situations_) {
                if (many) p.names.resize(most_names);
                p.finding.situation = fmt::format("{}{}", fmt::join(p.names, "; "), many ? " …" : "");
            }
            all.push_back(std::move(p.finding));
        }
        return all;
    }

  private:
    struct Place {
        Finding finding;
        std::vector<std::string> names;
    };
    std::vector<Place> places_;
    std::size_t situations_;
};

}  // namespace

Result<std::vector<Finding>> JudgementQuery::compute(const Ask& ask) const {
    const bool looks = std::find(rule->on.begin(), rule->on.end(), On::conditions) != rule->on.end();
    std::vector<Situation> situations{{"", {}, subject->now, {}}};
    if (looks)
        if (const auto judged = ask(JudgedQuery{subject})) situations = *judged;
    const std::size_t many = rule->over == Over::first ? 1 : situations.size();
    Merging merging(many);
    for (std::size_t k = 0; k < many; ++k) {
        const Situation& s = situations[k];
        std::vector<Finding> found;
        rule->find(
            Evidence(*subject->design, subject->circuit, s.under({}), subject->drawer, situations, ask),
            found);
        for (Finding& f : found) {
            const bool of_part = f.ref.starts_with("part:");
            if (of_part || f.ref.starts_with("field:"))
                add_goal_remedies(*subject->design, rule->id, of_part ? f.ref.substr(5) : "", f);
            f.rule = rule->id;
            f.id = f.ref.empty() ? rule->id : rule->id + ":" + f.ref.substr(f.ref.find(':') + 1);
            if (!f.aspect.empty()) f.id += ":" + f.aspect;
        }
        merging.add(std::move(found), s.name);
    }
    return merging.result();
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
