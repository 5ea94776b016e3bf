#include "app/stations/power/supply_plot.hpp"

#include <qcustomplot.h>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.hpp"
#include "app/widgets/plot_style.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

/// Times as people say them, wide enough apart for words.
QSharedPointer<QCPAxisTicker> time_ticks() {
    auto* ticks = new QCPAxisTickerText;
    constexpr double day = 24, month = 730.5, year = 8766;  // h
    const std::pair<double, const char*> times[]{
        {1 / 60.0, "1 min"}, {0.1667, "10 min"},    {1, "1 h"},
        {4, "4 h"},          {12, "12 h"},          {2 * day, "2 days"},
        {7 * day, "1 week"}, {month, "1 month"},    {4 * month, "4 months"},
        {year, "1 year"},    {4 * year, "4 years"}, {16 * year, "16 years"}};
    for (const auto& [hours, words] : times) ticks->addTick(hours, SupplyPlot::tr(words));
    return QSharedPointer<QCPAxisTicker>(ticks);
}

/// 1, 2, 5, 10, 20, …
QSharedPointer<QCPAxisTicker> round_ticks() {
    auto* ticks = new QCPAxisTickerText;
    for (double decade = 0.01; decade < 1e6; decade *= 10)
        for (const double step : {1, 2, 5})
            ticks->addTick(step * decade, QString::fromStdString(format_plain(step * decade)));
    return QSharedPointer<QCPAxisTicker>(ticks);
}

QFont words_font(bool bold) {
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(11));
    font.setWeight(bold ? QFont::DemiBold : QFont::Normal);
    return font;
}

}  // namespace

SupplyPlot::SupplyPlot(QWidget* parent) : QWidget(parent), plot_(new Plot(this)), labels_(plot_) {
    setObjectName(QStringLiteral("supplyPlot"));
    setAccessibleName(tr("Run time of the supplies compared"));
    setMinimumHeight(px(130));
    setFocusPolicy(Qt::StrongFocus);
    plot_->setAttribute(Qt::WA_TransparentForMouseEvents);
    plot_->setAttribute(Qt::WA_OpaquePaintEvent, false);
    connect(plot_, &QCustomPlot::afterLayout, this, [this] { labels_.arrange(); });
    plot_->yAxis->setScaleType(QCPAxis::stLogarithmic);
    plot_->yAxis->setTicker(time_ticks());
    plot_->xAxis->setScaleType(QCPAxis::stLogarithmic);
    plot_->xAxis->setTicker(round_ticks());
}

void SupplyPlot::resizeEvent(QResizeEvent*) {
    plot_->setGeometry(rect());
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void SupplyPlot::setSupplies(std::vector<SupplyRow> rows) {
    rows_ = std::move(rows);
    shown_.assign(rows_.size(), true);
    draw();
}

void SupplyPlot::setAcross(SupplyTakes across) {
    across_ = across;
    draw();
}

void SupplyPlot::setShown(std::vector<bool> shown) {
    if (shown == shown_ || shown.size() != rows_.size()) return;
    shown_ = std::move(shown);
    draw();
}

void SupplyPlot::setChosen(int row) {
    chosen_ = row;
    draw();
}

bool SupplyPlot::drawn(int row) const {
    if (row < 0 || row >= static_cast<int>(rows_.size())) return false;
    const auto at = static_cast<std::size_t>(row);
    return shown_[at] && runs_out(rows_[at]) && across(rows_[at]) > 0;  // the axis is one of logarithms
}

double SupplyPlot::across(const SupplyRow& row) const { return taken_by(row, across_); }

std::optional<QPointF> SupplyPlot::place(int row) const {
    if (!drawn(row)) return std::nullopt;
    const SupplyRow& s = rows_[static_cast<std::size_t>(row)];
    return QPointF(plot_->xAxis->coordToPixel(across(s)), plot_->yAxis->coordToPixel(s.run_time.value));
}

/// The row whose point is near; -1 if none is.
int SupplyPlot::nearest(const QPointF& to) const {
    int nearest = -1;
    double best = px(24);
    for (int row = 0; row < static_cast<int>(rows_.size()); ++row)
        if (const auto at = place(row)) {
            const double apart = QLineF(*at, to).length();
            if (apart < best) best = apart, nearest = row;
        }
    return nearest;
}

void SupplyPlot::mousePressEvent(QMouseEvent* event) {
    if (const int row = nearest(event->position()); row >= 0) emit chosen(row);
}

bool SupplyPlot::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const int row = nearest(help->pos());
    if (row < 0) return QToolTip::hideText(), true;
    const SupplyRow& s = rows_[static_cast<std::size_t>(row)];
    QStringList words{QString::fromStdString(s.name), QString::fromStdString(s.run_time.text(2))};
    if (!s.reason.empty()) words << QString::fromStdString(s.reason);
    QToolTip::showText(help->globalPos(), words.join(QStringLiteral(" · ")), this);
    return true;
}

