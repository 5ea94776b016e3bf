#include "app/stations/circuit/time_lane.hpp"

#include <qcustomplot.h>

#include <QComboBox>
#include <QCoreApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QThreadPool>
#include <algorithm>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"

namespace elkit {
namespace {
constexpr int ticks = 1000;       // of the head's slider
constexpr int frame_count = 600;  // pictures kept of a run
constexpr std::size_t most_traces = 4;

QString plain(const std::string& probe) { return QString::fromStdString(probe.substr(probe.find(':') + 1)); }
}  // namespace

TimeLane::TimeLane(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), generation_(std::make_shared<std::atomic<int>>(0)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    auto* tools = new QHBoxLayout;
    record_ = new QPushButton(tr("Record"));
    record_->setToolTip(tr("Follows the circuit from now on for the time beside (Alt R)"));
    record_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_R));
    span_ = new QuantityEdit(tr("time to record"), Unit::second, 1e-9, 1e4);
    span_->setFixedWidth(px(80));
    span_->setValue(0.02);
    from_ = new QComboBox;
    from_->addItem(tr("from power-up"), true);
    from_->addItem(tr("from rest"), false);
    from_->setAccessibleName(tr("where the recording starts"));
    play_ = new QPushButton(tr("Play"));
    play_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_P));
    auto* back = new QPushButton(tr("◂ event"));
    auto* next = new QPushButton(tr("event ▸"));
    back->setAccessibleName(tr("to the event before"));
    next->setAccessibleName(tr("to the next event"));
    speed_ = new QComboBox;
    speed_->setAccessibleName(tr("speed of playing"));
    for (const double seconds : {2.0, 5.0, 15.0, 60.0})
        speed_->addItem(tr("the whole in %1 s").arg(seconds), seconds);
    speed_->setCurrentIndex(1);
    time_ = label({}, "bold");
    trouble_ = label(tr("Nothing recorded yet. Double-click a line of the stave to add it here."), "muted");
    trouble_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    for (QWidget* w :
         {static_cast<QWidget*>(record_), static_cast<QWidget*>(span_), static_cast<QWidget*>(from_),
          static_cast<QWidget*>(play_), static_cast<QWidget*>(back), static_cast<QWidget*>(next),
          static_cast<QWidget*>(speed_)})
        tools->addWidget(w);
    tools->addWidget(trouble_, 1);
    tools->addWidget(time_);
    column->addLayout(tools);
    plot_ = new QCustomPlot;
    plot_->setMinimumHeight(px(66));
    plot_->setAccessibleName(tr("Traces of the recording"));
    column->addWidget(plot_, 1);
    head_ = new QSlider(Qt::Horizontal);
    head_->setRange(0, ticks);
    head_->setAccessibleName(tr("moment of the recording"));
    column->addWidget(head_);
    auto* reading_row = new QWidget;
    reading_row->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);  // shows what has room
    auto* readings = new QHBoxLayout(reading_row);
    readings->setContentsMargins(0, 0, 0, 0);
    measured_ = new QComboBox;
    measured_->setAccessibleName(tr("trace to measure"));
    readings->addWidget(measured_);
    for (int k = 0; k < 6; ++k) {
        figures_.push_back(new FigureLabel(session_, FigureLabel::Size::plain));
        readings->addWidget(figures_.back());
        figures_.back()->hide();
    }
    readings->addStretch(1);
    column->addWidget(reading_row);
    clock_.setInterval(16);
    connect(&clock_, &QTimer::timeout, this, [this] {
        const double whole = speed_->currentData().toDouble() * 1000;
        const int next = head_->value() + std::max(1, qRound(ticks * clock_.interval() / whole));
        head_->setValue(next > ticks ? 0 : next);
    });
    connect(record_, &QPushButton::clicked, this, &TimeLane::start);
    connect(span_, &QuantityEdit::valueEntered, this, &TimeLane::start);
    connect(play_, &QPushButton::clicked, this, &TimeLane::play);
    connect(back, &QPushButton::clicked, this, [this] { step(-1); });
    connect(next, &QPushButton::clicked, this, [this] { step(1); });
    connect(head_, &QSlider::valueChanged, this, &TimeLane::showHead);
    connect(measured_, &QComboBox::activated, this, &TimeLane::plot);
    connect(&session_, &Session::designChanged, this, [this] {  // what was recorded is of another design
        ++*generation_;
        running_ = false;
        recording_.reset();
        clock_.stop();
        chosen_by_hand_ = false;
        emit momentShown(nullptr);
        plot();
    });
    refreshTheme();
}

