#include "app/widgets/plot_labels.hpp"

#include <qcustomplot.h>

#include <QFontMetricsF>
#include <cmath>

namespace elkit {
namespace {

constexpr double label_gap = 4;  // pixels between words and what they stand at

QPointF pixel(const PlotLabels::Place& p) { return {p.x->coordToPixel(p.at_x), p.y->coordToPixel(p.at_y)}; }

/// Length of a stretch of a line within a rectangle [pixels], by samples.
double within(const QRectF& rect, const QPointF& a, const QPointF& b) {
    const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
    if (!(length > 0) || !QRectF(a, b).normalized().adjusted(-1, -1, 1, 1).intersects(rect)) return 0;
    const int steps = std::clamp(static_cast<int>(length / 2), 1, 2000);
    int inside = 0;
    for (int k = 0; k <= steps; ++k) inside += rect.contains(a + (b - a) * k / steps);
    return length * inside / (steps + 1);
}

}  // namespace

void PlotLabels::clear() { labels_.clear(), curves_.clear(), lines_.clear(), taken_.clear(); }

void PlotLabels::add(const QString& words, const QColor& colour, const QFont& font,
                     std::vector<Place> places) {
    auto* item = new QCPItemText(plot_);
    item->setText(words);
    item->setColor(colour);
    item->setFont(font);
    item->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
    item->setTextAlignment(Qt::AlignLeft);
    item->setClipToAxisRect(false);
    item->position->setType(QCPItemPosition::ptAbsolute);
    labels_.push_back({item, std::move(places)});
}

void PlotLabels::keep_clear(QCPAxis* x, QCPAxis* y, std::vector<QPointF> curve) {
    curves_.push_back({x, y, std::move(curve)});
}

QRectF PlotLabels::rect(const Label& label, const Place& place) const {
    const QFontMetricsF metrics(label.item->font());
    const QSizeF size(metrics.horizontalAdvance(label.item->text()) + 2, metrics.height());
    const QPointF at = pixel(place);
    const double left = place.side & Qt::AlignLeft    ? at.x() + label_gap
                        : place.side & Qt::AlignRight ? at.x() - label_gap - size.width()
                                                      : at.x() - size.width() / 2;
    const double top = place.side & Qt::AlignTop      ? at.y() + label_gap
                       : place.side & Qt::AlignBottom ? at.y() - label_gap - size.height()
                                                      : at.y() - size.height() / 2;
    return {QPointF(left, top), size};
}

double PlotLabels::trouble(const QRectF& rect) const {
    const QRectF all =
        QRectF(plot_->axisRect()->rect()).adjusted(0, -plot_->axisRect()->margins().top(), 0, 0);
    const QRectF seen = rect.intersected(all);
    double sum = rect.width() * rect.height() - seen.width() * seen.height();
    for (const QRectF& other : taken_) {
        const QRectF common = rect.intersected(other);
        sum += 4 * common.width() * common.height();
    }
    for (const auto& line : lines_)
        for (std::size_t k = 1; k < line.size(); ++k) sum += within(rect, line[k - 1], line[k]);
    return sum;
}

void PlotLabels::arrange() {
    taken_.clear(), lines_.clear();
    for (const Curve& curve : curves_) {
        auto& line = lines_.emplace_back();
        for (const QPointF& p : curve.points)
            line.emplace_back(curve.x->coordToPixel(p.x()), curve.y->coordToPixel(p.y()));
    }
    for (const Label& label : labels_) {
        QRectF best;
        double least = HUGE_VAL;
        for (const Place& place : label.places) {
            const QRectF here = rect(label, place);
            const double found = trouble(here);
            if (found < least) least = found, best = here;
            if (found == 0) break;
        }
        label.item->position->setCoords(best.topLeft());
        taken_.push_back(best);
    }
}

std::vector<PlotLabels::Place> along(QCPAxis* x, QCPAxis* y, const std::vector<QPointF>& curve) {
    std::vector<PlotLabels::Place> places;
    if (curve.empty()) return places;
    const double first = curve.front().x(), last = curve.back().x();
    for (const double share : {0.45, 0.3, 0.6, 0.15, 0.75, 0.9, 0.02}) {
        const double wanted = first + share * (last - first);
        std::size_t k = 0;
        while (k + 1 < curve.size() && curve[k].x() < wanted) ++k;
        for (const Qt::AlignmentFlag side : {Qt::AlignBottom, Qt::AlignTop})
            for (const Qt::AlignmentFlag way : {Qt::AlignLeft, Qt::AlignRight})
                places.push_back({x, y, curve[k].x(), curve[k].y(), side | way});
    }
    return places;
}

}  // namespace elkit
