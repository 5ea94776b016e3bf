// Where the parts of a run stand between their lines, with their joints and words.
#include <algorithm>
#include <cmath>

#include "drawing/stave_measure.hpp"
#include "drawing/symbol.hpp"

namespace elkit {

double StaveMeasure::y_of(int row) const {
    return row < 0 ? 0 : room_.lines[static_cast<std::size_t>(row)].y;
}

void StaveMeasure::turn(Hanging& run) {
    std::reverse(run.parts.begin(), run.parts.end());
    std::swap(run.top_row, run.bottom_row);
    run.up = !run.up;
}

void StaveMeasure::hang(Hanging run) {
    const double x = axis_of(run);
    double top = y_of(run.top_row), bottom = y_of(run.bottom_row);
    if (run.body) {
        StavePlace& body = room_.places.at(run.body->designator);
        if ((top < body.middle) != run.up) turn(run);
        body.legs[run.leg].up = run.up;
        (run.up ? bottom : top) = run.up ? body.top : body.bottom;
    } else if (top > bottom) {
        turn(run);
        std::swap(top, bottom);
    }
    const double left = x - 18 * room_.symbol;
    std::vector<double> lines;
    const double right = x + width_of(run).right;
    for (const StaveLine& line : room_.lines) {
        if (line.y <= top + 1 || line.y >= bottom - 1) continue;
        const double from = line.tagged ? 0 : std::min(line.first, line.tag_x),
                     to = std::max(line.last, line.tag_x + line.tag_width);
        if (from < right && to > left) lines.push_back(line.y);
    }
    std::sort(lines.begin(), lines.end());
    std::vector<double> middles = spread_between(top, bottom, lines, run.parts.size(), least_.slot);
    std::vector<double> joints(run.parts.size() + 1);
    joints.front() = top, joints.back() = bottom;
    for (std::size_t k = 1; k < run.parts.size(); ++k)
        joints[k] = clear_of(lines, (middles[k - 1] + middles[k]) / 2, middles[k - 1]);
    if (view_.true_height) stand_by_volts(run, joints, middles);
    const std::vector<double> words = words_beside(middles);
    for (std::size_t k = 0; k < run.parts.size(); ++k) {
        stand(run, k, x, joints[k], joints[k + 1], middles[k]);
        StavePlace& place = room_.places[run.parts[k]->designator];
        place.words_y = words[k];
        place.scale = std::min(room_.symbol, (joints[k + 1] - joints[k]) / (symbol_height + 4));
    }
    for (std::size_t k = 1; k < run.parts.size(); ++k) add_joint(run, k, x, joints[k], middles, lines);
    if (run.body) join_leg(run, x, middles);
    if (run.group && !run.group->alike.empty()) {
        const std::size_t all = run.group->alike.size() + 1;
        room_.folds.push_back(
            {run.group->parts.front(), all, run.stands_for > 1, x - 18 * room_.symbol - 6, middles.front()});
    }
}

double StaveMeasure::clear_of(const std::vector<double>& lines, double y, double above) const {
    for (const double line : lines)
        if (std::abs(line - y) < 9) {
            const double higher = line - 9;
            return higher > above + symbol_height * room_.symbol / 2 ? higher : line + 9;
        }
    return y;
}

void StaveMeasure::stand_by_volts(const Hanging& run, std::vector<double>& joints,
                                  std::vector<double>& middles) const {
    if (run.body || run.parts.size() < 2) return;
    constexpr double least = 8;  // of a part's height
    const std::size_t last = joints.size() - 1;
    for (std::size_t k = 1; k < last; ++k)
        joints[k] = std::max(joints[k - 1] + least,
                             true_y(joint_between(*run.parts[k - 1], *run.parts[k]), track_y_.back()));
    for (std::size_t k = last; k-- > 1;) joints[k] = std::min(joints[k], joints[k + 1] - least);
    for (std::size_t k = 0; k < middles.size(); ++k) middles[k] = (joints[k] + joints[k + 1]) / 2;
}

std::vector<double> StaveMeasure::words_beside(const std::vector<double>& middles) const {
    const double high = room_.caption_lines * stave_words::line_height + 2;
    std::vector<double> at = middles;
    for (std::size_t k = 1; k < at.size(); ++k) at[k] = std::max(at[k], at[k - 1] + high);
    if (at.empty()) return at;
    at.back() = std::max(middles.back(), std::min(at.back(), track_y_.back() - high / 2));
    for (std::size_t k = at.size() - 1; k-- > 0;) at[k] = std::min(at[k], at[k + 1] - high);
    return at;
}

void StaveMeasure::stand(const Hanging& run, std::size_t k, double x, double top, double bottom,
                         double middle) {
    const Part& part = *run.parts[k];
    StavePlace& place = room_.places[part.designator];
    const auto [first, last] = hanging_pins(part);
    place.x = x, place.top = top, place.bottom = bottom, place.middle = middle;
    place.words = x + axis_gap(part);
    place.stands_for = run.stands_for;
    if (run.stands_for > 1) place.others = others_of(run, part);
    place.flipped = lower_first(run, k);
    place.legs.assign(part.pins.size(), {x, middle, false});
    place.legs[place.flipped ? last : first].y = top;
    place.legs[place.flipped ? first : last].y = bottom;
    if (stance_of(part) == Stance::three_legs) {
        place.legs[1].x = x - side_leg * room_.symbol;
        const std::string& net = part.pins[1].net;
        if (const int row = row_of(net); row >= 0)
            place.legs[1].y = y_of(row);
        else  // tied to one of its own ends, at a joint
            place.legs[1].y = net == part.pins[first].net ? place.legs[first].y : place.legs[last].y;
    }
    room_.order.push_back(part.designator);
}

bool StaveMeasure::lower_first(const Hanging& run, std::size_t k) const {
    const Part& part = *run.parts[k];
    const auto [first, last] = hanging_pins(part);
    if (k > 0) return part.pins[last].net == joint_between(*run.parts[k - 1], part);
    if (k + 1 < run.parts.size()) return part.pins[first].net == joint_between(part, *run.parts[k + 1]);
    if (run.body) {  // the leg's net is at the body's side
        const bool first_at_body = part.pins[first].net == run.body->pins[run.leg].net;
        return first_at_body == run.up;
    }
    const int a = row_of(part.pins[first].net), b = row_of(part.pins[last].net);
    if (a < 0 || b < 0 || !view_.true_height) return a > b;
    return y_of(a) > y_of(b);
}

void StaveMeasure::add_joint(const Hanging& run, std::size_t k, double x, double y,
                             const std::vector<double>& middles, const std::vector<double>& lines) {
    const double words = room_.caption_lines * stave_words::line_height / 2;
    StaveJoint joint{joint_between(*run.parts[k - 1], *run.parts[k]),
                     x,
                     y,
                     y - middles[k - 1] - words,
                     middles[k] - words - y,
                     width_of(run).right - 8};
    for (const double line : lines)
        (line < y ? joint.above : joint.below) =
            std::min(line < y ? joint.above : joint.below, std::abs(y - line) - small_tag_height / 2);
    room_.joints.push_back(joint);
}

void StaveMeasure::join_leg(const Hanging& run, double x, const std::vector<double>& middles) {
    StavePlace& body = room_.places.at(run.body->designator);
    const double half = symbol_height * room_.symbol / 2;
    const double part_end = run.up ? middles.back() + half : middles.front() - half;
    const double edge = run.up ? body.top : body.bottom;
    const double y = (part_end + edge) / 2;
    body.legs[run.leg].y = y;
    const Part& nearest = run.up ? *run.parts.back() : *run.parts.front();
    StavePlace& place = room_.places.at(nearest.designator);
    (run.up ? place.bottom : place.top) = y;
    for (std::size_t k = 0; k < nearest.pins.size(); ++k)
        if (nearest.pins[k].net == run.body->pins[run.leg].net) place.legs[k].y = y;
    room_.joints.push_back({run.body->pins[run.leg].net, x, y, 0, 0, 0});
}

}  // namespace elkit
