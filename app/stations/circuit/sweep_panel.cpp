#include "app/stations/circuit/sweep_panel.hpp"

#include <qcustomplot.h>

#include <QCheckBox>
#include <QComboBox>
#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <algorithm>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/stations/circuit/goal_chooser.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/offer.hpp"
#include "app/widgets/plot_style.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "app/widgets/quantity_ticker.hpp"
#include "catalogue/catalogue.hpp"

namespace elkit {

SweepPanel::SweepPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    auto* tools = new QHBoxLayout;
    over_ = new QComboBox;
    over_->setAccessibleName(tr("what to vary"));
    over_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    over_->setMinimumContentsLength(6);
    from_ = new QuantityEdit(tr("from"), Unit::none, -1e9, 1e12);
    to_ = new QuantityEdit(tr("to"), Unit::none, -1e9, 1e12);
    points_ = new QuantityEdit(tr("points"), Unit::count, 2, 500);
    points_->setValue(41);
    for (auto* field : {from_, to_}) field->setFixedWidth(px(52));
    points_->setFixedWidth(px(40));
    logarithmic_ = new QCheckBox(tr("by ratio"));
    logarithmic_->setToolTip(
        tr("Steps of the same ratio, as from 10 to 100 to 1000, in place of the same difference"));
    goal_ = new GoalChooser(session_);
    run_ = new QPushButton(tr("Sweep"));
    run_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_W));
    tools->addWidget(label(tr("vary"), "muted"));
    tools->addWidget(over_, 1);
    tools->addWidget(label(tr("from"), "muted"));
    tools->addWidget(from_);
    tools->addWidget(label(tr("to"), "muted"));
    tools->addWidget(to_);
    tools->addWidget(label(tr("in"), "muted"));
    tools->addWidget(points_);
    tools->addWidget(logarithmic_);
    tools->addWidget(goal_, 2);
    tools->addWidget(run_);
    column->addLayout(tools);
    plot_ = new Plot;
    plot_->setMinimumHeight(px(80));
    plot_->setAccessibleName(tr("Sweep: the measurement against what is varied"));
    connect(plot_, &QCustomPlot::afterLayout, this, [this] { names_.arrange(); });
    names_ = PlotLabels(plot_);
    offer_ = new Offer(plot_);
    column->addWidget(offer_, 1);
    auto* readings = new QHBoxLayout;
    here_ = new FigureLabel(session_, FigureLabel::Size::plain);
    least_ = new FigureLabel(session_, FigureLabel::Size::plain);
    most_ = new FigureLabel(session_, FigureLabel::Size::plain);
    note_ = new ElidingLabel;
    note_->setObjectName(QStringLiteral("muted"));
    for (auto* f : {here_, least_, most_}) readings->addWidget(f);
    readings->addWidget(note_, 1);
    column->addLayout(readings);
    connect(over_, &QComboBox::activated, this, &SweepPanel::offerRange);
    connect(goal_, &GoalChooser::chosen, this, &SweepPanel::start);
    const auto run_or_stop = [this] {
        if (!work_.running()) return start();
        work_.stop();
        forget(tr("Stopped."));
    };
    connect(run_, &QPushButton::clicked, this, run_or_stop);
    connect(offer_, &Offer::asked, this, run_or_stop);
    for (auto* field : {from_, to_, points_})
        connect(field, &QuantityEdit::valueEntered, this, &SweepPanel::start);
    connect(plot_, &QCustomPlot::mousePress, this,
            [this](QMouseEvent* event) { point(plot_->xAxis->pixelToCoord(event->position().x())); });
    connect(&session_, &Session::designChanged, this, &SweepPanel::rebuild);
    rebuild();
}

void SweepPanel::rebuild() {
    const QString before = over_->currentData().toString();
    variables_ = variables(session_.design().circuit);
    over_->clear();
    for (const Variable& v : variables_)
        over_->addItem(QString::fromStdString(v.label), QString::fromStdString(v.name));
    const int again = over_->findData(before);
    const bool knob = variables_.size() > 2 && again < 0;
    over_->setCurrentIndex(again >= 0 ? again : (knob ? 2 : 0));
    if (again < 0) offerRange();
    forget(tr("Choose above what to vary and what to look at, then sweep (Alt W)."));
}

void SweepPanel::forget(const QString& why) {
    work_.stop();
    run_->setText(tr("Sweep"));
    result_.reset();
    note_->clear();
    offer_->say(why, tr("Sweep"));
    plot();
}

void SweepPanel::vary(const QString& name) {
    over_->setCurrentIndex(std::max(0, over_->findData(name)));
    offerRange();
}

void SweepPanel::offerRange() {
    const auto k = static_cast<std::size_t>(std::max(0, over_->currentIndex()));
    if (k >= variables_.size()) return;
    from_->setValue(variables_[k].from), to_->setValue(variables_[k].to);
    logarithmic_->setChecked(variables_[k].logarithmic);
}

