// Links and cuts of a strip board.
#include <algorithm>
#include <tuple>
#include <utility>

#include "board/strip/strip_board.hpp"
#include "board/strip/strips.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

/// One way to join all nets.
class Joining {
  public:
    /// `first`: nets whose links are laid before all others'. They pass `pulls` where they can.
    Joining(Strips strips, const std::vector<HolePull>& pulls, const std::vector<std::size_t>& first)
        : strips_(std::move(strips)), pulls_(&pulls) {
        straight_links(first);
        for (std::size_t net = 0; net < strips_.nets(); ++net) {
            while (!strips_.whole(net) && detour(net)) {
            }
            if (!strips_.whole(net)) failed_.push_back(net), jumpers(net);
        }
    }

    const std::vector<Wire>& wires() const { return wires_; }
    const std::vector<std::size_t>& failed() const { return failed_; }  ///< nets with jumpers
    bool better_than(const Joining& other) const { return price() < other.price(); }

    /// In the middle between two nets on a strip; at the rim of an area that stays free, and in it.
    std::vector<Hole> cuts() const {
        std::vector<Hole> all;
        for (int row = 0; row < strips_.rows(); ++row) {
            int net = Strips::free_hole, last = -1;
            for (int column = 0; column < strips_.columns(); ++column) {
                const int here = strips_.at({column, row});
                if (here == Strips::free_hole) continue;
                if (here == Strips::no_copper) {
                    net = Strips::free_hole;
                    continue;
                }
                const bool areas = net <= Strips::first_area && here <= Strips::first_area;
                if (net != Strips::free_hole && here != net && !areas) {
                    const int cut = here <= Strips::first_area  ? column
                                    : net <= Strips::first_area ? last
                                                                : (last + column) / 2;
                    if (const Hole h{cut, row}; all.empty() || all.back() != h) all.push_back(h);
                }
                net = here, last = column;
            }
        }
        return all;
    }

  private:
    /// Jumpers, then links, then how long all are.
    std::tuple<std::size_t, std::size_t, int> price() const {
        const auto jumpers = static_cast<std::size_t>(std::count_if(
            wires_.begin(), wires_.end(), [](const Wire& w) { return w.kind == Wire::Kind::jumper; }));
        int length = 0;
        for (const Wire& w : wires_) length += holes_between(w.a, w.b);
        return {jumpers, wires_.size(), length};
    }

    void link(std::size_t a, std::size_t b, int column) {
        const auto [upper, lower] = std::minmax(strips_.segments()[a].row, strips_.segments()[b].row);
        wires_.push_back({{column, upper}, {column, lower}, Wire::Kind::link});
        strips_.link(a, b, column);
    }

    /// True if a link of this net down this column passes where one was pulled to.
    bool is_pulled(int net, int column, int upper, int lower) const {
        return std::any_of(pulls_->begin(), pulls_->end(), [&](const HolePull& p) {
            return p.hole.column == column && p.hole.row >= upper && p.hole.row <= lower &&
                   strips_.net_of(p.net) == net;
        });
    }

    /// The straight link between two pieces that passes where one was pulled to, or else is nearest to their
    /// legs; −1 if there is none.
    int link_column(std::size_t i, std::size_t k) const {
        const Strips::Segment &a = strips_.segments()[i], &b = strips_.segments()[k];
        const auto [upper, lower] = std::minmax(a.row, b.row);
        int best = -1, least = 1 << 20;
        for (int column = 0; column < strips_.columns(); ++column) {
            const auto away = [&](const auto& s) { return std::max({0, s.from - column, column - s.to}); };
            const int far = is_pulled(a.net, column, upper, lower) ? -1 : away(a) + away(b);
            if (far >= least) continue;
            if (!strips_.may_take(a, column) || !strips_.may_take(b, column) ||
                !strips_.clear_between(column, upper, lower))
                continue;
            best = column, least = far;
        }
        return best;
    }

    void straight_links(const std::vector<std::size_t>& first) {
        std::vector<std::tuple<bool, int, std::size_t, std::size_t>> pairs;  // late, length, segments
        const auto& segments = strips_.segments();
        for (std::size_t net = 0; net < strips_.nets(); ++net) {
            const bool late = std::find(first.begin(), first.end(), net) == first.end();
            const auto& own = strips_.segments_of(net);
            for (std::size_t i = 0; i < own.size(); ++i)
                for (std::size_t k = 0; k < i; ++k)
                    if (const int far = std::abs(segments[own[i]].row - segments[own[k]].row); far > 0)
                        pairs.emplace_back(late, far, own[k], own[i]);
        }
        std::sort(pairs.begin(), pairs.end());
        for (const auto& [late, far, i, k] : pairs) {
            stop_point();
            if (strips_.joined(i, k)) continue;
            if (const int column = link_column(i, k); column >= 0) link(i, k, column);
        }
    }

    static bool crosses_itself(const Detour& way) {
        for (const auto& a : way.links)
            for (const auto& b : way.links)
                if (&a != &b && a.column == b.column &&
                    std::max(std::min(a.row_a, a.row_b), std::min(b.row_a, b.row_b)) <=
                        std::min(std::max(a.row_a, a.row_b), std::max(b.row_a, b.row_b)))
                    return true;
        return false;
    }

    /// Over strips that nobody uses; false if there is no such way.
    bool detour(std::size_t net) {
        stop_point();
        const Detour way = find_detour(strips_, net);
        if (way.links.empty() || crosses_itself(way)) return false;
        std::size_t from = way.from;
        for (std::size_t k = 0; k < way.links.size(); ++k) {
            const Detour::Link& l = way.links[k];
            const std::size_t to =
                k + 1 == way.links.size() ? way.to : strips_.begin(static_cast<int>(net), l.row_b);
            link(from, to, l.column);
            from = to;
        }
        return true;
    }

    /// What no links joined: insulated wire between the nearest joints.
    void jumpers(std::size_t net) {
        while (!strips_.whole(net)) {
            int least = 1 << 20;
            std::size_t from = 0, to = 0;
            Wire wire;
            for (const std::size_t i : strips_.segments_of(net))
                for (const std::size_t k : strips_.segments_of(net)) {
                    if (strips_.joined(i, k)) continue;
                    for (const Hole a : strips_.taken(strips_.segments()[i]))
                        for (const Hole b : strips_.taken(strips_.segments()[k]))
                            if (const int far = holes_between(a, b); far < least)
                                least = far, from = i, to = k, wire = {a, b, Wire::Kind::jumper};
                }
            strips_.join(from, to);
            wires_.push_back(wire);
        }
    }

    Strips strips_;
    const std::vector<HolePull>* pulls_;
    std::vector<Wire> wires_;
    std::vector<std::size_t> failed_;
};

}  // namespace

void join_strips(HoleLayout& layout, const HoleParts& parts, int most_orders) {
    const Strips strips(layout, parts);
    const auto& pulls = layout.wishes.pulls;
    std::vector<std::size_t> first;
    for (const HolePull& p : pulls)
        if (const int net = strips.net_of(p.net); net >= 0) first.push_back(static_cast<std::size_t>(net));
    Joining best(strips, pulls, first);
    for (int order = 1; order < most_orders && !best.failed().empty(); ++order) {
        const auto before = first;
        for (const std::size_t net : best.failed())
            if (std::find(first.begin(), first.end(), net) == first.end()) first.push_back(net);
        if (first == before) break;
        Joining other(strips, pulls, first);
        if (other.better_than(best)) best = std::move(other);
    }
    layout.wires = best.wires(), layout.cuts = best.cuts();
}

}  // namespace elkit
