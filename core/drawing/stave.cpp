#include "drawing/stave.hpp"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "drawing/symbol.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

/// How a part is drawn: hanging between two nets, with a third leg at its side, or as a body with a leg for
/// each pin.
enum class Shape { hanging, three_legs, body };

Shape shape_of(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (kind && !kind->side_pin.empty() && part.pins.size() == 3 && part.pins[1].name == kind->side_pin)
        return Shape::three_legs;
    return part.pins.size() == 2 ? Shape::hanging : Shape::body;
}

constexpr double leg_gap = 33, side_leg = 34;
constexpr double body_text = 12, value_text_size = 10.5, narrow_column = 80, caption_gap = 28;

constexpr double tag_width = 112, tag_height = 24, left = 16, first_column = 172, axis_offset = 25,
                 top_line = 24;

/// Lines stand closer in circuits of many nets; a symbol still fits between two.
constexpr double widest_row_gap = 60, roomy_row_gap = 47, least_row_gap = 39, usual_height = 480;

unsigned mix(unsigned a, unsigned b, double t) {
    unsigned out = 0;
    for (const int shift : {16, 8, 0}) {
        const double x = (a >> shift) & 255U, y = (b >> shift) & 255U;
        out |= static_cast<unsigned>(std::lround(x + (y - x) * t)) << shift;
    }
    return out;
}

/// Line weight by current, logarithmic from 10 µA to 1 A.
double weight(double amps) {
    return 1.2 + 0.55 * std::clamp(std::log10(std::max(std::abs(amps), 1e-12) / 1e-5), 0.0, 5.0);
}

unsigned parse_rgb(const std::string& text) {
    return text.size() == 7 ? static_cast<unsigned>(std::stoul(text.substr(1), nullptr, 16)) : 0xf0a21e;
}

class StavePainter {
  public:
    StavePainter(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                 const Conditions& conditions, const StaveView& view)
        : layout_(layout), conditions_(conditions), view_(view) {
        dense_ = layout.rows.size() > 10;
        const double gaps = std::max(1.0, static_cast<double>(layout.rows.size()) - 1);
        row_gap_ = std::clamp(usual_height / gaps, dense_ ? least_row_gap : roomy_row_gap, widest_row_gap);
        highest_ = 0;
        for (const double v : op.voltages) highest_ = std::max(highest_, v);
        for (const Part& part : circuit.parts) parts_.emplace(part.designator, &part);
        for (const PartState& state : op.parts) states_.emplace(state.designator, &state);
        for (std::size_t n = 0; n < op.nets.size(); ++n) volts_.emplace(op.nets[n], op.voltages[n]);
        for (std::size_t r = 0; r < layout.rows.size(); ++r)
            rows_.emplace(layout.rows[r], static_cast<int>(r));
        for (const auto& net : layout.rows) sorted_y_.push_back(y_of(net));
        std::sort(sorted_y_.begin(), sorted_y_.end());
    }

    Drawing paint() {
        d_.title = "Circuit";
        d_.unit_mm = 0.2;
        place_columns();
        measure_lines();
        d_.width = right_ + 24;
        d_.height =
            top_line + row_gap_ * static_cast<double>(std::max<std::size_t>(layout_.rows.size(), 2) - 1) + 26;
        for (const auto& net : layout_.rows) paint_line(net);
        for (std::size_t c = 0; c < layout_.columns.size(); ++c)
            for (const auto& designator : layout_.columns[c]) paint_part(part_of(designator), x_of(c));
        for (const auto& net : layout_.rows) paint_tag(net);
        return std::move(d_);
    }

  private:
    /// One pin's way from the body to its net.
    struct Leg {
        double x = 0;
        bool up = false;
    };
    struct Place {
        double x = 0, width = 0;  // of the symbol's axis, or the body's left edge and its width
        double body = 0;          // y of the body's middle
        std::vector<Leg> legs;    // by pin
    };

    struct Span {
        double first = 1e9, last = -1e9, amps = 0;
    };

    // by name, as each is asked for again and again
    const Part& part_of(std::string_view designator) const { return *parts_.at(designator); }
    const PartState& state_of(std::string_view designator) const {
        static const PartState none;
        const auto found = states_.find(designator);
        return found == states_.end() ? none : *found->second;
    }
    double volts_of(std::string_view net) const {
        const auto found = volts_.find(net);
        return found == volts_.end() ? 0 : found->second;
    }
    int row_of(std::string_view net) const {
        const auto found = rows_.find(net);
        return found == rows_.end() ? -1 : found->second;
    }

    double x_of(std::size_t column) const { return column_x_[column]; }

