#include "app/stations/circuit/spread_panel.hpp"

#include <qcustomplot.h>

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "app/shell/session.hpp"
#include "app/stations/circuit/goal_chooser.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/offer.hpp"
#include "app/widgets/plot_style.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "app/widgets/quantity_ticker.hpp"
#include "catalogue/catalogue.hpp"

namespace elkit {

SpreadPanel::SpreadPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    auto* tools = new QHBoxLayout;
    goal_ = new GoalChooser(session_);
    builds_ = new QuantityEdit(tr("copies to build on paper"), Unit::count, 2, 100000);
    builds_->setValue(200);
    seed_ = new QuantityEdit(tr("seed: the same number gives the same batch"), Unit::count, 0, 1e9);
    seed_->setValue(1);
    for (auto* field : {builds_, seed_}) field->setFixedWidth(px(56));
    run_ = new QPushButton(tr("Build on paper"));
    run_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_B));
    tools->addWidget(goal_, 1);
    tools->addWidget(label(tr("over"), "muted"));
    tools->addWidget(builds_);
    tools->addWidget(label(tr("builds, seed"), "muted"));
    tools->addWidget(seed_);
    tools->addWidget(run_);
    column->addLayout(tools);
    auto* middle = new QHBoxLayout;
    plot_ = new Plot;
    plot_->setMinimumHeight(px(80));
    plot_->setAccessibleName(tr("Histogram of the batch"));
    connect(plot_, &QCustomPlot::afterLayout, this, [this] { names_.arrange(); });
    names_ = PlotLabels(plot_);
    middle->addWidget(plot_, 3);
    parts_ = new DataTable(tr("Which part matters most"),
                           {{tr("part")}, {tr("of the spread"), DataTable::numbers}}, 23);
    parts_->setFixedWidth(px(200));
    parts_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    show_workings(parts_, session_);
    middle->addWidget(parts_);
    auto* found = new QWidget;
    middle->setContentsMargins(0, 0, 0, 0);
    found->setLayout(middle);
    offer_ = new Offer(found);
    column->addWidget(offer_, 1);
    auto* readings = new QHBoxLayout;
    median_ = new FigureLabel(session_, FigureLabel::Size::plain);
    least_ = new FigureLabel(session_, FigureLabel::Size::plain);
    most_ = new FigureLabel(session_, FigureLabel::Size::plain);
    note_ = new ElidingLabel;
    note_->setObjectName(QStringLiteral("muted"));
    for (auto* f : {median_, least_, most_}) readings->addWidget(f);
    readings->addWidget(note_, 1);
    column->addLayout(readings);
    const auto run_or_stop = [this] {
        if (!work_.running()) return start();
        work_.stop();
        show(tr("Stopped."));
    };
    connect(run_, &QPushButton::clicked, this, run_or_stop);
    connect(offer_, &Offer::asked, this, run_or_stop);
    connect(goal_, &GoalChooser::chosen, this, &SpreadPanel::start);
    connect(builds_, &QuantityEdit::valueEntered, this, &SpreadPanel::start);
    connect(seed_, &QuantityEdit::valueEntered, this, &SpreadPanel::start);
    connect(&session_, &Session::designChanged, this, [this] {
        work_.stop();
        result_.reset();
        show(nothing_yet());
    });
    show(nothing_yet());
}

QString SpreadPanel::nothing_yet() {
    return tr(
        "Choose above what to look at, then build a batch on paper (Alt B): copies of this design, each "
        "part somewhere within its tolerance.");
}

void SpreadPanel::show(const QString& note) {
    run_->setText(work_.running() ? tr("Stop") : tr("Build on paper"));
    note_->setText(result_ ? note : QString());
    if (result_)
        offer_->showWanted();
    else
        offer_->say(note, run_->text());
    plot();
}

