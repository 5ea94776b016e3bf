#include "board/leg_picture.hpp"

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

// in units of the picture, a letter is four high
constexpr double pitch = 17, margin = 10, letter = 4, line = 5.2;
constexpr unsigned red_ink = 0xb3402a, black_ink = 0x1d1d1f, grey_ink = 0xd8d4c8;

class LegPainter {
  public:
    using Places = std::function<std::string(const std::string&)>;
    LegPainter(const Part& part, const Footprint& shape, const Places& place)
        : part_(part), legs_(part_kind(part.kind)->legs), shape_(shape), place_(place) {}

    Drawing draw() {
        if (legs_.view == "above")
            above();
        else if (legs_.view == "lying")
            lying();
        else if (legs_.view == "side" || legs_.view == "leads")
            standing();
        d_.title = "The legs of " + part_.designator;
        return std::move(d_);
    }

  private:
    std::string mark(const std::string& pin) const {
        const Legs::Mark* m = legs_.of(pin);
        return m ? m->mark : "";
    }

    /// Name, place and mark of a leg, one below the other.
    void words(double x, double y, const std::string& pin) {
        if (pin.empty()) return;
        const std::string ref = "pin:" + part_.designator + "." + pin;
        d_.text(x, y, pin, letter, Ink::muted, false, Anchor::middle, ref);
        d_.text(x, y + line, place_(pin), letter + 0.6, Ink::ink, true, Anchor::middle, ref);
        if (const Legs::Mark* m = legs_.of(pin))
            d_.text(x, y + 2 * line, m->words, letter - 0.4, Ink::structure, true, Anchor::middle, ref);
    }

    /// Seen from the side, legs down.
    void standing() {
        std::vector<Pad> pads = shape_.pads;
        std::sort(pads.begin(), pads.end(), [](const Pad& a, const Pad& b) { return a.x < b.x; });
        const bool wires = legs_.view == "leads";
        const double width = static_cast<double>(pads.size() - 1) * pitch;
        d_.width = width + 2 * margin + 8, d_.height = 66;
        const double left = d_.width / 2 - width / 2, foot = wires ? 14 : 26;
        for (std::size_t k = 0; k < pads.size(); ++k) {
            const double x = left + static_cast<double>(k) * pitch;
            const std::string m = mark(pads[k].pin);
            const Style metal = wires ? Style{Ink::rgb, 1.6, Ink::none, 1, m == "red" ? red_ink : black_ink}
                                      : Style{Ink::ink, 0.9};
            d_.add(Line{x, foot, x, m == "long" ? 46.0 : 40.0}, metal);
            words(x, 51.5, pads[k].pin);
        }
        body(left, left + width, foot, pads);
    }

    void body(double from, double to, double foot, const std::vector<Pad>& pads) {
        const double x0 = from - 6, x1 = to + 6;
        const Style outline{Ink::ink, 0.7, Ink::paper};
        if (shape_.picture == "dome") {
            const LedType* type =
                is(part_, Role::light) ? known_catalogue().led(part_.text("type")) : nullptr;
            const unsigned rgb = type ? type->colour() : grey_ink;
            d_.add(Rect{x0, 3, x1 - x0, foot - 3, 10}, {Ink::ink, 0.7, Ink::rgb, 0.5, rgb});
            const bool first = mark(pads.front().pin) == "flat", last = mark(pads.back().pin) == "flat";
            const double r0 = first ? x0 : x0 - 2, r1 = last ? x1 : x1 + 2;  // the rim is cut at its flat
            d_.add(Rect{r0, foot - 4, r1 - r0, 4, 0.6}, {Ink::ink, 0.7, Ink::rgb, 0.5, rgb});
        } else if (shape_.picture == "can") {
            d_.add(Rect{x0, 2, x1 - x0, foot - 2, 1.5}, outline);
            for (std::size_t k = 0; k < pads.size(); ++k)
                if (mark(pads[k].pin) == "stripe")
                    d_.add(Rect{k == 0 ? x0 : x1 - 6, 2, 6, foot - 2, 1.5}, {Ink::ink, 0.7, Ink::faint});
        } else if (shape_.picture == "half-round") {
            d_.add(Rect{x0, 5, x1 - x0, foot - 5, 1.5}, outline);
            d_.text((x0 + x1) / 2, foot - 8, "flat face", letter, Ink::muted, false, Anchor::middle);
        } else {
            d_.add(Rect{x0, 3, x1 - x0, foot - 3, 1.5}, outline);
        }
        const double y = shape_.picture == "half-round" ? 13 : foot / 2 + 3;
        d_.text((x0 + x1) / 2, y, part_.designator, letter + 1, Ink::ink, true, Anchor::middle);
    }

