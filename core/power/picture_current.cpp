#include "power/picture_current.hpp"

#include <algorithm>

#include "circuit/chain.hpp"
#include "circuit/part_kind.hpp"
#include "engine/measure.hpp"
#include "engine/transient.hpp"

namespace elkit {

Result<PictureCurrents> picture_currents(const Circuit& circuit, const Catalogue& catalogue,
                                         const Conditions& conditions, const std::vector<std::string>& chain,
                                         const Progress& progress) {
    PictureCurrents all;
    const auto pictures = chain_pictures(circuit, chain);
    if (pictures.empty()) return all;
    const double round = duration_of(pictures.front());
    RunRequest request;
    request.until = 2 * round, request.start = Start::power_up, request.balance = false;
    for (const std::string& designator : chain)
        if (const Part* part = circuit.find(designator); part && shows_pictures(*part))
            request.probes.push_back("part:" + designator + "." + part_kind(part->kind)->module->plus);
    const auto run = simulate(circuit, catalogue, conditions, request, {}, progress);
    if (!run) return run.error();
    double at = round;
    for (const MatrixFrame& frame : pictures.front()) {
        double amps = 0;
        for (const Trace& trace : run.value().traces)
            amps += value_at(run.value().time, trace.values, at + frame.seconds / 2);
        all.each.push_back(amps);
        all.mean += amps * frame.seconds / round;
        at += frame.seconds;
    }
    all.brightest =
        static_cast<std::size_t>(std::max_element(all.each.begin(), all.each.end()) - all.each.begin());
    return all;
}

}  // namespace elkit
