#include "drawing/body_symbol.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "drawing/stave_room.hpp"

namespace elkit {
namespace {

constexpr double contact_stub = 12;  // from the edge to a contact's end

/// Draws inside a body; points are in drawing units, pins by their place in the part.
class BodyPen {
  public:
    BodyPen(Drawing& d, const BodySymbol& b) : d_(d), b_(b), ref_("part:" + b.part.designator) {}

    double middle() const { return b_.y + b_.height / 2; }
    double leg_x(std::size_t pin) const { return b_.legs[pin].x; }
    double edge(std::size_t pin) const { return b_.legs[pin].up ? b_.y : b_.y + b_.height; }
    double terminal(std::size_t pin) const {
        return edge(pin) + (b_.legs[pin].up ? contact_stub : -contact_stub);
    }
    /// The pin's place in the part; the number of pins if it has no such pin.
    std::size_t pin(std::string_view name) const {
        const auto& pins = b_.part.pins;
        const auto found =
            std::find_if(pins.begin(), pins.end(), [&](const Pin& p) { return p.name == name; });
        return static_cast<std::size_t>(found - pins.begin());
    }
    bool has(std::size_t pin) const { return pin < b_.legs.size() && !b_.part.pins[pin].net.empty(); }

    void line(double x1, double y1, double x2, double y2, double width = 1.5) {
        d_.add(Line{x1, y1, x2, y2}, {Ink::ink, width}, ref_);
    }
    void dashes(double x1, double y1, double x2, double y2) {
        d_.add(Line{x1, y1, x2, y2}, {Ink::muted, 1.1, Ink::none, 1, 0, true}, ref_);
    }
    /// The end of a contact on a pin's leg.
    void contact(std::size_t pin) {
        line(leg_x(pin), edge(pin), leg_x(pin), terminal(pin));
        d_.add(Circle{leg_x(pin), terminal(pin), 2.6}, {Ink::ink, 1.3, Ink::card}, ref_);
    }
    /// The lever from one contact to another; open, it ends short of it and beside.
    std::pair<double, double> lever(std::size_t from, std::size_t to, bool closed) {
        const double x = leg_x(from), y = terminal(from);
        double tip_x = leg_x(to), tip_y = terminal(to);
        if (!closed) tip_x = x + 0.8 * (tip_x - x) + 7, tip_y = y + 0.75 * (tip_y - y);
        line(x, y, tip_x, tip_y, 2);
        return {(x + tip_x) / 2, (y + tip_y) / 2};
    }
    void coil_of_relay(std::size_t a, std::size_t b) {
        const double x = (leg_x(a) + leg_x(b)) / 2;
        for (const std::size_t pin : {a, b}) {
            line(leg_x(pin), edge(pin), leg_x(pin), middle());
            line(leg_x(pin), middle(), x, middle());
        }
        d_.add(Rect{x - 12, middle() - 8, 24, 16, 0}, {Ink::ink, 1.5, Ink::card}, ref_);
        line(x - 12, middle() + 8, x + 12, middle() - 8, 1.1);
    }
    /// Half turns in a row between two legs, beside the core's line.
    void winding(std::size_t a, std::size_t b) {
        const double from = leg_x(a), span = leg_x(b) - from;
        const double reach = std::abs(span) < 20 ? 20 : std::abs(span), way = span < 0 ? -1 : 1;
        const double y = middle() + (b_.legs[a].up ? -5 : 5), side = b_.legs[a].up ? -1 : 1;
        line(from, edge(a), from, y);
        line(from + way * reach, y, leg_x(b), y);
        line(leg_x(b), edge(b), leg_x(b), y);
        const int turns = std::clamp(static_cast<int>(reach / 8), 2, 6);
        const double r = reach / turns / 2;
        Polygon arcs;
        arcs.closed = false;
        for (int turn = 0; turn < turns; ++turn)
            for (int n = 0; n <= 6; ++n) {
                const double angle = std::numbers::pi * n / 6;
                arcs.points.push_back({from + way * (2 * r * turn + r - r * std::cos(angle)),
                                       y + side * std::min(r, 7.0) * std::sin(angle)});
            }
        d_.add(arcs, {Ink::ink, 1.6}, ref_);
        d_.add(Circle{from + way * 3, y - side * 4, 1.8}, {Ink::none, 0, Ink::ink}, ref_);  // where it starts
    }
    /// A light from a leg of its own to the bus of the common leg.
    void light(std::size_t pin, double bus, bool towards_bus, unsigned rgb) {
        const double x = leg_x(pin), y = middle(), s = (bus > y) == towards_bus ? 1 : -1;
        line(x, edge(pin), x, bus);
        d_.add(Polygon{{{x - 8, y - 6 * s}, {x + 8, y - 6 * s}, {x, y + 6 * s}}},
               {Ink::ink, 1.3, Ink::rgb, 1, rgb}, ref_);
        line(x - 8, y + 6 * s, x + 8, y + 6 * s, 1.7);
    }
    void dot(double x, double y) { d_.add(Circle{x, y, 2.6}, {Ink::none, 0, Ink::ink}, ref_); }

