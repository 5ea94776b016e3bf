#include "build/steps.hpp"

#include <algorithm>

#include "build/contributions.hpp"
#include "design/content.hpp"
#include "situations/propose.hpp"

namespace elkit {

BuildStep& add_step(std::vector<BuildStep>& steps, std::string id, Phase phase, double rank,
                    std::string title, std::string text) {
    BuildStep s;
    s.id = std::move(id), s.phase = phase, s.rank = rank, s.title = std::move(title),
    s.text = std::move(text);
    return steps.emplace_back(std::move(s));
}

void add_board_steps(const Board& board, std::vector<BuildStep>& steps) {
    for (const BoardWork& work : board.works) {
        const Phase phase = work.when == BoardWork::When::first  ? Phase::prepare
                            : work.when == BoardWork::When::join ? Phase::solder
                                                                 : Phase::wire;
        BuildStep& s = add_step(steps, work.id, phase, work.when == BoardWork::When::join ? 1e5 : 0,
                                work.title, work.text);
        s.caution = work.caution, s.ref = work.ref;
    }
}

void add_closing(bool for_children, std::vector<BuildStep>& steps) {
    add_step(steps, "close", Phase::close, 0, "Close the case",
             "Point of no return: every check above is ticked and in its band. Fix the board, lead the wires "
             "clear "
             "of the lid, close.")
        .caution = for_children
                       ? "For children: the battery compartment needs a screw, no small part may come loose."
                       : "";
}

std::string phase_name(Phase phase) {
    switch (phase) {
        case Phase::prepare:
            return "Prepare";
        case Phase::solder:
            return "Place and solder";
        case Phase::wire:
            return "Wire";
        case Phase::unpowered:
            return "Check before power";
        case Phase::powered:
            return "Check with power";
        case Phase::close:
            return "Close";
    }
    return {};
}

Reading judge(const BuildStep& step, const StepRecord* record) {
    if (!step.check || !record || !record->measured) return Reading::none;
    const double m = *record->measured;
    switch (step.check->kind) {
        case CheckKind::beep:
            return m > 0.5 ? Reading::within : Reading::outside;
        case CheckKind::silent:
            return m > 0.5 ? Reading::outside : Reading::within;
        default:
            break;
    }
    const Figure& f = *step.check->expected;
    return m >= f.low.value_or(f.value) && m <= f.high.value_or(f.value) ? Reading::within : Reading::outside;
}

Digest StepsQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(board) << for_children << content_digest(situations);
    return d.digest();
}

Result<std::vector<BuildStep>> StepsQuery::compute(const Ask& ask) const {
    const auto made = ask(BoardQuery{circuit, board});
    if (!made) return made.error();
    const auto placed = placed_situations(ask, situations, circuit);
    PoweredState on, waiting;
    on.situation.conditions = lit(*circuit, {});  // where no situation can be found
    if (placed && !placed.value().empty()) on.situation = placed.value().front().situation;
    auto readings = Readings::solve(ask, circuit, on.situation.under({}));
    if (!readings) return readings.error();
    on.readings = std::move(readings).value();
    const Placed* off = placed ? standby_of(placed.value()) : nullptr;
    if (off) {
        waiting.situation = off->situation;
        auto there = Readings::solve(ask, circuit, off->situation.under({}));
        if (!there) return there.error();
        waiting.readings = std::move(there).value();
    }
    std::vector<BuildStep> steps;
    add_board_steps(*made, steps);
    add_part_steps(*circuit, *made, steps);
    add_unpowered_checks(*circuit, *made, steps);
    add_powered_checks(*circuit, *made, on, steps);
    if (off) add_waiting_check(*circuit, *made, waiting, steps);
    add_closing(for_children, steps);
    std::stable_sort(steps.begin(), steps.end(), [](const BuildStep& a, const BuildStep& b) {
        return std::pair(a.phase, a.rank) < std::pair(b.phase, b.rank);
    });
    return steps;
}

}  // namespace elkit
