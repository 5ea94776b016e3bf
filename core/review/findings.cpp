#include "review/findings.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "review/rules.hpp"

namespace elkit {

const std::vector<Rule>& rules() {
    static const std::vector<Rule> all = [] {
        std::vector<Rule> list = light_rules();
        for (const auto& more : {circuit_rules(), stress_rules(), power_rules(), making_rules()})
            list.insert(list.end(), more.begin(), more.end());
        return list;
    }();
    return all;
}

std::vector<Finding> review(const Evidence& evidence) {
    std::vector<Finding> all;
    for (const Rule& rule : rules()) {
        const std::size_t before = all.size();
        rule.find(evidence, all);
        for (std::size_t i = before; i < all.size(); ++i) {
            Finding& f = all[i];
            f.rule = rule.id;
            f.id = f.ref.empty() ? rule.id : rule.id + ":" + f.ref.substr(f.ref.find(':') + 1);
            if (const Decision* d = evidence.design.decision(f.id)) f.known = d->reason;
        }
    }
    std::stable_sort(all.begin(), all.end(), [](const Finding& a, const Finding& b) {
        return std::make_pair(!a.known.empty(), a.severity) < std::make_pair(!b.known.empty(), b.severity);
    });
    return all;
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
