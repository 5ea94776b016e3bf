#include "drawing/stave.hpp"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "drawing/body_symbol.hpp"
#include "drawing/stave_room.hpp"
#include "drawing/symbol.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

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

class StavePainter {
  public:
    StavePainter(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                 const Conditions& conditions, const StaveView& view)
        : layout_(layout),
          conditions_(conditions),
          view_(view),
          room_(measure_stave(circuit, layout, op, view)),
          k_(room_.symbol) {
        for (const Part& part : circuit.parts) parts_.emplace(part.designator, &part);
        for (const PartState& state : op.parts) states_.emplace(state.designator, &state);
        for (std::size_t n = 0; n < op.nets.size(); ++n) volts_.emplace(op.nets[n], op.voltages[n]);
    }

    Drawing paint() {
        d_.title = "Circuit";
        d_.unit_mm = 25.4 / 96;
        d_.width = room_.width, d_.height = room_.height;
        for (std::size_t r = 0; r < layout_.rows.size(); ++r) paint_line(r);
        for (const std::string_view designator : room_.order) paint_part(*parts_.at(designator));
        for (const StaveJoint& joint : room_.joints) paint_joint(joint);
        for (const StaveFold& fold : room_.folds) paint_fold(fold);
        d_.margin = stave_left + room_.tag_width + 6;
        for (std::size_t r = 0; r < layout_.rows.size(); ++r) {
            const std::size_t begin = d_.items.size();
            const StaveLine& line = room_.lines[r];
            if (line.tagged) {
                paint_tag(r);
                d_.sticky.push_back({begin, d_.items.size(), stave_left, 1e9, stave_left});
            } else if (line.first <= line.last) {
                paint_small_tag(r);
                const double reach = std::max(0.0, line.last - line.tag_x - line.tag_width - 8);
                d_.sticky.push_back({begin, d_.items.size(), line.tag_x, reach, d_.margin + 4});
            }
        }
        return std::move(d_);
    }

  private:
    const PartState& state_of(std::string_view designator) const {
        static const PartState none;
        const auto found = states_.find(designator);
        return found == states_.end() ? none : *found->second;
    }
    double volts_of(std::string_view net) const {
        const auto found = volts_.find(net);
        return found == volts_.end() ? 0 : found->second;
    }
    /// Nothing where the circuit is not solved.
    std::string volts_text(std::string_view net) const {
        return volts_.contains(net) ? format_quantity(volts_of(net), Unit::volt) : std::string();
    }
    const StavePlace& place_of(const Part& part) const { return room_.places.at(part.designator); }

    unsigned net_colour(std::string_view net) const {
        return elkit::net_colour(room_.highest > 0 ? std::clamp(volts_of(net) / room_.highest, 0.0, 1.0) : 0);
    }

    // ---- nets ----

