#include "app/stations/build/build_station.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDateTime>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QStyle>
#include <QTreeWidget>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/picture_view.hpp"
#include "design/fields.hpp"
#include "quantity/parse.hpp"

namespace elkit {
namespace {

QLabel* wrapped(const char* look) {
    auto* l = label({}, look);
    l->setWordWrap(true);
    return l;
}

Unit unit_of(CheckKind kind) {
    return kind == CheckKind::volts ? Unit::volt : (kind == CheckKind::amps ? Unit::ampere : Unit::ohm);
}

QString reading_mark(Reading reading) {
    return reading == Reading::within
               ? QStringLiteral("  ✓")
               : (reading == Reading::outside ? QStringLiteral("  ✗ outside") : QString());
}

}  // namespace

BuildStation::BuildStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Build"), parent) {
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    tree_ = new QTreeWidget;
    tree_->setColumnCount(1);
    tree_->header()->hide();
    tree_->setAccessibleName(tr("Build steps"));
    tree_->setRootIsDecorated(false);
    tree_->setIndentation(px(14));
    row->addWidget(tree_, 4);
    row->addWidget(detail(), 5);
    body()->addLayout(row, 1);
    connect(tree_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (filling_ || !item || item->data(0, Qt::UserRole).toString().isEmpty()) return;
        current_ = item->data(0, Qt::UserRole).toString();
        showStep();
    });
    connect(tree_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item) {
        if (filling_) return;
        current_ = item->data(0, Qt::UserRole).toString();
        const bool done = item->checkState(0) == Qt::Checked;
        // later, since the edit fills the tree anew and this item would go while it still speaks
        QMetaObject::invokeMethod(
            this,
            [this, done] {
                record(done ? tr("tick a step") : tr("untick a step"),
                       [done](StepRecord& r) { r.done = done; });
            },
            Qt::QueuedConnection);
    });
}

QWidget* BuildStation::detail() {
    auto* card = new Card({});
    title_ = wrapped("bold");
    text_ = wrapped("");
    polarity_ = wrapped("teal");
    caution_ = wrapped("rust");
    probes_ = wrapped("muted");
    expected_ = new FigureLabel(session(), FigureLabel::Size::large);
    measured_ = new QLineEdit;
    measured_->setObjectName(QStringLiteral("measured"));
    measured_->setPlaceholderText(tr("measured"));
    measured_->setMaximumWidth(px(110));
    heard_ = new QComboBox;
    heard_->addItems({tr("not tried"), tr("it beeped"), tr("silent")});
    heard_->setAccessibleName(tr("what the meter did"));
    verdict_ = wrapped("bold");
    note_ = new QLineEdit;
    note_->setPlaceholderText(tr("note for this step"));
    note_->setAccessibleName(tr("note for this step"));
    done_ = new QCheckBox(tr("done"));
    legs_ = new PictureView;
    legs_->setMaximumScale(2.7);
    legs_->setFixedSize(px(196), px(172));
    legs_->setAccessibleName(tr("Which leg goes where"));
    auto* told = new QVBoxLayout;
    for (QLabel* l : {title_, text_, polarity_, caution_, probes_}) told->addWidget(l);
    told->addStretch(1);
    auto* head = new QHBoxLayout;
    head->addLayout(told, 1);
    head->addWidget(legs_, 0, Qt::AlignTop);
    card->body()->addLayout(head);
    auto* reading = new QHBoxLayout;
    reading->addWidget(expected_);
    reading->addWidget(measured_);
    reading->addWidget(heard_);
    reading->addWidget(verdict_, 1);
    card->body()->addLayout(reading);
    picture_ = new PictureView;
    picture_->setAccessibleName(tr("Where on the board"));
    picture_->setMaximumScale(11);
    card->body()->addWidget(picture_, 1);
    auto* foot = new QHBoxLayout;
    foot->addWidget(note_, 1);
    foot->addWidget(done_);
    card->body()->addLayout(foot);
    connect(done_, &QCheckBox::clicked, this, [this](bool on) {
        record(on ? tr("tick a step") : tr("untick a step"), [on](StepRecord& r) { r.done = on; });
    });
    connect(note_, &QLineEdit::editingFinished, this, [this] {
        const BuildStep* step = current();
        const StepRecord* old = step ? session().design().record(step->id) : nullptr;
        if (step && note_->text().toStdString() != (old ? old->note : std::string()))
            record(tr("note a step"), [this](StepRecord& r) { r.note = note_->text().toStdString(); });
    });
    connect(measured_, &QLineEdit::returnPressed, this, [this] {
        const BuildStep* step = current();
        if (!step || !step->check) return;
        if (measured_->text().trimmed().isEmpty())
            return record(tr("clear a reading"), [](StepRecord& r) { r.measured.reset(); });
        auto value = parse_quantity(measured_->text().toStdString(), unit_of(step->check->kind));
        measured_->setProperty("bad", !value);
        measured_->style()->unpolish(measured_);
        measured_->style()->polish(measured_);
        if (!value) return verdict_->setText(QString::fromStdString(value.error().text()));
        record(tr("enter a reading"), [v = value.value()](StepRecord& r) { r.measured = v; });
    });
    connect(heard_, &QComboBox::activated, this, [this](int index) {
        record(tr("enter a reading"), [index](StepRecord& r) {
            if (index == 0)
                r.measured.reset();
            else
                r.measured = index == 1 ? 1.0 : 0.0;
        });
    });
    return card;
}

