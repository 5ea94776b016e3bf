#include "board/holes/search.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "board/holes/clusters.hpp"
#include "circuit/connectivity.hpp"

namespace elkit {
namespace {

/// The room that a cluster takes, lying as it is.
Box room_of(const Cluster& cluster) {
    Box room{1e9, 1e9, -1e9, -1e9};
    for (const Cluster::Member& m : cluster.members) {
        const Box b = placed_body(m.part->shapes.front(), m.placement);
        room = {std::min(room.x0, b.x0), std::min(room.y0, b.y0), std::max(room.x1, b.x1),
                std::max(room.y1, b.y1)};
    }
    return room;
}

/// Total area in holes, with room for joints: the start size of the board.
double needed_area(const std::vector<Cluster>& clusters) {
    double area = 0;
    for (const Cluster& cluster : clusters) {
        const Box b = room_of(cluster);
        const double around = cluster.members.size() > 1 ? 1 : 0.3;  // its rails lead away
        area += (b.x1 - b.x0 + around) * (b.y1 - b.y0 + around);
    }
    return area;
}

/// Holes along the longest part or cluster: the board has at least one side as long.
int longest_side(const std::vector<Cluster>& clusters) {
    double longest = 0;
    for (const Cluster& cluster : clusters) {
        const Box b = room_of(cluster);
        longest = std::max({longest, b.x1 - b.x0, b.y1 - b.y0});
    }
    return static_cast<int>(std::ceil(longest)) + 1;
}

constexpr std::size_t few_clusters = 16;

struct Sides {
    int columns, rows;
    double airy;
    auto operator<=>(const Sides&) const = default;
};

std::vector<Sides> sides_to_try(const HoleParts& parts, const BoardChoices& choices,
                                const BoardFamily& family) {
    constexpr int widest = 60;                          // holes, for lights in one row
    constexpr double closest = 1.45, very_close = 1.2;  // of the parts' own area; the latter of few parts
    constexpr double as_one_row = 0;  // aspect of a board as wide as its longest row of lights
    const auto fixed_columns = static_cast<int>(choices.columns), fixed_rows = static_cast<int>(choices.rows);
    const auto in_one_row = clusters(parts, fixed_columns ? fixed_columns : widest, family.strings);
    const bool has_rows = in_one_row.size() < parts.all.size();
    const double area = family.room * needed_area(in_one_row);
    std::vector<Sides> all;
    for (const double slack : {very_close, closest, 1.75, 2.1, 2.7, 3.6})
        for (const double aspect : {as_one_row, 1.35, 1.0, 1.9}) {
            if (slack == very_close && in_one_row.size() > few_clusters) continue;
            if (aspect == as_one_row && (fixed_columns || !has_rows)) continue;
            Sides t{fixed_columns, fixed_rows, slack / closest};
            if (aspect == as_one_row)
                t.columns = longest_side(in_one_row) + 2;
            else if (t.columns == 0 && t.rows == 0)
                t.columns = std::max(6, static_cast<int>(std::lround(std::sqrt(area * slack * aspect))));
            if (t.columns == 0) t.columns = std::max(6, static_cast<int>(std::ceil(area * slack / t.rows)));
            if (t.rows == 0)
                t.rows = std::max(family.least_rows, static_cast<int>(std::ceil(area * slack / t.columns)));
            const int longest = longest_side(clusters(parts, t.columns, family.strings));
            if (fixed_columns == 0) t.columns = std::max(t.columns, longest);
            if (fixed_rows == 0) t.rows = std::max(t.rows, fixed_columns ? longest : 5);
            if (std::find(all.begin(), all.end(), t) == all.end()) all.push_back(t);
        }
    return all;
}

/// A board with its parts, as it is and as it could be varied.
class Candidate {
  public:
    Candidate(const HoleParts& parts, const HoleSearch& search, const BoardTry& attempt,
              std::uint64_t luck = 0)
        : parts_(parts),
          search_(search),
          board_(attempt.board),
          placer_(search.placer(
              attempt, 17 + static_cast<std::uint64_t>(attempt.board.columns * 100 + attempt.board.rows) +
                           100003 * luck)) {}
    bool place(int moves) {
        if (!placer_->run(moves)) return false;
        spots_ = placer_->spots(), layout = finished(false);
        return true;
    }
    /// Looks once more for ways round each other.
    void finish() {
        placer_->put(spots_);
        HoleLayout other = finished(true);
        if (search_.score(other) < search_.score(layout)) layout = std::move(other);
    }
    /// Moves a few parts, and keeps that if the board becomes better by it.
    bool vary(int moves) {
        if (!placer_->vary(spots_, moves)) return false;
        HoleLayout other = finished(false);
        if (search_.score(other) >= search_.score(layout)) return false;
        layout = std::move(other), spots_ = placer_->spots();
        return true;
    }
    HoleLayout layout;

