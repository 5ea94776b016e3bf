#include "kit/sent_pictures.hpp"

#include <cmath>

#include "circuit/chain.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

/// Pins of both on one net, other than the matrix's supply.
std::vector<std::pair<std::string, std::string>> wires_between(const Part& controller, const Part& matrix) {
    std::vector<std::pair<std::string, std::string>> wires;
    const ModuleSpec& module = *part_kind(matrix.kind)->module;
    for (const Pin& from : controller.pins)
        for (const Pin& to : matrix.pins)
            if (!from.net.empty() && from.net == to.net && to.name != module.plus && to.name != module.minus)
                wires.emplace_back(from.name, to.name);
    return wires;
}

}  // namespace

std::vector<SentPictures> pictures_sent_by(const Circuit& circuit, const Part& controller) {
    std::vector<SentPictures> all;
    for (const auto& chain : chains_of(circuit)) {
        const auto pictures = chain_pictures(circuit, chain);
        if (pictures.size() != chain.size()) continue;  // something else hangs in it
        const Part& first = *circuit.find(chain.front());
        if (sender_of(circuit, chain) != circuit.find(controller.designator)) continue;
        SentPictures sent{{}, wires_between(controller, first)};
        for (std::size_t k = 0; k < chain.size(); ++k)
            sent.matrices.push_back(
                {chain[k], static_cast<int>(std::lround(circuit.find(chain[k])->number("brightness"))),
                 pictures[k]});
        all.push_back(std::move(sent));
    }
    return all;
}

}  // namespace elkit