const BuildStep* BuildStation::current() const {
    if (!steps_) return nullptr;
    for (const auto& s : *steps_)
        if (QString::fromStdString(s.id) == current_) return &s;
    return nullptr;
}

void BuildStation::record(const QString& what, const std::function<void(StepRecord&)>& change) {
    const QString now = QDateTime::currentDateTimeUtc().toString(Qt::ISODate);
    session().edit(with_record(session().design(), current_.toStdString(), now.toStdString(), change), what);
}

void BuildStation::focusRef(const QString& ref) {
    current_ = ref.mid(ref.indexOf(QLatin1Char(':')) + 1);
    shown_.clear();
    refresh();
    measured_->setFocus();
}

void BuildStation::fillTree() {
    const auto& steps = *steps_;
    std::vector<std::string> now;
    for (const auto& s : steps) {
        const StepRecord* r = session().design().record(s.id);
        now.push_back(s.id + s.title + (r && r->done ? "1" : "0") +
                      std::to_string(static_cast<int>(judge(s, r))));
    }
    if (now == shown_) return;
    shown_ = std::move(now);
    filling_ = true;
    tree_->clear();
    QTreeWidgetItem* phase = nullptr;
    int number = 0;
    std::optional<Phase> last;
    for (const auto& s : steps) {
        if (!last || *last != s.phase) {
            last = s.phase;
            phase = new QTreeWidgetItem(tree_, {QString::fromStdString(phase_name(s.phase))});
            QFont bold = font();
            bold.setWeight(QFont::DemiBold);
            phase->setFont(0, bold);
            phase->setForeground(0, theme().teal);
            phase->setFlags(Qt::ItemIsEnabled);
        }
        const StepRecord* r = session().design().record(s.id);
        const Reading reading = judge(s, r);
        auto* item =
            new QTreeWidgetItem(phase, {QStringLiteral("%1  %2%3")
                                            .arg(++number)
                                            .arg(QString::fromStdString(s.title), reading_mark(reading))});
        item->setData(0, Qt::UserRole, QString::fromStdString(s.id));
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        item->setCheckState(0, r && r->done ? Qt::Checked : Qt::Unchecked);
        if (reading == Reading::outside) item->setForeground(0, theme().rust);
        if (QString::fromStdString(s.id) == current_) tree_->setCurrentItem(item);
    }
    tree_->expandAll();
    filling_ = false;
}