    void paint_line(std::size_t row) {
        const std::string& net = layout_.rows[row];
        const StaveLine& line = room_.lines[row];
        const double y = line.y, first = line.first, amps = line.amps;
        if (first > line.last) return;
        const double last = line.tagged ? line.last : std::max(line.last, line.tag_x + 4);
        const bool emphasised = view_.lit_net == net;
        if (line.tagged)
            d_.add(Line{stave_left + room_.tag_width, y, first, y},
                   {Ink::rgb, 1, Ink::none, 0.55, net_colour(net), true}, "net:" + net);
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
    double tag_y(double y) {
        lowest_tag_ = std::max(y, lowest_tag_ + tag_height + 2);
        return view_.true_height ? lowest_tag_ : y;
    }

    void paint_tag(std::size_t row) {
        const std::string& net = layout_.rows[row];
        const double line_y = room_.lines[row].y, y = tag_y(line_y);
        const std::string ref = "net:" + net;
        const double right = stave_left + room_.tag_width;
        if (std::abs(y - line_y) > 1) d_.add(Line{right, y, right + 24, line_y}, {Ink::faint, 1}, ref);
        if (view_.red_probe == net) paint_probe(right + 16, y, -5, Ink::attention, ref);
        if (view_.black_probe == net) paint_probe(right + 16, y, 5, Ink::ink, ref);
        d_.add(Rect{stave_left, y - tag_height / 2, room_.tag_width, tag_height, 12},
               {Ink::none, 0, Ink::rgb, 1, net_colour(net)}, ref);
        d_.add(Text{stave_left + 12, y + 4.2, tag_name(net), stave_words::tag, Anchor::start, true},
               {Ink::none, 0, Ink::rgb, 1, 0xffffff}, ref);
        d_.add(Text{right - 12, y + 4.2, volts_text(net), stave_words::tag, Anchor::end, false},
               {Ink::none, 0, Ink::rgb, 1, 0xffffff}, ref);
    }

    void paint_small_tag(std::size_t row) {
        const std::string& net = layout_.rows[row];
        const StaveLine& line = room_.lines[row];
        const std::string ref = "net:" + net;
        if (view_.red_probe == net) paint_probe(line.tag_x, line.y, -5, Ink::attention, ref);
        if (view_.black_probe == net) paint_probe(line.tag_x, line.y, 5, Ink::ink, ref);
        const double high = small_tag_height, right = line.tag_x + line.tag_width;
        d_.add(Rect{line.tag_x, line.y - high / 2, line.tag_width, high, high / 2},
               {Ink::none, 0, Ink::rgb, 1, net_colour(net)}, ref);
        const Style white{Ink::none, 0, Ink::rgb, 1, 0xffffff};
        d_.add(Text{line.tag_x + 8, line.y + 4, tag_name(net), stave_words::pin, Anchor::start, true}, white,
               ref);
        if (line.tag_volts)
            d_.add(Text{right - 8, line.y + 4, volts_text(net), stave_words::pin, Anchor::end, false}, white,
                   ref);
    }

    /// A small dot; its name and volts where there is room, or where it is looked at.
    void paint_joint(const StaveJoint& joint) {
        const std::string net(joint.net), ref = "net:" + net;
        const bool lit = view_.lit_net == net;
        const std::string words = net + "  " + volts_text(net);
        const double width = text_width(words, stave_words::pin);
        if (lit || (joint.above > 7 && joint.below > 7 && width < joint.room)) {
            if (lit)
                d_.add(Rect{joint.x + 7, joint.y - 9, width + 10, 18, 9},
                       {Ink::rgb, 1, Ink::card, 1, net_colour(net)}, ref);
            d_.text(joint.x + 12, joint.y + 4, words, stave_words::pin, lit ? Ink::ink : Ink::muted, false,
                    Anchor::start, ref);
        }
        d_.add(Circle{joint.x, joint.y, lit ? 5.5 : 3.2},
               {lit ? Ink::ink : Ink::none, 1.2, Ink::rgb, 1, net_colour(net)}, ref);
        if (view_.red_probe == net) paint_probe(joint.x + 4, joint.y, -5, Ink::attention, ref);
        if (view_.black_probe == net) paint_probe(joint.x + 4, joint.y, 5, Ink::ink, ref);
    }

    /// The tip of a meter's probe; the red one above, the black one below.
    void paint_probe(double x, double y, double side, Ink ink, const std::string& ref) {
        d_.add(Polygon{{{x, y}, {x + 16, y + 2.4 * side}, {x + 24, y + 1.2 * side}}}, {ink, 1, ink}, ref);
        d_.add(Line{x + 20, y + 1.8 * side, x + 34, y + 2.8 * side}, {ink, 4}, ref);
    }

    void paint_fold(const StaveFold& fold) {
        const std::string ref = "fold:" + std::string(fold.first),
                          words = fold.folded ? "×" + std::to_string(fold.members) : "fold";
        const double width = text_width(words, stave_words::value, true) + 14;
        d_.add(Rect{fold.x - width, fold.y - 11, width, 22, 11}, {Ink::structure, 1.4, Ink::card}, ref);
        d_.text(fold.x - width / 2, fold.y + 4.2, words, stave_words::value, Ink::structure, true,
                Anchor::middle, ref);
    }

    // ---- parts ----

    /// Dots on lines; a part's end at a joint can be taken hold of beside the joint's own dot.
    void dots(const Part& part) {
        const StavePlace& place = place_of(part);
        for (std::size_t k = 0; k < part.pins.size(); ++k) {
            const auto& leg = place.legs[k];
            const std::string ref = "pin:" + part.designator + "." + part.pins[k].name;
            if (layout_.row(part.pins[k].net) >= 0) {
                d_.add(Circle{leg.x, leg.y, std::max(3.0, 4 * k_)}, {Ink::none, 0, Ink::ink}, ref);
                continue;
            }
            if (leg.x < place.x) {  // a side leg tied to an end of its own
                d_.add(Circle{place.x - 8, leg.y, 5}, {Ink::none, 0, Ink::none}, ref);
                continue;
            }
            const double middle = place.middle, reach = std::min(9.0, std::abs(middle - leg.y) / 2);
            d_.add(Circle{leg.x, leg.y + (middle > leg.y ? reach : -reach), 5}, {Ink::none, 0, Ink::none},
                   ref);
        }
    }

    SymbolState look_of(const Part& part) const {
        const PartState& state = state_of(part.designator);
        SymbolState look;
        const StavePlace& place = place_of(part);
        look.scale = place.width > 0 ? k_ : place.scale;
        look.weight = weight(state.current);
        look.closed = conditions_.closed(part);
        look.lit = view_.lit_part == part.designator;
        if (const auto g = view_.glow.find(part.designator); g != view_.glow.end()) look.glow = g->second;
        if (const LedType* led = light_type(part)) look.light_rgb = led->colour();
        for (const Pin& pin : part.pins)
            look.lit = look.lit || (!view_.lit_net.empty() && pin.net == view_.lit_net);
        return look;
    }

    /// The live current; of several alike parts the least and the greatest.
    std::string amps_of(const Part& part, const StavePlace& place) const {
        const PartState& state = state_of(part.designator);
        if (state.pins.empty()) return {};
        if (is(part, Role::source)) return format_quantity(-state.current, Unit::ampere);
        if (place.stands_for < 2) return format_quantity(state.current, Unit::ampere);
        double least = state.current, most = state.current;
        for (const std::string_view other : place.others) {
            const double amps = state_of(other).current;
            least = std::min(least, amps), most = std::max(most, amps);
        }
        const std::string low = format_quantity(least, Unit::ampere),
                          high = format_quantity(most, Unit::ampere);
        return (low == high ? high : low + "–" + high) + " each";
    }

    /// Designator, value and live current, beside the part.
    void captions(const Part& part) {
        const StavePlace& place = place_of(part);
        const double x = place.words, y = place.words_y + 3.6;
        const std::string ref = "part:" + part.designator, value_ref = "value:" + part.designator;
        const std::string name = range_of(part.designator, place.others);
        std::string value = value_text(part);
        if (is(part, Role::contact)) value = part_kind(part.kind)->states[conditions_.closed(part)];
        const double line = stave_words::line_height;
        const int lines = room_.caption_lines;
        const double top = y - line * (lines - 1) / 2;
        const double after = text_width(name, stave_words::name, true) + 5;
        const double last = after + text_width(value, stave_words::value) + 7;
        d_.text(x, top, name, stave_words::name, Ink::ink, true, Anchor::start, ref);
        d_.text(lines < 3 ? x + after : x, lines < 3 ? top : y, value, stave_words::value, Ink::muted, false,
                Anchor::start, value_ref);
        d_.text(lines == 1 ? x + last : x, top + line * (lines - 1), amps_of(part, place), stave_words::value,
                Ink::attention, false, Anchor::start, ref);
    }

    void paint_body(const Part& part) {
        const StavePlace& place = place_of(part);
        const auto& flows = state_of(part.designator).pins;
        BodySymbol symbol{part, place.x, place.top, place.width, place.bottom - place.top, {}, look_of(part)};
        for (std::size_t k = 0; k < part.pins.size(); ++k) {
            const auto& leg = place.legs[k];
            const double edge = leg.up ? place.top : place.bottom, amps = k < flows.size() ? flows[k] : 0;
            if (!part.pins[k].net.empty())
                d_.add(Line{leg.x, edge, leg.x, leg.y}, {Ink::ink, weight(amps)}, "part:" + part.designator);
            symbol.legs.push_back({leg.x, leg.up});
        }
        add_body_symbol(d_, symbol);
        dots(part);
    }

    void paint_part(const Part& part) {
        if (stance_of(part) == Stance::body) return paint_body(part);
        const StavePlace& place = place_of(part);
        const std::string ref = "part:" + part.designator;
        d_.add(Rect{place.x - 20, place.top + 3, 108, std::max(0.0, place.bottom - place.top - 6), 6},
               {Ink::none, 0, Ink::none}, ref);  // room to click on
        if (stance_of(part) == Stance::three_legs) {
            const auto& side = place.legs[1];
            const auto& flows = state_of(part.designator).pins;
            const double width = weight(flows.size() > 1 ? flows[1] : 0);
            d_.add(Line{side.x, side.y, side.x, place.middle}, {Ink::ink, width}, ref);
            d_.add(Line{side.x, place.middle, place.x - 8 * place.scale, place.middle}, {Ink::ink, width},
                   ref);
            if (layout_.row(part.pins[1].net) < 0)
                d_.add(Line{side.x, side.y, place.x, side.y}, {Ink::ink, width}, ref);
        }
        add_symbol(d_, part, place.x, place.top, place.bottom, place.middle, place.flipped, look_of(part));
        dots(part);
        captions(part);
    }

    const StaveLayout& layout_;
    const Conditions& conditions_;
    const StaveView& view_;
    const StaveRoom room_;
    const double k_;
    std::unordered_map<std::string_view, const Part*> parts_;
    std::unordered_map<std::string_view, const PartState*> states_;
    std::unordered_map<std::string_view, double> volts_;
    double lowest_tag_ = -1e9;
    Drawing d_;
};

}  // namespace

