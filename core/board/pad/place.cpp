#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <memory>

#include "board/pad/layout.hpp"
#include "board/pad/placer.hpp"
#include "circuit/connectivity.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

PadLayout collect(const Circuit& circuit, std::vector<Placement> placements, int columns, int rows) {
    PadLayout layout{columns, rows, std::move(placements), {}, {}, {}};
    for (std::size_t i = 0; i < circuit.parts.size(); ++i)
        for (auto& pin : placed_pins(circuit.parts[i], layout.placements[i]))
            layout.pins.push_back(std::move(pin));
    return layout;
}

/// The room that a cluster takes, lying as it is.
Box room_of(const Cluster& cluster) {
    Box room{1e9, 1e9, -1e9, -1e9};
    for (const Cluster::Member& m : cluster.members) {
        const Box b = placed_body(on_grid(footprint(*m.part)), m.placement);
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

/// Breaks off the rows and columns that nothing uses.
void crop(PadLayout& layout, const Circuit& circuit, bool columns, bool rows) {
    Box used{1e9, 1e9, -1e9, -1e9};
    const auto include = [&](double x0, double y0, double x1, double y1) {
        used = {std::min(used.x0, x0), std::min(used.y0, y0), std::max(used.x1, x1), std::max(used.y1, y1)};
    };
    for (const Part& part : circuit.parts) {
        const GridFootprint shape = on_grid(footprint(part));
        const Box b = placed_body(shape, *layout.placement(part.designator));
        // the body may stand over the rim by its own overhang, not further
        const double over = shape.edge ? 0.9 : 0.2;
        include(b.x0 + over, b.y0 + over, b.x1 - over, b.y1 - over);
    }
    for (const auto& pin : layout.pins) include(pin.hole.column, pin.hole.row, pin.hole.column, pin.hole.row);
    for (const auto& bridge : layout.bridges)
        for (const Hole h : {bridge.a, bridge.b}) include(h.column, h.row, h.column, h.row);
    const int dx = columns ? std::max(0, static_cast<int>(std::floor(used.x0 + 0.5))) : 0,
              dy = rows ? std::max(0, static_cast<int>(std::floor(used.y0 + 0.5))) : 0;
    if (columns)
        layout.columns = std::min(layout.columns, static_cast<int>(std::ceil(used.x1 - 0.5)) + 1) - dx;
    if (rows) layout.rows = std::min(layout.rows, static_cast<int>(std::ceil(used.y1 - 0.5)) + 1) - dy;
    const auto move = [&](Hole& h) { h = {h.column - dx, h.row - dy}; };
    for (auto& p : layout.placements) move(p.at);
    for (auto& p : layout.pins) move(p.hole);
    for (auto& b : layout.bridges) move(b.a), move(b.b);
    for (auto& j : layout.jumpers) move(j.a), move(j.b);
}

/// Turns the board so that its lights count up as one reads, and else its parts.
void turn_to_read(PadLayout& layout, const Circuit& circuit) {
    const bool lights = std::any_of(circuit.parts.begin(), circuit.parts.end(),
                                    [](const Part& p) { return is(p, Role::diode_light); });
    double along = 0, count = 0, columns = 0, order = 0;
    for (std::size_t k = 0; k < circuit.parts.size(); ++k) {
        if (lights && !is(circuit.parts[k], Role::diode_light)) continue;
        const double column = layout.placements[k].at.column + 0.01 * layout.placements[k].at.row,
                     place = static_cast<double>(k);
        along += column * place, columns += column, order += place, ++count;
    }
    if (along * count >= columns * order) return;
    const auto turn = [&](Hole& h) { h = {layout.columns - 1 - h.column, layout.rows - 1 - h.row}; };
    for (auto& p : layout.placements) turn(p.at), p.turn = (p.turn + 2) & 3;
    for (auto& p : layout.pins) turn(p.hole);
    for (auto& b : layout.bridges) turn(b.a), turn(b.b);
    for (auto& j : layout.jumpers) turn(j.a), turn(j.b);
}

constexpr double jumper_price = 40;  // joints

double score(const PadLayout& l) {
    return jumper_price * static_cast<double>(l.jumpers.size()) + 0.35 * l.columns * l.rows +
           static_cast<double>(l.bridges.size());
}

/// A board to try: how large, and how close the parts lie.
struct Trial {
    int columns, rows;
    double airy;
    auto operator<=>(const Trial&) const = default;
};

/// Boards of different shapes, the closest first; only the chosen one where both sides are chosen.
std::vector<Trial> trials(const Circuit& circuit, const BoardChoices& choices) {
    constexpr int widest = 60;        // holes, for lights in one row
    constexpr double closest = 1.45;  // of the parts' own area
    constexpr double as_one_row = 0;  // aspect of a board as wide as its longest row of lights
    const auto fixed_columns = static_cast<int>(choices.columns), fixed_rows = static_cast<int>(choices.rows);
    const auto in_one_row = clusters(circuit, fixed_columns ? fixed_columns : widest);
    const bool has_rows = in_one_row.size() < circuit.parts.size();
    const double area = needed_area(in_one_row);
    std::vector<Trial> all;
    for (const double slack : {closest, 1.75, 2.1, 2.7, 3.6})
        for (const double aspect : {as_one_row, 1.35, 1.0, 1.9}) {
            if (aspect == as_one_row && (fixed_columns || !has_rows)) continue;
            Trial t{fixed_columns, fixed_rows, slack / closest};
            if (aspect == as_one_row)
                t.columns = longest_side(in_one_row) + 2;
            else if (t.columns == 0 && t.rows == 0)
                t.columns = std::max(6, static_cast<int>(std::lround(std::sqrt(area * slack * aspect))));
            if (t.columns == 0) t.columns = std::max(6, static_cast<int>(std::ceil(area * slack / t.rows)));
            if (t.rows == 0) t.rows = std::max(5, static_cast<int>(std::ceil(area * slack / t.columns)));
            const int longest = longest_side(clusters(circuit, t.columns));
            if (fixed_columns == 0) t.columns = std::max(t.columns, longest);
            if (fixed_rows == 0) t.rows = std::max(t.rows, fixed_columns ? longest : 5);
            if (std::find(all.begin(), all.end(), t) == all.end()) all.push_back(t);
        }
    return all;
}

/// A board with its parts, as it is and as it could be varied.
class Candidate {
  public:
    Candidate(const Circuit& circuit, const BoardChoices& choices, const Trial& trial)
        : circuit_(circuit),
          choices_(choices),
          trial_(trial),
          placer_(circuit, trial.columns, trial.rows, trial.airy,
                  17 + static_cast<std::uint64_t>(trial.columns * 100 + trial.rows)) {}
    bool place(int moves) {
        if (!placer_.run(moves)) return false;
        spots_ = placer_.spots(), layout = finished(RouteEffort::quick);
        return true;
    }
    /// Looks once more for ways round each other.
    void finish() {
        placer_.put(spots_);
        PadLayout other = finished(RouteEffort::thorough);
        if (score(other) < score(layout)) layout = std::move(other);
    }
    /// Moves a few parts, and keeps that if the board becomes better by it.
    bool vary(int moves) {
        if (!placer_.vary(spots_, moves)) return false;
        PadLayout other = finished(RouteEffort::quick);
        if (score(other) >= score(layout)) return false;
        layout = std::move(other), spots_ = placer_.spots();
        return true;
    }
    PadLayout layout;

  private:
    PadLayout finished(RouteEffort effort) {
        PadLayout l = collect(circuit_, placer_.placements(), trial_.columns, trial_.rows);
        route_board(l, effort);
        crop(l, circuit_, choices_.columns == 0, choices_.rows == 0);
        return l;
    }
    const Circuit& circuit_;
    const BoardChoices& choices_;
    Trial trial_;
    Placer placer_;
    std::vector<Placer::Spot> spots_;
};

/// Boards that a placer of so many clusters may try.
struct Effort {
    int moves, few_moves;
    std::size_t enough;
    explicit Effort(std::size_t clusters)
        : moves(std::clamp(5000 * static_cast<int>(clusters), 20000, 90000)),
          few_moves(60 * static_cast<int>(clusters)),
          enough(clusters > 16 ? 3 : 6) {}
};

/// How often the best board is varied: what joining it takes grows with its nets and holes.
int rounds_for(const PadLayout& layout, std::size_t nets) {
    constexpr double all = 4e5;
    return static_cast<int>(
        std::clamp(all / (static_cast<double>(nets) * layout.columns * layout.rows), 30.0, 300.0));
}

}  // namespace

Result<PadLayout> lay_out_board(const Circuit& circuit, const BoardChoices& choices,
                                const Progress& progress) {
    if (circuit.parts.size() > most_on_pads)
        return Error{
            Fault::design, "/board", "the circuit has " + std::to_string(circuit.parts.size()) + " parts",
            "at most " + std::to_string(most_on_pads) + " on one pad board; place fewer, or divide it"};
    if (auto errors = connectivity_errors(circuit); !errors.empty()) return errors.front();
    const Error stopped{Fault::usage, "/board", "stopped before a layout was found", ""};
    const auto all = trials(circuit, choices);
    const Effort effort(clusters(circuit, all.front().columns).size());
    std::unique_ptr<Candidate> best;
    std::size_t found = 0;
    for (std::size_t k = 0; k < all.size() && found < effort.enough; ++k) {
        if (progress && !progress("placing the parts on the board",
                                  0.5 * static_cast<double>(k) / static_cast<double>(all.size())))
            return stopped;
        auto candidate = std::make_unique<Candidate>(circuit, choices, all[k]);
        if (!candidate->place(effort.moves)) continue;
        ++found;
        if (!best || score(candidate->layout) < score(best->layout)) best = std::move(candidate);
    }
    if (!best)
        return Error{
            Fault::design, "/board",
            fmt::format("the parts do not fit on {} × {} holes", all.back().columns, all.back().rows),
            "a larger board, or 0 for automatic"};
    const int rounds = rounds_for(best->layout, circuit.nets().size()), patience = rounds / 4;
    for (int round = 0, idle = 0; round < rounds; ++round) {
        if (progress && !progress("joining its pads", 0.5 + 0.5 * round / rounds)) return stopped;
        idle = best->vary(effort.few_moves) ? 0 : idle + 1;
        if (idle > (best->layout.jumpers.empty() ? patience : 2 * patience)) break;
    }
    best->finish();
    turn_to_read(best->layout, circuit);
    return std::move(best->layout);
}

}  // namespace elkit
