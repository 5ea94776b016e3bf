#include "board/copper/placer.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

#include "board/copper/pads.hpp"
#include "circuit/part_kind.hpp"
#include "outline/outline.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

constexpr double place_grid = 1.27;    // mm
constexpr double room_for_iron = 0.8;  // mm beside a land on the surface, on the side where bodies stand

double on_place_grid(double mm) { return place_grid * std::round(mm / place_grid); }

}  // namespace

Point way_out(const Footprint& f) {
    const std::string& side = f.opens;
    return side == "left"    ? Point{-1, 0}
           : side == "right" ? Point{1, 0}
           : side == "up"    ? Point{0, -1}
           : side == "down"  ? Point{0, 1}
                             : Point{};
}

double behind_edge(const CopperPart& part, const Box& board) {
    const Point way = turned(way_out(part.footprint), part.turn);  // one step along x or y
    const Box b = part.bounds();
    if (way == Point{}) return 0;
    return way.x < -0.5   ? b.x0 - board.x0
           : way.x > 0.5  ? board.x1 - b.x1
           : way.y < -0.5 ? b.y0 - board.y0
                          : board.y1 - b.y1;
}

CopperPlacer::CopperPlacer(std::vector<CopperPart>& parts, const Circuit& circuit,
                           std::vector<CopperCluster> clusters, Setting setting, std::uint64_t seed)
    : parts_(parts), set_(std::move(setting)), random_(seed) {
    frame_ = box_of(set_.outline);
    const auto names = circuit.nets();
    nets_.resize(names.size()), piece_of_.resize(parts.size());
    for (CopperCluster& cluster : clusters) {
        Piece piece{std::move(cluster)};
        for (const CopperCluster::Member& m : piece.cluster.members) {
            const CopperPart& part = parts_[m.part];
            piece_of_[m.part] = pieces_.size();
            piece.edge |= part.footprint.edge && piece.single();
            if (piece.single()) piece.opens = way_out(part.footprint);
            for (const Pad& pad : part.footprint.pads) {
                if (pad.pin.empty()) continue;
                const auto at = std::find(names.begin(), names.end(), part.part->net(pad.pin));
                const auto net = static_cast<std::size_t>(at - names.begin());
                nets_[net].pins.emplace_back(pieces_.size(), piece.pins.size());
                piece.pins.push_back({net, m.offset + turned({pad.x, pad.y}, m.turn), {}, m.part, pad.pin});
                piece.nets.push_back(net);
            }
            if (piece.single() && is(*part.part, Role::diode_light)) lights_.push_back(pieces_.size());
        }
        std::sort(piece.nets.begin(), piece.nets.end());
        piece.nets.erase(std::unique(piece.nets.begin(), piece.nets.end()), piece.nets.end());
        pieces_.push_back(std::move(piece));
    }
    find_pairs(), find_apart();
    for (Piece& p : pieces_) {
        const CopperPart& first = parts_[p.cluster.members.front().part];
        if (p.cluster.locked || p.cluster.placed || p.cluster.pinned)
            put(p, {first.at, first.turn});
        else
            for (int tries = 0; tries < 300; ++tries) {
                put(p, proposal(p, 1e9));
                if (on_board(p)) break;
            }
    }
}

bool CopperPlacer::run(int moves) {
    if (pieces_.empty()) return true;
    std::vector<std::size_t> mobile;
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        if (pieces_[k].moves()) mobile.push_back(k);
    if (mobile.empty()) return legal();
    double now = 0, best = std::numeric_limits<double>::infinity();
    std::vector<Spot> kept;
    const auto keep = [&] {
        kept.clear();
        for (const Piece& p : pieces_) kept.push_back(p.spot);
    };
    constexpr double hottest = 30, coldest = 0.05;  // mm
    std::vector<std::size_t> all_nets(nets_.size());
    std::iota(all_nets.begin(), all_nets.end(), std::size_t{0});
    grow(all_nets);
    std::vector<Tree> before;
    for (int m = 0; m < moves; ++m) {
        if (m % 64 == 0) stop_point();
        const double heat = hottest * std::pow(1 - double(m) / moves, 2.5) + coldest;
        const std::size_t index =
            mobile[static_cast<std::size_t>(random_.below(static_cast<int>(mobile.size())))];
        Piece& p = pieces_[index];
        const Spot old = p.spot;
        const double was = joining(p.nets) + own_cost(p, index) + spread() + lights_cost();
        before.clear();
        for (const std::size_t n : p.nets) before.push_back(nets_[n].tree);
        const auto take_back = [&] {
            put(p, old);
            for (std::size_t k = 0; k < p.nets.size(); ++k) {
                const std::size_t n = p.nets[k];
                for (std::size_t other = 0; other < nets_.size(); ++other)
                    nets_[other].tree.crossed[n] = before[k].crossed[other];
                nets_[n].tree = std::move(before[k]);
            }
        };
        put(p, proposal(p, heat));
        if (!on_board(p)) {
            put(p, old);
            continue;
        }
        grow(p.nets);
        const double change = joining(p.nets) + own_cost(p, index) + spread() + lights_cost() - was;
        if (change > 0 && random_.unit() >= std::exp(-change / heat)) {
            take_back();
            continue;
        }
        now += change;
        if (now < best - 1e-9 && m > moves / 2) best = now, keep();
    }
    for (std::size_t k = 0; k < kept.size(); ++k) put(pieces_[k], kept[k]);
    return settle();
}