void BuildStation::showStep() {
    const BuildStep* step = current();
    if (!step) return;
    const StepRecord* r = session().design().record(step->id);
    title_->setText(QString::fromStdString(step->title));
    text_->setText(QString::fromStdString(step->text));
    polarity_->setText(QString::fromStdString(step->polarity));
    polarity_->setVisible(!step->polarity.empty());
    caution_->setText(step->caution.empty() ? QString()
                                            : tr("Take care: %1").arg(QString::fromStdString(step->caution)));
    caution_->setVisible(!step->caution.empty());
    legs_->setDrawing(step->legs);
    legs_->setVisible(!step->legs.items.empty());
    const bool check = step->check.has_value(), number = check && step->check->expected;
    probes_->setVisible(check);
    expected_->setVisible(number);
    measured_->setVisible(number);
    heard_->setVisible(check && !number);
    verdict_->setVisible(check);
    if (check)
        probes_->setText(
            tr("Red probe: %1     Black probe: %2")
                .arg(QString::fromStdString(step->check->red), QString::fromStdString(step->check->black)));
    if (number) {
        expected_->setFigure(*step->check->expected, tr("expected"));
        measured_->setAccessibleName(tr("measured value for %1").arg(title_->text()));
        if (!measured_->hasFocus() || !measured_->isModified())
            measured_->setText(r && r->measured ? QString::fromStdString(format_quantity(
                                                      *r->measured, step->check->expected->unit))
                                                : QString());
    }
    heard_->setCurrentIndex(!r || !r->measured ? 0 : (*r->measured > 0.5 ? 1 : 2));
    const Reading reading = judge(*step, r);
    verdict_->setText(
        reading == Reading::none
            ? (check && !number
                   ? (step->check->kind == CheckKind::beep ? tr("must beep") : tr("must stay silent"))
                   : tr("type it and press Enter"))
            : (reading == Reading::within ? tr("✓ as expected") : tr("✗ outside the band")));
    verdict_->setStyleSheet(
        QStringLiteral("color: %1")
            .arg((reading == Reading::outside ? theme().rust
                                              : (reading == Reading::within ? theme().teal : theme().muted))
                     .name()));
    note_->setText(r ? QString::fromStdString(r->note) : QString());
    done_->setChecked(r && r->done);
    const auto board = session().ask(session().boardQuery());
    if (!board || board->sides.empty()) return;
    const bool solder_side = step->ref.starts_with("net:") || step->phase == Phase::unpowered;
    picture_->setDrawing((solder_side ? board->sides.back() : board->sides.front()).picture);
    picture_->setHighlight(QString::fromStdString(step->ref));
}

KeyFigure BuildStation::keyFigure() {
    const auto steps = session().ask(session().stepsQuery(), Urgency::key_figure);
    if (!steps) return {steps.there() ? tr("no steps yet") : tr("computing …"), steps.current()};
    int done = 0;
    for (const auto& s : *steps)
        if (const StepRecord* r = session().design().record(s.id); r && r->done) ++done;
    return {tr("step %1 of %2").arg(done).arg(steps->size()), steps.current()};
}

void BuildStation::refresh() {
    const StepsQuery query = session().stepsQuery();
    const auto shown = session().ask(query);
    dim(tree_, !shown.current());
    if (!shown && shown.there()) return lackFor(shown.error());
    if (!shown) return setSubtitle(tr("computing …"));
    lackNothing();
    // nothing here follows a slider: only other steps, other records, another theme
    Digester content;
    content << query.key() << content_digest(session().design().records) << shown.current();
    if (!outdated(content.digest()) && !shown_.empty()) return;
    steps_ = *shown;
    int done = 0, outside = 0;
    for (const auto& s : *steps_) {
        const StepRecord* r = session().design().record(s.id);
        done += r && r->done;
        outside += judge(s, r) == Reading::outside;
    }
    setSubtitle(outside ? tr("%1 of %2 steps done · %3 readings outside their band")
                              .arg(done)
                              .arg(steps_->size())
                              .arg(outside)
                        : tr("%1 of %2 steps done").arg(done).arg(steps_->size()));
    if (!current()) current_ = QString::fromStdString(steps_->front().id);
    fillTree();
    showStep();
}

static void show_build(Session& session, Station& station) {
    session.settle();
    station.focusRef(QStringLiteral("step:volts.L1"));
}

StationInfo build_station() {
    return {QStringLiteral("build"),
            QObject::tr("Build"),
            [](Session& s) { return new BuildStation(s); },
            {{QStringLiteral("build"), QStringLiteral("pier-lantern"), show_build, false, false}}};
}

}  // namespace elkit
