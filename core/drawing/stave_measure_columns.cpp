// How wide the columns are, where bodies have their legs, which lines run from where to where.
#include <algorithm>
#include <cmath>

#include "circuit/part_kind.hpp"
#include "drawing/body_symbol.hpp"
#include "drawing/stave_measure.hpp"

namespace elkit {

constexpr double right_margin = 24;

double StaveMeasure::caption_width(const Hanging& run, const Part& part) const {
    std::vector<std::string_view> others;
    if (run.stands_for > 1) others = others_of(run, part);
    const double name = text_width(range_of(part.designator, others), stave_words::name, true),
                 value =
                     text_width(is(part, Role::contact) ? "closed" : value_text(part), stave_words::value),
                 amps = text_width(run.stands_for > 1 ? "88.8–88.8 mA each" : "−888 mA", stave_words::value);
    if (room_.caption_lines == 1) return name + 5 + value + 7 + amps;
    return std::max(room_.caption_lines == 2 ? name + 5 + value : std::max(name, value), amps);
}

std::vector<std::string_view> StaveMeasure::others_of(const Hanging& run, const Part& part) {
    std::vector<std::string_view> others;
    if (!run.group) return others;
    const auto& own = run.group->parts;
    const auto at =
        static_cast<std::size_t>(std::find(own.begin(), own.end(), part.designator) - own.begin());
    for (const auto& parts : run.group->alike)
        if (at < parts.size()) others.push_back(parts[at]);
    return others;
}

double StaveMeasure::axis_gap(const Part& part) const {
    return (is(part, Role::light) ? 26 : 21) * room_.symbol + 2;
}

StaveMeasure::Width StaveMeasure::width_of(const Hanging& run) const {
    Width w;
    for (const Part* part : run.parts) {
        const bool sees = is(*part, Role::light_sensor),
                   marked = is(*part, Role::polar) || is(*part, Role::energy);  // a + at its left
        w.left = std::max(w.left, (sees ? 31 : marked ? 26 : 22) * room_.symbol);
        if (stance_of(*part) == Stance::three_legs) w.left = std::max(w.left, (side_leg + 8) * room_.symbol);
        w.right = std::max(w.right, axis_gap(*part) + caption_width(run, *part) + 10);
    }
    if (run.group && !run.group->alike.empty()) w.left = std::max(w.left, 20 * room_.symbol + 46);
    return w;
}

double StaveMeasure::pin_width(const Part& part, std::size_t pin) const {
    return text_width(part.pins[pin].name, stave_words::pin) + 8;
}

double StaveMeasure::lay_out_legs(const Body& body, StavePlace& place) const {
    const Part& part = *body.part;
    place.legs.resize(part.pins.size());
    std::vector<const Hanging*> hung(part.pins.size(), nullptr);
    for (const std::size_t k : body.hung) hung[runs_[k].leg] = &runs_[k];
    double width = 0, reach = 0, first = 6;
    const bool apart = !part_kind(part.kind)->dies.empty();  // its lights stand side by side inside
    for (const bool up : {true, false}) {
        double x = first, after = 0;  // x: where the last leg's room ends
        for (const bool hanging : {false, true})
            for (std::size_t k = 0; k < part.pins.size(); ++k) {
                const int row = row_of(part.pins[k].net);
                const bool rises = hung[k] ? hung[k]->up : track(row) <= static_cast<int>(body.gap);
                if (rises != up || (hung[k] != nullptr) != hanging) continue;
                const double half = std::max(pin_width(part, k) / 2, is_block(part) ? 11.0 : 22.0);
                Width beside{half, half};
                if (hung[k]) {
                    const Width w = width_of(*hung[k]);
                    beside = {std::max(half, w.left), std::max(half, w.right)};
                }
                place.legs[k] = {x + beside.left, 0, up};
                width = std::max(width, x + beside.left + half + 6);
                x += beside.left + beside.right;
                after = x;
            }
        reach = std::max(reach, after);
        if (apart) first = x;
    }
    const double name = text_width(part.designator, stave_words::name, true),
                 value = text_width(value_text(part), stave_words::value);
    if (!is_block(part)) {  // its words stand beside it
        place.width = std::max(width, 48.0);
        return std::max(reach, place.width + 14 + std::max({name, value, 40.0}));
    }
    place.width = std::max({width, name + value + 46, 60.0});
    return std::max(reach, place.width);
}

void StaveMeasure::place_columns() {
    std::vector<Width> widths(columns_);
    for (const Hanging& run : runs_) {
        if (run.body) continue;
        const Width w = width_of(run);
        Width& column = widths[run.column];
        column.left = std::max(column.left, w.left), column.right = std::max(column.right, w.right);
    }
    for (const Body& body : bodies_) {
        StavePlace& place = room_.places[body.part->designator];
        widths[body.column] = {8, lay_out_legs(body, place) + 10};
    }
    for (std::size_t r = 0; r < layout_.rows.size(); ++r)
        if (room_.lines[r].tagged)
            room_.tag_width = std::max(room_.tag_width, tag_words(layout_.rows[r]) + 34);
    const double begin = stave_left + room_.tag_width + 18;
    double total = begin + right_margin;
    for (const Width& w : widths) total += w.left + w.right;
    const double wanted = view_.room_width * std::clamp(view_.zoom, 1.0, 6.0);
    double spare = 0;  // a wide room is filled, but not with gaps wider than the columns
    if (columns_ > 0 && wanted > total)
        spare = std::min(wanted - total, 0.5 * (total - begin)) / static_cast<double>(columns_);
    double x = begin;
    column_x_.clear();
    for (const Width& w : widths) {
        column_x_.push_back(x + w.left + spare / 2);
        x += w.left + w.right + spare;
    }
    room_.width = x + right_margin;
}

double StaveMeasure::tag_words(const std::string& net) {
    return text_width(tag_name(net), stave_words::tag, true) + text_width("−88.88 V", stave_words::tag);
}

void StaveMeasure::place_legs(const Body& body) {
    const Part& part = *body.part;
    StavePlace& place = room_.places[part.designator];
    place.x = column_x_[body.column];
    for (auto& leg : place.legs) leg.x += place.x;
    const double upper = track_y_[body.gap], lower = track_y_[body.gap + 1];
    place.middle = slots_.body_middle(body.gap, upper, lower, least_.slot, body_height_);
    place.top = place.middle - body_height_ / 2, place.bottom = place.middle + body_height_ / 2;
    for (std::size_t k = 0; k < part.pins.size(); ++k) {
        auto& leg = place.legs[k];
        leg.y = leg.up ? place.top : place.bottom;  // of a leg that joins nothing, or until it is hung
        const int row = row_of(part.pins[k].net);
        if (row >= 0) leg.y = y_of(row), leg.up = leg.y < place.middle;
    }
    room_.order.push_back(part.designator);
}

double StaveMeasure::flow(std::string_view designator, std::size_t pin) const {
    const auto found = states_.find(designator);
    return found == states_.end() || pin >= found->second->pins.size() ? 0 : found->second->pins[pin];
}

void StaveMeasure::touch(int row, double x, double amps) {
    if (row < 0) return;
    StaveLine& line = room_.lines[static_cast<std::size_t>(row)];
    line.first = std::min(line.first, x), line.last = std::max(line.last, x);
    line.amps += std::abs(amps) / 2;
}

double StaveMeasure::axis_of(const Hanging& run) const {
    return run.body ? room_.places.at(run.body->designator).legs[run.leg].x : column_x_[run.column];
}

void StaveMeasure::measure_lines(const Hanging& run) {
    const double x = axis_of(run);
    for (const Part* part : run.parts) {
        const auto others = others_of(run, *part);
        for (std::size_t k = 0; k < part->pins.size(); ++k) {
            const bool side = stance_of(*part) == Stance::three_legs && k == 1;
            double amps = flow(part->designator, k);
            if (run.stands_for > 1)
                for (const auto other : others) amps += flow(other, k);
            touch(row_of(part->pins[k].net), side ? x - side_leg * room_.symbol : x, amps);
        }
    }
}

void StaveMeasure::measure_lines(const Part& body) {
    const auto& legs = room_.places[body.designator].legs;
    for (std::size_t k = 0; k < body.pins.size(); ++k)
        touch(row_of(body.pins[k].net), legs[k].x, flow(body.designator, k));
}

std::vector<double> StaveMeasure::uprights_at(double y) const {
    std::vector<double> xs;
    const auto add = [&](double x, double a, double b) {
        if (y >= std::min(a, b) - 1 && y <= std::max(a, b) + 1) xs.push_back(x);
    };
    for (const Hanging& run : runs_) {
        const double x = axis_of(run);
        if (run.body) {
            add(x, room_.places.at(run.body->designator).middle, y_of(run.top_row));
            continue;
        }
        add(x, y_of(run.top_row), y_of(run.bottom_row));
        for (const Part* part : run.parts)  // the side leg reaches to somewhere between the ends
            if (stance_of(*part) == Stance::three_legs)
                if (const int row = row_of(part->pins[1].net); row >= 0) {
                    add(x - side_leg * room_.symbol, y_of(row), y_of(run.top_row));
                    add(x - side_leg * room_.symbol, y_of(row), y_of(run.bottom_row));
                }
    }
    for (const Body& body : bodies_) {
        const StavePlace& place = room_.places.at(body.part->designator);
        for (const auto& leg : place.legs) add(leg.x, place.middle, leg.y);
    }
    std::sort(xs.begin(), xs.end());
    return xs;
}

void StaveMeasure::place_tags() {
    for (std::size_t r = 0; r < room_.lines.size(); ++r) {
        StaveLine& line = room_.lines[r];
        if (line.tagged || line.first > line.last) continue;
        constexpr double clear = 8;
        const double name = text_width(tag_name(layout_.rows[r]), stave_words::pin, true) + 16,
                     full = name + text_width("−88.88 V", stave_words::pin) + 6;
        line.tag_width = full, line.tag_x = line.last + clear;
        const std::vector<double> xs = uprights_at(line.y);
        for (std::size_t k = 0; k + 1 < xs.size(); ++k) {
            if (xs[k] < line.first - 1 || xs[k + 1] > line.last + 1) continue;
            const double room = xs[k + 1] - xs[k] - 2 * clear;
            if (room < name) continue;
            line.tag_width = room < full ? name : full, line.tag_x = xs[k] + clear;
            line.tag_volts = room >= full;
            break;
        }
    }
}

}  // namespace elkit
