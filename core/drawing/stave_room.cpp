#include "drawing/stave_room.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "circuit/part_kind.hpp"
#include "drawing/body_symbol.hpp"
#include "drawing/stave_slots.hpp"
#include "drawing/stave_tracks.hpp"
#include "drawing/symbol.hpp"

namespace elkit {
namespace {

constexpr double widest_gap = 62, body_lead = 9, usual_height = 470, right_margin = 24, bottom_margin = 20;

/// Symbols may be larger where the room allows, and words closer together where it is short.
struct Density {
    double symbol;
    int caption_lines;
};
constexpr Density densities[] = {{1.3, 3}, {1.15, 3}, {1, 3}, {0.9, 3}, {0.85, 2}, {0.75, 2}, {0.65, 2}};

/// A part's room; lines that carry their tags themselves take a little of it.
double slot_height(const Density& d, bool tags_on_lines) {
    return std::max((symbol_height + 10) * d.symbol,
                    d.caption_lines * stave_words::line_height + (tags_on_lines ? 12 : 5));
}

class Measure {
  public:
    Measure(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
            const StaveView& view)
        : layout_(layout), view_(view) {
        for (const Part& part : circuit.parts) parts_.emplace(part.designator, &part);
        for (const PartState& state : op.parts) states_.emplace(state.designator, &state);
        for (std::size_t n = 0; n < op.nets.size(); ++n) {
            volts_.emplace(op.nets[n], op.voltages[n]);
            room_.highest = std::max(room_.highest, op.voltages[n]);
        }
        for (std::size_t r = 0; r < layout.rows.size(); ++r)
            rows_.emplace(layout.rows[r], static_cast<int>(r));
        std::map<int, int> users;
        for (const int track : layout.tracks) ++users[track];
        room_.lines.resize(layout.rows.size());
        for (std::size_t r = 0; r < room_.lines.size(); ++r)
            room_.lines[r].tagged = view.true_height || users[layout.tracks[r]] == 1;
    }

    StaveRoom measured() {
        slots_ = StaveSlots(static_cast<std::size_t>(track_count(layout_.tracks)));
        for (const StaveColumn& column : layout_.columns) show(column);
        for (const Hanging& run : runs_)
            if (!run.body) slots_.need(track(run.top_row), track(run.bottom_row), run.parts.size());
        for (const Body& body : bodies_) need_slots(body);
        choose_density();
        place_rows();
        place_columns();
        for (const Body& body : bodies_) place_legs(body);
        for (const Hanging& run : runs_) measure_lines(run);
        for (const Body& body : bodies_) measure_lines(*body.part);
        place_tags();
        for (const Hanging& run : runs_) hang(run);
        return std::move(room_);
    }

  private:
    /// Parts that hang one below the other, from a line or from a body's leg.
    struct Hanging {
        std::vector<const Part*> parts;  // top to bottom
        int top_row = 0, bottom_row = 0;
        std::size_t column = 0;
        const Part* body = nullptr;  // from whose leg it hangs
        std::size_t leg = 0;
        bool up = false;  // on that leg, away from the body
        std::size_t stands_for = 1;
        const StaveColumn* group = nullptr;
    };
    struct Body {
        const Part* part;
        std::size_t column, gap = 0, above = 0, below = 0;
        std::vector<std::size_t> hung;  // runs
    };
    /// What a column needs left and right of its axis.
    struct Width {
        double left = 0, right = 0;
        bool body = false;
    };

    const Part& part_of(std::string_view designator) const { return *parts_.at(designator); }
    int row_of(std::string_view net) const {
        const auto found = rows_.find(net);
        return found == rows_.end() ? -1 : found->second;
    }

    int track(int row) const { return row < 0 ? -1 : layout_.tracks[static_cast<std::size_t>(row)]; }

    // ---- what is shown ----

