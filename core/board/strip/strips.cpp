#include "board/strip/strips.hpp"

#include <algorithm>
#include <numeric>

namespace elkit {
namespace {

constexpr int first_alone = Strips::free_hole - 1;  // every leg that leads nowhere has a net of its own

}  // namespace

Strips::Strips(const HoleLayout& l, const HoleParts& parts) : columns_(l.columns()), rows_(l.rows()) {
    nets_.assign(static_cast<std::size_t>(columns_ * rows_), no_copper);
    const auto& strips = l.board.groups;
    for (const auto& strip : strips)
        for (const Hole h : strip) nets_[place(h)] = free_hole;
    for (std::size_t k = 1; k < strips.size(); ++k)  // a slot between two holes: no leg is that near to it
        if (const Hole end = strips[k - 1].back(); Hole{end.column + 1, end.row} == strips[k].front())
            nets_[place(end)] = no_copper;
    covered_ = covered_holes(l, parts);
    int alone = first_alone;
    for (const PinHole& pin : l.pins) {
        nets_[place(pin.hole)] = pin.net.empty()
                                     ? alone--
                                     : names_.emplace(pin.net, static_cast<int>(names_.size())).first->second;
    }
    auto areas = l.wishes.free;
    for (const Substrate::Screw& screw : l.board.screws) areas.push_back(screw.head());
    keep_free(areas);
    collect(names_.size());
}

int Strips::net_of(const std::string& name) const {
    const auto at = names_.find(name);
    return at == names_.end() ? -1 : at->second;
}

void Strips::keep_free(const std::vector<Box>& areas) {
    for (std::size_t k = 0; k < areas.size(); ++k)
        for (int row = 0; row < rows_; ++row)
            for (int column = 0; column < columns_; ++column)
                if (const std::size_t here = place({column, row});
                    nets_[here] == free_hole && areas[k].contains(column, row))
                    nets_[here] = first_area - static_cast<int>(k);
}

void Strips::collect(std::size_t nets) {
    by_net_.assign(nets, {});
    for (int row = 0; row < rows_; ++row) {
        int net = free_hole;
        for (int column = 0; column < columns_; ++column) {
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

bool Strips::whole(std::size_t net) const {
    const auto& of_net = by_net_[net];
    return std::all_of(of_net.begin(), of_net.end(),
                       [&](std::size_t k) { return joined(k, of_net.front()); });
}

bool Strips::may_take(const Segment& s, int column) const {
    const Hole here{column, s.row};
    if (at(here) != free_hole || covered_[place(here)]) return false;
    bool own = false;
    for (const int step : {-1, 1}) {
        int c = column + step;
        while (c >= 0 && c < columns_ && at({c, s.row}) == free_hole) c += step;
        if (c < 0 || c >= columns_ || at({c, s.row}) == no_copper) continue;
        if (at({c, s.row}) == s.net)
            own |= c >= s.from && c <= s.to;
        else if (std::abs(c - column) < 2)
            return false;
    }
    return own;
}

std::vector<char> Strips::may_begin(int net) const {
    std::vector<char> may(nets_.size(), false);
    for (int row = 0; row < rows_; ++row)
        for (int from = 0; from < columns_;) {  // holes that nobody has, between two that someone has
            if (at({from, row}) != free_hole) {
                ++from;
                continue;
            }
            int to = from;
            while (to < columns_ && at({to, row}) == free_hole) ++to;
            const int left = from > 0 ? at({from - 1, row}) : no_copper,
                      right = to < columns_ ? at({to, row}) : no_copper;
            const bool midst = left >= 0 && left == right;  // of another's piece
            if (left != net && right != net && !midst)      // its own: may_take()
                for (int c = from + (left != no_copper); c < to - (right != no_copper); ++c)
                    may[place({c, row})] = !covered_[place({c, row})];
            from = to;
        }
    return may;
}

bool Strips::clear_between(int column, int from, int to) const {
    for (int row = from; row <= to; ++row)
        if (covered_[place({column, row})]) return false;
    return true;
}

void Strips::link(std::size_t a, std::size_t b, int column) {
    join(a, b);
    const auto [upper, lower] = std::minmax(segments_[a].row, segments_[b].row);
    for (int row = upper; row <= lower; ++row) covered_[place({column, row})] = true;
    for (const std::size_t k : {a, b}) {
        Segment& s = segments_[k];
        nets_[place({column, s.row})] = s.net;
        s.from = std::min(s.from, column), s.to = std::max(s.to, column);
    }
}

std::size_t Strips::begin(int net, int row) {
    by_net_[static_cast<std::size_t>(net)].push_back(segments_.size());
    root_of_.push_back(segments_.size());
    segments_.push_back({net, row, columns_, -1});
    return segments_.size() - 1;
}

std::vector<Hole> Strips::taken(const Segment& s) const {
    std::vector<Hole> all;
    for (int column = s.from; column <= s.to; ++column)
        if (at({column, s.row}) == s.net) all.push_back({column, s.row});
    return all;
}

}  // namespace elkit
