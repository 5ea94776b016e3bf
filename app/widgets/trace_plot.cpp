#include "app/widgets/trace_plot.hpp"

#include <algorithm>
#include <cmath>

#include "app/theme/theme.hpp"
#include "app/widgets/quantity_ticker.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

const QString cursor_layer = QStringLiteral("cursors");
constexpr int thin_lane = 18, least_lane = 34, lane_with_labels = 60;

QFont small_font() {
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(11));
    return font;
}

void style_axis(QCPAxis* axis) {
    axis->setTickLabelFont(small_font());
    axis->setTickLabelColor(theme().muted);
    axis->setBasePen(QPen(theme().line)), axis->setTickPen(QPen(theme().muted));
    axis->setSubTickPen(QPen(theme().line));
    axis->grid()->setPen(QPen(theme().line, 1));
    axis->grid()->setZeroLinePen(QPen(theme().line, 1));
}

}  // namespace

bool jumps_between_levels(const std::vector<double>& time, const std::vector<double>& values) {
    if (values.size() < 3 || time.size() != values.size()) return false;
    const auto [low, high] = std::minmax_element(values.begin(), values.end());
    const double span = *high - *low;
    if (!(span > 0)) return false;
    double there = 0;
    for (std::size_t k = 1; k < values.size(); ++k)
        if (values[k] - *low < 0.08 * span || *high - values[k] < 0.08 * span) there += time[k] - time[k - 1];
    return there > 0.93 * (time.back() - time.front());
}

TracePlot::TracePlot(QWidget* parent) : Plot(parent) {
    setFocusPolicy(Qt::StrongFocus);
    addLayer(cursor_layer);
    layer(cursor_layer)->setMode(QCPLayer::lmBuffered);
    build();
}

void TracePlot::setCurves(std::vector<double> time, std::vector<TraceCurve> curves, bool laid_over) {
    const bool other = time.empty() || time_.empty() || time.back() != time_.back();
    const QCPRange before = other || rects_.empty() ? QCPRange() : seen();
    time_ = std::move(time), curves_ = std::move(curves), laid_over_ = laid_over;
    build();
    if (!other && before.size() > 0) see(before);
}

QCPAxisRect* TracePlot::addRect(bool last) {
    auto* rect = new QCPAxisRect(this);
    rect->setAutoMargins(last ? QCP::msAll : QCP::msLeft | QCP::msRight);
    if (!last) rect->setMargins(QMargins(0, 1, 0, 3));
    rect->setMinimumMargins(QMargins(0, 1, 4, 0));
    for (QCPAxis* axis : rect->axes()) {
        style_axis(axis);
        axis->setLayer(QStringLiteral("axes"));
        axis->grid()->setLayer(QStringLiteral("grid"));
    }
    QCPAxis* x = rect->axis(QCPAxis::atBottom);
    x->setTicker(QSharedPointer<QuantityTicker>::create(Unit::second));
    x->setTickLabels(last);
    rects_.push_back(rect);
    return rect;
}

void TracePlot::build() {
    head_.lines.clear(), head_.values.clear(), mark_.lines.clear(), mark_.values.clear();
    clearGraphs();
    clearItems();
    plotLayout()->clear();
    rects_.clear();
    setBackground(theme().card);
    plotLayout()->setRowSpacing(0);
    const bool lanes = !laid_over_ && !curves_.empty();
    auto* margins = new QCPMarginGroup(this);
    const std::size_t count = lanes ? curves_.size() : 1;
    for (std::size_t k = 0; k < count; ++k) {
        QCPAxisRect* rect = addRect(k + 1 == count);
        rect->setMarginGroup(QCP::msLeft | QCP::msRight, margins);
        plotLayout()->addElement(static_cast<int>(k), 0, rect);
        QCPAxis* left = rect->axis(QCPAxis::atLeft);
        if (!lanes) continue;
        const TraceCurve& curve = curves_[k];
        const bool thin = curve.look != TraceCurve::Look::curve;
        left->setTicker(QSharedPointer<QuantityTicker>::create(curve.unit));
        left->grid()->setVisible(!thin);
        rect->setMinimumSize(60, px(thin ? thin_lane : least_lane));
        plotLayout()->setRowStretchFactor(static_cast<int>(k), thin ? 0.45 : 1.0);
        addCurve(curve, rect, left);
        scaleLane(curve, left);
        addName(curve, rect, 0);
    }
    if (!lanes && !curves_.empty()) {
        QCPAxisRect* rect = rects_.front();
        QCPAxis *left = rect->axis(QCPAxis::atLeft), *right = rect->axis(QCPAxis::atRight);
        left->setTicker(QSharedPointer<QuantityTicker>::create(Unit::volt));
        right->setTicker(QSharedPointer<QuantityTicker>::create(Unit::ampere));
        right->grid()->setVisible(false);
        int place = 0;
        bool amps = false;
        for (const TraceCurve& curve : curves_) {
            const bool second = curve.unit != Unit::volt;
            amps = amps || second;
            addCurve(curve, rect, second ? right : left);
            addName(curve, rect, place++);
        }
        right->setVisible(amps), right->setTickLabels(amps);
        for (QCPAxis* axis : {left, right}) axis->rescale(), axis->scaleRange(1.12);
    }
    labelLanes();
    if (!time_.empty()) see({time_.front(), time_.back()});
    showCursor(mark_, Qt::DashLine);
    showCursor(head_, Qt::SolidLine);
    if (isVisible()) replot(rpQueuedReplot);
}