    void show(const StaveColumn& column) {
        const Part& first = part_of(column.parts.front());
        if (column.parts.size() == 1 && stance_of(first) == Stance::body) return show_body(first, column);
        const bool folded = !column.alike.empty() && !view_.unfolded.contains(column.parts.front());
        show_runs(column.parts, &column, folded ? column.alike.size() + 1 : 1);
        if (!folded)
            for (const auto& parts : column.alike) show_runs(parts, nullptr, 1);
    }

    /// A column may hold several runs that have nothing to do with each other.
    void show_runs(const std::vector<std::string>& parts, const StaveColumn* group, std::size_t stands_for) {
        const Part* before = nullptr;
        for (const auto& designator : parts) {
            const Part& part = part_of(designator);
            if (!before || row_of(joint_between(*before, part)) >= 0 ||
                joint_between(*before, part).empty()) {
                if (before) end_run();
                runs_.push_back({{}, 0, 0, columns_, nullptr, 0, false, stands_for, group});
            }
            runs_.back().parts.push_back(&part);
            before = &part;
        }
        end_run();
        ++columns_;
    }

    /// The nets at both ends of a run, as it hangs.
    static std::pair<std::string_view, std::string_view> ends(const std::vector<const Part*>& parts) {
        const auto [first, last] = hanging_pins(*parts.front());
        if (parts.size() == 1) return {parts.front()->pins[first].net, parts.front()->pins[last].net};
        const auto outer = [](const Part& part, const std::string& joint) -> std::string_view {
            const auto [a, b] = hanging_pins(part);
            return part.pins[a].net == joint ? part.pins[b].net : part.pins[a].net;
        };
        return {outer(*parts.front(), joint_between(*parts[0], *parts[1])),
                outer(*parts.back(), joint_between(*parts[parts.size() - 2], *parts.back()))};
    }

    void end_run() {
        Hanging& run = runs_.back();
        const auto [from, to] = ends(run.parts);
        run.top_row = row_of(from), run.bottom_row = row_of(to);
        if (run.top_row <= run.bottom_row) return;
        std::swap(run.top_row, run.bottom_row);
        std::reverse(run.parts.begin(), run.parts.end());
    }

    void show_body(const Part& part, const StaveColumn& column) {
        Body body{&part, columns_++, 0, 0, 0, {}};
        std::vector<StaveSlots::Leg> reached;
        for (const Pin& pin : part.pins)
            if (const int row = row_of(pin.net); row >= 0) reached.push_back({track(row), 0});
        for (const auto& hung : column.hung) {
            Hanging run{{}, 0, 0, body.column, &part, 0, false, 1, nullptr};
            for (const auto& designator : hung.parts) run.parts.push_back(&part_of(designator));
            for (std::size_t k = 0; k < part.pins.size(); ++k)
                if (part.pins[k].name == hung.pin) run.leg = k;
            const std::string& leg_net = part.pins[run.leg].net;
            const auto [from, to] = ends(run.parts);
            run.bottom_row = run.top_row = row_of(from == leg_net ? to : from);
            reached.push_back({track(run.top_row), run.parts.size()});
            body.hung.push_back(runs_.size());
            runs_.push_back(std::move(run));
        }
        body.gap = slots_.shortest_gap(reached);
        slots_.need_body(body.gap, body_height + 2 * body_lead);
        for (const std::size_t k : body.hung) {
            Hanging& run = runs_[k];
            run.up = track(run.top_row) <= static_cast<int>(body.gap);
            if (run.up) std::reverse(run.parts.begin(), run.parts.end());
        }
        bodies_.push_back(std::move(body));
    }

    void need_slots(const Body& body) {
        for (const std::size_t k : body.hung) {
            const Hanging& run = runs_[k];
            slots_.need_beside_body(body.gap, run.up, track(run.top_row), run.parts.size());
        }
    }

    // ---- heights ----