    void outline(bool solid) {
        const bool lit = b_.look.lit;
        d_.add(Rect{b_.x, b_.y, b_.width, b_.height, 3},
               {lit     ? Ink::light
                : solid ? Ink::ink
                        : Ink::faint,
                lit ? 2.4 : 1.4, Ink::card, 1, 0, !solid && !lit},
               ref_);
    }
    /// Name, and value or state, beside the body.
    void words_beside(const std::string& value) {
        const double x = b_.x + b_.width + 7, y = middle() + 4.5, half = stave_words::line_height / 2;
        const std::string& name = b_.part.designator;
        d_.text(x, y - half, name, stave_words::name, Ink::ink, true, Anchor::start, ref_);
        d_.text(x, y + half, value, stave_words::value, Ink::muted, false, Anchor::start, "value:" + name);
    }
    void words_inside(double from) {
        const std::string& name = b_.part.designator;
        d_.text(from, middle() + 4.5, name, stave_words::name, Ink::ink, true, Anchor::start, ref_);
        d_.text(b_.x + b_.width - 7, middle() + 4.5, value_text(b_.part), stave_words::value, Ink::muted,
                false, Anchor::end, "value:" + name);
    }
    void pin_names() {
        for (std::size_t k = 0; k < b_.legs.size(); ++k)
            d_.text(leg_x(k), b_.legs[k].up ? b_.y + 12 : b_.y + b_.height - 4, b_.part.pins[k].name,
                    stave_words::pin, Ink::muted, false, Anchor::middle,
                    "pin:" + b_.part.designator + "." + b_.part.pins[k].name);
    }
    const BodySymbol& body() const { return b_; }
    Drawing& drawing() { return d_; }
    const std::string& ref() const { return ref_; }