TimeLane::~TimeLane() { ++*generation_; }

double TimeLane::head() const { return recording_ ? recording_->time.back() * head_->value() / ticks : 0; }

/// Without a choice by hand: what the LEDs take, and the nets that chips and transistors act on.
void TimeLane::chooseProbes() {
    if (chosen_by_hand_) return;
    probes_.clear();
    const auto add = [&](const std::string& probe) {
        if (probes_.size() < most_traces && std::find(probes_.begin(), probes_.end(), probe) == probes_.end())
            probes_.push_back(probe);
    };
    const auto& parts = session_.design().circuit.parts;
    for (const Part& p : parts)
        if (p.kind == "timer") add("net:" + p.net("thr")), add("net:" + p.net("out"));
    for (const Part& p : parts)
        if (p.kind == "npn" || p.kind == "pnp") add("net:" + p.net("c"));
    for (const Part& p : parts)
        if (p.kind == "led") add("part:" + p.designator);
    for (const auto& net : session_.design().circuit.nets()) add("net:" + net);
    std::erase_if(probes_, [](const std::string& p) { return p == "net:"; });
}

void TimeLane::record(double seconds) {
    span_->setValue(seconds);
    start();
}

void TimeLane::showAt(double share) { head_->setValue(qRound(share * ticks)); }

void TimeLane::start() {
    chooseProbes();
    const int generation = ++*generation_;
    RunRequest request{.until = span_->value(),
                       .start = from_->currentData().toBool() ? Start::power_up : Start::rest,
                       .probes = probes_};
    request.frames = frame_count;
    request.balance = false;
    running_ = true;
    trouble_->setText(tr("recording …"));
    record_->setEnabled(false);
    QThreadPool::globalInstance()->start([this, generation, current = generation_, request,
                                          circuit = session_.design().circuit, c = session_.conditions()] {
        const auto go_on = [&](std::string_view, double) { return current->load() == generation; };
        auto run = simulate(circuit, built_in_catalogue(), c, request, {}, go_on);
        auto done = run ? std::make_shared<Recording>(std::move(run).value()) : nullptr;
        const QString error = run ? QString() : QString::fromStdString(run.error().text());
        QMetaObject::invokeMethod(qApp, [this, generation, current, done, error] {
            if (current->load() == generation) arrived(done, error);
        });
    });
}

void TimeLane::arrived(std::shared_ptr<Recording> recording, const QString& error) {
    running_ = false;
    record_->setEnabled(true);
    trouble_->setText(error);
    recording_ = std::move(recording);
    measured_->clear();
    if (recording_)
        for (const auto& t : recording_->traces)
            measured_->addItem(plain(t.probe), QString::fromStdString(t.probe));
    plot();
    showHead();
}

void TimeLane::toggleProbe(const QString& probe) {
    if (!chosen_by_hand_) chooseProbes();
    chosen_by_hand_ = true;
    const std::string wanted = probe.toStdString();
    if (std::erase(probes_, wanted) == 0) {
        probes_.push_back(wanted);
        if (probes_.size() > most_traces) probes_.erase(probes_.begin());
    }
    start();
}

void TimeLane::play() {
    if (!recording_) return start();
    clock_.isActive() ? clock_.stop() : clock_.start();
    play_->setText(clock_.isActive() ? tr("Pause") : tr("Play"));
}

void TimeLane::step(int direction) {
    if (!recording_) return;
    clock_.stop();
    play_->setText(tr("Play"));
    const double now = head(), tick = recording_->time.back() / ticks;
    double best = direction > 0 ? recording_->time.back() : 0;
    for (const auto& h : recording_->happenings) {
        if (direction > 0 && h.time > now + tick) best = std::min(best, h.time);
        if (direction < 0 && h.time < now - tick) best = std::max(best, h.time);
    }
    head_->setValue(qRound(best / recording_->time.back() * ticks));
}