  private:
    HoleLayout finished(bool thorough) {
        HoleLayout l{board_, {}, {}, {}, {}, {}};
        const auto placements = placer_->placements();
        for (std::size_t i = 0; i < parts_.all.size(); ++i) {
            if (placements[i].designator.empty()) continue;
            l.placements.push_back(placements[i]);
            for (auto& pin : placed_pins(parts_.all[i], placements[i])) l.pins.push_back(std::move(pin));
        }
        return search_.join(std::move(l), thorough);
    }
    const HoleParts& parts_;
    const HoleSearch& search_;
    Substrate board_;
    std::unique_ptr<Placer> placer_;
    std::vector<Placer::Spot> spots_;
};

/// Boards that a placer of so many clusters may try.
struct Effort {
    int moves, few_moves;
    std::size_t enough;
    explicit Effort(std::size_t clusters)
        : moves(std::clamp(5000 * static_cast<int>(clusters), 20000, 90000)),
          few_moves(60 * static_cast<int>(clusters)),
          enough(clusters > few_clusters ? 3 : 9) {}
};

// of the longer look: how many parts, how airy boards, and by how much of the score one may be behind the
// best to be varied at all
constexpr std::size_t few_parts = 14;
constexpr double widest_look = 1.5, worth_varying = 60;

/// How often the best board is varied: what joining it takes grows with its nets and holes.
int rounds_for(const HoleLayout& layout, std::size_t nets, double takes) {
    constexpr double all = 4e5;
    return static_cast<int>(std::clamp(
        all / (takes * static_cast<double>(nets) * layout.columns() * layout.rows()), 30.0, 300.0));
}

}  // namespace

std::vector<BoardTry> board_tries(const HoleParts& parts, const BoardChoices& choices,
                                  const BoardFamily& family) {
    std::vector<BoardTry> all;
    for (const Sides& sides : sides_to_try(parts, choices, family))
        all.push_back({family.board(sides.columns, sides.rows), sides.airy});
    return all;
}

Result<HoleLayout> best_layout(const HoleParts& parts, const HoleSearch& search, const Progress& progress) {
    const Circuit& circuit = *parts.circuit;
    if (circuit.parts.size() > most_on_holes)
        return Error{Fault::design, "/board",
                     "the circuit has " + std::to_string(circuit.parts.size()) + " parts",
                     "at most " + std::to_string(most_on_holes) + " on one board; place fewer, or divide it"};
    if (auto errors = connectivity_errors(circuit); !errors.empty()) return errors.front();
    const Error stopped{Fault::usage, "/board", "stopped before a layout was found", ""};
    const Effort effort(clusters(parts, search.tries.front().board.columns).size());
    constexpr std::size_t few_tries = 6;
    std::unique_ptr<Candidate> best;
    std::size_t found = 0;
    std::map<double, int> failed;  // by how close the parts lie: two that failed tell of the others
    for (std::size_t k = 0; k < search.tries.size() && found < effort.enough; ++k) {
        if (search.tries.size() > few_tries && failed[search.tries[k].airy] > 1) continue;
        if (progress && !progress("placing the parts on the board",
                                  0.5 * static_cast<double>(k) / static_cast<double>(search.tries.size())))
            return stopped;
        auto candidate = std::make_unique<Candidate>(parts, search, search.tries[k]);
        if (!candidate->place(effort.moves)) {
            failed[search.tries[k].airy]++;
            continue;
        }
        ++found;
        if (!best || search.score(candidate->layout) < search.score(best->layout))
            best = std::move(candidate);
    }
    if (!best)
        return Error{Fault::design, search.choice,
                     fmt::format("the parts do not fit on {}", search.tries.back().board.size),
                     search.larger};
    const auto varied = [&](Candidate& one, int share /* of all rounds */, double from, double to) {
        const int rounds = rounds_for(one.layout, circuit.nets().size(), search.joining_takes) / share,
                  patience = rounds / 4;
        for (int round = 0, idle = 0; round < rounds; ++round) {
            if (progress && !progress("joining its holes", from + (to - from) * round / rounds)) return false;
            idle = one.vary(effort.few_moves) ? 0 : idle + 1;
            if (idle > (one.layout.wires.empty() ? patience : 2 * patience)) break;
        }
        return true;
    };
    if (!varied(*best, 1, 0.5, 0.8)) return stopped;
    best->finish();
    const auto jumpers = [](const Candidate& one) { return one.layout.count(Wire::Kind::jumper); };
    // few parts are worth a longer look for a board without jumpers
    constexpr int most_looks = 4, share = 4;  // each by a fourth of the rounds
    int looks = 0;
    for (std::uint64_t luck = 1; luck <= 2 && circuit.parts.size() <= few_parts; ++luck)
        for (const BoardTry& attempt : search.tries) {
            if (jumpers(*best) == 0 || looks >= most_looks) return std::move(best->layout);
            if (attempt.airy > widest_look) continue;
            auto candidate = std::make_unique<Candidate>(parts, search, attempt, luck);
            if (!candidate->place(effort.moves) ||
                search.score(candidate->layout) > search.score(best->layout) + worth_varying)
                continue;
            const double from = 0.8 + 0.2 * looks++ / most_looks;
            if (!varied(*candidate, share, from, from + 0.2 / most_looks)) return stopped;
            if (jumpers(*candidate) <= jumpers(*best)) candidate->finish();
            if (search.score(candidate->layout) < search.score(best->layout)) best = std::move(candidate);
        }
    return std::move(best->layout);
}

}  // namespace elkit
