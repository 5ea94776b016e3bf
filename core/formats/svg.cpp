#include "formats/svg.hpp"

#include <fmt/format.h>

#include "formats/escape.hpp"

namespace elkit {
namespace {

std::string paint(const Style& s) {
    std::string out =
        s.fill == Ink::none ? "fill=\"none\"" : fmt::format("fill=\"#{:06x}\"", paper_colour(s.fill, s.rgb));
    if (s.stroke != Ink::none)
        out += fmt::format(" stroke=\"#{:06x}\" stroke-width=\"{:.3g}\"", paper_colour(s.stroke, s.rgb),
                           s.width);
    if (s.dashed) out += fmt::format(" stroke-dasharray=\"{:.3g} {:.3g}\"", s.width, 3 * s.width);
    if (s.opacity < 1) out += fmt::format(" opacity=\"{:.3g}\"", s.opacity);
    return out;
}

struct ShapeWriter {
    const Style& style;
    std::string operator()(const Line& l) const {
        return fmt::format(
            "<line x1=\"{:.3f}\" y1=\"{:.3f}\" x2=\"{:.3f}\" y2=\"{:.3f}\" {} stroke-linecap=\"round\"/>",
            l.x1, l.y1, l.x2, l.y2, paint(style));
    }
    std::string operator()(const Polygon& p) const {
        std::string points;
        for (const auto& [x, y] : p.points) points += fmt::format("{:.3f},{:.3f} ", x, y);
        return fmt::format("<{} points=\"{}\" {}/>", p.closed ? "polygon" : "polyline", points, paint(style));
    }
    std::string operator()(const Rect& r) const {
        return fmt::format(
            "<rect x=\"{:.3f}\" y=\"{:.3f}\" width=\"{:.3f}\" height=\"{:.3f}\" rx=\"{:.3f}\" {}/>", r.x, r.y,
            r.w, r.h, r.radius, paint(style));
    }
    std::string operator()(const Circle& c) const {
        return fmt::format("<circle cx=\"{:.3f}\" cy=\"{:.3f}\" r=\"{:.3f}\" {}/>", c.x, c.y, c.r,
                           paint(style));
    }
    std::string operator()(const Text& t) const {
        const char* anchor =
            t.anchor == Anchor::start ? "start" : (t.anchor == Anchor::middle ? "middle" : "end");
        return fmt::format(
            "<text x=\"{:.3f}\" y=\"{:.3f}\" font-size=\"{:.3f}\" font-family=\"Inter, sans-serif\" "
            "font-weight=\"{}\" text-anchor=\"{}\"{} {}>{}</text>",
            t.x, t.y, t.size, t.bold ? 600 : 400, anchor,
            t.upward ? fmt::format(" transform=\"rotate(-90 {:.3f} {:.3f})\"", t.x, t.y) : std::string(),
            paint(style), xml_text(t.text));
    }
};

}  // namespace

unsigned paper_colour(Ink ink, unsigned rgb) {
    switch (ink) {
        case Ink::rgb:
            return rgb;
        case Ink::muted:
            return 0x5b6670;
        case Ink::faint:
            return 0xb9b6ab;
        case Ink::light:
            return 0xd9901a;
        case Ink::structure:
            return 0x1f6f6b;
        case Ink::attention:
            return 0xa8441f;
        case Ink::paper:
        case Ink::card:
            return 0xffffff;
        default:
            return 0x1f2a33;
    }
}

std::string write_svg(const Drawing& d) {
    std::string out = fmt::format(
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" "
        "width=\"{:.3f}mm\" height=\"{:.3f}mm\" viewBox=\"0 0 {:.3f} {:.3f}\">\n<title>{}</title>\n",
        d.width * d.unit_mm, d.height * d.unit_mm, d.width, d.height, xml_text(d.title));
    for (const Item& item : d.items) {
        const std::string shape = std::visit(ShapeWriter{item.style}, item.shape);
        out += item.ref.empty() ? shape + "\n"
                                : fmt::format("<g data-ref=\"{}\">{}</g>\n", xml_text(item.ref), shape);
    }
    return out + "</svg>\n";
}

}  // namespace elkit