/// True if that is on the board, and no other piece lies there.
bool CopperPlacer::is_free(const Box& outline, std::size_t but) const {
    const double slack = set_.room / 2;
    if (outline.x0 + slack < frame_.x0 || outline.y0 + slack < frame_.y0 || outline.x1 - slack > frame_.x1 ||
        outline.y1 - slack > frame_.y1)
        return false;
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        if (k != but && outline.overlaps(pieces_[k].outline)) return false;
    return true;
}

/// To the nearest place where it lies over nothing, turned if need be; it stays, and false, where there is
/// none.
bool CopperPlacer::moved_aside(std::size_t index) {
    Piece& p = pieces_[index];
    if (p.cluster.pinned) return false;
    const Spot old = p.spot;
    Box turned_to[4];
    for (int turn = 0; turn < 4; ++turn) {
        put(p, {old.at, old.turn + 90 * turn});
        turned_to[turn] = p.outline;
    }
    const int most =
        static_cast<int>(std::max(frame_.x1 - frame_.x0, frame_.y1 - frame_.y0) / place_grid) + 1;
    for (int ring = 1; ring <= most; ++ring)
        for (int step = 0; step < 8 * ring; ++step) {
            const int side = step / (2 * ring), along = step % (2 * ring) - ring;
            const Point off = side == 0   ? Point{double(along), double(-ring)}
                              : side == 1 ? Point{double(ring), double(along)}
                              : side == 2 ? Point{double(-along), double(ring)}
                                          : Point{double(-ring), double(-along)};
            const Point by{off.x * place_grid, off.y * place_grid};
            for (int turn = 0; turn < 4; ++turn) {
                const Box& b = turned_to[turn];
                if (!is_free({b.x0 + by.x, b.y0 + by.y, b.x1 + by.x, b.y1 + by.y}, index)) continue;
                put(p, {old.at + by, old.turn + 90 * turn});
                if (on_board(p) && overlaps(index) == 0) return true;
            }
        }
    put(p, old);
    return false;
}

bool CopperPlacer::settle() {
    std::vector<std::size_t> order;
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        if (pieces_[k].moves() && (overlaps(k) > 0 || !on_board(pieces_[k]))) order.push_back(k);
    for (const std::size_t k : order)
        if (overlaps(k) > 0 || !on_board(pieces_[k])) moved_aside(k);
    for (const Piece& p : pieces_) write_back(p);
    return legal();
}

bool CopperPlacer::legal() const {
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        if (pieces_[k].moves() && (overlaps(k) > 0 || !on_board(pieces_[k]))) return false;
    return true;
}