/// As many labels at the left as there is height for.
void TracePlot::labelLanes() {
    if (laid_over_ || curves_.empty()) return;
    const int lane = height() / static_cast<int>(rects_.size());
    for (std::size_t k = 0; k < rects_.size(); ++k) {
        const bool thin = curves_[k].look != TraceCurve::Look::curve;
        QCPAxis* left = rects_[k]->axis(QCPAxis::atLeft);
        left->ticker()->setTickCount(thin || lane < px(lane_with_labels) ? 1 : 3);
        left->setTickLabels(!thin && lane > px(least_lane / 2.0));
    }
}

void TracePlot::resizeEvent(QResizeEvent* event) {
    labelLanes();
    Plot::resizeEvent(event);
}

void TracePlot::showEvent(QShowEvent* event) {
    QCustomPlot::showEvent(event);
    replot(rpQueuedReplot);
}

void TracePlot::addCurve(const TraceCurve& curve, QCPAxisRect* rect, QCPAxis* axis) {
    QCPAxis* x = rect->axis(QCPAxis::atBottom);
    const auto list = [](const std::vector<double>& v) { return QVector<double>(v.begin(), v.end()); };
    if (!curve.band_time.empty()) {
        QCPGraph *low = addGraph(x, axis), *high = addGraph(x, axis);
        low->setData(list(curve.band_time), list(curve.low), true);
        high->setData(list(curve.band_time), list(curve.high), true);
        QColor wash = curve.ink;
        wash.setAlpha(50);
        low->setPen(Qt::NoPen), high->setPen(Qt::NoPen);
        high->setBrush(wash);
        high->setChannelFillGraph(low);
    }
    QCPGraph* graph = addGraph(x, axis);
    graph->setData(list(time_), list(curve.values), true);
    graph->setPen(QPen(curve.look == TraceCurve::Look::light ? theme().ink : curve.ink,
                       curve.look == TraceCurve::Look::light ? 0.8 : 1.7));
    if (curve.look == TraceCurve::Look::light) {
        QColor fill = curve.ink;
        fill.setAlpha(200);
        graph->setBrush(fill);
    }
}

void TracePlot::scaleLane(const TraceCurve& curve, QCPAxis* axis) {
    if (curve.look == TraceCurve::Look::light) return axis->setRange(0, 1.08);
    axis->rescale();
    if (!(axis->range().size() > 0)) {
        const double at = axis->range().center();
        axis->setRange(at - std::max(1e-6, std::abs(at) / 2), at + std::max(1e-6, std::abs(at) / 2));
    }
    axis->scaleRange(1.16);
}

/// At the curve's own lane; of curves laid over each other in a row along the top.
void TracePlot::addName(const TraceCurve& curve, QCPAxisRect* rect, int place) {
    auto* name = new QCPItemText(this);
    name->setLayer(cursor_layer);
    name->setText(curve.name);
    name->setColor(curve.look == TraceCurve::Look::light ? theme().ink : curve.ink);
    QFont font = small_font();
    font.setWeight(QFont::DemiBold);
    name->setFont(font);
    QColor ground = theme().card;
    ground.setAlpha(215);
    name->setBrush(ground);
    name->setPadding(QMargins(3, 0, 3, 0));
    name->setClipToAxisRect(false);
    name->position->setAxisRect(rect);
    name->position->setType(QCPItemPosition::ptAxisRectRatio);
    name->position->setCoords(0.006 + 0.12 * place, 0.02);
    name->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
}

QCPRange TracePlot::seen() const {
    return rects_.empty() ? QCPRange() : rects_.front()->axis(QCPAxis::atBottom)->range();
}

/// All lanes show the same time, never more than there is.
void TracePlot::see(QCPRange range) {
    if (time_.empty()) return;
    const double all = time_.back() - time_.front(), size = std::clamp(range.size(), all * 1e-6, all);
    const double from = std::clamp(range.lower, time_.front(), time_.back() - size);
    for (QCPAxisRect* rect : rects_) rect->axis(QCPAxis::atBottom)->setRange(from, from + size);
}

void TracePlot::zoom(double factor, double around) {
    const QCPRange now = seen();
    see({around - (around - now.lower) / factor, around + (now.upper - around) / factor});
    replot(rpQueuedReplot);
}

