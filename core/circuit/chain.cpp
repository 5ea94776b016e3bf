#include "circuit/chain.hpp"

#include <algorithm>
#include <set>

#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

const ModuleSpec* chained(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->module && !kind->module->chain_in.empty() ? &*kind->module : nullptr;
}
std::string net_in(const Part& part) { return part.net(chained(part)->chain_in); }
std::string net_out(const Part& part) { return part.net(chained(part)->chain_out); }

}  // namespace

std::vector<std::vector<std::string>> chains_of(const Circuit& circuit) {
    std::vector<const Part*> links;
    for (const Part& part : circuit.parts)
        if (chained(part)) links.push_back(&part);
    const auto fed_by_another = [&](const Part& part) {
        return !net_in(part).empty() && std::any_of(links.begin(), links.end(), [&](const Part* other) {
            return other != &part && net_out(*other) == net_in(part);
        });
    };
    std::vector<std::vector<std::string>> chains;
    std::set<const Part*> taken;
    const auto follow = [&](const Part* first) {
        auto& chain = chains.emplace_back();
        for (const Part* at = first; at && taken.insert(at).second;) {
            chain.push_back(at->designator);
            const auto next = std::find_if(links.begin(), links.end(), [&](const Part* other) {
                return !net_out(*at).empty() && net_in(*other) == net_out(*at) && !taken.count(other);
            });
            at = next == links.end() ? nullptr : *next;
        }
    };
    for (const Part* part : links)
        if (!fed_by_another(*part)) follow(part);
    for (const Part* part : links)  // in a ring
        if (!taken.count(part)) follow(part);
    return chains;
}

const Part* sender_of(const Circuit& circuit, const std::vector<std::string>& chain) {
    const std::string data = net_in(*circuit.find(chain.front()));
    for (const Part& part : circuit.parts)
        if (const PartKind* kind = part_kind(part.kind); kind && kind->controller && !data.empty())
            for (const PinAbility& ability : kind->controller->pins)
                if (part.net(ability.pin) == data) return &part;
    return nullptr;
}

bool shows_pictures(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->module && kind->module->by == ModuleSpec::By::frames;
}

std::vector<std::vector<MatrixFrame>> chain_pictures(const Circuit& circuit,
                                                     const std::vector<std::string>& chain) {
    std::vector<std::vector<MatrixFrame>> all;
    for (const std::string& designator : chain) {
        const Part* part = circuit.find(designator);
        if (!part || !shows_pictures(*part)) continue;
        const auto own = frames_of(part->text("pattern"));
        const std::vector<MatrixFrame> frames = own ? own.value() : std::vector{MatrixFrame{}};
        auto& shown = all.emplace_back(all.empty() ? frames : all.front());
        for (std::size_t k = 0; k < shown.size(); ++k) shown[k].rows = frames[k % frames.size()].rows;
    }
    return all;
}

Circuit with_chain_pictures(const Circuit& circuit, const std::vector<std::string>& chain,
                            const std::vector<std::vector<MatrixFrame>>& pictures) {
    Circuit next = circuit;
    std::size_t matrix = 0;
    for (const std::string& designator : chain)
        if (Part* part = next.find(designator); part && shows_pictures(*part) && matrix < pictures.size())
            part->params["pattern"] = text_of(pictures[matrix++]);
    return next;
}

}  // namespace elkit
