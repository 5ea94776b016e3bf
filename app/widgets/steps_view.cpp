#include "app/widgets/steps_view.hpp"

#include <QCheckBox>
#include <QComboBox>
#include <QDateTime>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
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

StepsView::StepsView(Session& session, Qt::Orientation orientation, PhaseNames phases, QWidget* parent)
    : QWidget(parent), session_(session), phases_(phases) {
    auto* row = new QBoxLayout(
        orientation == Qt::Horizontal ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom, this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    tree_ = new QTreeWidget;
    tree_->setColumnCount(1);
    tree_->header()->hide();
    tree_->setAccessibleName(tr("Build steps"));
    tree_->setRootIsDecorated(false);
    tree_->setIndentation(px(14));
    row->addWidget(tree_, 4);
    row->addWidget(detail(), orientation == Qt::Horizontal ? 5 : 0);
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

QWidget* StepsView::detail() {
    auto* card = new Card({});
    title_ = wrapped("bold");
    text_ = wrapped("");
    polarity_ = wrapped("teal");
    caution_ = wrapped("rust");
    probes_ = wrapped("muted");
    expected_ = new FigureLabel(session_, FigureLabel::Size::large);
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
    learnt_ = wrapped("muted");
    card->body()->addWidget(learnt_);
    room_ = new QVBoxLayout;
    card->body()->addLayout(room_, 1);
    auto* foot = new QHBoxLayout;
    foot->addWidget(note_, 1);
    foot->addWidget(done_);
    card->body()->addLayout(foot);
    connect(done_, &QCheckBox::clicked, this, [this](bool on) {
        record(on ? tr("tick a step") : tr("untick a step"), [on](StepRecord& r) { r.done = on; });
    });
    connect(note_, &QLineEdit::editingFinished, this, [this] {
        const BuildStep* step = current();
        const StepRecord* old = step ? session_.design().record(step->id) : nullptr;
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

const BuildStep* StepsView::current() const {
    if (!steps_) return nullptr;
    for (const auto& s : *steps_)
        if (QString::fromStdString(s.id) == current_) return &s;
    return nullptr;
}

void StepsView::record(const QString& what, const std::function<void(StepRecord&)>& change) {
    const QString now = QDateTime::currentDateTimeUtc().toString(Qt::ISODate);
    session_.edit(with_record(session_.design(), current_.toStdString(), now.toStdString(), change), what);
}

void StepsView::choose(const QString& id) {
    current_ = id;
    shown_.clear();
    if (!steps_) return;
    fillTree();
    showStep();
}

void StepsView::focusReading() { measured_->setFocus(); }

void StepsView::setDimmed(bool dimmed) { dim(tree_, dimmed); }

int StepsView::done() const {
    int done = 0;
    for (const BuildStep& s : steps_.value_or(std::vector<BuildStep>{}))
        if (const StepRecord* r = session_.design().record(s.id); r && r->done) ++done;
    return done;
}

QString StepsView::summary() const {
    if (!steps_) return {};
    int outside = 0;
    for (const auto& s : *steps_) outside += judge(s, session_.design().record(s.id)) == Reading::outside;
    const QString told = tr("%1 of %2 steps done").arg(done()).arg(steps_->size());
    return outside ? tr("%1 · %2 readings outside their band").arg(told).arg(outside) : told;
}

void StepsView::setSteps(const std::vector<BuildStep>& steps) {
    steps_ = steps;
    if (!current() && !steps.empty()) current_ = QString::fromStdString(steps.front().id);
    fillTree();
    showStep();
}

void StepsView::fillTree() {
    const auto& steps = *steps_;
    std::vector<std::string> now;
    for (const auto& s : steps) {
        const StepRecord* r = session_.design().record(s.id);
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
            phase = new QTreeWidgetItem(tree_, {QString::fromStdString(phases_(s.phase))});
            QFont bold = font();
            bold.setWeight(QFont::DemiBold);
            phase->setFont(0, bold);
            phase->setForeground(0, theme().teal);
            phase->setFlags(Qt::ItemIsEnabled);
        }
        const StepRecord* r = session_.design().record(s.id);
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

void StepsView::showStep() {
    const BuildStep* step = current();
    if (!step) return;
    const StepRecord* r = session_.design().record(step->id);
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
    learnt_->setText(QString::fromStdString(step->learnt));
    learnt_->setVisible(!step->learnt.empty());
    // once the list has the room that this step leaves it
    QMetaObject::invokeMethod(
        this, [this] { tree_->scrollToItem(tree_->currentItem()); }, Qt::QueuedConnection);
    emit stepShown();
}

}  // namespace elkit
