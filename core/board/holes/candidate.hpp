#pragma once
#include <cstdint>
#include <memory>
#include <vector>

#include "board/holes/search.hpp"

namespace elkit {

/// A line of holes to take out of a board or put in, and what lies beyond it moves up or away.
struct Reshaping {
    bool column;  ///< or a row
    int line;     ///< the last one before it
    int by;       ///< −1 takes one out, 1 puts one in
};

/// A board with its parts, as it is and as it could be varied. What it is made of must outlive it.
class Candidate {
  public:
    /// `luck`: others of the same board lie otherwise.
    Candidate(const HoleParts& parts, const HoleSearch& search, BoardTry attempt, std::uint64_t luck = 0);
    /// False if the parts do not fit.
    bool place(int moves);
    /// As parts were put by hand; without a layout if they cannot lie so.
    enum class Put { fits, no_room, not_to_be_joined };
    Put put();
    /// Looks once more for ways round each other.
    void finish();
    /// Moves a few parts, and keeps that if the board becomes better by it.
    bool vary(int moves);
    /// The board with a line more or less, its parts moved a little then; nullptr if they do not fit.
    std::unique_ptr<Candidate> reshaped(const Reshaping& how, int moves);

    /// The board twice as long and as wide, its parts as much further apart; nullptr if they do not fit.
    std::unique_ptr<Candidate> stretched();

    std::size_t wires() const { return wires_to_spare(layout); }
    double airy() const { return attempt_.airy; }
    double score() const { return search_.score(layout); }
    HoleLayout layout;

  private:
    std::vector<Placer::Spot> spots_on_layout();
    HoleLayout finished(const HoleSearch::Care& care = {});
    const HoleParts& parts_;
    const HoleSearch& search_;
    BoardTry attempt_;
    std::unique_ptr<Placer> placer_;
    std::vector<Placer::Spot> spots_;
};

}  // namespace elkit