void TimeLane::showHead() {
    if (!recording_) return;
    const double now = head();
    time_->setText(QString::fromStdString(format_quantity(now, Unit::second, 4)));
    const auto at = std::lower_bound(recording_->frame_time.begin(), recording_->frame_time.end(), now);
    const auto k = std::min(static_cast<std::size_t>(at - recording_->frame_time.begin()),
                            recording_->frames.size() - 1);
    emit momentShown(&recording_->frames[k]);
    if (auto* line = plot_->findChild<QCPItemStraightLine*>()) {
        line->point1->setCoords(now, 0);
        line->point2->setCoords(now, 1);
    }
    for (int k2 = 0; k2 < plot_->itemCount(); ++k2)
        if (auto* line = qobject_cast<QCPItemStraightLine*>(plot_->item(k2)))
            line->point1->setCoords(now, 0), line->point2->setCoords(now, 1);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void TimeLane::refreshTheme() {
    plot_->setBackground(theme().card);
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(11));
    for (QCPAxis* axis : {plot_->xAxis, plot_->yAxis, plot_->yAxis2}) {
        axis->setTickLabelFont(font), axis->setLabelFont(font);
        axis->setTickLabelColor(theme().muted), axis->setLabelColor(theme().muted);
        axis->setBasePen(QPen(theme().line)), axis->setTickPen(QPen(theme().line)),
            axis->setSubTickPen(Qt::NoPen);
        axis->grid()->setPen(QPen(theme().line, 1));
    }
    plot_->yAxis2->grid()->setVisible(false);
    plot();
}

void TimeLane::plot() {
    plot_->clearGraphs();
    plot_->clearItems();
    for (auto* f : figures_) f->hide();
    head_->setEnabled(recording_ != nullptr);
    measured_->setVisible(recording_ != nullptr);
    if (!recording_) {
        plot_->replot(QCustomPlot::rpQueuedReplot);
        return;
    }
    const QList<QColor> inks{theme().teal, theme().rust, theme().ink, theme().muted};
    const QList<Qt::PenStyle> styles{Qt::SolidLine, Qt::DashLine, Qt::DotLine, Qt::DashDotLine};
    bool amps = false;
    int k = 0;
    for (const Trace& t : recording_->traces) {
        const bool current = t.unit == Unit::ampere;
        amps = amps || current;
        QCPGraph* graph = plot_->addGraph(plot_->xAxis, current ? plot_->yAxis2 : plot_->yAxis);
        graph->setData(QVector<double>(recording_->time.begin(), recording_->time.end()),
                       QVector<double>(t.values.begin(), t.values.end()), true);
        const QColor ink = current ? theme().amber : inks[k % inks.size()];
        graph->setPen(QPen(ink, 1.7, styles[k % styles.size()]));
        auto* name = new QCPItemText(plot_);
        name->setText(plain(t.probe));
        name->setColor(current ? theme().amber_text : ink);
        name->setFont(plot_->xAxis->tickLabelFont());
        name->position->setType(QCPItemPosition::ptAxisRectRatio);
        name->position->setCoords(0.01 + 0.16 * k, -0.02);
        name->setPositionAlignment(Qt::AlignLeft | Qt::AlignBottom);
        name->setClipToAxisRect(false);
        ++k;
    }
    plot_->axisRect()->setMinimumMargins(QMargins(0, px(16), 0, 0));
    plot_->xAxis->setLabel(tr("s"));
    plot_->yAxis->setLabel(tr("V"));
    plot_->yAxis2->setLabel(tr("A"));
    plot_->yAxis2->setVisible(amps);
    plot_->rescaleAxes();
    plot_->yAxis->scaleRange(1.1), plot_->yAxis2->scaleRange(1.1);
    auto* line = new QCPItemStraightLine(plot_);
    line->setPen(QPen(theme().ink, 1.2));
    const Trace* measured = recording_->trace(measured_->currentData().toString().toStdString());
    if (measured) {
        std::size_t shown = 0;
        const auto all = measurement_figures(measure(recording_->time, measured->values),
                                             plain(measured->probe).toStdString(), measured->unit);
        for (const auto& [ending, caption] :
             {std::pair{".mean", tr("mean")}, std::pair{".min", tr("least")}, std::pair{".max", tr("most")},
              std::pair{".period", tr("period")}, std::pair{".duty", tr("duty")}})
            for (const Figure& f : all)
                if (f.id.ends_with(ending) && shown < figures_.size()) {
                    figures_[shown]->setFigure(f, caption);
                    figures_[shown++]->show();
                }
    }
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace elkit
