#include "app/stations/circuit/time_lane.hpp"

#include <qcustomplot.h>

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDragEnterEvent>
#include <QEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QMimeData>
#include <QPushButton>
#include <QSlider>
#include <algorithm>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/plot_style.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "design/file.hpp"
#include "engine/measure.hpp"
#include "formats/waveforms.hpp"

namespace elkit {
namespace {
constexpr int frame_count = 600;  // pictures kept of a run
constexpr std::size_t most_traces = 4;
constexpr int band_builds = 40;
const QString head_layer = QStringLiteral("head");

QString plain(const std::string& probe) { return QString::fromStdString(probe.substr(probe.find(':') + 1)); }
}  // namespace

TimeLane::TimeLane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAcceptDrops(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    column->addLayout(tools());
    plot_ = new QCustomPlot;
    plot_->setMinimumHeight(px(66));
    plot_->setAccessibleName(tr("Traces of the recording"));
    plot_->addLayer(head_layer);
    plot_->layer(head_layer)->setMode(QCPLayer::lmBuffered);
    plot_->setContextMenuPolicy(Qt::ActionsContextMenu);
    for (const bool csv : {true, false}) {
        auto* write = new QAction(
            csv ? tr("Write the waveforms (CSV)…") : tr("Write the waveforms (VCD, IEEE 1364)…"), plot_);
        connect(write, &QAction::triggered, this, [this, csv] {
            const QString path = QFileDialog::getSaveFileName(this, tr("Waveforms"), {},
                                                              csv ? tr("CSV (*.csv)") : tr("VCD (*.vcd)"));
            if (!path.isEmpty()) writeWaveforms(path, csv);
        });
        plot_->addAction(write);
    }
    column->addWidget(plot_, 1);
    column->addLayout(transport());
    column->addWidget(readings());
    clock_.setInterval(16);
    connect(&clock_, &QTimer::timeout, this, &TimeLane::advance);
    connect(head_, &QSlider::valueChanged, this, &TimeLane::showHead);
    connect(measured_, &QComboBox::activated, this, &TimeLane::plot);
    connect(plot_, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) {
        if (recording_) showAt(plot_->xAxis->pixelToCoord(event->position().x()) / recording_->time.back());
    });
    connect(&session_, &Session::designChanged, this, &TimeLane::forget);
    plot();
}

/// What was recorded is of another design.
void TimeLane::forget() {
    run_.stop(), band_.stop(), clock_.stop();
    record_->setText(tr("Record")), play_->setText(tr("Play"));
    const bool showed = recording_ != nullptr || bands_.has_value();
    recording_.reset(), bands_.reset(), mark_.reset();
    chosen_by_hand_ = false;
    if (showed) emit momentShown(nullptr);
    plot();
}

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
    for (const Role role : {Role::chip, Role::transistor})
        for (const Part& p : parts)
            if (is(p, role))
                for (const std::string& trace : part_kind(p.kind)->traces)
                    add("net:" + p.net(trace.substr(trace.find(':') + 1)));
    for (const Part& p : parts)
        if (is(p, Role::light)) add("part:" + p.designator);
    for (const auto& net : session_.design().circuit.nets()) add("net:" + net);
    std::erase_if(probes_, [](const std::string& p) { return p == "net:"; });
}

void TimeLane::record(double seconds) {
    span_->setValue(seconds);
    start();
}

void TimeLane::showAt(double share) { head_->setValue(qRound(share * ticks)); }

RunRequest TimeLane::request() const {
    RunRequest request{.until = span_->value(),
                       .start = from_->currentData().toBool() ? Start::power_up : Start::rest,
                       .probes = probes_};
    request.frames = frame_count;
    return request;
}

void TimeLane::start() {
    chooseProbes();
    clock_.stop();
    play_->setText(tr("Play"));
    trouble_->setText(tr("recording …"));
    record_->setText(tr("Stop"));
    run_.start(
        [wanted = request(), circuit = session_.design().circuit,
         c = session_.conditions()](const Progress& progress) {
            return simulate(circuit, known_catalogue(), c, wanted, {}, progress);
        },
        [this](Result<Recording> run) { arrived(std::move(run)); },
        [this](double fraction) { trouble_->setText(tr("recording … %1 %").arg(qRound(100 * fraction))); });
}

