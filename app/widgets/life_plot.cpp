#include "app/widgets/life_plot.hpp"

#include <qcustomplot.h>

#include <QVBoxLayout>
#include <cmath>

#include "app/theme/theme.hpp"
#include "app/widgets/plot_style.hpp"
#include "quantity/brightness.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

QFont label_font() {
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(12));
    font.setWeight(QFont::DemiBold);
    return font;
}

void add_vertical(QCustomPlot* plot, double x, const QColor& colour) {
    auto* line = new QCPItemStraightLine(plot);
    line->point1->setCoords(x, 0);
    line->point2->setCoords(x, 1);
    line->setPen(QPen(colour, 1.4, Qt::DashLine));
}

std::vector<QPointF> light_curve(const Discharge& d) {
    std::vector<QPointF> points;
    for (const auto& s : d.samples) points.emplace_back(s.hours, 100 * perceived(s.light));
    return points;
}

QCPGraph* add_curve(QCPGraph* graph, const std::vector<QPointF>& points, const QPen& pen) {
    QVector<double> x, y;
    for (const QPointF& p : points) x << p.x(), y << p.y();
    graph->setData(x, y, true);
    graph->setPen(pen);
    return graph;
}

}  // namespace

LifePlot::LifePlot(QWidget* parent) : QWidget(parent), plot_(new Plot(this)), labels_(plot_) {
    setMinimumHeight(px(110));
    plot_->setAttribute(Qt::WA_OpaquePaintEvent, false);  // what is dimmed lets its card shine through
    setAccessibleName(tr("Light over the life of the cells"));
    connect(plot_, &QCustomPlot::afterLayout, this, [this] { labels_.arrange(); });
    style();
}

void LifePlot::resizeEvent(QResizeEvent*) {
    plot_->setGeometry(rect());
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void LifePlot::style() {
    plot_->setBackground(theme().card);
    plot_->axisRect()->setAutoMargins(QCP::msLeft | QCP::msBottom);
    plot_->axisRect()->setMargins(QMargins(0, 14, 20, 0));
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(11));
    for (QCPAxis* axis : {plot_->xAxis, plot_->yAxis, plot_->yAxis2}) {
        axis->setTickLabelFont(font);
        axis->setTickLabelColor(theme().muted);
        axis->setBasePen(Qt::NoPen);
        axis->setTickPen(Qt::NoPen);
        axis->setSubTickPen(Qt::NoPen);
        axis->grid()->setPen(QPen(theme().line, 1));
        axis->grid()->setZeroLinePen(QPen(theme().line, 1));
    }
    plot_->xAxis->grid()->setVisible(false);
    QSharedPointer<QCPAxisTickerFixed> percent(new QCPAxisTickerFixed);
    percent->setTickStep(25);
    plot_->yAxis->setTicker(percent);
    plot_->yAxis->setNumberFormat(QStringLiteral("f"));
    plot_->yAxis->setNumberPrecision(0);
    plot_->xAxis->setNumberFormat(QStringLiteral("gb"));
}