    void choose_density() {
        const double zoom = std::clamp(view_.zoom, 1.0, 6.0);
        const bool free = view_.room_height <= 0;
        const bool on_lines = std::any_of(room_.lines.begin(), room_.lines.end(),
                                          [](const StaveLine& line) { return !line.tagged; });
        height_ = (free ? usual_height + 50 : view_.room_height) * zoom;
        Density chosen = densities[std::size(densities) - 1];
        for (const Density& d : densities) {
            if (free && d.symbol > 1) continue;
            const Density larger{d.symbol * zoom, d.caption_lines};
            if (slots_.least_height(slot_height(larger, on_lines), least_row_gap) + stave_top +
                    bottom_margin >
                height_)
                continue;
            chosen = larger;
            break;
        }
        room_.symbol = chosen.symbol, room_.caption_lines = chosen.caption_lines;
        slot_ = slot_height(chosen, on_lines);
    }

    void place_rows() {
        const double inner = height_ - stave_top - bottom_margin;
        const std::vector<double> gaps = slots_.gaps(slot_, least_row_gap, widest_gap * room_.symbol, inner);
        track_y_.assign(1, stave_top);
        for (const double gap : gaps) track_y_.push_back(track_y_.back() + gap);
        room_.height = track_y_.back() + bottom_margin;
        for (std::size_t r = 0; r < room_.lines.size(); ++r)
            room_.lines[r].y = view_.true_height && room_.highest > 0
                                   ? true_y(layout_.rows[r], track_y_.back())
                                   : track_y_[static_cast<std::size_t>(layout_.tracks[r])];
    }

    double true_y(std::string_view net, double bottom) const {
        const auto v = volts_.find(net);
        const double share = v == volts_.end() ? 0 : v->second / room_.highest;
        return bottom - (bottom - stave_top) * std::clamp(share, 0.0, 1.0);
    }

    // ---- widths ----

    double caption_width(const Hanging& run, const Part& part) const {
        std::vector<std::string_view> others;
        if (run.stands_for > 1) others = others_of(run, part);
        const double name = text_width(range_of(part.designator, others), stave_words::name, true),
                     value = text_width(is(part, Role::contact) ? "closed" : value_text(part),
                                        stave_words::value),
                     amps =
                         text_width(run.stands_for > 1 ? "88.8–88.8 mA each" : "−888 mA", stave_words::value);
        return std::max(room_.caption_lines < 3 ? name + 5 + value : std::max(name, value), amps);
    }

    /// The parts of the other columns of the group that stand where this one does.
    static std::vector<std::string_view> others_of(const Hanging& run, const Part& part) {
        std::vector<std::string_view> others;
        if (!run.group) return others;
        const auto& own = run.group->parts;
        const auto at =
            static_cast<std::size_t>(std::find(own.begin(), own.end(), part.designator) - own.begin());
        for (const auto& parts : run.group->alike)
            if (at < parts.size()) others.push_back(parts[at]);
        return others;
    }

    double axis_gap(const Part& part) const { return (is(part, Role::light) ? 26 : 21) * room_.symbol + 2; }

    Width width_of(const Hanging& run) const {
        Width w;
        for (const Part* part : run.parts) {
            const bool sees = is(*part, Role::light_sensor);
            w.left = std::max(w.left, (sees ? 31 : 22) * room_.symbol);
            if (stance_of(*part) == Stance::three_legs)
                w.left = std::max(w.left, (side_leg + 8) * room_.symbol);
            w.right = std::max(w.right, axis_gap(*part) + caption_width(run, *part) + 10);
        }
        if (run.group && !run.group->alike.empty()) w.left = std::max(w.left, 20 * room_.symbol + 46);
        return w;
    }

    double pin_width(const Part& part, std::size_t pin) const {
        return text_width(part.pins[pin].name, stave_words::pin) + 8;
    }