    /// Every column takes the room that its widest part needs.
    void place_columns() {
        double x = dense_ ? first_column - 30 : first_column;
        for (const auto& column : layout_.columns) {
            double width = narrow_column, axis = axis_offset;
            for (const auto& designator : column) {
                const Part& part = part_of(designator);
                if (shape_of(part) == Shape::three_legs) axis = axis_offset + side_leg;
                if (shape_of(part) != Shape::body)
                    width = std::max(width, axis + caption_gap + caption_width(part) + 8);
                if (shape_of(part) != Shape::body) continue;
                Place& place = places_[designator];
                place = body_place(part);
                width = std::max(width, place.width + 28), axis = 14;
            }
            column_x_.push_back(x + axis);
            for (const auto& designator : column) {
                const Part& part = part_of(designator);
                Place& place = places_[designator];
                place.x = x + axis;
                if (shape_of(part) == Shape::body)
                    for (Leg& leg : place.legs) leg.x += place.x;
                else
                    place.legs.assign(part.pins.size(), Leg{place.x, false});
                if (shape_of(part) == Shape::three_legs)
                    place.legs[1].x = place.x - side_leg;  // base, gate, wiper
            }
            x += width;
        }
        right_ = x;
    }

    /// Of designator and value, on one line or two, whatever a switch says; a current fits in any case.
    double caption_width(const Part& part) const {
        const double name = text_width(part.designator, 12, true),
                     value = text_width(is(part, Role::contact) ? "closed" : value_text(part), 12);
        return std::max(dense_ ? name + 5 + value : std::max(name, value), text_width("−888 mA", 12));
    }

    /// The gap between two lines where a body's legs are shortest, and a leg for each pin, up or down.
    Place body_place(const Part& part) const {
        Place place;
        std::size_t best = 0;
        double shortest = 1e300;
        const std::size_t gaps = std::max<std::size_t>(layout_.rows.size(), 2) - 1;
        for (std::size_t g = 0; g < gaps; ++g) {
            double sum = 0;
            for (const Pin& pin : part.pins)
                sum += std::abs(row_of(pin.net) - (static_cast<double>(g) + 0.5));
            if (sum < shortest) shortest = sum, best = g;
        }
        std::size_t up = 0, down = 0;
        for (const Pin& pin : part.pins) {
            const bool rises = row_of(pin.net) <= static_cast<int>(best);
            place.legs.push_back({24 + leg_gap * static_cast<double>(rises ? up++ : down++), rises});
        }
        place.width = 48 + leg_gap * static_cast<double>(std::max<std::size_t>(std::max(up, down), 1) - 1);
        const double words =
            text_width(part.designator, body_text, true) + text_width(body_value(part), value_text_size);
        place.width = std::max({place.width, words + 24, 60.0});
        const double upper = best < layout_.rows.size() ? y_of(layout_.rows[best]) : top_line;
        const double lower = best + 1 < layout_.rows.size() ? y_of(layout_.rows[best + 1]) : upper + row_gap_;
        place.body = (upper + lower) / 2;
        return place;
    }

    std::string body_value(const Part& part) const {
        if (is(part, Role::contact)) return conditions_.closed(part) ? "moved" : "at rest";
        return value_text(part);
    }

    double y_of(const std::string& net) const {
        const double even = top_line + row_gap_ * row_of(net);
        if (!view_.true_height || highest_ <= 0) return even;
        const double bottom = top_line + row_gap_ * static_cast<double>(layout_.rows.size() - 1);
        return bottom - (bottom - top_line) * std::clamp(volts_of(net) / highest_, 0.0, 1.0);
    }

    unsigned net_colour(const std::string& net) const {
        return mix(0x3d6d88, 0xd0902c, highest_ > 0 ? std::clamp(volts_of(net) / highest_, 0.0, 1.0) : 0);
    }

    /// From which to which leg each line runs, and what flows along it.
    void measure_lines() {
        for (const auto& column : layout_.columns)
            for (const auto& designator : column) {
                const Part& part = part_of(designator);
                const auto& flows = state_of(designator).pins;
                const auto& legs = places_.at(designator).legs;
                for (std::size_t k = 0; k < part.pins.size(); ++k) {
                    Span& span = lines_[part.pins[k].net];
                    span.first = std::min(span.first, legs[k].x), span.last = std::max(span.last, legs[k].x);
                    span.amps += std::abs(k < flows.size() ? flows[k] : 0) / 2;
                }
            }
    }

    void paint_line(const std::string& net) {
        const auto [first, last, amps] = lines_[net];
        const double y = y_of(net);
        const bool emphasised = view_.lit_net == net;
        d_.add(Line{left + tag_width, y, first, y}, {Ink::rgb, 1, Ink::none, 0.55, net_colour(net), true},
               "net:" + net);
        if (last > first)
            d_.add(Line{first, y, last, y},
                   {Ink::rgb, weight(amps) + (emphasised ? 2.5 : 0.4), Ink::none, 1, net_colour(net)},
                   "net:" + net);
        else if (emphasised)
            d_.add(Line{first - 14, y, first + 14, y}, {Ink::rgb, 4, Ink::none, 1, net_colour(net)},
                   "net:" + net);
    }