  private:
    Drawing& d_;
    const BodySymbol& b_;
    std::string ref_;
};

/// Levers that move together are linked.
void contacts(BodyPen& pen) {
    const BodySymbol& b = pen.body();
    const PartKind& kind = *part_kind(b.part.kind);
    for (std::size_t k = 0; k < b.legs.size(); ++k) pen.contact(k);
    const auto& joined = b.look.closed ? kind.joined_closed : kind.joined_open;
    std::vector<std::pair<double, double>> levers;
    levers.reserve(joined.size());
    for (const auto& [from, to] : joined) levers.push_back(pen.lever(pen.pin(from), pen.pin(to), true));
    if (joined.empty())
        for (const auto& [from, to] : kind.joined_closed)
            levers.push_back(pen.lever(pen.pin(from), pen.pin(to), false));
    for (std::size_t k = 1; k < levers.size(); ++k)
        pen.dashes(levers[k - 1].first, levers[k - 1].second, levers[k].first, levers[k].second);
    pen.words_beside(kind.states[b.look.closed]);
}

/// As at rest, as circuit drawings show it.
void relay(BodyPen& pen) {
    const std::size_t coil = pen.pin("coil+"), common = pen.pin("common"), no = pen.pin("no"),
                      nc = pen.pin("nc");
    pen.coil_of_relay(coil, pen.pin("coil-"));
    for (const std::size_t k : {common, no, nc})
        if (pen.has(k)) pen.contact(k);
    if (pen.has(common) && (pen.has(nc) || pen.has(no))) {
        const auto [x, y] = pen.lever(common, pen.has(nc) ? nc : no, pen.has(nc));
        pen.dashes((pen.leg_x(coil) + pen.leg_x(pen.pin("coil-"))) / 2, pen.middle(), x, y);
    }
    pen.words_beside(value_text(pen.body().part));
}

void windings(BodyPen& pen) {
    const BodySymbol& b = pen.body();
    for (std::size_t k = 0; k + 1 < b.legs.size(); k += 2)
        if (pen.has(k) && pen.has(k + 1)) pen.winding(k, k + 1);
    pen.line(b.x + 6, pen.middle(), b.x + b.width - 6, pen.middle(), 2.2);
    pen.words_beside(value_text(pen.body().part));
}

void lights(BodyPen& pen) {
    const BodySymbol& b = pen.body();
    const std::size_t common = b.legs.size() - 1;
    const bool to_common = b.part.text("common") != "anode";
    const double at = pen.leg_x(common);
    for (const bool up : {true, false}) {  // those that come from above end on a line below them
        const double bus = pen.middle() + (up ? 16 : -16);
        double left = at, right = at;
        for (const auto& [name, type] : part_kind(b.part.kind)->dies) {
            const std::size_t pin = pen.pin(name);
            if (!pen.has(pin) || b.legs[pin].up != up) continue;
            const LedType* led = known_catalogue().led(b.part.text(type));
            pen.light(pin, bus, to_common, led ? led->colour() : LedType{}.colour());
            left = std::min(left, pen.leg_x(pin)), right = std::max(right, pen.leg_x(pin));
            pen.dot(pen.leg_x(pin), bus);
        }
        if (left == right) continue;
        pen.line(left, bus, right, bus);
        pen.line(at, pen.edge(common), at, bus);
    }
    pen.words_beside(value_text(pen.body().part));
}

/// What a block does, as a small sign left of its name; returns the width it takes.
double sign_of(BodyPen& pen) {
    const BodySymbol& b = pen.body();
    const PartKind* kind = part_kind(b.part.kind);
    const double x = b.x + 8, y = pen.middle();
    if (kind->module) {
        const auto& outputs = kind->module->outputs;
        const bool steps = std::any_of(outputs.begin(), outputs.end(), [](const auto& o) {
            return o.gives == ModuleSpec::Gives::steps_up || o.gives == ModuleSpec::Gives::steps_down;
        });
        const bool passes = std::any_of(outputs.begin(), outputs.end(),
                                        [](const auto& o) { return o.gives == ModuleSpec::Gives::passes; });
        if (steps) {  // direct current on both sides of a slant
            pen.line(x, y + 7, x + 18, y - 7, 1.1);
            pen.line(x + 1, y - 5, x + 8, y - 5, 1.3);
            pen.line(x + 10, y + 5, x + 17, y + 5, 1.3);
            return 22;
        }
        if (passes) {
            pen.line(x, y + 4, x + 4, y + 4), pen.line(x + 4, y + 4, x + 13, y - 4, 1.8);
            pen.line(x + 14, y + 4, x + 18, y + 4);
            return 22;
        }
    }
    if (is(b.part, Role::light)) {
        pen.line(x, y, x + 18, y, 1.2);
        pen.drawing().add(Polygon{{{x + 4, y - 6}, {x + 4, y + 6}, {x + 13, y}}}, {Ink::ink, 1.2, Ink::light},
                          pen.ref());
        pen.line(x + 13, y - 6, x + 13, y + 6, 1.6);
        return 22;
    }
    return 0;
}

void block(BodyPen& pen) {
    pen.pin_names();
    pen.words_inside(pen.body().x + 7 + sign_of(pen));
}

using BodyPainter = void (*)(BodyPen&);
const std::map<std::string_view, BodyPainter>& body_painters() {
    static const std::map<std::string_view, BodyPainter> all{
        {"contacts", contacts}, {"relay", relay}, {"windings", windings}, {"lights", lights}};
    return all;
}

}  // namespace

bool has_body_symbol(std::string_view name) { return body_painters().contains(name); }

bool is_block(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return !kind || !has_body_symbol(kind->symbol);
}

void add_body_symbol(Drawing& drawing, const BodySymbol& body) {
    BodyPen pen(drawing, body);
    const bool plain = is_block(body.part);
    pen.outline(plain);
    (plain ? block : body_painters().at(part_kind(body.part.kind)->symbol))(pen);
}

}  // namespace elkit