void TimeLane::arrived(Result<Recording> run) {
    record_->setText(tr("Record"));
    trouble_->setText(run ? QString() : QString::fromStdString(run.error().text()));
    recording_ = run ? std::make_shared<Recording>(std::move(run).value()) : nullptr;
    bands_.reset(), mark_.reset();
    const QString before = measured_->currentData().toString();
    measured_->clear();
    if (recording_)
        for (const auto& t : recording_->traces)
            measured_->addItem(plain(t.probe), QString::fromStdString(t.probe));
    measured_->setCurrentIndex(std::max(0, measured_->findData(before)));
    plot();
    showHead();
    if (recording_ && band_wanted_->isChecked()) startBand();
}

void TimeLane::showBand(bool wanted) {
    band_wanted_->setChecked(wanted);
    if (wanted && recording_ && !bands_) return startBand();
    if (!wanted) band_.stop(), trouble_->clear();
    plot();
}

void TimeLane::startBand() {
    trouble_->setText(tr("building a batch on paper …"));
    band_.start(
        [wanted = request(), circuit = session_.design().circuit,
         c = session_.conditions()](const Progress& progress) {
            return bands(circuit, known_catalogue(), c, wanted, band_builds, 400, 1, progress);
        },
        [this](Result<Bands> done) {
            trouble_->setText(done ? tr("shaded: 90 % of %1 copies").arg(band_builds)
                                   : QString::fromStdString(done.error().text()));
            if (done) bands_ = std::move(done).value();
            plot();
        },
        [this](double fraction) {
            trouble_->setText(tr("building a batch on paper … %1 %").arg(qRound(100 * fraction)));
        });
}

bool TimeLane::writeWaveforms(const QString& path, bool csv) {
    if (!recording_) return false;
    const std::string text =
        csv ? write_csv(recording_csv(*recording_)) : recording_vcd(*recording_, session_.design().name);
    auto written = write_file(path.toStdString(), text);
    if (!written) session_.reportError(QString::fromStdString(written.error().text()));
    return bool(written);
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

void TimeLane::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasFormat(QStringLiteral("application/x-elkit-ref")))
        event->acceptProposedAction();
}

/// A line of the stave, or a part, whose current is then shown.
void TimeLane::dropEvent(QDropEvent* event) {
    const QString ref = QString::fromUtf8(event->mimeData()->data(QStringLiteral("application/x-elkit-ref")));
    const QString name = ref.section(QLatin1Char(':'), 1);
    toggleProbe((ref.startsWith(QLatin1String("net:")) ? QStringLiteral("net:") : QStringLiteral("part:")) +
                name);
    event->acceptProposedAction();
}

void TimeLane::play() {
    if (!recording_) return start();
    played_ = head();
    clock_.isActive() ? clock_.stop() : clock_.start();
    play_->setText(clock_.isActive() ? tr("Pause") : tr("Play"));
}

/// One picture further while playing: by the chosen factor, or the whole in so many seconds; then from the
/// start again.
void TimeLane::advance() {
    const double whole = recording_->time.back(), speed = speed_->currentData().toDouble();
    const double seconds = clock_.interval() / 1000.0;
    played_ += speed > 0 ? seconds / speed : whole * seconds / -speed;
    if (played_ > whole) played_ = 0;
    head_->setValue(qRound(played_ / whole * ticks));
}

void TimeLane::mark() {
    if (!recording_) return;
    mark_ = mark_ ? std::nullopt : std::optional(head());
    mark_button_->setText(mark_ ? tr("Unmark") : tr("Mark"));
    plot();
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
    if (head_line_) head_line_->point1->setCoords(now, 0), head_line_->point2->setCoords(now, 1);
    showDifferences();
    plot_->layer(head_layer)->replot();  // the traces stay as they are
}

/// Time and value at the head against those at the mark.
void TimeLane::showDifferences() {
    const Trace* t =
        recording_ ? recording_->trace(measured_->currentData().toString().toStdString()) : nullptr;
    for (auto* f : {since_mark_, change_since_mark_}) f->setVisible(mark_ && t);
    if (!mark_ || !t) return;
    since_mark_->setFigure(time_difference(*mark_, head()), tr("since the mark"));
    change_since_mark_->setFigure(
        value_difference(recording_->time, t->values, plain(t->probe).toStdString(), t->unit, *mark_, head()),
        tr("change of %1").arg(plain(t->probe)));
}

