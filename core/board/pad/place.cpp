#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "board/pad/layout.hpp"
#include "circuit/connectivity.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/random.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

/// One part as the annealer moves it: where its pins and body are now.
struct Piece {
    const Part* part;
    GridFootprint footprint;
    Placement placement;
    std::vector<Hole> holes;
    std::vector<int> nets;  // index of each hole's net, −1 without one
    Box body{};
    Box outline{};  // of body and holes
};

class Placer {
  public:
    Placer(const Circuit& circuit, int columns, int rows, std::uint64_t seed)
        : columns_(columns), rows_(rows), random_(seed) {
        const auto names = circuit.nets();
        members_.resize(names.size());
        for (const Part& part : circuit.parts) {
            Piece piece{&part, on_grid(footprint(part)), {part.designator, {}, 0}, {}, {}, {}, {}};
            for (const auto& [pin, offset] : piece.footprint.pins) {
                const auto at = std::find(names.begin(), names.end(), part.net(pin));
                piece.nets.push_back(pin.empty() ? -1 : static_cast<int>(at - names.begin()));
            }
            pieces_.push_back(std::move(piece));
        }
        for (std::size_t i = 0; i < pieces_.size(); ++i)
            for (std::size_t k = 0; k < pieces_[i].nets.size(); ++k)
                if (pieces_[i].nets[k] >= 0)
                    members_[static_cast<std::size_t>(pieces_[i].nets[k])].emplace_back(i, k);
        for (Piece& p : pieces_) {
            scatter(p);
            if (is(*p.part, Role::diode_light)) lights_.push_back(&p);
        }
    }

    /// Anneals; true if no parts overlap at the end.
    bool run(int moves) {
        double now = cost();
        double best = std::numeric_limits<double>::infinity();
        auto kept = placements();
        for (int m = 0; m < moves; ++m) {
            if (m % 64 == 0) stop_point();
            const double heat = 12.0 * std::pow(1 - double(m) / moves, 2) + 0.02;
            const auto index = static_cast<std::size_t>(random_.below(static_cast<int>(pieces_.size())));
            Piece& piece = pieces_[index];
            const Spot before{piece.placement.at, piece.placement.turn};
            const double local_before = local_cost(index);
            const double spread_before = spread();
            propose(piece, heat);
            if (!inside(piece)) {
                settle(piece, before);
                continue;
            }
            const double change = local_cost(index) - local_before + spread() - spread_before;
            if (change > 0 && random_.unit() >= std::exp(-change / heat)) {
                settle(piece, before);
                continue;
            }
            now += change;
            if (now < best - 1e-9 && m > moves / 2) best = now, kept = placements();
        }
        for (std::size_t i = 0; i < pieces_.size(); ++i) settle(pieces_[i], {kept[i].at, kept[i].turn});
        return overlap_total() == 0 &&
               std::all_of(pieces_.begin(), pieces_.end(), [&](const Piece& p) { return inside(p); });
    }

    std::vector<Placement> placements() const {
        std::vector<Placement> out;
        for (const Piece& p : pieces_) out.push_back(p.placement);
        return out;
    }

    double cost() const {
        double sum = spread() + overlap_total() * overlap_price;
        for (std::size_t n = 0; n < members_.size(); ++n) sum += net_length(n);
        for (std::size_t i = 0; i < pieces_.size(); ++i) sum += edge_cost(pieces_[i]);
        return sum;
    }

  private:
    static constexpr double overlap_price = 40;
    static constexpr std::size_t most_in_tree = 16;  // pins

    struct Spot {
        Hole at;
        int turn;
    };

    void settle(Piece& p, const Spot& spot) {
        p.placement.at = spot.at, p.placement.turn = spot.turn;
        const Placement& placement = p.placement;
        p.holes.clear();
        for (const auto& [pin, offset] : p.footprint.pins) p.holes.push_back(placed_hole(offset, placement));
        p.body = p.outline = placed_body(p.footprint, placement);
        for (const Hole h : p.holes)
            p.outline = {std::min(p.outline.x0, double(h.column)), std::min(p.outline.y0, double(h.row)),
                         std::max(p.outline.x1, double(h.column)), std::max(p.outline.y1, double(h.row))};
    }

    bool inside(const Piece& p) const {
        return p.body.x0 >= -0.95 && p.body.y0 >= -0.95 && p.body.x1 <= columns_ - 0.05 &&
               p.body.y1 <= rows_ - 0.05 && std::all_of(p.holes.begin(), p.holes.end(), [&](Hole h) {
                   return h.column >= 0 && h.row >= 0 && h.column < columns_ && h.row < rows_;
               });
    }

    void scatter(Piece& p) {
        for (int tries = 0; tries < 500; ++tries) {
            settle(p, {{random_.below(columns_), random_.below(rows_)}, random_.below(4)});
            if (inside(p)) return;
        }
    }