std::string net_near(const Drawing& stave, double x, double y) {
    std::string nearest;
    double best = 14;
    for (const Item& item : stave.items) {
        const Circle* dot = std::get_if<Circle>(&item.shape);
        if (!dot || !item.ref.starts_with("net:") || std::hypot(dot->x - x, dot->y - y) >= best) continue;
        best = std::hypot(dot->x - x, dot->y - y);
        nearest = item.ref.substr(4);
    }
    if (!nearest.empty()) return nearest;
    double beside = 1e9;  // of lines at one height, the one at this place
    best = least_row_gap / 2;
    for (const Item& item : stave.items) {
        const Line* line = std::get_if<Line>(&item.shape);
        if (!line || !item.ref.starts_with("net:") || std::abs(line->y1 - y) >= least_row_gap / 2) continue;
        const double dx = std::max({0.0, line->x1 - x, x - line->x2}), dy = std::abs(line->y1 - y);
        if (dx > beside || (dx == beside && dy >= best)) continue;
        beside = dx, best = dy;
        nearest = item.ref.substr(4);
    }
    return nearest;
}

unsigned net_colour(double share) { return mix(0x3d6d88, 0x9c6614, share); }

Drawing draw_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                   const Conditions& conditions, const StaveView& view) {
    return StavePainter(circuit, layout, op, conditions, view).paint();
}

}  // namespace elkit
