// How large a board of copper is.
#include "board/copper/board_space.hpp"

#include <algorithm>
#include <cmath>

#include "board/copper/outlines.hpp"
#include "board/copper/pads.hpp"

namespace elkit {
namespace {

/// A part's body with the middles of its pads and so much around them.
Box with_pads(const CopperPart& p, double around_hole, double more) {
    Box box = p.footprint.body;
    for (const Pad& pad : p.footprint.pads) widen_by_pad(box, pad, {}, 0, around_hole, more);
    return box;
}
}  // namespace

BoardSpace::BoardSpace(const std::vector<CopperPart>& parts, std::vector<bool> put,
                       std::vector<std::size_t> of_face, const BoardChoices& choices, const Making& making,
                       Ring drawn)
    : parts_(parts),
      put_(std::move(put)),
      of_face_(std::move(of_face)),
      choices_(choices),
      making_(making),
      drawn_(std::move(drawn)) {
    if (drawn_.empty()) return;
    const Box box = box_of(drawn_);
    corner_ = {box.x0, box.y0};
    for (Point& p : drawn_) p = p - corner_;
}

/// What the lights that the face has take up.
Box BoardSpace::face_box() const {
    Box box = no_box;
    for (const std::size_t k : of_face_) widen(box, parts_[k].bounds());
    return box;
}

/// As far as any corner of them is from their middle.
double BoardSpace::face_reach() const {
    const Box box = face_box();
    double reach = 0;
    for (const std::size_t k : of_face_)
        for (const Point p : parts_[k].body())
            reach = std::max(reach, distance(p, {(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2}));
    return reach;
}

/// As far as what was put by hand reaches, with a little around it: it is on the board.
Box BoardSpace::put_by_hand() const {
    constexpr double around = 1.5;
    Box box{0, 0, 0, 0};
    for (std::size_t k = 0; k < parts_.size(); ++k)
        if (put_[k] && std::find(of_face_.begin(), of_face_.end(), k) == of_face_.end()) {
            const Box b = parts_[k].bounds();
            widen(box, Box{b.x0, b.y0, b.x1 + around, b.y1 + around});
        }
    return box;
}

/// They keep their places to each other: in the middle of the board, or to the outline that was drawn.
void BoardSpace::centre_face(CopperLayout& l) const {
    if (of_face_.empty()) return;
    const Box box = face_box();
    Point by{l.width() / 2 - (box.x0 + box.x1) / 2, l.height() / 2 - (box.y0 + box.y1) / 2};
    if (!drawn_.empty()) by = Point{} - corner_;
    for (const std::size_t k : of_face_) l.parts[k].at = l.parts[k].at + by;
}

/// mm² that all parts take with their lands.
double BoardSpace::needed() const {
    double sum = 0;
    const double around = land_of(making_, making_.hole(0.8)) / 2;
    for (const CopperPart& p : parts_) {
        const Box b = with_pads(p, around, making_.gap);
        sum += (b.x1 - b.x0 + 1) * (b.y1 - b.y0 + 1);
    }
    return sum;
}

double BoardSpace::longest() const {
    double most = 0;
    for (const CopperPart& p : parts_) {
        const Box b = with_pads(p, 0, 0);
        most = std::max({most, b.x1 - b.x0, b.y1 - b.y0});
    }
    return most + 6;
}

Ring BoardSpace::outline_for(double spacious) const {
    if (!drawn_.empty()) return drawn_;
    double w = choices_.width, h = choices_.height;
    const double area = needed() * spacious;
    if (choices_.shape == "round") {
        const double least = of_face_.empty() ? 0 : 2 * (face_reach() + making_.copper_edge + 1);
        const double automatic = w + h > 0 ? 0
                                           : std::max({std::sqrt(area * 1.35), longest() * 1.15, least,
                                                       put_by_hand().x1, put_by_hand().y1});
        return round_outline(std::max({w, h, automatic}));
    }
    const double least = longest(), rim = 2 * making_.copper_edge + 2;
    if (w <= 0 && h <= 0) w = std::max(std::sqrt(area * 1.35), least), h = std::max(area / w, 12.0);
    if (w <= 0) w = std::max(area / h, least);
    if (h <= 0) h = std::max(area / w, 12.0);
    if (choices_.width <= 0) w += rim;
    if (choices_.height <= 0) h += rim;
    if (!of_face_.empty()) {
        const Box box = face_box();
        if (choices_.width <= 0) w = std::max(w, box.x1 - box.x0 + 2 * rim);
        if (choices_.height <= 0) h = std::max(h, box.y1 - box.y0 + 2 * rim);
    }
    if (choices_.width <= 0) w = std::max(w, put_by_hand().x1);
    if (choices_.height <= 0) h = std::max(h, put_by_hand().y1);
    return rectangle(w, h);
}

Ring BoardSpace::rectangle(double w, double h) const {
    return choices_.shape == "rounded" ? rounded_outline(w, h) : rectangle_outline(w, h);
}

bool BoardSpace::automatic() const {
    return drawn_.empty() && choices_.shape != "round" && choices_.corner_holes <= 0;
}

/// mm that rounded corners come nearer to a pad that is near both edges.
double BoardSpace::corner() const { return choices_.shape == "rounded" ? 0.25 * rounded_corner : 0; }

/// The outline as near to what lies on it as the method allows, with a way around for tracks.
void BoardSpace::crop(CopperLayout& l) const {
    const double around = making_.copper_edge + 2.2 + corner();
    Box b = no_box;
    for (const CopperPart& p : l.parts) {
        widen(b, p.bounds());
        for (const Pad& pad : p.footprint.pads) widen(b, p.pad(pad), around);
    }
    resize(l, b);
}

/// Without what the tracks left free.
void BoardSpace::trim(CopperLayout& l) const {
    const double rim = making_.copper_edge + corner();
    Box b = no_box;
    for (const CopperPart& p : l.parts) widen(b, p.bounds());
    for (const CopperPad& p : l.pads)
        widen(b, p.at, std::max(p.land / 2 + rim, p.hole / 2 + making_.hole_edge));
    for (const Track& t : l.tracks)
        for (const Point end : {t.a, t.b}) widen(b, end, t.width / 2 + rim);
    for (const Via& v : l.vias) widen(b, v.at, v.land / 2 + rim);
    for (const WireLink& w : l.links)
        for (const Point end : {w.a, w.b}) widen(b, end, w.land / 2 + rim);
    resize(l, b);
}

void BoardSpace::resize(CopperLayout& l, Box b) const {
    const auto whole = [](double mm) { return 0.5 * std::ceil(2 * mm - 1e-9); };
    const bool stays =
        std::count(put_.begin(), put_.end(), true) > static_cast<std::ptrdiff_t>(of_face_.size()) ||
        !choices_.pulls.empty() || !choices_.keep_out.empty();
    for (const KeepOut& k : choices_.keep_out) widen(b, Box{k.x, k.y, k.x + k.width, k.y + k.height});
    // by whole steps of the grid, so that pins stay on it
    const double dx = choices_.width > 0 || stays ? 0 : 1.27 * std::floor(b.x0 / 1.27 + 1e-9),
                 dy = choices_.height > 0 || stays ? 0 : 1.27 * std::floor(b.y0 / 1.27 + 1e-9);
    const double w = choices_.width > 0 ? choices_.width : whole(b.x1 - dx),
                 h = choices_.height > 0 ? choices_.height : whole(b.y1 - dy);
    const auto move = [&](Point& p) { p = {p.x - dx, p.y - dy}; };
    for (CopperPart& p : l.parts) move(p.at);
    for (CopperPad& p : l.pads) move(p.at);
    for (Track& t : l.tracks) move(t.a), move(t.b);
    for (Via& v : l.vias) move(v.at);
    for (WireLink& k : l.links) move(k.a), move(k.b);
    for (Unjoined& u : l.unjoined) move(u.a), move(u.b);
    for (TrackWay& way : l.ways)
        for (WayCorner& c : way.corners) c.x -= dx, c.y -= dy;
    l.outline = rectangle(w, h);
}

}  // namespace elkit
