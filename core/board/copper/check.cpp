#include "board/copper/check.hpp"

#include "board/copper/mill_plan.hpp"

namespace elkit {

std::vector<std::string> fabrication_faults(const CopperLayout& l, const Circuit& circuit) {
    return fabrication_faults(l, circuit, copper_groups(l));
}

std::vector<std::string> fabrication_faults(const CopperLayout& l, const Circuit& circuit,
                                            const std::vector<std::vector<std::string>>& groups) {
    std::vector<std::string> all;
    for (const std::string& net : l.open) all.push_back(net);
    for (const std::string& d : copper_differences(l, circuit, groups)) all.push_back(d);
    if (l.making.milled() && all.empty())  // the plan is right: is what the tools leave?
        for (const std::string& d : copper_differences(l, circuit, copper_groups(l, copper_left(l))))
            all.push_back("after milling: " + d);
    for (const RuleFault& f : rule_faults(l)) all.push_back(f.rule + ": " + f.text);
    return all;
}

}  // namespace elkit
