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
        using When = BoardWork::When;
        const Phase phase = work.when == When::first  ? Phase::prepare
                            : work.when == When::wire ? Phase::wire
                                                      : Phase::solder;
        const double rank = work.when == When::join ? 1e5 : work.when == When::link ? -1 : 0;
        BuildStep& s = add_step(steps, work.id, phase, rank, work.title, work.text);
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

Result<PoweredStates> powered_states(const Ask& ask, const Keyed<Circuit>& circuit,
                                     const std::vector<Situation>& situations) {
    const auto placed = placed_situations(ask, situations, circuit);
    PoweredStates states;
    states.on.situation.conditions = lit(*circuit, {});  // where no situation can be found
    if (placed && !placed.value().empty()) states.on.situation = placed.value().front().situation;
    auto readings = Readings::solve(ask, circuit, states.on.situation.under({}));
    if (!readings) return readings.error();
    states.on.readings = std::move(readings).value();
    if (const Placed* off = placed ? standby_of(placed.value()) : nullptr) {
        auto there = Readings::solve(ask, circuit, off->situation.under({}));
        if (!there) return there.error();
        states.waiting = PoweredState{off->situation, std::move(there).value()};
    }
    return states;
}

Digest StepsQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(board) << for_children << content_digest(situations);
    return d.digest();
}

Result<std::vector<BuildStep>> StepsQuery::compute(const Ask& ask) const {
    const auto made = ask(BoardQuery{circuit, board});
    if (!made) return made.error();
    const auto states = powered_states(ask, circuit, situations);
    if (!states) return states.error();
    std::vector<BuildStep> steps;
    add_board_steps(*made, steps);
    add_part_steps(*circuit, *made, steps);
    add_unpowered_checks(*circuit, *made, steps);
    add_powered_checks(*circuit, *made, states.value().on, steps);
    if (const auto& waiting = states.value().waiting) add_waiting_check(*circuit, *made, *waiting, steps);
    add_closing(for_children, steps);
    std::stable_sort(steps.begin(), steps.end(), [](const BuildStep& a, const BuildStep& b) {
        return std::pair(a.phase, a.rank) < std::pair(b.phase, b.rank);
    });
    return steps;
}

}  // namespace elkit