    void propose(Piece& p, double heat) {
        Spot next{p.placement.at, p.placement.turn};
        const int kind = random_.below(10);
        const int reach = std::max(1, static_cast<int>(heat));
        if (kind < 6)
            next.at = {next.at.column + random_.below(2 * reach + 1) - reach,
                       next.at.row + random_.below(2 * reach + 1) - reach};
        else if (kind < 9)
            next.turn = (next.turn + 1 + random_.below(3)) & 3;
        else
            next.at = {random_.below(columns_), random_.below(rows_)};
        settle(p, next);
    }

    /// A net of many pins, such as a supply rail: its tree would cost its pins squared in every move.
    bool is_rail(std::size_t net) const { return members_[net].size() > most_in_tree; }
    /// Holes from `here` to the net's nearest pin on another piece.
    double to_nearest(std::size_t net, std::size_t piece, Hole here) const {
        int least = columns_ + rows_;
        for (const auto& [other, hole] : members_[net]) {
            if (other == piece) continue;
            const Hole h = pieces_[other].holes[hole];
            least = std::min(least, std::abs(h.column - here.column) + std::abs(h.row - here.row));
        }
        return least;
    }

    /// Length of a minimum spanning tree over the net's pads (Prim); of a rail, the sum of what each pin has
    /// to its nearest.
    double net_length(std::size_t net) const {
        const auto& pins = members_[net];
        if (pins.size() < 2) return 0;
        if (is_rail(net)) {
            double sum = 0;
            for (const auto& [piece, hole] : pins) sum += to_nearest(net, piece, pieces_[piece].holes[hole]);
            return sum;
        }
        distance_.assign(pins.size(), 1e9);
        auto& distance = distance_;
        joined_.assign(pins.size(), false);
        auto& in = joined_;
        double sum = 0;
        std::size_t at = 0;
        for (std::size_t count = 1; count < pins.size(); ++count) {
            in[at] = true;
            const Hole here = pieces_[pins[at].first].holes[pins[at].second];
            std::size_t nearest = 0;
            double least = 1e9;
            for (std::size_t k = 0; k < pins.size(); ++k) {
                if (in[k]) continue;
                const Hole h = pieces_[pins[k].first].holes[pins[k].second];
                distance[k] = std::min(distance[k],
                                       double(std::abs(h.column - here.column) + std::abs(h.row - here.row)));
                if (distance[k] < least) least = distance[k], nearest = k;
            }
            sum += least;
            at = nearest;
        }
        return sum;
    }

    static bool overlap(const Piece& a, const Piece& b) {
        if (a.outline.x1 < b.outline.x0 || b.outline.x1 < a.outline.x0 || a.outline.y1 < b.outline.y0 ||
            b.outline.y1 < a.outline.y0)
            return false;
        if (a.body.overlaps(b.body)) return true;
        return std::any_of(a.holes.begin(), a.holes.end(), [&](Hole h) {
            return std::find(b.holes.begin(), b.holes.end(), h) != b.holes.end();
        });
    }

    int overlap_total() const {
        int n = 0;
        for (std::size_t i = 0; i < pieces_.size(); ++i)
            for (std::size_t k = 0; k < i; ++k) n += overlap(pieces_[i], pieces_[k]);
        return n;
    }

    /// Leads and switches stand within two holes of the edge, long side along it.
    double edge_cost(const Piece& p) const {
        if (!p.footprint.edge) return 0;
        const double x = std::min(p.body.x0 + 0.5, columns_ - 0.5 - p.body.x1),
                     y = std::min(p.body.y0 + 0.5, rows_ - 0.5 - p.body.y1);
        const bool lies = (p.placement.turn & 1) == 0;
        return 3 * std::max(0.0, lies ? y : x);
    }

    double local_cost(std::size_t i) const {
        double sum = edge_cost(pieces_[i]);
        for (std::size_t k = 0; k < pieces_[i].nets.size(); ++k) {
            if (pieces_[i].nets[k] < 0) continue;
            const auto net = static_cast<std::size_t>(pieces_[i].nets[k]);
            sum += is_rail(net) ? to_nearest(net, i, pieces_[i].holes[k]) : net_length(net);
        }
        for (std::size_t k = 0; k < pieces_.size(); ++k)
            if (k != i && overlap(pieces_[i], pieces_[k])) sum += overlap_price;
        return sum + lights_cost();
    }

    /// Lights are seen: few rows and columns hold them all, and they are turned the same way.
    double lights_cost() const {
        std::array<bool, 256> rows{}, columns{};
        int lines = 0, askew = 0;
        const Piece* first = nullptr;
        for (const Piece* p : lights_) {
            if (!first) first = p;
            askew += p->placement.turn != first->placement.turn;
            bool& row = rows[static_cast<std::size_t>(p->placement.at.row) & 255U];
            bool& column = columns[static_cast<std::size_t>(p->placement.at.column) & 255U];
            lines += !row + !column;
            row = column = true;
        }
        return 2.5 * lines + 5 * askew;
    }