double TracePlot::valueAt(const TraceCurve& curve, double seconds) const {
    const auto after = std::lower_bound(time_.begin(), time_.end(), seconds);
    if (after == time_.begin()) return curve.values.front();
    if (after == time_.end()) return curve.values.back();
    const auto k = static_cast<std::size_t>(after - time_.begin());
    const double span = time_[k] - time_[k - 1], share = span > 0 ? (seconds - time_[k - 1]) / span : 1;
    return curve.values[k - 1] + share * (curve.values[k] - curve.values[k - 1]);
}

/// A line through every lane, with the value of each curve beside it.
void TracePlot::showCursor(Cursor& cursor, Qt::PenStyle style) {
    for (auto* item : cursor.lines) removeItem(item);
    for (auto* item : cursor.values) removeItem(item);
    cursor.lines.clear(), cursor.values.clear();
    if (!cursor.at || time_.empty()) return;
    for (QCPAxisRect* rect : rects_) {
        auto* line = new QCPItemStraightLine(this);
        line->setLayer(cursor_layer);
        line->setPen(QPen(theme().ink, 1.3, style));
        line->setClipAxisRect(rect);
        for (auto* point : {line->point1, line->point2})
            point->setAxes(rect->axis(QCPAxis::atBottom), rect->axis(QCPAxis::atLeft));
        line->point1->setCoords(*cursor.at, 0), line->point2->setCoords(*cursor.at, 1);
        cursor.lines.push_back(line);
    }
    for (std::size_t k = 0; k < curves_.size(); ++k) {
        QCPAxisRect* rect = laid_over_ ? rects_.front() : rects_[k];
        const TraceCurve& curve = curves_[k];
        const bool light = curve.look == TraceCurve::Look::light;
        auto* words = new QCPItemText(this);
        words->setLayer(cursor_layer);
        words->setFont(small_font());
        words->setColor(theme().ink);
        QColor ground = theme().card;
        ground.setAlpha(225);
        words->setBrush(ground);
        words->setPadding(QMargins(3, 0, 3, 0));
        words->setText((laid_over_ ? curve.name + QLatin1Char(' ') : QString()) +
                       QString::fromStdString(light
                                                  ? format_quantity(valueAt(curve, *cursor.at), Unit::percent)
                                                  : format_quantity(valueAt(curve, *cursor.at), curve.unit)));
        const bool right_half = *cursor.at > seen().center();
        words->setPositionAlignment((right_half ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignBottom);
        words->position->setTypeX(QCPItemPosition::ptPlotCoords);
        words->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
        words->position->setAxisRect(rect);
        words->position->setAxes(rect->axis(QCPAxis::atBottom), rect->axis(QCPAxis::atLeft));
        words->position->setCoords(*cursor.at, laid_over_ ? 1 - 0.12 * static_cast<double>(k) : 0.98);
        words->setClipToAxisRect(false);
        cursor.values.push_back(words);
    }
}

void TracePlot::setHead(std::optional<double> seconds) {
    head_.at = seconds;
    showCursor(head_, Qt::SolidLine);
    if (isVisible()) layer(cursor_layer)->replot();  // the curves stay as they are
}

void TracePlot::setMark(std::optional<double> seconds) {
    mark_.at = seconds;
    showCursor(mark_, Qt::DashLine);
    if (isVisible()) layer(cursor_layer)->replot();
}

void TracePlot::wheelEvent(QWheelEvent* event) {
    if (rects_.empty() || time_.empty()) return;
    const double at = rects_.front()->axis(QCPAxis::atBottom)->pixelToCoord(event->position().x());
    if (event->modifiers() & Qt::ShiftModifier || event->angleDelta().x() != 0) {
        const double way = event->angleDelta().x() != 0 ? event->angleDelta().x() : event->angleDelta().y();
        const double by = -way / 1200.0 * seen().size();
        see({seen().lower + by, seen().upper + by});
        replot(rpQueuedReplot);
    } else if (event->angleDelta().y() != 0) {
        zoom(event->angleDelta().y() > 0 ? 1.25 : 0.8, at);
    }
    event->accept();
}

void TracePlot::keyPressEvent(QKeyEvent* event) {
    const double by = 0.2 * seen().size();
    switch (event->key()) {
        case Qt::Key_Plus:
            return zoom(1.5, head_.at.value_or(seen().center()));
        case Qt::Key_Minus:
            return zoom(1 / 1.5, head_.at.value_or(seen().center()));
        case Qt::Key_0:
            return zoom(1e-9, seen().center());
        case Qt::Key_Left:
        case Qt::Key_Right:
            see(event->key() == Qt::Key_Left ? QCPRange(seen().lower - by, seen().upper - by)
                                             : QCPRange(seen().lower + by, seen().upper + by));
            return replot(rpQueuedReplot);
        default:
            QCustomPlot::keyPressEvent(event);
    }
}

void TracePlot::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (event->button() == Qt::LeftButton && !rects_.empty())
        emit headWanted(rects_.front()->axis(QCPAxis::atBottom)->pixelToCoord(event->position().x()));
}

void TracePlot::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton && !rects_.empty())
        emit headWanted(rects_.front()->axis(QCPAxis::atBottom)->pixelToCoord(event->position().x()));
}

}  // namespace elkit
