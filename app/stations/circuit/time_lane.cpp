#include "app/stations/circuit/time_lane.hpp"

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
#include "app/widgets/offer.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "app/widgets/trace_plot.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "design/file.hpp"
#include "engine/measure.hpp"
#include "formats/waveforms.hpp"
#include "quantity/brightness.hpp"

namespace elkit {
namespace {
constexpr int frame_count = 600;  // pictures kept of a run
constexpr std::size_t most_traces = 6, usual_traces = 4, enough = 2;
constexpr int band_builds = 40;

QString plain(const std::string& probe) { return QString::fromStdString(probe.substr(probe.find(':') + 1)); }
}  // namespace

TimeLane::TimeLane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAcceptDrops(true);
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(10, 8, 10, 6);
    across->setSpacing(12);
    across->addWidget(tools());
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    across->addLayout(column, 1);
    plot_ = new TracePlot;
    plot_->setMinimumHeight(px(90));
    plot_->setAccessibleName(tr("Traces of the recording"));
    plot_->setAccessibleDescription(tr("Plus and minus zoom in time, left and right move, 0 shows all"));
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
    column->addLayout(scrubber());
    offer_ = new Offer(plot_);
    column->addWidget(offer_, 1);
    readings_ = readings();
    column->addWidget(readings_);
    clock_.setInterval(16);
    connect(&clock_, &QTimer::timeout, this, &TimeLane::advance);
    connect(head_, &QSlider::valueChanged, this, &TimeLane::showHead);
    connect(measured_, &QComboBox::activated, this, &TimeLane::plot);
    connect(plot_, &TracePlot::headWanted, this, [this](double seconds) {
        if (recording_) showAt(std::clamp(seconds / recording_->time.back(), 0.0, 1.0));
    });
    connect(offer_, &Offer::asked, record_, &QPushButton::click);
    connect(&session_, &Session::designChanged, this, &TimeLane::forget);
    forget();
}

/// What was recorded is of another design.
void TimeLane::forget() {
    run_.stop(), band_.stop(), clock_.stop();
    record_->setText(tr("Record")), play_->setText(tr("Play"));
    const bool showed = recording_ != nullptr || bands_.has_value();
    recording_.reset(), bands_.reset(), mark_.reset();
    chosen_by_hand_ = false;
    if (showed) emit momentShown(nullptr);
    say(
        tr("Nothing recorded yet. Record what moves here, or drag a line or part of the stave here to see it "
           "in time (T on it does the same)."));
    plot();
}

/// Over the traces, or in their place while there are none.
void TimeLane::say(const QString& words) {
    trouble_->setText(recording_ ? words : QString());
    if (recording_)
        offer_->showWanted();
    else
        offer_->say(words, record_->text());
}

double TimeLane::head() const { return recording_ ? recording_->time.back() * head_->value() / ticks : 0; }

