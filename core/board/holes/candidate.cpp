#include "board/holes/candidate.hpp"

#include <utility>

namespace elkit {
namespace {

constexpr std::size_t worth_a_look = 2;  // wires more than before, that closer joining may spare

}  // namespace

Candidate::Candidate(const HoleParts& parts, const HoleSearch& search, BoardTry attempt, std::uint64_t luck)
    : parts_(parts),
      search_(search),
      attempt_(std::move(attempt)),
      placer_(search.placer(
          attempt_, 17 + static_cast<std::uint64_t>(attempt_.board.columns * 100 + attempt_.board.rows) +
                        100003 * luck)) {}

bool Candidate::place(int moves) {
    if (!placer_->run(moves)) return false;
    spots_ = placer_->spots(), layout = finished();
    return true;
}

Candidate::Put Candidate::put() {
    if (!placer_->make_room()) return Put::no_room;
    if (!placer_->sound()) return Put::not_to_be_joined;
    spots_ = placer_->spots(), layout = finished({true});
    return Put::fits;
}

void Candidate::finish() {
    placer_->put(spots_);
    HoleLayout other = finished({true});
    if (search_.score(other) < search_.score(layout)) layout = std::move(other);
}

bool Candidate::vary(int moves) {
    if (!placer_->vary(spots_, moves)) return false;
    HoleLayout other = finished({false, wires() + worth_a_look});
    if (search_.score(other) >= search_.score(layout)) return false;
    layout = std::move(other), spots_ = placer_->spots();
    return true;
}

/// Where its parts lie, counted from the corner of what was broken off.
std::vector<Placer::Spot> Candidate::spots_on_layout() {
    placer_->put(spots_);
    const Placement& there = layout.placements.front();
    auto spots = spots_;
    for (const Placement& p : placer_->placements())
        if (p.designator == there.designator)
            for (Placer::Spot& spot : spots)
                spot.at = {spot.at.column + there.at.column - p.at.column,
                           spot.at.row + there.at.row - p.at.row};
    return spots;
}

std::unique_ptr<Candidate> Candidate::reshaped(const Reshaping& how, int moves) {
    if (spots_.empty()) return nullptr;
    auto spots = spots_on_layout();
    for (std::size_t k = 0; k < spots.size(); ++k) {
        const Box b = placer_->outline(k);
        Hole& at = spots[k].at;
        const double middle = how.column ? (b.x0 + b.x1) / 2 + at.column - spots_[k].at.column
                                         : (b.y0 + b.y1) / 2 + at.row - spots_[k].at.row;
        if (middle > how.line + 0.5) (how.column ? at.column : at.row) += how.by;
    }
    BoardTry other = attempt_;
    other.board = search_.board(layout.columns() + (how.column ? how.by : 0),
                                layout.rows() + (how.column ? 0 : how.by));
    auto candidate =
        std::make_unique<Candidate>(parts_, search_, std::move(other), static_cast<std::uint64_t>(how.line));
    if (!candidate->placer_->vary(spots, moves)) return nullptr;
    candidate->spots_ = candidate->placer_->spots();
    candidate->layout = candidate->finished({false, wires() + worth_a_look});
    return candidate;
}

std::unique_ptr<Candidate> Candidate::stretched() {
    if (spots_.empty()) return nullptr;
    auto spots = spots_on_layout();
    for (Placer::Spot& spot : spots) spot.at = {2 * spot.at.column, 2 * spot.at.row};
    BoardTry other = attempt_;
    other.board = search_.board(2 * layout.columns(), 2 * layout.rows());
    auto candidate = std::make_unique<Candidate>(parts_, search_, std::move(other));
    if (!candidate->placer_->vary(spots, 0)) return nullptr;
    candidate->spots_ = candidate->placer_->spots();
    candidate->layout = candidate->finished({true});
    return candidate;
}

HoleLayout Candidate::finished(const HoleSearch::Care& care) {
    HoleLayout l{attempt_.board, {}, {}, {}, {}, {}, parts_.wishes, parts_.shift};
    const auto placements = placer_->placements();
    for (std::size_t i = 0; i < parts_.all.size(); ++i) {
        if (placements[i].designator.empty()) continue;
        l.placements.push_back(placements[i]);
        for (auto& pin : placed_pins(parts_.all[i], placements[i])) l.pins.push_back(std::move(pin));
    }
    return search_.join(std::move(l), care);
}

}  // namespace elkit
