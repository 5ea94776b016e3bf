// From the circuit to a finished board of copper: outline, places, ways, areas; several tries, the best of
// them.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "board/copper/board_space.hpp"
#include "board/copper/copper_length.hpp"
#include "board/copper/layout.hpp"
#include "board/copper/outlines.hpp"
#include "board/copper/pads.hpp"
#include "board/copper/placer.hpp"
#include "board/copper/pour.hpp"
#include "board/copper/router.hpp"
#include "board/copper/supply_pairs.hpp"
#include "board/copper/teardrops.hpp"
#include "board/copper/words.hpp"
#include "board/holes/clusters.hpp"
#include "circuit/connectivity.hpp"
#include "quantity/parallel.hpp"

namespace elkit {
namespace {

constexpr std::size_t most_on_copper = 300;  // parts: more would be placed badly, after a long wait

/// True if the parts lie to each other as in the other.
bool lie_alike(const std::vector<CopperPart>& a, const std::vector<CopperPart>& b) {
    for (std::size_t k = 0; k < a.size(); ++k)
        if (a[k].turn != b[k].turn || distance(a[k].at - a[0].at, b[k].at - b[0].at) > 1e-6) return false;
    return true;
}

class CopperPlan {
  public:
    /// `glance`: nothing is tried twice, and a way that is not found at once is left open.
    CopperPlan(const Circuit& circuit, const BoardChoices& choices, const Making& making, bool glance)
        : circuit_(circuit), choices_(choices), making_(making), glance_(glance) {}

    Result<CopperLayout> run(const Progress& progress) {
        if (circuit_.parts.size() > most_on_copper)
            return Error{Fault::design, "/circuit/parts", fmt::format("{} parts", circuit_.parts.size()),
                         fmt::format("at most {} on one board", most_on_copper)};
        if (auto errors = connectivity_errors(circuit_); !errors.empty()) return errors.front();
        if (auto error = take_parts()) return *error;
        if (auto error = take_outline()) return *error;
        if (auto error = check_nets()) return *error;
        std::vector<bool> put;
        for (std::size_t k = 0; k < parts_.size(); ++k) put.push_back(is_put(k));
        space_.emplace(parts_, std::move(put), of_face_, choices_, making_, drawn_);
        if (glance_ && !by_hand())
            return Error{Fault::design, "/board/spots", "not all parts have a place",
                         "a board on which all were put by hand"};
        return best_of(progress);
    }

  private:
    std::optional<Error> take_parts() {
        auto all = mounted(circuit_, choices_);
        if (!all) return all.error();
        for (std::size_t k = 0; k < choices_.spots.size(); ++k) {
            if (!circuit_.find(choices_.spots[k].part))
                return Error{Fault::design, fmt::format("/board/spots/{}/part", k),
                             "there is no part \"" + choices_.spots[k].part + "\"", "a part of the circuit"};
            if (choices_.spots[k].of_face || spots_are_for(choices_, making_.id))
                spots_[choices_.spots[k].part] = &choices_.spots[k];
        }
        for (Mounted& m : all.value()) {
            if (m.footprint.surface && layers() < 2)
                return Error{Fault::design, "/board/parts",
                             fmt::format("{} is soldered on the surface, and this board has no copper on its "
                                         "component side",
                                         m.part->designator),
                             "an ordered board of two layers, or a footprint with legs"};
            CopperPart part{m.part, m.place, std::move(m.footprint), {}, 0, false};
            if (const auto spot = spots_.find(m.part->designator); spot != spots_.end())
                put(part, *spot->second);
            parts_.push_back(std::move(part));
        }
        return {};
    }