    /// In true-height mode tags on nearly one potential step aside so that each can be read. Asked from above
    /// to below.
    double tag_y(const std::string& net) {
        lowest_tag_ = std::max(y_of(net), lowest_tag_ + tag_height + 2);
        return view_.true_height ? lowest_tag_ : y_of(net);
    }

    void paint_tag(const std::string& net) {
        const double y = tag_y(net);
        const std::string ref = "net:" + net;
        if (std::abs(y - y_of(net)) > 1)
            d_.add(Line{left + tag_width, y, left + tag_width + 24, y_of(net)}, {Ink::faint, 1}, ref);
        if (view_.red_probe == net) paint_probe(y, -5, Ink::attention, ref);
        if (view_.black_probe == net) paint_probe(y, 5, Ink::ink, ref);
        d_.add(Rect{left, y - tag_height / 2, tag_width, tag_height, 12},
               {Ink::none, 0, Ink::rgb, 1, net_colour(net)}, ref);
        d_.add(Text{left + 12, y + 4.2, net, 12, Anchor::start, true}, {Ink::none, 0, Ink::rgb, 1, 0xffffff},
               ref);
        d_.add(Text{left + tag_width - 12, y + 4.2, format_quantity(volts_of(net), Unit::volt), 12,
                    Anchor::end, false},
               {Ink::none, 0, Ink::rgb, 1, 0xffffff}, ref);
    }

    /// Middle of the gap between two lines that is nearest to the middle of the span: a symbol never sits on
    /// a line.
    /// The tip of a meter's probe on a line, right of its tag; the red one above, the black one below.
    void paint_probe(double y, double side, Ink ink, const std::string& ref) {
        const double x = left + tag_width + 16;
        d_.add(Polygon{{{x, y}, {x + 16, y + 2.4 * side}, {x + 24, y + 1.2 * side}}}, {ink, 1, ink}, ref);
        d_.add(Line{x + 20, y + 1.8 * side, x + 34, y + 2.8 * side}, {ink, 4}, ref);
    }

    double symbol_middle(double y0, double y1) const {
        const auto begin = std::lower_bound(sorted_y_.begin(), sorted_y_.end(), y0 - 0.5);
        const auto end = std::upper_bound(begin, sorted_y_.end(), y1 + 0.5);
        double best = (y0 + y1) / 2, score = 1e9;
        for (auto line = begin; line != end && line + 1 != end; ++line) {
            const double middle = (line[0] + line[1]) / 2;
            const double cramped = std::max(0.0, symbol_height + 8 - (line[1] - line[0]));
            const double s = std::abs(middle - (y0 + y1) / 2) + 20 * cramped;
            if (s < score) score = s, best = middle;
        }
        return best;
    }

    void dots(const Part& part) {
        for (std::size_t k = 0; k < part.pins.size(); ++k)
            d_.add(Circle{places_.at(part.designator).legs[k].x, y_of(part.pins[k].net), 4},
                   {Ink::none, 0, Ink::ink}, "pin:" + part.designator + "." + part.pins[k].name);
    }

    SymbolState look_of(const Part& part) const {
        const PartState& state = state_of(part.designator);
        SymbolState look;
        look.weight = weight(state.current);
        look.closed = conditions_.closed(part);
        look.lit = view_.lit_part == part.designator;
        if (const auto g = view_.glow.find(part.designator); g != view_.glow.end()) look.glow = g->second;
        if (const LedType* led = known_catalogue().led(part.text("type")))
            look.light_rgb = parse_rgb(led->rgb);
        for (const Pin& pin : part.pins)
            look.lit = look.lit || (!view_.lit_net.empty() && pin.net == view_.lit_net);
        return look;
    }

    /// Designator, value and live current, beside or inside the part.
    void captions(const Part& part, double x, double y) {
        const std::string ref = "part:" + part.designator;
        const PartState& state = state_of(part.designator);
        std::string value = value_text(part);
        if (is(part, Role::contact)) value = part_kind(part.kind)->states[conditions_.closed(part)];
        const std::string amps =
            state.pins.empty()
                ? ""
                : format_quantity(is(part, Role::source) ? -state.current : state.current, Unit::ampere);
        const std::string value_ref = "value:" + part.designator;
        if (dense_) {  // designator and value share a line
            const double after = text_width(part.designator, 12, true) + 5;
            d_.text(x, y - 5, part.designator, 12, Ink::ink, true, Anchor::start, ref);
            d_.text(x + after, y - 5, value, 12, Ink::muted, false, Anchor::start, value_ref);
            d_.text(x, y + 9, amps, 12, Ink::attention, false, Anchor::start, ref);
            return;
        }
        d_.text(x, y - 14, part.designator, 12.5, Ink::ink, true, Anchor::start, ref);
        d_.text(x, y, value, 12, Ink::muted, false, Anchor::start, value_ref);
        d_.text(x, y + 14, amps, 12, Ink::attention, false, Anchor::start, ref);
    }

