#include "board/holes/placer.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <limits>
#include <optional>

#include "quantity/stop.hpp"

namespace elkit {
namespace {

Box united(const Box& a, const Box& b) {
    return {std::min(a.x0, b.x0), std::min(a.y0, b.y0), std::max(a.x1, b.x1), std::max(a.y1, b.y1)};
}

}  // namespace

Placer::Placer(const HoleParts& parts, std::vector<Cluster> clusters, Substrate board, double airy,
               std::uint64_t seed)
    : board_(std::move(board)),
      airy_(airy),
      nets_(parts.circuit->nets()),
      count_(parts.all.size()),
      free_(parts.wishes.free),
      random_(seed) {
    free_.insert(free_.end(), board_.off.begin(), board_.off.end());
    ground_.resize(static_cast<std::size_t>(board_.columns * board_.rows));
    for (const std::size_t rail : board_.rails)
        for (const Hole h : board_.groups[rail]) ground_[ground_at(h)].rail = true;
    members_.resize(nets_.size());
    for (Cluster& cluster : clusters) {
        Piece piece{std::move(cluster), {}, {}, {}, {}, {}, {}};
        for (const Cluster::Member& m : piece.cluster.members) {
            piece.parts.push_back(static_cast<std::size_t>(m.part - parts.all.data()));
            for (const auto& [pin, offset] : m.part->shapes.front().pins) {
                const auto at = std::find(nets_.begin(), nets_.end(), m.part->part->net(pin));
                piece.nets.push_back(pin.empty() ? -1 : static_cast<int>(at - nets_.begin()));
            }
        }
        pieces_.push_back(std::move(piece));
    }
    for (std::size_t i = 0; i < pieces_.size(); ++i)
        for (std::size_t k = 0; k < pieces_[i].nets.size(); ++k)
            if (pieces_[i].nets[k] >= 0)
                members_[static_cast<std::size_t>(pieces_[i].nets[k])].emplace_back(i, k);
    for (Piece& p : pieces_) {
        if (const auto& put = p.first().put)
            settle(p, {put->at, put->turn, put->shape}), p.stays = p.first().stays;
        else
            scatter(p);
        if (p.single() && is(*p.first().part, Role::diode_light)) lights_.push_back(&p);
    }
}

bool Placer::lies_free(const Piece& p) const {
    return inside(p) && in_free_areas(p) == 0 &&
           std::none_of(pieces_.begin(), pieces_.end(),
                        [&](const Piece& o) { return &o != &p && overlap(o, p); });
}

bool Placer::make_room() {
    for (std::size_t k = 0; k < pieces_.size(); ++k) {
        stop_point();
        const int anywhere = board_.columns + board_.rows + holes_between(pieces_[k].pose.at, {});
        if (!pieces_[k].stays && !lies_free(pieces_[k]) && !step_aside(k, anywhere, 0)) return false;
    }
    if (!std::all_of(pieces_.begin(), pieces_.end(), [&](const Piece& p) { return lies_free(p); }))
        return false;
    while (!sound() && one_makes_way()) {
    }
    return true;
}

bool Placer::one_makes_way() {
    constexpr int near = 6;  // holes
    const int before = faults();
    for (std::size_t k = 0; k < pieces_.size(); ++k) {
        if (pieces_[k].stays) continue;
        const Spot was = pieces_[k].pose;
        if (step_aside(k, near, before - 1) && faults() < before) return true;
        settle(pieces_[k], was), touch_nets(pieces_[k].nets);
    }
    return false;
}

bool Placer::step_aside(std::size_t index, int furthest, int most_faults) {
    Piece& piece = pieces_[index];
    const Spot was = piece.pose;
    std::optional<Spot> nearest;  // that is free
    bool joins = false;           // there, with no more faults
    for (int far = 0; far <= furthest && !joins; ++far) {
        stop_point();
        for (int across = -far; across <= far && !joins; ++across)
            for (const int down : {std::abs(across) - far, far - std::abs(across)})
                for (int turn = 0; turn < 4 && !joins; ++turn) {
                    settle(piece,
                           {{was.at.column + across, was.at.row + down}, (was.turn + turn) & 3, was.shape});
                    if (!lies_free(piece)) continue;
                    if (!nearest) nearest = piece.pose;
                    joins = faults() <= most_faults;
                }
    }
    if (!joins) settle(piece, nearest.value_or(was));
    touch_nets(piece.nets);
    return nearest.has_value();
}

bool Placer::run(int moves) {
    // one or two that still lie over others step aside: far away there may be room
    const auto settled = [&] { return make_room() && sound(); };
    if (anneal(moves, 12) || settled()) return true;
    return (overlap_total() == 0 || pack()) && (anneal(moves, 1) || settled());
}

bool Placer::vary(const std::vector<Spot>& from, int moves) {
    constexpr double little = 1.5;  // holes
    put(from);
    return anneal(moves, little);
}

void Placer::put(const std::vector<Spot>& spots) {
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        settle(pieces_[k], spots[k]), touch_nets(pieces_[k].nets);
}

bool Placer::anneal(int moves, double hottest) {
    if (pieces_.empty()) return true;  // all of it hangs on wires
    double now = cost();
    double best = std::numeric_limits<double>::infinity();
    auto kept = spots();
    std::vector<Costs> costs(pieces_.size());  // since the board changed last
    const auto forget = [&] { std::fill(costs.begin(), costs.end(), Costs{}); };
    for (int m = 0; m < moves; ++m) {
        if (m % 64 == 0) stop_point();
        const double heat = hottest * std::pow(1 - double(m) / moves, 2) + 0.02;
        const double worst = -heat * std::log(1 - random_.unit());  // that is still taken (Metropolis)
        const auto index = static_cast<std::size_t>(random_.below(static_cast<int>(pieces_.size())));
        Piece& piece = pieces_[index];
        if (piece.stays) continue;
        Costs& before = costs[index];
        if (!before.known) before = {true, standing(index) + spread(), joining_of(index)};
        const Spot there = piece.pose;
        propose(piece, heat);
        const double least = inside(piece) ? standing(index) + spread() - before.standing - before.joining
                                           : std::numeric_limits<double>::infinity();
        if (least > worst) {  // whatever joining takes
            settle(piece, there);
            continue;
        }
        touch_nets(piece.nets);
        const double change = least + joining_of(index);
        if (change > worst) {
            settle(piece, there);
            touch_nets(piece.nets);
            continue;
        }
        now += change;
        forget();
        if (now < best - 1e-9 && m > moves / 2) best = now, kept = spots();
    }
    put(kept);
    return overlap_total() == 0 && sound() &&
           std::all_of(pieces_.begin(), pieces_.end(), [&](const Piece& p) { return inside(p); });
}

bool Placer::pack() {
    std::vector<Piece*> order;
    for (Piece& p : pieces_) order.push_back(&p);
    const auto area = [](const Piece& p) {
        return (p.outline.x1 - p.outline.x0) * (p.outline.y1 - p.outline.y0);
    };
    std::stable_sort(order.begin(), order.end(),
                     [&](auto* a, auto* b) { return a->stays != b->stays ? a->stays : area(*a) > area(*b); });
    for (std::size_t k = 0; k < order.size(); ++k) {
        const auto free = [&] {
            return inside(*order[k]) && in_free_areas(*order[k]) == 0 &&
                   std::none_of(order.begin(), order.begin() + static_cast<int>(k),
                                [&](auto* o) { return overlap(*o, *order[k]); });
        };
        bool found = order[k]->stays;
        for (int place = 0; place < 4 * board_.columns * board_.rows && !found; ++place) {
            settle(*order[k], {{place / 4 % board_.columns, place / 4 / board_.columns}, place % 4, 0});
            found = free();
        }
        if (!found) return false;
        touch_nets(order[k]->nets);
    }
    return true;
}

std::vector<Placement> Placer::placements() const {
    std::vector<Placement> out(count_);
    for (const Piece& p : pieces_)
        for (std::size_t k = 0; k < p.parts.size(); ++k) {
            const Placement& member = p.cluster.members[k].placement;
            const Pose lies = placed_within(member, p.pose);
            out[p.parts[k]] = {member.designator, lies.at, lies.turn, lies.shape};
        }
    return out;
}

std::vector<Placer::Spot> Placer::spots() const {
    std::vector<Spot> all;
    for (const Piece& p : pieces_) all.push_back(p.pose);
    return all;
}

void Placer::scatter(Piece& p) {
    for (int tries = 0; tries < 500; ++tries) {
        settle(p, {{random_.below(board_.columns), random_.below(board_.rows)}, random_.below(4), 0});
        if (inside(p)) return;
    }
}

void Placer::propose(Piece& p, double heat) {
    Spot next = p.pose;
    if (p.shapes() > 1 && random_.below(4) == 0) next.shape = random_.below(p.shapes());
    const int kind = random_.below(10);
    const int reach = std::max(1, static_cast<int>(heat));
    if (kind < 6)
        next.at = {next.at.column + random_.below(2 * reach + 1) - reach,
                   next.at.row + random_.below(2 * reach + 1) - reach};
    else if (kind < 9)
        next.turn = (next.turn + 1 + random_.below(3)) & 3;
    else
        next.at = {random_.below(board_.columns), random_.below(board_.rows)};
    settle(p, next);
}

void Placer::settle(Piece& p, const Spot& spot) {
    p.pose = spot;
    note(p, -1);
    p.holes.clear();
    for (std::size_t m = 0; m < p.cluster.members.size(); ++m) {
        const Cluster::Member& member = p.cluster.members[m];
        const Pose there = placed_within(member.placement, p.pose);
        const GridFootprint& shape = member.part->shapes[static_cast<std::size_t>(there.shape)];
        for (const auto& [pin, offset] : shape.pins) p.holes.push_back(placed_hole(offset, there));
        const Box body = placed_body(shape, there);
        p.body = m == 0 ? body : united(p.body, body);
    }
    p.outline = p.body;
    for (const Hole h : p.holes) {
        const double x = h.column, y = h.row;
        p.outline = united(p.outline, {x, y, x, y});
    }
    if (!p.single()) p.body = p.outline;
    note(p, 1);
}

void Placer::note(const Piece& p, int times) {
    for (std::size_t k = 0; k < p.holes.size(); ++k)
        if (const Hole h = p.holes[k]; board_.on_grid(h)) {
            Ground& g = ground_[ground_at(h)];
            g.legs += times, g.nets += times * p.nets[k];
            touch(ground_at(h));
        }
}

bool Placer::inside(const Piece& p) const {
    const double over = board_.kind == Substrate::Kind::sockets ? 0.5 : 0.95;  // the rim [holes]
    constexpr std::size_t most_in_rails = 3;  // legs: what has more stands across the channel
    const bool off_rails = p.holes.size() > most_in_rails;
    return p.body.x0 >= -over && p.body.y0 >= -over && p.body.x1 <= board_.columns - 1 + over &&
           p.body.y1 <= board_.rows - 1 + over && std::all_of(p.holes.begin(), p.holes.end(), [&](Hole h) {
               return board_.has(h) && !(off_rails && ground_[ground_at(h)].rail);
           });
}

}  // namespace elkit