    /// The legs of a body from its left edge, upper and lower ones each in a row of their own; those on which
    /// something hangs stand last.
    double lay_out_legs(const Body& body, StavePlace& place) const {
        const Part& part = *body.part;
        place.legs.resize(part.pins.size());
        std::vector<const Hanging*> hung(part.pins.size(), nullptr);
        for (const std::size_t k : body.hung) hung[runs_[k].leg] = &runs_[k];
        double width = 0, reach = 0;
        for (const bool up : {true, false}) {
            double x = 6, after = 0;  // x: where the last leg's room ends
            for (const bool hanging : {false, true})
                for (std::size_t k = 0; k < part.pins.size(); ++k) {
                    const int row = row_of(part.pins[k].net);
                    const bool rises = hung[k] ? hung[k]->up : track(row) <= static_cast<int>(body.gap);
                    if (rises != up || (hung[k] != nullptr) != hanging) continue;
                    const double half = std::max(pin_width(part, k) / 2, 11.0);
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

    void place_columns() {
        std::vector<Width> widths(columns_);
        for (const Hanging& run : runs_) {
            if (run.body) continue;
            const Width w = width_of(run);
            Width& column = widths[run.column];
            column.left = std::max(column.left, w.left), column.right = std::max(column.right, w.right);
        }
        for (const Body& body : bodies_) {
            StavePlace& place = room_.places[body.part->designator];
            widths[body.column] = {8, lay_out_legs(body, place) + 10, true};
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

    static double tag_words(const std::string& net) {
        return text_width(tag_name(net), stave_words::tag, true) + text_width("−88.88 V", stave_words::tag);
    }

    void place_legs(const Body& body) {
        const Part& part = *body.part;
        StavePlace& place = room_.places[part.designator];
        place.x = column_x_[body.column];
        for (auto& leg : place.legs) leg.x += place.x;
        const double upper = track_y_[body.gap], lower = track_y_[body.gap + 1];
        place.middle = slots_.body_middle(body.gap, upper, lower, slot_, body_height);
        place.top = place.middle - body_height / 2, place.bottom = place.middle + body_height / 2;
        for (std::size_t k = 0; k < part.pins.size(); ++k) {
            auto& leg = place.legs[k];
            leg.y = leg.up ? place.top : place.bottom;  // of a leg that joins nothing, or until it is hung
            const int row = row_of(part.pins[k].net);
            if (row >= 0) leg.y = y_of(row), leg.up = leg.y < place.middle;
        }
        room_.order.push_back(part.designator);
    }

    // ---- lines ----

    double flow(std::string_view designator, std::size_t pin) const {
        const auto found = states_.find(designator);
        return found == states_.end() || pin >= found->second->pins.size() ? 0 : found->second->pins[pin];
    }

    void touch(int row, double x, double amps) {
        if (row < 0) return;
        StaveLine& line = room_.lines[static_cast<std::size_t>(row)];
        line.first = std::min(line.first, x), line.last = std::max(line.last, x);
        line.amps += std::abs(amps) / 2;
    }

    double axis_of(const Hanging& run) const {
        return run.body ? room_.places.at(run.body->designator).legs[run.leg].x : column_x_[run.column];
    }

    void measure_lines(const Hanging& run) {
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

    void measure_lines(const Part& body) {
        const auto& legs = room_.places[body.designator].legs;
        for (std::size_t k = 0; k < body.pins.size(); ++k)
            touch(row_of(body.pins[k].net), legs[k].x, flow(body.designator, k));
    }

    /// Where a part's lead or a body's leg crosses or meets a height.
    std::vector<double> uprights_at(double y) const {
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

    /// A line that shares its height with others carries its tag itself: between two leads where there is
    /// room, else behind its end.
    void place_tags() {
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

    // ---- parts in their columns ----

    double y_of(int row) const { return row < 0 ? 0 : room_.lines[static_cast<std::size_t>(row)].y; }

    /// In true height a run may hang the other way round than the layout has it.
    static void turn(Hanging& run) {
        std::reverse(run.parts.begin(), run.parts.end());
        std::swap(run.top_row, run.bottom_row);
        run.up = !run.up;
    }

    void hang(Hanging run) {
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
        std::vector<double> middles = spread_between(top, bottom, lines, run.parts.size(), slot_);
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
            room_.folds.push_back({run.group->parts.front(), all, run.stands_for > 1,
                                   x - 18 * room_.symbol - 6, middles.front()});
        }
    }

    /// A joint stays off lines that pass by: it would look as if it joined them.
    double clear_of(const std::vector<double>& lines, double y, double above) const {
        for (const double line : lines)
            if (std::abs(line - y) < 9) {
                const double higher = line - 9;
                return higher > above + symbol_height * room_.symbol / 2 ? higher : line + 9;
            }
        return y;
    }

    /// In true height joints stand at their volts too: symbols become smaller where there are few.
    void stand_by_volts(const Hanging& run, std::vector<double>& joints, std::vector<double>& middles) const {
        if (run.body || run.parts.size() < 2) return;
        constexpr double least = 8;  // of a part's height
        const std::size_t last = joints.size() - 1;
        for (std::size_t k = 1; k < last; ++k)
            joints[k] = std::max(joints[k - 1] + least,
                                 true_y(joint_between(*run.parts[k - 1], *run.parts[k]), track_y_.back()));
        for (std::size_t k = last; k-- > 1;) joints[k] = std::min(joints[k], joints[k + 1] - least);
        for (std::size_t k = 0; k < middles.size(); ++k) middles[k] = (joints[k] + joints[k + 1]) / 2;
    }

    /// Words stand beside their symbols, but not over each other.
    std::vector<double> words_beside(const std::vector<double>& middles) const {
        const double high = room_.caption_lines * stave_words::line_height + 2;
        std::vector<double> at = middles;
        for (std::size_t k = 1; k < at.size(); ++k) at[k] = std::max(at[k], at[k - 1] + high);
        if (at.empty()) return at;
        at.back() = std::max(middles.back(), std::min(at.back(), track_y_.back() - high / 2));
        for (std::size_t k = at.size() - 1; k-- > 0;) at[k] = std::min(at[k], at[k + 1] - high);
        return at;
    }

    void stand(const Hanging& run, std::size_t k, double x, double top, double bottom, double middle) {
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

    /// Whether the part's first pin is the one below.
    bool lower_first(const Hanging& run, std::size_t k) const {
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

    void add_joint(const Hanging& run, std::size_t k, double x, double y, const std::vector<double>& middles,
                   const std::vector<double>& lines) {
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

    /// Between a body and the first part on its leg.
    void join_leg(const Hanging& run, double x, const std::vector<double>& middles) {
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

    const StaveLayout& layout_;
    const StaveView& view_;
    std::unordered_map<std::string_view, const Part*> parts_;
    std::unordered_map<std::string_view, const PartState*> states_;
    std::unordered_map<std::string_view, double> volts_;
    std::unordered_map<std::string_view, int> rows_;
    std::vector<Hanging> runs_;
    std::vector<Body> bodies_;
    StaveSlots slots_{0};
    std::size_t columns_ = 0;
    double height_ = 0, slot_ = 46;
    std::vector<double> column_x_, track_y_;
    StaveRoom room_;
};

}  // namespace

std::string tag_name(const std::string& net) {
    constexpr std::size_t longest = 14;
    if (net.size() <= longest || text_width(net, stave_words::tag, true) <= 90) return net;
    std::size_t keep = longest - 2;
    while (keep > 1 && (static_cast<unsigned char>(net[keep]) & 0xC0) == 0x80) --keep;
    return net.substr(0, keep) + "…";
}

std::string range_of(std::string_view first, const std::vector<std::string_view>& others) {
    std::string name(first);
    if (others.empty()) return name;
    return name + " … " + std::string(others.back());
}

StaveRoom measure_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                        const StaveView& view) {
    return Measure(circuit, layout, op, view).measured();
}

}  // namespace elkit
