#include "board/holes/search.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <numeric>

#include "board/holes/candidate.hpp"
#include "board/holes/clusters.hpp"
#include "board/holes/reshape.hpp"
#include "circuit/connectivity.hpp"
#include "quantity/parallel.hpp"

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

constexpr std::size_t few_clusters = 16, many_clusters = 28, many_parts = 40;

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
    constexpr int slimmest = 4;       // a row that is short for its board gives it no width
    const auto fixed_columns = static_cast<int>(choices.columns), fixed_rows = static_cast<int>(choices.rows);
    const auto in_one_row = clusters(parts, fixed_columns ? fixed_columns : widest, family.strings);
    const bool has_rows = in_one_row.size() < parts.all.size();
    double area = family.room * needed_area(in_one_row);
    for (const Box& b : parts.wishes.free) area += (b.x1 - b.x0) * (b.y1 - b.y0);
    const bool few = in_one_row.size() <= few_clusters;
    constexpr std::array slacks{very_close, closest, 1.75, 2.1, 2.7, 3.6};
    constexpr std::array aspects{as_one_row, 1.35, 1.0, 1.9};
    std::vector<Sides> all;
    for (std::size_t k = 0; k < slacks.size() * aspects.size(); ++k) {
        // of many not all will be tried: one of each slack comes first
        const double slack = few ? slacks[k / aspects.size()] : slacks[k % slacks.size()],
                     aspect = aspects[few ? k % aspects.size() : (k + k / slacks.size()) % aspects.size()];
        if (slack == very_close && !few) continue;
        if (aspect == as_one_row && (fixed_columns || !has_rows)) continue;
        Sides t{fixed_columns, fixed_rows, slack / closest};
        if (aspect == as_one_row)
            t.columns = longest_side(in_one_row) + 2;
        else if (t.columns == 0 && t.rows == 0)
            t.columns = std::max(6, static_cast<int>(std::lround(std::sqrt(area * slack * aspect))));
        if (t.columns == 0) t.columns = std::max(6, static_cast<int>(std::ceil(area * slack / t.rows)));
        if (t.rows == 0)
            t.rows = std::max(family.least_rows, static_cast<int>(std::ceil(area * slack / t.columns)));
        if (aspect == as_one_row && fixed_rows == 0 && t.rows > slimmest * t.columns) continue;
        const int longest = longest_side(clusters(parts, t.columns, family.strings));
        if (fixed_columns == 0) t.columns = std::max(t.columns, longest);
        if (fixed_rows == 0) t.rows = std::max(t.rows, fixed_columns ? longest : 5);
        if (std::find(all.begin(), all.end(), t) == all.end()) all.push_back(t);
    }
    return all;
}

/// What is spent on boards of so many clusters and parts.
struct Effort {
    int moves, few_moves;
    std::uint64_t lucks;  ///< how often each board is tried
    std::size_t enough;   ///< boards that the parts fit on, of each luck
    std::size_t varied;   ///< of them, the best
    int share;            ///< of the rounds that one alone would be varied
    Effort(std::size_t clusters, std::size_t parts, double joining_takes) {
        const bool long_to_join = parts > many_parts && joining_takes >= 1;
        const bool few = clusters <= few_clusters, many = clusters > many_clusters || long_to_join;
        const auto all = static_cast<int>(clusters);
        moves = std::clamp(2000 * all, 8000, 90000), few_moves = 60 * all;
        const bool joined_at_once = parts <= few_clusters && joining_takes < 0.4;
        lucks = !few ? 1 : joined_at_once ? 6 : 2, enough = few ? 9 : many ? 4 : 8;
        varied = few ? 4 : many ? 2 : 3, share = 2;
    }
};

/// How often the best board is varied: what joining it takes grows with its nets and holes.
int rounds_for(const HoleLayout& layout, std::size_t nets, double takes) {
    constexpr double all = 4e5;
    return static_cast<int>(std::clamp(
        all / (takes * static_cast<double>(nets) * layout.columns() * layout.rows()), 16.0, 300.0));
}

using Candidates = std::vector<std::unique_ptr<Candidate>>;
using Told = std::function<bool(double done)>;  // false: it shall stop