    /// Lying flat, a leg at either end.
    void lying() {
        d_.width = 78, d_.height = 36;
        d_.add(Line{8, 12, 70, 12}, {Ink::ink, 0.9});
        d_.add(Rect{23, 5, 32, 14, 3}, {Ink::ink, 0.7, Ink::paper});
        d_.text(37, 14, part_.designator, letter + 1, Ink::ink, true, Anchor::middle);
        for (std::size_t k = 0; k < 2 && k < shape_.pads.size(); ++k) {
            const std::string& pin = shape_.pads[k].pin;
            if (mark(pin) == "stripe")
                d_.add(Rect{k == 0 ? 25.0 : 49.0, 5, 3, 14, 0}, {Ink::none, 0, Ink::ink});
            words(k == 0 ? 12 : 66, 21, pin);
        }
    }

    /// From above, as it sits on the board.
    void above() {
        const double size = std::max(shape_.body.x1 - shape_.body.x0, 1.0);
        const double scale = std::clamp(54 / size, 3.0, 4.8);
        const double label = 2 * line + 2, cy = (shape_.body.y0 + shape_.body.y1) / 2;
        const auto x = [&](double mm) { return margin + (mm - shape_.body.x0) * scale; };
        const auto y = [&](double mm) { return label + (mm - shape_.body.y0) * scale; };
        d_.width = x(shape_.body.x1) + margin, d_.height = y(shape_.body.y1) + label + 2;
        d_.add(Rect{x(shape_.body.x0), y(shape_.body.y0), size * scale,
                    (shape_.body.y1 - shape_.body.y0) * scale, 2},
               {Ink::ink, 0.7, Ink::paper});
        if (shape_.picture == "dip")
            d_.add(Circle{x(shape_.body.x0), y(cy), 2.6}, {Ink::ink, 0.7, Ink::card});
        const double cx = (shape_.body.x0 + shape_.body.x1) / 2;
        const bool taken = std::any_of(shape_.pads.begin(), shape_.pads.end(), [&](const Pad& pad) {
            return std::abs(pad.x - cx) * scale < 8 && std::abs(pad.y - cy) * scale < 6;
        });
        d_.text(x(cx), taken ? y(shape_.body.y0) + 7 : y(cy) + 2, part_.designator, letter + 1, Ink::ink,
                true, Anchor::middle);
        for (const Pad& pad : shape_.pads) {
            if (mark(pad.pin) == "pair")
                for (const Pad& other : shape_.pads)
                    if (other.pin.empty() && std::abs(other.y - pad.y) < 0.1)
                        d_.add(Line{x(pad.x), y(pad.y), x(other.x), y(other.y)}, {Ink::structure, 1.2});
            d_.add(Circle{x(pad.x), y(pad.y), 1.4}, {Ink::ink, 0.5, pad.pin.empty() ? Ink::card : Ink::ink});
            if (mark(pad.pin) == "first")
                d_.text(x(pad.x) + 3.4, y(pad.y) + (pad.y > cy ? -2 : 5), "1", letter, Ink::structure, true,
                        Anchor::middle);
            if (pad.pin.empty()) continue;
            const bool over = pad.y < cy - 0.1;
            const std::string ref = "pin:" + part_.designator + "." + pad.pin;
            const double at = over ? label - line - 2 : y(shape_.body.y1) + line;
            d_.text(x(pad.x), at, pad.pin, letter - 0.2, Ink::muted, false, Anchor::middle, ref);
            d_.text(x(pad.x), at + line, place_(pad.pin), letter, Ink::ink, true, Anchor::middle, ref);
        }
    }

    const Part& part_;
    const Legs& legs_;
    const Footprint& shape_;
    const Places& place_;
    Drawing d_;
};

}  // namespace

Drawing leg_picture(const Part& part, const Footprint& footprint,
                    const std::function<std::string(const std::string&)>& place) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind || kind->legs.view.empty()) return {};
    return LegPainter(part, footprint, place).draw();
}

}  // namespace elkit