void TimeLane::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) plot();
    QWidget::changeEvent(event);
}

void TimeLane::plotBand() {
    for (const Band& band : bands_->bands) {
        const bool current = band.unit == Unit::ampere;
        QCPAxis* axis = current ? plot_->yAxis2 : plot_->yAxis;
        const QVector<double> time(bands_->time.begin(), bands_->time.end());
        QCPGraph *low = plot_->addGraph(plot_->xAxis, axis), *high = plot_->addGraph(plot_->xAxis, axis);
        low->setData(time, QVector<double>(band.low.begin(), band.low.end()), true);
        high->setData(time, QVector<double>(band.high.begin(), band.high.end()), true);
        QColor wash = current ? theme().amber : theme().teal;
        wash.setAlpha(50);
        low->setPen(Qt::NoPen), high->setPen(Qt::NoPen);
        high->setBrush(wash);
        high->setChannelFillGraph(low);
    }
}

void TimeLane::plot() {
    style_plot(plot_);
    plot_->clearGraphs();
    plot_->clearItems();
    head_line_ = nullptr;
    for (auto* f : figures_) f->hide();
    reached_->hide();
    level_->setVisible(recording_ != nullptr);
    head_->setEnabled(recording_ != nullptr);
    mark_button_->setEnabled(recording_ != nullptr);
    mark_button_->setText(mark_ ? tr("Unmark") : tr("Mark"));
    measured_->setVisible(recording_ != nullptr);
    balance_->setVisible(recording_ != nullptr);
    if (recording_) balance_->setFigure(recording_->balance.figure(), tr("off balance"));
    showDifferences();
    if (!recording_) return plot_->replot(QCustomPlot::rpQueuedReplot);
    if (bands_ && band_wanted_->isChecked()) plotBand();
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
        graph->setPen(QPen(current ? theme().amber : inks[k % inks.size()], 1.7, styles[k % styles.size()]));
        add_plot_name(plot_, plain(t.probe), current ? theme().amber_text : inks[k % inks.size()], k);
        ++k;
    }
    plot_->axisRect()->setMinimumMargins(QMargins(0, px(16), 0, 0));
    plot_->xAxis->setLabel({});  // the time stands beside the slider, with its unit
    plot_->yAxis->setLabel(tr("V"));
    plot_->yAxis2->setLabel(tr("A"));
    plot_->yAxis2->setVisible(amps);
    plot_->rescaleAxes();
    plot_->yAxis->scaleRange(1.1), plot_->yAxis2->scaleRange(1.1);
    const auto vertical = [&](double at, Qt::PenStyle style) {
        auto* line = new QCPItemStraightLine(plot_);
        line->setPen(QPen(theme().ink, 1.2, style));
        line->point1->setCoords(at, 0), line->point2->setCoords(at, 1);
        return line;
    };
    if (mark_) vertical(*mark_, Qt::DashLine);
    head_line_ = vertical(head(), Qt::SolidLine);
    head_line_->setLayer(head_layer);
    showMeasurements();
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void TimeLane::showMeasurements() {
    const Trace* measured =
        recording_ ? recording_->trace(measured_->currentData().toString().toStdString()) : nullptr;
    reached_->hide();
    if (!measured) return;
    if (!level_->text().isEmpty()) {
        const auto reached =
            threshold_figure(recording_->time, measured->values, plain(measured->probe).toStdString(),
                             measured->unit, level_->value(), mark_.value_or(-1e300));
        if (reached)
            reached_->setFigure(*reached, tr("reached after"));
        else
            reached_->setText(tr("never reached"));
        reached_->show();
    }
    std::size_t shown = 0;
    // a circuit that switches is measured where its start has died away, or from the mark on
    const bool switches = recording_->happenings.size() > 6;
    const double from = mark_.value_or(switches ? recording_->time.back() / 2 : recording_->time.front());
    const auto all = measurement_figures(measure(recording_->time, measured->values, from),
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

}  // namespace elkit
