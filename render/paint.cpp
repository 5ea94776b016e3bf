#include "render/paint.hpp"

#include <QPainterPath>
#include <algorithm>

#include "formats/svg.hpp"

namespace elkit {
namespace {

class ItemPainter {
  public:
    ItemPainter(QPainter& p, const Style& s, const InkPalette& palette) : p_(p), s_(s), palette_(palette) {
        p_.setOpacity(s.opacity);
        if (s.stroke == Ink::none || s.width <= 0) {
            p_.setPen(Qt::NoPen);
        } else {
            QPen pen(palette.colour(s.stroke, s.rgb), s.width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
            if (s.dashed) pen.setDashPattern({1, 3});
            p_.setPen(pen);
        }
        p_.setBrush(s.fill == Ink::none ? QBrush(Qt::NoBrush) : QBrush(palette.colour(s.fill, s.rgb)));
    }
    void operator()(const Line& l) const { p_.drawLine(QPointF(l.x1, l.y1), QPointF(l.x2, l.y2)); }
    void operator()(const Polygon& shape) const {
        QPolygonF q;
        for (const auto& [x, y] : shape.points) q << QPointF(x, y);
        if (shape.closed)
            p_.drawPolygon(q);
        else
            p_.drawPolyline(q);
    }
    void operator()(const Rect& r) const {
        const double radius = std::min({r.radius, r.w / 2, r.h / 2});
        p_.drawRoundedRect(QRectF(r.x, r.y, r.w, r.h), radius, radius);
    }
    void operator()(const Circle& c) const { p_.drawEllipse(QPointF(c.x, c.y), c.r, c.r); }
    void operator()(const Text& t) const {
        // set at a size where hinting does not bite, then scaled: the same picture at any zoom and in print
        constexpr double set_at = 48;
        const QFont font = drawing_font(set_at, t.bold);
        const QString text = QString::fromStdString(t.text);
        const double width = QFontMetricsF(font).horizontalAdvance(text);
        const double shift =
            t.anchor == Anchor::start ? 0 : (t.anchor == Anchor::middle ? -width / 2 : -width);
        p_.save();
        p_.translate(t.x, t.y);
        p_.scale(t.size / set_at, t.size / set_at);
        p_.setFont(font);
        p_.setPen(palette_.colour(s_.fill, s_.rgb));
        p_.drawText(QPointF(shift, 0), text);
        p_.restore();
    }

  private:
    QPainter& p_;
    const Style& s_;
    const InkPalette& palette_;
};

}  // namespace

QColor InkPalette::colour(Ink role, unsigned rgb) const {
    switch (role) {
        case Ink::none:
            return Qt::transparent;
        case Ink::ink:
            return ink;
        case Ink::muted:
            return muted;
        case Ink::faint:
            return faint;
        case Ink::light:
            return light;
        case Ink::structure:
            return structure;
        case Ink::attention:
            return attention;
        case Ink::paper:
            return paper;
        case Ink::card:
            return card;
        case Ink::rgb:
            return QColor(QRgb(0xff000000U | rgb));
    }
    return ink;
}

InkPalette paper_palette() {
    const auto c = [](Ink ink) { return QColor(QRgb(0xff000000U | paper_colour(ink, 0))); };
    return {c(Ink::ink),       c(Ink::muted),     c(Ink::faint), c(Ink::light),
            c(Ink::structure), c(Ink::attention), c(Ink::paper), c(Ink::card)};
}

QFont drawing_font(double size, bool bold) {
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(std::max(1, qRound(size)));
    font.setWeight(bold ? QFont::DemiBold : QFont::Normal);
    font.setHintingPreference(QFont::PreferNoHinting);
    // contextual alternates (= and × beside digits) would leave a PDF without searchable text
    font.setStyleStrategy(QFont::PreferNoShaping);
    return font;
}

void paint(QPainter& painter, const Drawing& drawing, const InkPalette& palette) {
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
    for (const Item& item : drawing.items) std::visit(ItemPainter(painter, item.style, palette), item.shape);
    painter.restore();
}

}  // namespace elkit