/// Without a choice by hand: the nets that chips and transistors act on, how the first light looks
/// and what the lights take; nets of
/// any kind only where that is not enough.
void TimeLane::chooseProbes() {
    if (chosen_by_hand_) return;
    probes_.clear();
    const auto add = [&](const std::string& probe) {
        if (probes_.size() < usual_traces &&
            std::find(probes_.begin(), probes_.end(), probe) == probes_.end())
            probes_.push_back(probe);
    };
    const auto& parts = session_.design().circuit.parts;
    for (const Role role : {Role::chip, Role::transistor})
        for (const Part& p : parts)
            if (is(p, role))
                for (const std::string& trace : part_kind(p.kind)->traces)
                    add("net:" + p.net(trace.substr(trace.find(':') + 1)));
    std::erase_if(probes_, [](const std::string& p) { return p == "net:"; });
    for (const char* quantity : {"light:", "part:"})
        for (const Part& p : parts)
            if (is(p, Role::light) && probes_.size() < usual_traces) {
                add(quantity + p.designator);
                if (quantity == std::string("light:")) break;  // one light tells how it looks
            }
    for (const auto& net : session_.design().circuit.nets())
        if (probes_.size() < enough) add("net:" + net);
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

/// In which situation it was recorded, and from where.
QString TimeLane::source() const {
    const int at = session_.situation();
    const auto all = session_.situations();
    const QString where = at >= 0 && at < static_cast<int>(all.size())
                              ? QString::fromStdString(all[static_cast<std::size_t>(at)].name)
                              : tr("as set by hand");
    return tr("%1, %2, %3").arg(where, from_->currentText(), span_->text());
}

void TimeLane::start() {
    chooseProbes();
    recorded_ = source();
    clock_.stop();
    play_->setText(tr("Play"));
    record_->setText(tr("Stop"));
    say(tr("recording …"));
    run_.start(
        [wanted = request(), circuit = session_.design().circuit,
         c = session_.conditions()](const Progress& progress) {
            return simulate(circuit, known_catalogue(), c, wanted, {}, progress);
        },
        [this](Result<Recording> run) { arrived(std::move(run)); },
        [this](double fraction) { say(tr("recording … %1 %").arg(qRound(100 * fraction))); });
}

void TimeLane::arrived(Result<Recording> run) {
    record_->setText(tr("Record"));
    const QString words =
        run ? tr("Recorded: %1").arg(recorded_) : QString::fromStdString(run.error().text());
    recording_ = run ? std::make_shared<Recording>(std::move(run).value()) : nullptr;
    say(words);
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
    if (!wanted) band_.stop();
    plot();
}

void TimeLane::startBand() {
    say(tr("building a batch on paper …"));
    band_.start(
        [wanted = request(), circuit = session_.design().circuit,
         c = session_.conditions()](const Progress& progress) {
            return bands(circuit, known_catalogue(), c, wanted, band_builds, 400, 1, progress);
        },
        [this](Result<Bands> done) {
            say(done ? tr("shaded: 90 % of %1 copies").arg(band_builds)
                     : QString::fromStdString(done.error().text()));
            if (done) bands_ = std::move(done).value();
            plot();
        },
        [this](double fraction) { say(tr("building a batch on paper … %1 %").arg(qRound(100 * fraction))); });
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
    plot_->setMark(mark_);
    showDifferences();
    showMeasurements();
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
    plot_->setHead(now);
    showDifferences();
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

/// Light as the eye takes it, in the LED's colour; a switched net in a lane that takes little room.
TraceCurve TimeLane::curve(const Trace& trace, int number) const {
    const QList<QColor> inks{theme().teal, theme().rust, theme().ink, theme().muted};
    TraceCurve c;
    c.name = plain(trace.probe);
    c.unit = trace.unit;
    c.values = trace.values;
    c.ink = trace.unit == Unit::ampere ? theme().amber_text : inks[number % inks.size()];
    if (trace.probe.starts_with("light:")) {
        const double most = *std::max_element(trace.values.begin(), trace.values.end());
        for (double& v : c.values) v = most > 0 ? perceived(v / most) : 0;
        const Part* part = session_.design().circuit.find(plain(trace.probe).toStdString());
        const LedType* led = part ? light_type(*part) : nullptr;
        c.name = tr("%1 light").arg(c.name);
        c.look = TraceCurve::Look::light;
        c.ink = led ? QColor(QString::fromStdString(led->rgb)) : theme().amber;
    } else if (trace.unit == Unit::volt && jumps_between_levels(recording_->time, trace.values)) {
        c.look = TraceCurve::Look::levels;
    }
    if (bands_ && band_wanted_->isChecked() && c.look != TraceCurve::Look::light)
        for (const Band& band : bands_->bands)
            if (band.probe == trace.probe) c.band_time = bands_->time, c.low = band.low, c.high = band.high;
    return c;
}

void TimeLane::plot() {
    measurements_ = 0;
    fitMeasurements();
    reached_->hide();
    level_->setVisible(recording_ != nullptr);
    head_->setVisible(recording_ != nullptr);
    laid_over_->setEnabled(recording_ != nullptr);
    mark_button_->setEnabled(recording_ != nullptr);
    mark_button_->setText(mark_ ? tr("Unmark") : tr("Mark"));
    measured_->setVisible(recording_ != nullptr);
    balance_->setVisible(recording_ != nullptr);
    if (recording_) balance_->setFigure(recording_->balance.figure(), tr("off balance"));
    showDifferences();
    std::vector<TraceCurve> curves;
    if (recording_)
        for (const Trace& t : recording_->traces) curves.push_back(curve(t, static_cast<int>(curves.size())));
    plot_->setCurves(recording_ ? recording_->time : std::vector<double>(), std::move(curves),
                     laid_over_->isChecked());
    if (!recording_) return;
    plot_->setMark(mark_);
    plot_->setHead(head());
    showMeasurements();
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
                figures_[shown++]->setFigure(f, caption);
            }
    measurements_ = shown;
    fitMeasurements();
}

/// As many as there is room for, whole.
void TimeLane::fitMeasurements() {
    const QLayout* row = readings_->layout();
    int room = readings_->width();
    for (int k = 0; k < row->count(); ++k)
        if (QWidget* w = row->itemAt(k)->widget(); w && !w->isHidden())
            if (std::find(figures_.begin(), figures_.end(), w) == figures_.end())
                room -= w->sizeHint().width() + row->spacing();
    for (std::size_t k = 0; k < figures_.size(); ++k) {
        room -= figures_[k]->sizeHint().width() + row->spacing();
        figures_[k]->setVisible(k < measurements_ && room >= 0);
    }
}

void TimeLane::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fitMeasurements();
}

}  // namespace elkit
