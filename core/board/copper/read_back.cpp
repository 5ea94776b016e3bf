// Which pins the finished copper joins: from polygons, by no names of nets.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <numeric>
#include <set>

#include "board/copper/layout.hpp"

namespace elkit {
namespace {

std::string pin_key(const CopperPad& p) { return p.designator + "." + p.pin; }

/// A piece of copper in one piece, and the box around it.
struct Copper {
    Region region;
    Box box;
    int layer;
};

class Extraction {
  public:
    Extraction(const CopperLayout& l, const std::vector<Region>& copper) : l_(l) {
        for (int layer = 0; layer < l.layers; ++layer)
            for (Region& piece : copper[static_cast<std::size_t>(layer)].pieces()) {
                const Box box = piece.bounds();
                copper_.push_back({std::move(piece), box, layer});
            }
        root_.resize(copper_.size());
        std::iota(root_.begin(), root_.end(), std::size_t{0});
        for (const Via& v : l.vias) join_at({v.at, v.at}, v.hole, true);
        for (const WireLink& w : l.links) join_at({w.a, w.b}, w.hole, false);
        if (l.making.plated)
            for (const CopperPad& p : l.pads)
                if (!p.surface()) join_at({p.at, p.at}, p.hole, true);
    }

    std::vector<std::vector<std::string>> groups() {
        std::map<std::size_t, std::vector<std::string>> by_root;
        std::vector<std::vector<std::string>> all;
        for (const CopperPad& p : l_.pads) {
            const std::string key =
                p.pin.empty() ? "free leg of " + p.designator + " at " + square_name(p.at) : pin_key(p);
            const auto at = p.surface() ? pieces_under(p) : rim_pieces(p.at, p.hole, l_.making.plated);
            if (at.empty())
                all.push_back({key});
            else
                by_root[root(at.front())].push_back(key);
            for (std::size_t k = 1; k < at.size(); ++k)  // one leg soldered to several pieces
                if (root(at[k]) != root(at.front())) join(at[k], at.front());
        }
        // joins above may have come after names were given: gather again
        std::map<std::size_t, std::vector<std::string>> merged;
        for (auto& [r, names] : by_root) {
            auto& into = merged[root(r)];
            into.insert(into.end(), names.begin(), names.end());
        }
        for (auto& [r, names] : merged) {
            std::sort(names.begin(), names.end());
            all.push_back(std::move(names));
        }
        std::sort(all.begin(), all.end());
        return all;
    }

  private:
    std::size_t root(std::size_t k) {
        while (root_[k] != k) k = root_[k] = root_[root_[k]];
        return k;
    }
    void join(std::size_t a, std::size_t b) { root_[root(a)] = root(b); }

    /// Pieces that touch the rim of a hole, where solder or plating joins what goes through it.
    std::vector<std::size_t> rim_pieces(Point at, double hole, bool both_layers) const {
        constexpr double solder = 0.1;  // mm around the hole
        const double r = hole / 2 + solder;
        std::vector<std::size_t> found;
        for (std::size_t k = 0; k < copper_.size(); ++k) {
            const Copper& c = copper_[k];
            if (!both_layers && c.layer != solder_side) continue;
            if (c.box.x0 > at.x + r || c.box.x1 < at.x - r || c.box.y0 > at.y + r || c.box.y1 < at.y - r)
                continue;
            if (c.region.from(at) < r) found.push_back(k);
        }
        return found;
    }
    /// Pieces on the component side that a land on the surface lies on.
    std::vector<std::size_t> pieces_under(const CopperPad& pad) const {
        const Region land = pad.copper();
        std::vector<std::size_t> found;
        for (std::size_t k = 0; k < copper_.size(); ++k)
            if (copper_[k].layer == component_side && copper_[k].box.overlaps(land.bounds()) &&
                copper_[k].region.touches(land))
                found.push_back(k);
        return found;
    }
    void join_at(std::initializer_list<Point> places, double hole, bool both_layers) {
        std::vector<std::size_t> all;
        for (const Point p : places)
            for (const std::size_t k : rim_pieces(p, hole, both_layers)) all.push_back(k);
        for (std::size_t k = 1; k < all.size(); ++k) join(all[k], all.front());
    }

    const CopperLayout& l_;
    std::vector<Copper> copper_;
    std::vector<std::size_t> root_;
};

}  // namespace

std::vector<std::vector<std::string>> copper_groups(const CopperLayout& l, const std::vector<Region>& left) {
    return Extraction(l, left).groups();
}

std::vector<std::vector<std::string>> copper_groups(const CopperLayout& l) {
    std::vector<Region> copper;
    for (int layer = 0; layer < l.layers; ++layer) {
        std::vector<Region> all;
        for (CopperShape& s : copper_on(l, layer)) all.push_back(std::move(s.region));
        copper.push_back(Region::united(all));
    }
    return copper_groups(l, copper);
}

std::vector<std::string> copper_differences(const CopperLayout& l, const Circuit& circuit,
                                            const std::vector<std::vector<std::string>>& groups) {
    std::map<std::string, std::string> net_of, place_of;
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins)
            if (!pin.net.empty()) net_of[part.designator + "." + pin.name] = pin.net;
    for (const CopperPad& p : l.pads) place_of[pin_key(p)] = square_name(p.at);
    const auto at = [&](const std::string& pin) {
        return place_of.contains(pin) ? pin + " at " + place_of[pin] : pin;
    };
    std::vector<std::string> found;
    std::set<std::string> seen;
    std::map<std::string, std::string> first_of;  // by net
    for (const auto& group : groups) {
        std::set<std::string> told;  // each other net once
        for (const std::string& pin : group) {
            const bool free = !net_of.contains(pin);
            if (!free) seen.insert(pin);
            if (&pin == &group.front()) continue;
            const std::string net = free ? pin : net_of[pin];
            const auto own = net_of.find(group.front());
            if ((own != net_of.end() && own->second == net) || !told.insert(net).second) continue;
            found.push_back(fmt::format("{} and {} are joined on the board but not in the circuit",
                                        at(group.front()), at(pin)));
        }
        std::set<std::string> nets;
        for (const std::string& pin : group)
            if (net_of.contains(pin)) nets.insert(net_of[pin]);
        for (const std::string& net : nets) {
            const auto pin = std::find_if(group.begin(), group.end(), [&](const auto& p) {
                return net_of.contains(p) && net_of[p] == net;
            });
            const auto [first, fresh] = first_of.emplace(net, *pin);
            if (!fresh)
                found.push_back(fmt::format("{} and {} are joined in the circuit but not on the board",
                                            at(first->second), at(*pin)));
        }
    }
    for (const auto& [pin, net] : net_of)
        if (!seen.contains(pin)) found.push_back(pin + " is not on the board");
    return found;
}

}  // namespace elkit