Point CopperPlacer::centre_offset(const Piece& p) const {
    const Box& b = parts_[p.cluster.members.front().part].footprint.body;
    return {(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2};
}

CopperPlacer::Spot CopperPlacer::proposal(const Piece& p, double heat) {
    Spot next = p.spot;
    const int kind = random_.below(10);
    if (p.cluster.pinned) {
        const Point middle = centre_offset(p), was = turned(middle, next.turn);
        next.turn = std::fmod(next.turn + 90 * (1 + random_.below(3)), 360);
        const Point now = turned(middle, next.turn);
        next.at = {next.at.x + was.x - now.x, next.at.y + was.y - now.y};
        return next;
    }
    const int reach = std::max(1, static_cast<int>(heat / place_grid / 2));
    if (heat > 1e6 || kind == 9)
        next = {{on_place_grid(frame_.x0 + random_.unit() * (frame_.x1 - frame_.x0)),
                 on_place_grid(frame_.y0 + random_.unit() * (frame_.y1 - frame_.y0))},
                90.0 * random_.below(4)};
    else if (kind < 6)
        next.at = {next.at.x + place_grid * (random_.below(2 * reach + 1) - reach),
                   next.at.y + place_grid * (random_.below(2 * reach + 1) - reach)};
    else
        next.turn = std::fmod(next.turn + 90 * (1 + random_.below(3)), 360);
    return next;
}

CopperPlacer::Shape CopperPlacer::shape_of(const Piece& p, double turn) const {
    Shape shape;
    for (const Pin& pin : p.pins) shape.pins.push_back(turned(pin.offset, turn));
    for (const CopperCluster::Member& m : p.cluster.members) {
        const Footprint& f = parts_[m.part].footprint;
        const double both = m.turn + turn;
        const Point at = turned(m.offset, turn);
        for (const Point corner : {Point{f.body.x0, f.body.y0}, Point{f.body.x1, f.body.y0},
                                   Point{f.body.x0, f.body.y1}, Point{f.body.x1, f.body.y1}})
            widen(shape.outline, at + turned(corner, both), set_.room / 2);
        for (const Pad& pad : f.pads)
            widen_by_pad(shape.outline, pad, at, both, set_.land / 2,
                         set_.gap / 2 + set_.room / 2 + (pad.width > 0 ? room_for_iron : 0));
    }
    shape.known = true;
    return shape;
}

void CopperPlacer::put(Piece& p, const Spot& spot) {
    p.spot = spot;
    const auto take = [&](const Shape& shape) {
        for (std::size_t k = 0; k < p.pins.size(); ++k) p.pins[k].at = spot.at + shape.pins[k];
        const Box& b = shape.outline;
        p.outline = {b.x0 + spot.at.x, b.y0 + spot.at.y, b.x1 + spot.at.x, b.y1 + spot.at.y};
    };
    const double quarters = spot.turn / 90;
    if (std::abs(quarters - std::round(quarters)) > 1e-9) return take(shape_of(p, spot.turn));
    Shape& shape = p.shapes[static_cast<std::size_t>(((std::lround(quarters) % 4) + 4) % 4)];
    if (!shape.known) shape = shape_of(p, spot.turn);
    take(shape);
}

void CopperPlacer::write_back(const Piece& p) {
    for (const CopperCluster::Member& m : p.cluster.members) {
        parts_[m.part].at = p.spot.at + turned(m.offset, p.spot.turn);
        parts_[m.part].turn = std::fmod(m.turn + p.spot.turn + 720, 360);
    }
}

bool CopperPlacer::on_board(const Piece& p) const {
    const double slack = set_.room / 2;  // which belongs to the neighbours
    const Box b{p.outline.x0 + slack, p.outline.y0 + slack, p.outline.x1 - slack, p.outline.y1 - slack};
    if (b.x0 < frame_.x0 - 1e-6 || b.y0 < frame_.y0 - 1e-6 || b.x1 > frame_.x1 + 1e-6 ||
        b.y1 > frame_.y1 + 1e-6)
        return false;
    for (const Pin& pin : p.pins) {
        const double rim = set_.rims[pin.part] - 1e-6;
        if (pin.at.x < frame_.x0 + rim || pin.at.y < frame_.y0 + rim || pin.at.x > frame_.x1 - rim ||
            pin.at.y > frame_.y1 - rim)
            return false;
        if (set_.outline.size() == 4) continue;
        for (std::size_t k = 0; k < set_.outline.size(); ++k)
            if (distance(pin.at, set_.outline[k], set_.outline[(k + 1) % set_.outline.size()]) < rim)
                return false;
    }
    if (set_.outline.size() > 4) {
        Outline outline;
        for (const Point q : set_.outline) outline.emplace_back(q.x, q.y);
        for (const Point corner :
             {Point{b.x0, b.y0}, Point{b.x1, b.y0}, Point{b.x0, b.y1}, Point{b.x1, b.y1}})
            if (!is_inside(outline, corner.x, corner.y)) return false;
    }
    return true;
}

}  // namespace elkit
