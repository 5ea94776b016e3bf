// Links and cuts of a strip board.
#include <algorithm>
#include <map>
#include <numeric>
#include <set>
#include <tuple>

#include "board/strip/strip_board.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

constexpr int free_hole = -1, first_alone = -2;  // nets of holes; every leg that leads nowhere has its own

class StripJoiner {
  public:
    StripJoiner(HoleLayout& layout, const HoleParts& parts) : l_(layout) {
        nets_.assign(static_cast<std::size_t>(l_.columns() * l_.rows()), free_hole);
        covered_.assign(nets_.size(), false);
        std::map<std::string, int> index;
        int alone = first_alone;
        for (const PinHole& pin : l_.pins) {
            const int net = pin.net.empty()
                                ? alone--
                                : index.emplace(pin.net, static_cast<int>(index.size())).first->second;
            at(pin.hole) = net, covered_[place(pin.hole)] = true;
        }
        for (const HolePart& p : parts.all)
            if (const Placement* placement = l_.placement(p.part->designator)) cover(p, *placement);
        collect(static_cast<int>(index.size()));
    }

    void join() {
        l_.wires.clear(), l_.cuts.clear();
        straight_links();
        jumpers();
        cuts();
    }

  private:
    /// The part of a strip that a net has legs on.
    struct Segment {
        int net, row, from, to;  // its first and last leg
    };

    std::size_t place(Hole h) const { return static_cast<std::size_t>(h.row * l_.columns() + h.column); }
    int& at(Hole h) { return nets_[place(h)]; }
    int at(Hole h) const { return nets_[place(h)]; }

    /// Holes over which no bare wire lies: under a body, beside its middle.
    void cover(const HolePart& part, const Placement& placement) {
        const Box b = placed_body(part.shapes[static_cast<std::size_t>(placement.shape)], placement);
        constexpr double clear = 0.25;  // holes that a body may reach towards a wire
        for (int row = 0; row < l_.rows(); ++row)
            for (int column = 0; column < l_.columns(); ++column)
                if (column > b.x0 - clear && column < b.x1 + clear && row > b.y0 - clear &&
                    row < b.y1 + clear)
                    covered_[place({column, row})] = true;
    }

    void collect(int nets) {
        root_of_.clear(), segments_.clear();
        by_net_.assign(static_cast<std::size_t>(nets), {});
        for (int row = 0; row < l_.rows(); ++row) {
            int net = free_hole;
            for (int column = 0; column < l_.columns(); ++column) {
                const int here = at({column, row});
                if (here == free_hole) continue;
                if (here != net && here >= 0) {
                    by_net_[static_cast<std::size_t>(here)].push_back(segments_.size());
                    segments_.push_back({here, row, column, column});
                } else if (here == net && here >= 0) {
                    segments_.back().to = column;
                }
                net = here;
            }
        }
        root_of_.resize(segments_.size());
        std::iota(root_of_.begin(), root_of_.end(), std::size_t{0});
    }
    std::size_t root(std::size_t k) const {
        while (root_of_[k] != k) k = root_of_[k];
        return k;
    }

    /// A net may take this free hole of its strip: what lies next to both sides is its own, or a hole away.
    bool may_take(const Segment& s, int column) const {
        const Hole here{column, s.row};
        if (at(here) != free_hole || covered_[place(here)]) return false;
        bool own = false;
        for (const int step : {-1, 1}) {
            int c = column + step;
            while (c >= 0 && c < l_.columns() && at({c, s.row}) == free_hole) c += step;
            if (c < 0 || c >= l_.columns()) continue;
            if (at({c, s.row}) == s.net)
                own |= c >= s.from && c <= s.to;
            else if (std::abs(c - column) < 2)
                return false;
        }
        return own;
    }

    bool clear_between(int column, int from, int to) const {
        for (int row = from; row <= to; ++row)
            if (covered_[place({column, row})]) return false;
        return true;
    }

    /// The straight links between two segments, nearest to their legs first.
    int link_column(const Segment& a, const Segment& b) const {
        const auto [upper, lower] = std::minmax(a.row, b.row);
        int best = -1, least = 1 << 20;
        for (int column = 0; column < l_.columns(); ++column) {
            const auto away = [&](const Segment& s) { return std::max({0, s.from - column, column - s.to}); };
            if (away(a) + away(b) >= least) continue;
            if (!may_take(a, column) || !may_take(b, column) || !clear_between(column, upper, lower))
                continue;
            best = column, least = away(a) + away(b);
        }
        return best;
    }

    void straight_links() {
        std::vector<std::tuple<int, std::size_t, std::size_t>> pairs;  // length, segments
        for (const auto& of_net : by_net_)
            for (std::size_t i = 0; i < of_net.size(); ++i)
                for (std::size_t k = 0; k < i; ++k)
                    if (const int far = std::abs(segments_[of_net[i]].row - segments_[of_net[k]].row);
                        far > 0)
                        pairs.emplace_back(far, of_net[k], of_net[i]);
        std::sort(pairs.begin(), pairs.end());
        for (const auto& [far, i, k] : pairs) {
            stop_point();
            if (root(i) == root(k)) continue;
            const int column = link_column(segments_[i], segments_[k]);
            if (column < 0) continue;
            root_of_[root(i)] = root(k);
            const auto [upper, lower] = std::minmax(segments_[i].row, segments_[k].row);
            l_.wires.push_back({{column, upper}, {column, lower}, Wire::Kind::link});
            for (int row = upper; row <= lower; ++row) covered_[place({column, row})] = true;
            for (const std::size_t s : {i, k}) {
                at({column, segments_[s].row}) = segments_[s].net;
                segments_[s].from = std::min(segments_[s].from, column);
                segments_[s].to = std::max(segments_[s].to, column);
            }
        }
    }

    /// What no straight link joined: insulated wire between the nearest joints.
    void jumpers() {
        for (const auto& of_net : by_net_)
            for (;;) {
                int least = 1 << 20;
                std::size_t from = 0, to = 0;
                Wire wire;
                for (const std::size_t i : of_net)
                    for (const std::size_t k : of_net) {
                        if (root(i) == root(k)) continue;
                        for (const Hole a : legs(segments_[i]))
                            for (const Hole b : legs(segments_[k]))
                                if (const int far = holes_between(a, b); far < least)
                                    least = far, from = i, to = k, wire = {a, b, Wire::Kind::jumper};
                    }
                if (from == to) break;
                root_of_[root(from)] = root(to);
                l_.wires.push_back(wire);
            }
    }
    std::vector<Hole> legs(const Segment& s) const {
        std::vector<Hole> all;
        for (int column = s.from; column <= s.to; ++column)
            if (at({column, s.row}) == s.net) all.push_back({column, s.row});
        return all;
    }

    /// In the middle between two nets on a strip; rather where no body hides it.
    void cuts() {
        for (int row = 0; row < l_.rows(); ++row) {
            int net = free_hole, last = -1;
            for (int column = 0; column < l_.columns(); ++column) {
                const int here = at({column, row});
                if (here == free_hole) continue;
                if (net != free_hole && here != net) l_.cuts.push_back({(last + column) / 2, row});
                net = here, last = column;
            }
        }
    }

    HoleLayout& l_;
    std::vector<int> nets_;      // by hole
    std::vector<bool> covered_;  // by hole: no wire over it
    std::vector<Segment> segments_;
    std::vector<std::vector<std::size_t>> by_net_;
    std::vector<std::size_t> root_of_;
};

}  // namespace

void join_strips(HoleLayout& layout, const HoleParts& parts) { StripJoiner(layout, parts).join(); }

}  // namespace elkit