void SpreadPanel::start() {
    auto goal = goal_->goal();
    if (!goal) return show(QString::fromStdString(goal.error().text()));
    work_.start(
        [circuit = session_.design().circuit, c = session_.conditions(), goal = goal.value(),
         builds = static_cast<int>(builds_->value()),
         seed = static_cast<std::uint64_t>(seed_->value())](const Progress& progress) {
            return spread(circuit, known_catalogue(), c, {goal}, builds, seed, progress);
        },
        [this](Result<std::vector<Spread>> done) {
            result_.reset();
            if (!done) return show(QString::fromStdString(done.error().text()));
            result_ = std::move(done).value().front();
            show(result_->failed ? tr("%1 of %2 could not be solved: %3")
                                       .arg(result_->failed)
                                       .arg(result_->builds)
                                       .arg(QString::fromStdString(result_->trouble))
                                 : tr("90 % of the builds lie in the shaded range."));
        },
        [this](double fraction) {
            const QString how_far = tr("building … %1 %").arg(qRound(100 * fraction));
            if (result_) return note_->setText(how_far);
            offer_->say(how_far, tr("Stop"));
        });
    show(tr("building …"));
}

void SpreadPanel::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) plot();
    QWidget::changeEvent(event);
}

void SpreadPanel::plot() {
    style_plot(plot_);
    plot_->clearPlottables();
    plot_->clearItems();
    names_.clear();
    for (auto* f : {median_, least_, most_}) f->setVisible(result_.has_value());
    parts_->setRowCount(0);
    if (!result_ || result_->values.empty()) return plot_->replot(QCustomPlot::rpQueuedReplot);
    const Histogram bars = result_->histogram(24);
    auto* counts = new QCPBars(plot_->xAxis, plot_->yAxis);
    counts->setWidth(bars.width * 0.94);
    counts->setPen(Qt::NoPen);
    counts->setBrush(theme().teal);
    counts->setData(QVector<double>(bars.centre.begin(), bars.centre.end()),
                    QVector<double>(bars.count.begin(), bars.count.end()), true);
    plot_->xAxis->setTicker(QSharedPointer<QuantityTicker>::create(result_->goal.unit));
    plot_->xAxis->setLabel(QString::fromStdString(result_->goal.label));
    plot_->axisRect()->setMinimumMargins(QMargins(0, px(8), px(16), 0));
    plot_->yAxis->setLabel(tr("builds"));
    plot_->rescaleAxes();
    plot_->xAxis->scaleRange(1.06);
    plot_->yAxis->setRangeLower(0);
    const double top = plot_->yAxis->range().upper * 1.16;  // room for the words
    plot_->yAxis->setRangeUpper(top);
    for (const auto& [edge, words, side] : {std::tuple(result_->low, tr("5 %"), Qt::AlignRight),
                                            std::tuple(result_->high, tr("95 %"), Qt::AlignLeft)}) {
        auto* line = new QCPItemStraightLine(plot_);
        line->setPen(QPen(theme().ink, 1.2, Qt::DashLine));
        line->point1->setCoords(edge, 0), line->point2->setCoords(edge, 1);
        names_.keep_clear(plot_->xAxis, plot_->yAxis, {{edge, 0}, {edge, top}});
        names_.add(words, theme().ink, plot_->xAxis->labelFont(),
                   {{plot_->xAxis, plot_->yAxis, edge, 0.93 * top, side | Qt::AlignVCenter}});
    }
    auto* shade = new QCPItemRect(plot_);
    QColor wash = theme().amber;
    wash.setAlpha(40);
    shade->setBrush(wash), shade->setPen(Qt::NoPen);
    shade->topLeft->setCoords(result_->low, plot_->yAxis->range().upper);
    shade->bottomRight->setCoords(result_->high, 0);
    median_->setFigure(result_->figure(), tr("median · 5 to 95 %"));
    least_->setFigure(result_->end_figure(false), tr("least"));
    most_->setFigure(result_->end_figure(true), tr("most"));
    for (const Influence& influence : result_->influences) {
        if (influence.share < 0.005 && parts_->rowCount() > 2) break;
        const int row = parts_->rowCount();
        parts_->insertRow(row);
        parts_->setItem(row, 0, new QTableWidgetItem(QString::fromStdString(influence.designator)));
        parts_->setItem(row, 1, figure_item(influence.figure()));
    }
    parts_->fit();
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace elkit
