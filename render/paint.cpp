#include "render/paint.hpp"

#include <QFontMetricsF>
#include <QHash>
#include <algorithm>
#include <optional>

#include "formats/svg.hpp"

namespace elkit {
namespace {

// text is set at a size where hinting does not bite, then scaled: the same picture at any zoom and in print
constexpr double set_at = 48;

/// Width of a text at `set_at`; those of this thread's last few thousand are remembered, as shaping is dear.
double set_width(const QString& text, const QFont& font, bool bold) {
    thread_local QHash<QString, double> widths[2];
    QHash<QString, double>& known = widths[bold];
    if (const auto found = known.constFind(text); found != known.constEnd()) return *found;
    if (known.size() > 4000) known.clear();
    return known[text] = QFontMetricsF(font).horizontalAdvance(text);
}

class DrawingPainter {
  public:
    DrawingPainter(QPainter& p, const InkPalette& palette) : p_(p), palette_(palette) {
        if (bool open = false; const auto* device = p.device())
            if (const QTransform back = p.combinedTransform().inverted(&open); open)
                seen_ = back.mapRect(QRectF(0, 0, device->width(), device->height()));
    }
    void paint(const Item& item) {
        if (out_of_sight(item)) return;
        if (!style_ || !(*style_ == item.style)) dress(item.style);
        std::visit(*this, item.shape);
    }
    void operator()(const Line& l) { p_.drawLine(QPointF(l.x1, l.y1), QPointF(l.x2, l.y2)); }
    void operator()(const Polygon& shape) {
        QPolygonF q;
        for (const auto& [x, y] : shape.points) q << QPointF(x, y);
        if (shape.closed)
            p_.drawPolygon(q);
        else
            p_.drawPolyline(q);
    }
    void operator()(const Rect& r) {
        const double radius = std::min({r.radius, r.w / 2, r.h / 2});
        p_.drawRoundedRect(QRectF(r.x, r.y, r.w, r.h), radius, radius);
    }
    void operator()(const Circle& c) { p_.drawEllipse(QPointF(c.x, c.y), c.r, c.r); }
    void operator()(const Text& t) {
        const QFont& font = t.bold ? bold_ : regular_;
        const QString text = QString::fromStdString(t.text);
        double shift = 0;
        if (t.anchor != Anchor::start)
            shift = -set_width(text, font, t.bold) / (t.anchor == Anchor::middle ? 2 : 1);
        const QTransform before = p_.transform();
        p_.translate(t.x, t.y);
        if (t.upward) p_.rotate(-90);
        p_.scale(t.size / set_at, t.size / set_at);
        p_.setFont(font);
        p_.setPen(palette_.colour(style_->fill, style_->rgb));
        p_.drawText(QPointF(shift, 0), text);
        p_.setTransform(before);
        style_.reset();  // the pen is another now
    }

  private:
    bool out_of_sight(const Item& item) const {
        const Box box = bounds(item.shape);
        // half a letter more on every side: widths of text are estimates
        const double slack = item.style.width + 0.1 * (box.x1 - box.x0) + 0.5 * (box.y1 - box.y0);
        return box.x1 + slack < seen_.left() || box.x0 - slack > seen_.right() ||
               box.y1 + slack < seen_.top() || box.y0 - slack > seen_.bottom();
    }
    void dress(const Style& s) {
        style_ = s;
        p_.setOpacity(s.opacity);
        if (s.stroke == Ink::none || s.width <= 0) {
            p_.setPen(Qt::NoPen);
        } else {
            QPen pen(palette_.colour(s.stroke, s.rgb), s.width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
            if (s.dashed) pen.setDashPattern({1, 3});
            p_.setPen(pen);
        }
        p_.setBrush(s.fill == Ink::none ? QBrush(Qt::NoBrush) : QBrush(palette_.colour(s.fill, s.rgb)));
    }

    QPainter& p_;
    const InkPalette& palette_;
    QRectF seen_{-1e9, -1e9, 2e9, 2e9};
    std::optional<Style> style_;
    const QFont regular_ = drawing_font(set_at, false), bold_ = drawing_font(set_at, true);
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
    paint(painter, drawing, palette, 0, drawing.items.size());
}

void paint(QPainter& painter, const Drawing& drawing, const InkPalette& palette, std::size_t begin,
           std::size_t end, bool words) {
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
    DrawingPainter drawn(painter, palette);
    for (std::size_t k = begin; k < end; ++k)
        if (const Item& item = drawing.items[k]; words || !std::holds_alternative<Text>(item.shape))
            drawn.paint(item);
    painter.restore();
}

}  // namespace elkit