    void put(CopperPart& part, const PartSpot& spot) {
        part.at = {spot.x, spot.y}, part.turn = spot.turn, part.locked = spot.locked;
        if (!spot.of_face || part.place != PartPlace::board) return;
        const Box& b = part.footprint.body;
        part.at = part.at - turned({(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2}, part.turn);
        of_face_.push_back(parts_.size());
    }

    std::optional<Error> take_outline() {
        if (choices_.shape != "outline") return {};
        auto outline = drawn_outline(choices_.outline);
        if (!outline) return outline.error();
        drawn_ = std::move(outline).value();
        return {};
    }

    std::optional<Error> check_nets() const {
        const auto nets = circuit_.nets();
        const auto unknown = [&](const std::string& net, const std::string& place) -> std::optional<Error> {
            if (std::find(nets.begin(), nets.end(), net) != nets.end()) return {};
            return Error{Fault::design, place, "there is no net \"" + net + "\"", "a net of the circuit"};
        };
        for (std::size_t k = 0; k < choices_.pulls.size(); ++k)
            if (auto error = unknown(choices_.pulls[k].net, fmt::format("/board/pulls/{}/net", k)))
                return error;
        return choices_.area.empty() ? std::nullopt : unknown(choices_.area, "/board/area");
    }

    /// Strings that are alike keep together, all else is by itself.
    std::vector<CopperCluster> groups(double widest) const {
        std::vector<CopperCluster> all;
        std::vector<bool> taken(parts_.size(), false);
        BoardChoices wired = wired_choices(circuit_, choices_);
        wired.spots.clear();
        if (const auto on_holes = hole_parts(circuit_, wired))
            for (const Cluster& c : clusters(on_holes.value(), static_cast<int>(widest / hole_pitch))) {
                CopperCluster cluster;
                bool alone = c.members.size() < 2;
                for (const Cluster::Member& m : c.members) {
                    const auto index = static_cast<std::size_t>(m.part - on_holes.value().all.data());
                    alone |= spots_.contains(m.part->part->designator) || parts_[index].footprint.surface;
                    cluster.members.push_back(
                        {index,
                         {m.placement.at.column * hole_pitch, m.placement.at.row * hole_pitch},
                         90.0 * m.placement.turn});
                }
                if (alone) continue;
                const CopperCluster::Member first = cluster.members.front();
                for (CopperCluster::Member& m : cluster.members) {
                    taken[m.part] = true;
                    m.offset = m.offset - first.offset;
                }
                all.push_back(std::move(cluster));
            }
        for (const SupplyPair& pair : supply_pairs(parts_)) {
            if (taken[pair.chip] || taken[pair.capacitor] || is_put(pair.chip) || is_put(pair.capacitor))
                continue;
            taken[pair.chip] = taken[pair.capacitor] = true;
            const Beside beside = beside_chip(parts_, pair, making_.gap + 0.6);
            all.push_back({{{pair.chip, {}, 0}, {pair.capacitor, beside.at, beside.turn}}});
        }
        for (std::size_t k = 0; k < parts_.size(); ++k) {
            if (taken[k]) continue;
            CopperCluster cluster{{{k, {}, 0}}, parts_[k].locked, false, false};
            cluster.placed = spots_.contains(parts_[k].part->designator);
            all.push_back(std::move(cluster));
        }
        return all;
    }

    bool is_put(std::size_t part) const { return spots_.contains(parts_[part].part->designator); }

    int layers() const {
        return choices_.layers > 0 ? std::min(static_cast<int>(choices_.layers), making_.most_layers)
                                   : making_.layers;
    }
    double track() const { return choices_.track > 0 ? choices_.track : making_.track; }

    /// How much a board is larger than what lies on it, and mm around each part for what runs between.
    struct Space {
        double area, room;
    };
    /// One board: parts at this seed, ways if they lie well; nothing where they do not, or by hand lie as
    /// `before`, where that was tried.
    std::optional<CopperLayout> attempt(const Space& space, std::uint64_t seed, bool last,
                                        const std::vector<CopperPart>* before) const {
        CopperLayout l;
        l.making = making_, l.outline = space_->outline_for(space.area), l.parts = parts_,
        l.texts = choices_.texts;
        l.keep_out = choices_.keep_out, l.pulls = choices_.pulls;
        l.layers = layers();
        l.holes = corner_screws(l.outline, choices_.corner_holes, making_);
        space_->centre_face(l);
        CopperPlacer::Setting set;
        set.outline = l.outline, set.keep_out = choices_.keep_out, set.holes = l.holes;
        set.land = land_of(making_, making_.hole(0.8)), set.gap = making_.gap;
        for (const CopperPart& part : parts_) set.rims.push_back(rim_of(part.footprint));
        set.room = space.room;
        set.crossing = l.layers == 1 ? 10 : 2;
        CopperPlacer placer(l.parts, circuit_, groups(l.width()), set, seed);
        const int moves = std::clamp(700 * static_cast<int>(parts_.size()), 6000, 40000);
        const bool lie_well = by_hand() ? placer.settle() : placer.run(moves);
        // by hand it is shown as it lies, and what is wrong with it, once no larger board helps
        if (!lie_well && !(by_hand() && last)) return {};
        if (space_->automatic()) space_->crop(l);
        l.pads = pads_of(l.parts, making_);
        if (by_hand()) {
            const bool as_put = !before;
            if (before && lie_alike(*before, l.parts)) return {};
            route_by_hand(l, as_put);
        } else if (!route(l, last)) {
            return {};
        }
        if (space_->automatic()) space_->trim(l);
        if (making_.milled()) add_teardrops(l);
        if (!choices_.area.empty())
            for (int layer = 0; layer < l.layers; ++layer) l.areas.push_back(poured(l, choices_.area, layer));
        return l;
    }
    /// mm from the middle of its pads to the edge of the board.
    double rim_of(const Footprint& f) const {
        double rim = 0;
        for (const Pad& pad : f.pads)
            rim = std::max(rim, std::max(pad.width, pad.height) / 2 + making_.copper_edge);
        if (f.surface) return rim;
        const double hole = making_.hole(f.drill);
        return std::max(land_of(making_, hole) / 2 + making_.copper_edge, hole / 2 + making_.hole_edge);
    }
    /// Every part has its place already.
    bool by_hand() const { return spots_.size() == parts_.size(); }
    /// From narrow to wide. By hand at first only what lies over something else moves; then parts make room
    /// for tracks, and the board grows where it may.
    std::vector<Space> spaces() const {
        const double room = layers() == 1 ? 0.5 : 0.3;
        std::vector<Space> all;
        if (!by_hand()) {
            for (const double area : {1.05, 1.3, 1.6, 2.0, 2.6, 3.4}) all.push_back({area, room * area});
            return all;
        }
        constexpr double close = 0.2;
        if (glance_) return {{1.4, close}};
        all = {{1.4, close}, {1.4, 1.4 * room}};
        if (space_->automatic() && (choices_.width <= 0 || choices_.height <= 0))
            for (const double area : {2.2, 3.4}) all.push_back({area, room * area});
        return all;
    }
    /// Many parts on one layer seldom find their ways where they lie closely.
    bool is_large() const { return !by_hand() && layers() == 1 && parts_.size() > 30; }
    /// As wide as wanted first, which keeps room for that; else as narrow as the method allows, and widened
    /// after. False if some net finds no way, and there is more room to try.
    bool route(CopperLayout& l, bool last) const {
        constexpr int short_try = 20, long_try = 60;  // rounds
        const double narrow = making_.track_least, wanted = std::clamp(track(), narrow, making_.track);
        if (wanted > narrow) {
            const Routed wide = routed(l, wanted, short_try, GiveUp::if_crowded);
            if (wide.laid) return true;
            // narrow tracks do not make room for as many as that
            if (!last && wide.unfinished > circuit_.nets().size() / (is_large() ? 4 : 2)) return false;
        }
        return routed(l, narrow, long_try, last ? GiveUp::never : GiveUp::if_open).laid;
    }
    enum class GiveUp { never, if_open, if_crowded };  // if_crowded: before anything is laid more narrowly
    struct Routed {
        bool laid = false;
        std::size_t unfinished = 0;  // nets, where it gave up
    };
    /// Tracks of this width, in so many rounds; none where it gave up.
    Routed routed(CopperLayout& l, double width, int rounds, GiveUp give_up) const {
        CopperRouter router(l, circuit_.nets(), width);
        router.pull(choices_.pulls);
        constexpr std::size_t large_looks = 1200000;  // what is not found by then needs more room
        if (is_large() && give_up != GiveUp::never) router.hurry(large_looks);
        constexpr std::size_t few = 4;  // nets that room may still be made for
        const bool all = router.route(rounds);
        const std::size_t unfinished = router.unfinished();
        if (!all && (give_up == GiveUp::if_crowded || (give_up == GiveUp::if_open && unfinished > few)))
            return {false, unfinished};
        auto open = router.settle();
        if (!open.empty() && give_up == GiveUp::if_open) return {false, open.size()};
        finish(l, router, std::move(open));
        return {true, 0};
    }
    /// At once the narrow tracks, which are widened after; the ways that were there before first where parts
    /// lie as they were put.
    void route_by_hand(CopperLayout& l, bool as_put) const {
        constexpr int rounds = 60;
        const std::size_t looks = glance_ ? 25000 : 3000000;  // at nodes
        const auto begun = [&] {
            CopperRouter router(l, circuit_.nets(), making_.track_least);
            router.pull(choices_.pulls);
            router.hurry(looks);
            return router;
        };
        CopperRouter router = begun();
        if (as_put && choices_.ways_by == making_.id && !choices_.ways.empty()) {
            router.keep(choices_.ways);
            router.route(rounds);
            auto open = router.settle();
            if (open.empty() || glance_) return finish(l, router, std::move(open));
            router = begun();
        }
        router.route(rounds);
        finish(l, router, router.settle());
    }
    void finish(CopperLayout& l, CopperRouter& router, std::vector<std::string> open) const {
        l.open = std::move(open), l.unjoined = router.missing();
        router.tighten();
        l.ways = router.ways();
        lay_tracks(l, router, track());
    }

    /// What it takes to make and build: the less, the better.
    static double score(const CopperLayout& l) {
        double far =
            0;  // mm of copper to supply capacitors, and from clamps to the edge, beyond what is good
        for (const SupplyPath& path : supply_paths(l)) far += std::max(0.0, path.length - path.limit);
        constexpr double way_by = 2;  // mm that a track takes along the edge
        for (const CopperPart& p : l.parts)
            far += 12 * std::max(0.0, behind_edge(p, box_of(l.outline)) - way_by);
        return far + 400 * static_cast<double>(l.open.size()) + 25 * static_cast<double>(l.links.size()) +
               6 * static_cast<double>(l.vias.size()) + 0.3 * l.track_length() +
               0.06 * l.width() * l.height();
    }

    Result<CopperLayout> best_of(const Progress& progress) const {
        constexpr std::size_t few = 14;
        std::optional<CopperLayout> best;
        std::vector<CopperPart> tried;
        // small boards are tried more often: they take little, and luck counts more
        const std::size_t seeds =
            by_hand() ? 1 : std::clamp<std::size_t>(60 / std::max<std::size_t>(parts_.size(), 1), 2, 6);
        const std::vector<Space> tries = spaces();
        const std::size_t first = is_large() ? 2 : 0;
        bool closer = false;  // a board was found at once: perhaps a smaller one does too
        for (std::size_t at = first, done = 0; at < tries.size(); ++done) {
            const Space& space = tries[at];
            if (progress && !progress("placing and routing",
                                      static_cast<double>(done) / static_cast<double>(tries.size())))
                return Error{Fault::design, "/board", "stopped before a board was found", "let it go on"};
            std::vector<std::optional<CopperLayout>> laid(seeds);
            parallel(seeds, [&](std::size_t k) {
                laid[k] = attempt(space, k + 1, &space == &tries.back(), tried.empty() ? nullptr : &tried);
            });
            if (by_hand() && laid.front()) tried = laid.front()->parts;
            bool found = false;
            for (auto& l : laid) {
                found |= l && l->open.empty();
                if (l && (!best || score(*l) < score(*best))) best = std::move(l);
            }
            closer = found && at > 0 && (closer || at == first);
            if (closer) {
                --at;
                continue;
            }
            // few parts are worth a longer look for a board without links
            const bool look_on =
                !by_hand() && best && !best->links.empty() && parts_.size() <= few && space.area < 2;
            if (best && best->open.empty() && !look_on) break;
            ++at;
        }
        if (best) place_words(*best);
        if (best) return std::move(*best);
        return Error{Fault::design, choices_.width > 0 || choices_.height > 0 ? "/board/width" : "/board",
                     "the parts find no place on the board", "a larger board, or 0 for as small as it gets"};
    }

    const Circuit& circuit_;
    const BoardChoices& choices_;
    const Making& making_;
    bool glance_;
    std::vector<CopperPart> parts_;
    std::map<std::string, const PartSpot*> spots_;
    std::vector<std::size_t> of_face_;  // parts
    Ring drawn_;
    std::optional<BoardSpace> space_;
};

}  // namespace

Result<CopperLayout> lay_out_copper(const Circuit& circuit, const BoardChoices& choices, const Making& making,
                                    const Progress& progress) {
    auto made = CopperPlan(circuit, choices, making, false).run(progress);
    if (!made) return made;
    for (std::string& net : made.value().open)
        net = fmt::format("{} finds no way: a larger board{} helps", net,
                          made.value().layers < making.most_layers ? ", or a second layer," : "");
    return made;
}

Result<CopperLayout> glance_copper(const Circuit& circuit, const BoardChoices& choices,
                                   const Making& making) {
    return CopperPlan(circuit, choices, making, true).run({});
}

}  // namespace elkit