    /// Half the outline of everything placed: the board should be small.
    double spread() const {
        Box b{1e9, 1e9, -1e9, -1e9};
        for (const Piece& p : pieces_)
            b = {std::min(b.x0, p.body.x0), std::min(b.y0, p.body.y0), std::max(b.x1, p.body.x1),
                 std::max(b.y1, p.body.y1)};
        return 1.2 * (b.x1 - b.x0 + b.y1 - b.y0);
    }

    int columns_, rows_;
    Random random_;
    mutable std::vector<double> distance_;  // scratch of net_length()
    mutable std::vector<char> joined_;
    std::vector<Piece> pieces_;
    std::vector<const Piece*> lights_;
    std::vector<std::vector<std::pair<std::size_t, std::size_t>>> members_;
};

PadLayout collect(const Circuit& circuit, std::vector<Placement> placements, int columns, int rows) {
    PadLayout layout{columns, rows, std::move(placements), {}, {}, {}};
    for (std::size_t i = 0; i < circuit.parts.size(); ++i)
        for (auto& pin : placed_pins(circuit.parts[i], layout.placements[i]))
            layout.pins.push_back(std::move(pin));
    return layout;
}

/// Total body area in holes, with room for joints: the start size of the board.
double needed_area(const Circuit& circuit) {
    double area = 0;
    for (const Part& part : circuit.parts) {
        const Box b = on_grid(footprint(part)).body;
        area += (b.x1 - b.x0 + 0.3) * (b.y1 - b.y0 + 0.3);
    }
    return area;
}

/// Holes along the longest part: the board has at least one side as long.
int longest_side(const Circuit& circuit) {
    double longest = 0;
    for (const Part& part : circuit.parts) {
        const Box b = on_grid(footprint(part)).body;
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

bool better(const PadLayout& a, const PadLayout& b) {
    const auto score = [](const PadLayout& l) {
        return 12.0 * static_cast<double>(l.jumpers.size()) + 0.35 * l.columns * l.rows +
               static_cast<double>(l.bridges.size());
    };
    return score(a) < score(b);
}

}  // namespace

Result<PadLayout> lay_out_board(const Circuit& circuit, const BoardChoices& choices,
                                const Progress& progress) {
    if (circuit.parts.size() > most_on_pads)
        return Error{
            Fault::design, "/board", "the circuit has " + std::to_string(circuit.parts.size()) + " parts",
            "at most " + std::to_string(most_on_pads) + " on one pad board; place fewer, or divide it"};
    if (auto errors = connectivity_errors(circuit); !errors.empty()) return errors.front();
    const double area = needed_area(circuit);
    const auto fixed_columns = static_cast<int>(choices.columns), fixed_rows = static_cast<int>(choices.rows);
    const int moves = std::clamp(7000 * static_cast<int>(circuit.parts.size()), 20000, 120000);
    const bool many = circuit.parts.size() > 16;  // large boards get fewer tries
    std::optional<PadLayout> best;
    int tries = 0;
    for (const double slack : {1.45, 1.75, 2.1, 2.7, 3.6}) {
        for (const double aspect : {1.35, 1.0, 1.9}) {
            if (progress && !progress("placing the parts on the board", tries++ / 15.0))
                return Error{Fault::usage, "/board", "stopped before a layout was found", ""};
            int columns = fixed_columns, rows = fixed_rows;
            if (columns == 0 && rows == 0)
                columns = std::max(6, static_cast<int>(std::lround(std::sqrt(area * slack * aspect))));
            if (columns == 0) columns = std::max(6, static_cast<int>(std::ceil(area * slack / rows)));
            if (rows == 0) rows = std::max(5, static_cast<int>(std::ceil(area * slack / columns)));
            const int longest = longest_side(circuit);
            if (fixed_columns == 0) columns = std::max(columns, longest);
            if (fixed_rows == 0) rows = std::max(rows, fixed_columns ? longest : 5);
            Placer placer(circuit, columns, rows, 17 + static_cast<std::uint64_t>(columns * 100 + rows));
            if (!placer.run(moves)) continue;
            PadLayout layout = collect(circuit, placer.placements(), columns, rows);
            route_board(layout);
            crop(layout, circuit, fixed_columns == 0, fixed_rows == 0);
            if (!best || better(layout, *best)) best = std::move(layout);
            if ((fixed_columns && fixed_rows) || (many && best->jumpers.size() < 3)) break;
        }
        if (best && (best->jumpers.empty() || many || slack > 2)) break;
    }
    if (best) return std::move(*best);
    return Error{Fault::design, "/board",
                 "the parts do not fit on " + std::to_string(fixed_columns) + " × " +
                     std::to_string(fixed_rows) + " holes",
                 "a larger board, or 0 for automatic"};
}

}  // namespace elkit