void SweepPanel::start() {
    auto goal = goal_->goal();
    if (!goal) return forget(QString::fromStdString(goal.error().text()));
    const SweepRange range{from_->value(), to_->value(), static_cast<int>(points_->value()),
                           logarithmic_->isChecked() && from_->value() > 0 && to_->value() > 0};
    run_->setText(tr("Stop"));
    sweeping(tr("sweeping …"));
    work_.start(
        [circuit = session_.design().circuit, c = session_.conditions(),
         over = over_->currentData().toString().toStdString(), range,
         goal = goal.value()](const Progress& progress) {
            return sweep(circuit, known_catalogue(), c, over, range, {goal}, progress);
        },
        [this](Result<Sweep> done) {
            if (!done) return forget(QString::fromStdString(done.error().text()));
            run_->setText(tr("Sweep"));
            result_ = std::move(done).value();
            note_->setText(result_->troubles.empty() ? tr("Click the curve for a value.")
                                                     : QString::fromStdString(result_->troubles.front()));
            plot();
        },
        [this](double fraction) { sweeping(tr("sweeping … %1 %").arg(qRound(100 * fraction))); });
}

/// How far it is; the curve before stays in sight.
void SweepPanel::sweeping(const QString& how_far) {
    if (result_) return note_->setText(how_far);
    offer_->say(how_far, tr("Stop"));
}

void SweepPanel::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) plot();
    QWidget::changeEvent(event);
}

void SweepPanel::point(double at) {
    if (!result_) return;
    std::size_t best = 0;
    for (std::size_t k = 0; k < result_->at.size(); ++k)
        if (std::abs(result_->at[k] - at) < std::abs(result_->at[best] - at)) best = k;
    const auto v = static_cast<std::size_t>(std::max(0, over_->currentIndex()));
    here_->setFigure(
        result_->figure(0, best),
        tr("at %1").arg(QString::fromStdString(format_quantity(result_->at[best], variables_[v].unit))));
    here_->show();
    if (here_line_) plot_->removeItem(here_line_);
    here_line_ = new QCPItemStraightLine(plot_);
    here_line_->setPen(QPen(theme().ink, 1.2));
    here_line_->point1->setCoords(result_->at[best], 0), here_line_->point2->setCoords(result_->at[best], 1);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void SweepPanel::plot() {
    style_plot(plot_);
    plot_->clearGraphs();
    plot_->clearItems();
    names_.clear(), here_line_ = nullptr;
    for (auto* f : {here_, least_, most_}) f->hide();
    if (!result_) return;
    offer_->showWanted();
    const auto& values = result_->values[0];
    QCPGraph* graph = plot_->addGraph();
    graph->setData(QVector<double>(result_->at.begin(), result_->at.end()),
                   QVector<double>(values.begin(), values.end()), true);
    graph->setPen(QPen(theme().teal, 1.8));
    graph->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, theme().teal, theme().teal, 4));
    const Unit unit = variables_[static_cast<std::size_t>(std::max(0, over_->currentIndex()))].unit;
    plot_->xAxis->setScaleType(logarithmic_->isChecked() ? QCPAxis::stLogarithmic : QCPAxis::stLinear);
    plot_->xAxis->setTicker(logarithmic_->isChecked()
                                ? QSharedPointer<QCPAxisTicker>(new QuantityLogTicker(unit))
                                : QSharedPointer<QCPAxisTicker>(new QuantityTicker(unit)));
    plot_->yAxis->setTicker(QSharedPointer<QuantityTicker>::create(result_->goals[0].unit));
    plot_->xAxis->setLabel(over_->currentText());
    plot_->axisRect()->setMinimumMargins(QMargins(0, px(8), px(16), 0));
    plot_->rescaleAxes();
    plot_->yAxis->scaleRange(1.12);
    std::size_t low = values.size(), high = values.size();
    for (std::size_t k = 0; k < values.size(); ++k) {
        if (!std::isfinite(values[k])) continue;
        if (low == values.size() || values[k] < values[low]) low = k;
        if (high == values.size() || values[k] > values[high]) high = k;
    }
    if (low < values.size()) {
        least_->setFigure(result_->figure(0, low), tr("least"));
        most_->setFigure(result_->figure(0, high), tr("most"));
        least_->show(), most_->show();
    }
    std::vector<QPointF> curve;
    for (std::size_t k = 0; k < values.size(); ++k)
        if (std::isfinite(values[k])) curve.emplace_back(result_->at[k], values[k]);
    names_.keep_clear(plot_->xAxis, plot_->yAxis, curve);
    names_.add(QString::fromStdString(result_->goals[0].label), theme().teal, plot_->xAxis->labelFont(),
               along(plot_->xAxis, plot_->yAxis, curve));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace elkit