/// To the next point to the right or left.
void SupplyPlot::keyPressEvent(QKeyEvent* event) {
    const bool right = event->key() == Qt::Key_Right;
    if (!right && event->key() != Qt::Key_Left) return QWidget::keyPressEvent(event);
    std::vector<int> order;
    for (int row = 0; row < static_cast<int>(rows_.size()); ++row)
        if (drawn(row)) order.push_back(row);
    if (order.empty()) return;
    std::stable_sort(order.begin(), order.end(), [this](int a, int b) {
        return across(rows_[static_cast<std::size_t>(a)]) < across(rows_[static_cast<std::size_t>(b)]);
    });
    const auto now = std::find(order.begin(), order.end(), chosen_);
    if (now == order.end()) return emit chosen(order.front());
    if (right && now + 1 != order.end()) emit chosen(now[1]);
    if (!right && now != order.begin()) emit chosen(now[-1]);
}

void SupplyPlot::draw() {
    style_plot(plot_);
    plot_->clearGraphs();
    plot_->clearItems();
    labels_.clear();
    double least = INFINITY, most = 0, shortest = INFINITY, longest = 0;
    std::vector<int> order;  // those that get the first words first
    for (int row = 0; row < static_cast<int>(rows_.size()); ++row)
        if (drawn(row)) order.push_back(row);
    std::stable_partition(order.begin(), order.end(), [this](int row) {
        return row == chosen_ || rows_[static_cast<std::size_t>(row)].present;
    });
    for (const int row : order) {
        const SupplyRow& s = rows_[static_cast<std::size_t>(row)];
        const double x = across(s), y = s.run_time.value;
        least = std::min(least, x), most = std::max(most, x);
        shortest = std::min(shortest, y), longest = std::max(longest, y);
        const QColor colour = s.present ? theme().rust : theme().teal;
        QCPGraph* point = plot_->addGraph();
        point->setData({x}, {y});
        point->setLineStyle(QCPGraph::lsNone);
        point->setScatterStyle(QCPScatterStyle(
            QCPScatterStyle::ssCircle, QPen(colour, row == chosen_ ? 3 : 1.6),
            s.reason.empty() ? QBrush(colour) : QBrush(theme().card), row == chosen_ ? px(11) : px(8)));
        labels_.keep_clear(plot_->xAxis, plot_->yAxis, {{0.97 * x, y}, {1.03 * x, y}});
        if (row != chosen_ && !s.present && beaten(rows_, static_cast<std::size_t>(row), across_))
            continue;  // its name shows when it is chosen
        std::vector<PlotLabels::Place> places;
        for (const Qt::Alignment side : {Qt::AlignLeft | Qt::AlignVCenter, Qt::AlignRight | Qt::AlignVCenter,
                                         Qt::AlignHCenter | Qt::AlignBottom, Qt::AlignHCenter | Qt::AlignTop,
                                         Qt::AlignLeft | Qt::AlignBottom, Qt::AlignLeft | Qt::AlignTop,
                                         Qt::AlignRight | Qt::AlignBottom, Qt::AlignRight | Qt::AlignTop})
            places.push_back({plot_->xAxis, plot_->yAxis, x, y, side});
        labels_.add(QStringLiteral("  %1  ").arg(QString::fromStdString(s.name)),
                    row == chosen_ ? theme().ink : theme().muted, words_font(row == chosen_ || s.present),
                    std::move(places));
    }
    const QString names[]{tr("cost of cells and converter"), tr("room of the holder [cm²]"),
                          tr("mass of cells and converter [g]")};
    plot_->xAxis->setLabel(names[static_cast<int>(across_)] + tr("   ·   ● serves   ○ something to mind"));
    plot_->yAxis->setLabel(tr("run time"));
    if (order.empty()) {
        plot_->xAxis->setRange(1, 10), plot_->yAxis->setRange(1, 100);
        labels_.add(tr("None of these supplies empties in a time that can be told."), theme().muted,
                    words_font(false),
                    {{plot_->xAxis, plot_->yAxis, 1.1, 10, Qt::AlignLeft | Qt::AlignVCenter}});
    } else {
        plot_->xAxis->setRange(least / 1.5, most * 2);
        plot_->yAxis->setRange(shortest / 1.8, longest * 1.8);
    }
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace elkit
