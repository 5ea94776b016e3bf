#include "app/widgets/life_plot.hpp"

#include <qcustomplot.h>

#include <QVBoxLayout>
#include <cmath>

#include "app/theme/theme.hpp"
#include "light/brightness.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

void add_label(QCustomPlot* plot, double x, double y, const QString& words, const QColor& colour,
               Qt::Alignment side) {
    auto* text = new QCPItemText(plot);
    text->setText(words);
    text->setColor(colour);
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(12));
    font.setWeight(QFont::DemiBold);
    text->setFont(font);
    text->setPositionAlignment(side);
    text->setPadding(QMargins(5, 2, 5, 2));
    text->position->setCoords(x, y);
    text->setClipToAxisRect(false);
}

void add_vertical(QCustomPlot* plot, double x, const QColor& colour) {
    auto* line = new QCPItemStraightLine(plot);
    line->point1->setCoords(x, 0);
    line->point2->setCoords(x, 1);
    line->setPen(QPen(colour, 1.4, Qt::DashLine));
}

QCPGraph* add_curve(QCustomPlot* plot, const Discharge& d, const QPen& pen) {
    QVector<double> x, y;
    for (const auto& s : d.samples) x << s.hours, y << 100 * perceived(s.light);
    QCPGraph* graph = plot->addGraph();
    graph->setData(x, y, true);
    graph->setPen(pen);
    return graph;
}

}  // namespace

LifePlot::LifePlot(QWidget* parent) : QWidget(parent), plot_(new QCustomPlot(this)) {
    setMinimumHeight(px(96));
    plot_->setAttribute(Qt::WA_OpaquePaintEvent, false);  // what is dimmed lets its card shine through
    setAccessibleName(tr("Light over the life of the cells"));
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
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void LifePlot::show_discharge(const PowerResult& power, double wanted, double end_brightness,
                              double charge_now, bool with_voltage) {
    style();
    plot_->clearGraphs();
    plot_->clearItems();
    const Discharge& d = power.typical;
    if (!std::isfinite(d.hours)) {
        plot_->xAxis->setRange(0, 1);
        plot_->yAxis->setRange(0, 110);
        add_label(plot_, 0.02, 60, tr("This supply does not empty: the light stays as it is."), theme().muted,
                  Qt::AlignLeft | Qt::AlignVCenter);
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
    QCPGraph* upper = add_curve(plot_, *longest, Qt::NoPen);
    QCPGraph* lower = add_curve(plot_, *shortest, Qt::NoPen);
    lower->addData(std::max(longest->hours, shortest->hours + 1e-6),
                   100 * perceived(shortest->samples.back().light));
    upper->setBrush(shade);
    upper->setChannelFillGraph(lower);
    add_curve(plot_, d, QPen(theme().amber, 2.6));
    plot_->xAxis->setRange(0, span);
    plot_->yAxis->setRange(0, 106);
    const auto& last_sample = d.samples.back();
    if (with_voltage)
        add_label(plot_, last_sample.hours, 100 * perceived(last_sample.light) + 2, tr("light, %"),
                  theme().amber_text, Qt::AlignLeft | Qt::AlignBottom);
    else
        add_label(plot_, span, 104, tr("perceived brightness, %"), theme().amber_text,
                  Qt::AlignRight | Qt::AlignTop);
    if (with_voltage) {
        QVector<double> x, y;
        for (const auto& s : d.samples) x << s.hours, y << s.volts;
        QCPGraph* volts = plot_->addGraph(plot_->xAxis, plot_->yAxis2);
        volts->setData(x, y, true);
        volts->setPen(QPen(theme().teal, 1.8));
        plot_->yAxis2->setVisible(true);
        plot_->yAxis2->setRange(0, 1.06 * d.samples.front().volts);
        plot_->axisRect()->setAutoMargins(QCP::msLeft | QCP::msBottom | QCP::msRight);
        plot_->axisRect()->setMargins(QMargins(0, 14, 4, 0));
        const auto& last = d.samples.back();
        auto* text = new QCPItemText(plot_);
        text->setText(tr(" volts (right)"));
        text->setColor(theme().teal);
        text->setFont(plot_->xAxis->tickLabelFont());
        text->setPositionAlignment(Qt::AlignLeft | Qt::AlignVCenter);
        text->position->setAxes(plot_->xAxis, plot_->yAxis2);
        text->position->setCoords(last.hours, last.volts);
    }
    if (wanted > 0) {
        add_vertical(plot_, wanted, theme().rust);
        add_label(plot_, wanted, 14,
                  tr("wanted %1").arg(QString::fromStdString(format_quantity(wanted, Unit::hour))),
                  theme().rust, (wanted > span / 2 ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    }
    if (const auto now = d.hours_at(charge_now)) {
        add_vertical(plot_, *now, theme().ink);
        add_label(plot_, *now, 3, tr("now"), theme().ink, Qt::AlignLeft | Qt::AlignBottom);
    }
    auto* end = new QCPItemStraightLine(plot_);
    end->point1->setCoords(0, 100 * end_brightness);
    end->point2->setCoords(1, 100 * end_brightness);
    end->setPen(QPen(theme().muted, 1, Qt::DotLine));
    add_label(plot_, 0, 100 * end_brightness, tr("counts as spent"), theme().muted,
              Qt::AlignLeft | Qt::AlignTop);
    plot_->xAxis->setLabel(tr("hours from fresh cells"));
    plot_->xAxis->setLabelColor(theme().muted);
    plot_->xAxis->setLabelFont(plot_->xAxis->tickLabelFont());
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace elkit