void LifePlot::clear() {
    plot_->clearGraphs();
    plot_->clearItems();
    labels_.clear();
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

/// A dashed line upright at `x`, with words beside it.
void LifePlot::add_upright(double x, const QString& words, const QColor& colour) {
    add_vertical(plot_, x, colour);
    const auto& top = plot_->yAxis->range().upper;
    labels_.keep_clear(plot_->xAxis, plot_->yAxis, {{x, 0}, {x, top}});
    std::vector<PlotLabels::Place> places;
    for (const double share : {0.12, 0.03, 0.3, 0.5, 0.7, 0.9})
        for (const Qt::AlignmentFlag way : {Qt::AlignLeft, Qt::AlignRight})
            places.push_back({plot_->xAxis, plot_->yAxis, x, share * top, Qt::AlignVCenter | way});
    labels_.add(words, colour, label_font(), std::move(places));
}

void LifePlot::begin() {
    style();
    plot_->clearGraphs();
    plot_->clearItems();
    labels_.clear();
}

/// The dotted line below which a light counts as spent, and the words of the axis.
void LifePlot::add_end(double end_brightness, double span) {
    auto* end = new QCPItemStraightLine(plot_);
    end->point1->setCoords(0, 100 * end_brightness);
    end->point2->setCoords(1, 100 * end_brightness);
    end->setPen(QPen(theme().muted, 1, Qt::DotLine));
    labels_.keep_clear(plot_->xAxis, plot_->yAxis, {{0, 100 * end_brightness}, {span, 100 * end_brightness}});
    std::vector<PlotLabels::Place> places;
    for (const double share : {0.0, 0.3, 0.6, 0.15, 0.45, 0.8})
        for (const Qt::AlignmentFlag side : {Qt::AlignTop, Qt::AlignBottom})
            places.push_back(
                {plot_->xAxis, plot_->yAxis, share * span, 100 * end_brightness, side | Qt::AlignLeft});
    labels_.add(tr("counts as spent"), theme().muted, label_font(), std::move(places));
    plot_->xAxis->setLabel(tr("hours from fresh cells"));
    plot_->xAxis->setLabelColor(theme().muted);
    plot_->xAxis->setLabelFont(plot_->xAxis->tickLabelFont());
}

void LifePlot::show_side_by_side(const std::vector<Named>& lives, double end_brightness) {
    begin();
    double span = 1e-3;
    for (const Named& life : lives)
        if (std::isfinite(life.run->hours)) span = std::max(span, life.run->hours);
    plot_->xAxis->setRange(0, 1.03 * span);
    plot_->yAxis->setRange(0, 106);
    const QList<Qt::PenStyle> pens{Qt::DashLine, Qt::DotLine, Qt::DashDotLine};
    qsizetype plain = 0;
    for (const Named& life : lives) {
        const auto points = light_curve(*life.run);
        const QColor colour = life.stands_out ? theme().amber : theme().teal;
        add_curve(plot_->addGraph(), points,
                  QPen(colour, life.stands_out ? 2.6 : 1.8,
                       life.stands_out ? Qt::SolidLine : pens[plain++ % pens.size()]));
        labels_.keep_clear(plot_->xAxis, plot_->yAxis, points);
        labels_.add(life.name, life.stands_out ? theme().amber_text : theme().teal,
                    plot_->xAxis->tickLabelFont(), along(plot_->xAxis, plot_->yAxis, points));
    }
    add_end(end_brightness, span);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void LifePlot::show_discharge(const PowerResult& power, double wanted, double end_brightness,
                              double charge_now, bool with_voltage) {
    begin();
    const Discharge& d = power.typical;
    if (!std::isfinite(d.hours)) {
        plot_->xAxis->setRange(0, 1);
        plot_->yAxis->setRange(0, 110);
        labels_.add(tr("This supply does not empty: the light stays as it is."), theme().muted, label_font(),
                    {{plot_->xAxis, plot_->yAxis, 0.02, 60, Qt::AlignLeft | Qt::AlignVCenter}});
        plot_->replot(QCustomPlot::rpQueuedReplot);
        return;
    }
    // the band: all corners, between the one that fades first and the one that lasts
    const Discharge* shortest = &d;
    const Discharge* longest = &d;
    for (const auto& c : power.corners) {
        if (c.hours < shortest->hours) shortest = &c;
        if (c.hours > longest->hours) longest = &c;
    }
    const double span = std::max(std::min(longest->hours, 2.2 * d.hours), 1.05 * wanted);
    QColor shade = theme().amber;
    shade.setAlpha(60);
    const std::vector<QPointF> light = light_curve(d);
    QCPGraph* upper = add_curve(plot_->addGraph(), light_curve(*longest), Qt::NoPen);
    QCPGraph* lower = add_curve(plot_->addGraph(), light_curve(*shortest), Qt::NoPen);
    // where it ends by something else than its light, it is spent from then on all the same
    const double floor = std::min(100 * end_brightness, 100 * perceived(shortest->samples.back().light));
    for (const double x : {shortest->hours, longest->hours}) lower->addData(x + 1e-6, floor);
    upper->setBrush(shade);
    upper->setChannelFillGraph(lower);
    add_curve(plot_->addGraph(), light, QPen(theme().amber, 2.6));
    plot_->xAxis->setRange(0, span);
    plot_->yAxis->setRange(0, 106);
    labels_.keep_clear(plot_->xAxis, plot_->yAxis, light);
    if (with_voltage) {
        std::vector<QPointF> volts;
        for (const auto& s : d.samples) volts.emplace_back(s.hours, s.volts);
        add_curve(plot_->addGraph(plot_->xAxis, plot_->yAxis2), volts, QPen(theme().teal, 1.8));
        plot_->yAxis2->setVisible(true);
        plot_->yAxis2->setRange(0, 1.06 * d.samples.front().volts);
        plot_->axisRect()->setAutoMargins(QCP::msLeft | QCP::msBottom | QCP::msRight);
        plot_->axisRect()->setMargins(QMargins(0, 14, 4, 0));
        labels_.keep_clear(plot_->xAxis, plot_->yAxis2, volts);
        labels_.add(tr("volts (right)"), theme().teal, plot_->xAxis->tickLabelFont(),
                    along(plot_->xAxis, plot_->yAxis2, volts));
    }
    if (wanted > 0)
        add_upright(wanted, tr("wanted %1").arg(QString::fromStdString(format_quantity(wanted, Unit::hour))),
                    theme().rust);
    if (const auto now = d.hours_at(charge_now)) add_upright(*now, tr("now"), theme().ink);
    labels_.add(with_voltage ? tr("light, %") : tr("perceived brightness, %"), theme().amber_text,
                label_font(), along(plot_->xAxis, plot_->yAxis, light));
    add_end(end_brightness, span);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace elkit