/// The boards of one luck that the parts fit on, a few at a time. False if `told` stops it.
bool place(Candidates& found, const HoleParts& parts, const HoleSearch& search,
           const std::vector<BoardTry>& tries, const Effort& effort, std::uint64_t luck, const Told& told) {
    // the former whatever the machine, for the same boards everywhere
    constexpr std::size_t at_a_time = 4, few_tries = 6;
    std::map<double, int> failed;  // by how close the parts lie: two that failed tell of the others
    std::size_t fit = 0;
    for (std::size_t next = 0; next < tries.size() && fit < effort.enough;) {
        if (!told(static_cast<double>(next) / static_cast<double>(tries.size()))) return false;
        Candidates some;
        for (; next < tries.size() && some.size() < at_a_time; ++next)
            if (tries.size() <= few_tries || failed[tries[next].airy] < 2)
                some.push_back(std::make_unique<Candidate>(parts, search, tries[next], luck));
        std::vector<char> fits(some.size());
        parallel(some.size(), [&](std::size_t k) { fits[k] = some[k]->place(effort.moves); });
        for (std::size_t k = 0; k < some.size(); ++k)
            if (fits[k])
                found.push_back(std::move(some[k])), ++fit;
            else
                ++failed[some[k]->airy()];
    }
    return true;
}

bool better(const std::unique_ptr<Candidate>& a, const std::unique_ptr<Candidate>& b) {
    return a->score() < b->score();
}

/// Tells how far several that work at the same time have come together.
class Together {
  public:
    Together(std::size_t count, const Told& told) : done_(count), told_(told) {}
    bool told(std::size_t which, double done) {
        const std::lock_guard lock(guard_);
        done_[which] = done;
        going_ = going_ &&
                 told_(std::accumulate(done_.begin(), done_.end(), 0.0) / static_cast<double>(done_.size()));
        return going_;
    }
    bool going() const { return going_; }

  private:
    std::mutex guard_;
    bool going_ = true;
    std::vector<double> done_;
    const Told& told_;
};

/// Varies the best ones, each by itself; the best of all comes first then. False if `told` stops it.
bool improve(Candidates& found, const HoleSearch& search, const Effort& effort, std::size_t nets,
             const Told& told) {
    std::stable_sort(found.begin(), found.end(), better);
    found.resize(std::min(found.size(), effort.varied));
    Together together(found.size(), told);
    parallel(found.size(), [&](std::size_t k) {
        const auto rounds = [&] {
            return rounds_for(found[k]->layout, nets, search.joining_takes) / effort.share;
        };
        const int most = rounds(), patience = found[k]->layout.wires.empty() ? most / 4 : most / 2;
        for (int round = 0, idle = 0; round < most && idle <= patience; ++round) {
            if (!together.told(k, 0.5 * round / most)) return;
            idle = found[k]->vary(effort.few_moves) ? 0 : idle + 1;
        }
        if (!reshape(found[k], search, rounds(), effort.few_moves,
                     [&](double done) { return together.told(k, 0.5 + 0.5 * done); }))
            return;
        found[k]->finish();
    });
    std::stable_sort(found.begin(), found.end(), better);
    return together.going();
}

constexpr std::size_t few_parts = 14;  // worth a second look for a board without jumpers

}  // namespace

std::vector<BoardTry> board_tries(const HoleParts& parts, const BoardChoices& choices,
                                  const BoardFamily& family) {
    std::vector<BoardTry> all;
    for (const Sides& sides : sides_to_try(parts, choices, family))
        all.push_back({family.board(sides.columns, sides.rows), sides.airy, sides.columns});
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
    const Effort effort(clusters(parts, search.tries.front().widest).size(), circuit.parts.size(),
                        search.joining_takes);
    const std::size_t nets = circuit.nets().size();
    const int most_looks = circuit.parts.size() <= few_parts ? 2 : 1;
    std::unique_ptr<Candidate> best;
    std::uint64_t luck = 0;
    auto tries = search.tries;
    for (int look = 0; look < most_looks && (!best || best->wires() > 0); ++look) {
        const auto told = [&](const char* what, double from, double share) {
            return [&progress, what, from = (look + from) / most_looks, share = share / most_looks](
                       double done) { return !progress || progress(what, from + share * done); };
        };
        Candidates found;
        const std::uint64_t lucks = look == 0 ? effort.lucks : 1;
        for (std::uint64_t k = 0; k < lucks; ++k) {
            const double share = 0.5 / static_cast<double>(lucks);
            if (!place(found, parts, search, tries, effort, luck++,
                       told("placing the parts on the board", share * static_cast<double>(k), share)))
                return stopped;
        }
        if (found.empty()) break;
        if (!improve(found, search, effort, nets, told("joining its holes", 0.5, 0.5))) return stopped;
        if (circuit.parts.size() <= few_parts)
            spare_wires(found.front(), search, 1.6, 300, effort.few_moves, told("sparing wires", 1, 0));
        const bool spared = best && found.front()->wires() < best->wires();
        if (!best || spared || better(found.front(), best)) best = std::move(found.front());
        std::reverse(tries.begin(), tries.end());  // then there is room for what was in the way
    }
    if (!best)
        return Error{Fault::design, search.choice,
                     fmt::format("the parts do not fit on {}", search.tries.back().board.size),
                     search.larger};
    return std::move(best->layout);
}

}  // namespace elkit