    void paint_body(const Part& part) {
        const Place& place = places_.at(part.designator);
        const std::string ref = "part:" + part.designator;
        const double half = dense_ ? 17 : 19;
        const SymbolState look = look_of(part);
        for (std::size_t k = 0; k < part.pins.size(); ++k) {
            const Leg& leg = place.legs[k];
            const auto& flows = state_of(part.designator).pins;
            d_.add(Line{leg.x, place.body + (leg.up ? -half : half), leg.x, y_of(part.pins[k].net)},
                   {Ink::ink, weight(k < flows.size() ? flows[k] : 0)}, ref);
        }
        d_.add(Rect{place.x, place.body - half, place.width, 2 * half, 3},
               {look.lit ? Ink::light : Ink::ink, look.lit ? 2.4 : 1.4, Ink::card}, ref);
        for (std::size_t k = 0; k < part.pins.size(); ++k)
            d_.text(place.legs[k].x, place.body + (place.legs[k].up ? -half + 8.5 : half - 2.5),
                    part.pins[k].name, 8.5, Ink::muted, false, Anchor::middle,
                    "pin:" + part.designator + "." + part.pins[k].name);
        d_.text(place.x + 6, place.body + 4, part.designator, body_text, Ink::ink, true, Anchor::start, ref);
        d_.text(place.x + place.width - 6, place.body + 4, body_value(part), value_text_size, Ink::muted,
                false, Anchor::end, "value:" + part.designator);
        dots(part);
    }

    void paint_part(const Part& part, double x) {
        const Shape shape = shape_of(part);
        if (shape == Shape::body) return paint_body(part);
        const std::size_t lower_pin = shape == Shape::three_legs ? 2 : 1;
        const double ya = y_of(part.pins[0].net), yb = y_of(part.pins[lower_pin].net);
        const double y0 = std::min(ya, yb), y1 = std::max(ya, yb);
        const double middle = symbol_middle(y0, y1);
        const std::string ref = "part:" + part.designator;
        d_.add(Rect{x - 20, y0 + 3, 108, std::max(0.0, y1 - y0 - 6), 6}, {Ink::none, 0, Ink::none},
               ref);  // room to click on
        if (shape == Shape::three_legs) {
            const double leg_x = places_.at(part.designator).legs[1].x;
            const auto& flows = state_of(part.designator).pins;
            const double width = weight(flows.size() > 1 ? flows[1] : 0);
            d_.add(Line{leg_x, y_of(part.pins[1].net), leg_x, middle}, {Ink::ink, width}, ref);
            d_.add(Line{leg_x, middle, x - 8, middle}, {Ink::ink, width}, ref);
        }
        add_symbol(d_, part, x, y0, y1, middle, ya > yb, look_of(part));
        dots(part);
        captions(part, x + (is(part, Role::light) ? caption_gap : 23), middle + 6);
    }

    const StaveLayout& layout_;
    const Conditions& conditions_;
    const StaveView& view_;
    bool dense_ = false;  // many lines: closer, with shorter captions
    double highest_ = 0, right_ = 0, row_gap_ = widest_row_gap;
    std::unordered_map<std::string_view, const Part*> parts_;
    std::unordered_map<std::string_view, const PartState*> states_;
    std::unordered_map<std::string_view, double> volts_;
    std::unordered_map<std::string_view, int> rows_;
    std::unordered_map<std::string_view, Span> lines_;
    std::vector<double> sorted_y_;  // of all lines
    double lowest_tag_ = -1e9;
    std::vector<double> column_x_;
    std::map<std::string, Place> places_;
    Drawing d_;
};

}  // namespace

std::string net_near(const Drawing& stave, double y) {
    std::string nearest;
    double best = least_row_gap / 2;
    for (const Item& item : stave.items) {
        const Line* line = std::get_if<Line>(&item.shape);
        if (!line || !item.ref.starts_with("net:") || std::abs(line->y1 - y) >= best) continue;
        best = std::abs(line->y1 - y);
        nearest = item.ref.substr(4);
    }
    return nearest;
}

Drawing draw_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                   const Conditions& conditions, const StaveView& view) {
    return StavePainter(circuit, layout, op, conditions, view).paint();
}

}  // namespace elkit
