#pragma once
#include "build/readings.hpp"
#include "build/steps.hpp"

/// What goes into the steps. Each adds its own; steps.cpp puts them in order.
namespace elkit {

void add_board_steps(const Board& board, std::vector<BuildStep>& steps);
/// Measuring, soldering, leads, and what is plugged in last, in the words of each part's kind.
void add_part_steps(const Circuit& circuit, const Board& board, std::vector<BuildStep>& steps);
/// Measuring and plugging into a breadboard.
void add_plugging_steps(const Circuit& circuit, const Board& board, std::vector<BuildStep>& steps);
/// Continuity: what must beep and what must not.
void add_unpowered_checks(const Circuit& circuit, const Board& board, std::vector<BuildStep>& steps);
/// A situation that a hand puts the gadget in, and what a meter shows there.
struct PoweredState {
    Situation situation;
    Readings readings;
};
/// The first situation, which is lit where any is, and the dark one that takes least, where there is one.
struct PoweredStates {
    PoweredState on;
    std::optional<PoweredState> waiting;
};
/// Errors of the engine.
Result<PoweredStates> powered_states(const Ask& ask, const Keyed<Circuit>& circuit,
                                     const std::vector<Situation>& situations);
/// Voltages and currents of a good unit that gives light.
void add_powered_checks(const Circuit& circuit, const Board& board, const PoweredState& state,
                        std::vector<BuildStep>& steps);
/// The current of one that waits.
void add_waiting_check(const Circuit& circuit, const Board& board, const PoweredState& state,
                       std::vector<BuildStep>& steps);
void add_closing(bool for_children, std::vector<BuildStep>& steps);

/// A step of this id, to be filled further.
BuildStep& add_step(std::vector<BuildStep>& steps, std::string id, Phase phase, double rank,
                    std::string title, std::string text);

}  // namespace elkit
