#include "app/shell/findings_panel.hpp"

#include <QFrame>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QStyle>
#include <QToolButton>
#include <algorithm>
#include <utility>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "design/fields.hpp"

namespace elkit {
namespace {

QLabel* wrapped(const QString& text, const char* look) {
    auto* l = label(text, look);
    l->setWordWrap(true);
    l->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return l;
}

const char* severity_word(Severity s) {
    return s == Severity::error ? "error" : (s == Severity::warning ? "warning" : "note");
}

/// All that a card shows of a finding.
std::string said(const Finding& f) {
    std::string all = f.id + severity_word(f.severity) + f.station + f.ref;
    for (const std::string* words : {&f.title, &f.detail, &f.known, &f.situation}) all += '\n' + *words;
    for (const Remedy& remedy : f.remedies) all += '\n' + remedy.label;
    return all;
}

/// Breaks the words of a button that is wider than that where a line is full.
void in_lines(QPushButton& button, int widest) {
    if (button.sizeHint().width() <= widest) return;
    const QStringList words = button.text().split(QLatin1Char(' '));
    QString before, line;
    for (const QString& word : words) {
        const QString longer = line.isEmpty() ? word : line + QLatin1Char(' ') + word;
        button.setText(longer);
        if (!line.isEmpty() && button.sizeHint().width() > widest)
            before += line + QLatin1Char('\n'), line = word;
        else
            line = longer;
    }
    button.setText(before + line);
}

}  // namespace

FindingsPanel::FindingsPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("findings"));
    setAttribute(Qt::WA_StyledBackground);
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(0);
    narrow_ = new QPushButton;
    narrow_->setObjectName(QStringLiteral("foldedFindings"));
    narrow_->setToolTip(tr("Show the findings (F8)"));
    connect(narrow_, &QPushButton::clicked, this, [this] { setFolded(false); });
    across->addWidget(narrow_, 0, Qt::AlignTop);
    open_ = new QWidget;
    across->addWidget(open_);
    auto* column = new QVBoxLayout(open_);
    column->setContentsMargins(4, 14, 14, 8);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Findings"), "panel"));
    count_ = label({}, "muted");
    head->addWidget(count_);
    head->addStretch(1);
    auto* fold = new QToolButton;
    fold->setArrowType(Qt::RightArrow);
    fold->setAccessibleName(tr("fold the findings to their count"));
    fold->setToolTip(tr("Fold to the count (F8)"));
    connect(fold, &QToolButton::clicked, this, [this] { setFolded(true); });
    head->addWidget(fold);
    column->addLayout(head);
    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inside = new QWidget;
    inside->setObjectName(QStringLiteral("benchInside"));
    list_ = new QVBoxLayout(inside);
    list_->setContentsMargins(0, 4, 4, 4);
    list_->setSpacing(10);
    nothing_ = wrapped(tr("Everything checked holds. The review runs again with every change."), "muted");
    nothing_->hide();
    list_->addWidget(nothing_);
    list_->addStretch(1);
    scroll->setWidget(inside);
    column->addWidget(scroll, 1);
    for (auto signal : {&Session::changed, &Session::arrived})
        connect(&session_, signal, this, &FindingsPanel::refresh);
    setFolded(QSettings().value(QStringLiteral("findings/folded"), false).toBool());
}

void FindingsPanel::setFolded(bool folded) {
    folded_ = folded;
    if (!short_of_room_) QSettings().setValue(QStringLiteral("findings/folded"), folded);
    apply();
}

void FindingsPanel::setShortOfRoom(bool is_short) {
    if (is_short == short_of_room_) return;
    short_of_room_ = is_short;
    folded_ = is_short || QSettings().value(QStringLiteral("findings/folded"), false).toBool();
    apply();
}

void FindingsPanel::apply() {
    open_->setVisible(!folded_);
    narrow_->setVisible(folded_);
    setFixedWidth(px(folded_ ? 74 : 306));
}

void FindingsPanel::refresh() {
    std::vector<std::string> now;
    int open = 0, known = 0;
    for (const Finding& f : session_.findings()) {
        now.push_back(said(f));
        (f.known.empty() ? (f.severity == Severity::note ? known : open) : known) += 1;
    }
    if (!session_.findingsCurrent())
        count_->setText(tr("reviewing …"));
    else
        count_->setText(open ? tr("%1 to settle · %2 noted").arg(open).arg(known)
                             : tr("nothing to settle · %1 noted").arg(known));
    narrow_->setText(session_.findingsCurrent() ? tr("%1\nto settle\n%2\nnoted").arg(open).arg(known)
                                                : tr("review-\ning …"));
    narrow_->setAccessibleName(tr("findings: %1 to settle, %2 noted").arg(open).arg(known));
    if (const bool some = open > 0; narrow_->property("open") != some) {
        narrow_->setProperty("open", some);
        narrow_->style()->unpolish(narrow_), narrow_->style()->polish(narrow_);
    }
    nothing_->setVisible(now.empty() && session_.findingsCurrent());
    if (now == shown_) return;
    shown_ = std::move(now);
    // a card that says the same stays: making one takes long, and most of them outlive an edit
    auto before = std::exchange(cards_, {});
    for (std::size_t k = 0; k < shown_.size(); ++k) {
        const auto same = before.find(shown_[k]);
        QWidget* one = same == before.end() ? card(session_.findings()[k]) : same->second;
        if (same != before.end()) before.erase(same);
        cards_[shown_[k]] = one;
        const int place = static_cast<int>(k);
        if (list_->indexOf(one) == place) continue;
        list_->removeWidget(one);
        list_->insertWidget(place, one);
    }
    for (const auto& [words, old] : before) {
        list_->removeWidget(old);
        old->hide();  // not to be seen until it is deleted
        old->deleteLater();
    }
}

QWidget* FindingsPanel::card(const Finding& f) {
    auto* frame = new QFrame(list_->parentWidget());
    frame->setObjectName(QStringLiteral("finding"));
    frame->setProperty("severity", f.known.empty() ? severity_word(f.severity) : "known");
    frame->setAccessibleName(QString::fromStdString(f.title));
    auto* column = new QVBoxLayout(frame);
    column->setContentsMargins(12, 9, 10, 9);
    column->setSpacing(5);
    column->addWidget(
        wrapped((f.known.empty() ? QString() : tr("Known: ")) + QString::fromStdString(f.title), "bold"));
    column->addWidget(wrapped(QString::fromStdString(f.known.empty() ? f.detail : f.known), "small"));
    if (!f.situation.empty())
        column->addWidget(wrapped(tr("in: %1").arg(QString::fromStdString(f.situation)), "muted"));
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    constexpr int row_width = 246;  // of buttons, in a panel as narrow as it gets
    int in_row = 0;
    const QString id = QString::fromStdString(f.id);
    const auto add = [&](const QString& text, const char* look, auto action) {
        auto* b = new QPushButton(text, frame);
        b->setObjectName(QLatin1String(look));
        QObject::connect(b, &QPushButton::clicked, this, action);
        b->ensurePolished();  // with its margins
        in_lines(*b, px(row_width));
        const int width = b->sizeHint().width() + buttons->spacing();
        if (buttons->count() && in_row + width > px(row_width)) {
            buttons->addStretch(1);
            column->addLayout(buttons);
            buttons = new QHBoxLayout;
            buttons->setSpacing(6);
            in_row = 0;
        }
        in_row += width;
        buttons->addWidget(b);
    };
    if (f.known.empty()) {
        bool first = true;
        for (const Remedy& remedy : f.remedies) {
            add(QString::fromStdString(remedy.label), first ? "primary" : "",
                [this, id = f.id, label = remedy.label] { work(id, label); });
            first = false;
        }
        if (f.severity != Severity::error || !f.remedies.empty())
            add(tr("I know, because…"), "", [this, id] {
                bool ok = false;
                const QString reason =
                    QInputDialog::getText(this, tr("I know, because…"),
                                          tr("Your reason, kept in the design:"), QLineEdit::Normal, {}, &ok);
                if (ok && !reason.trimmed().isEmpty()) decide(id, reason.trimmed());
            });
    } else {
        add(tr("Reopen"), "", [this, id] { decide(id, {}); });
    }
    add(tr("Show"), "plain",
        [this, station = QString::fromStdString(f.station), ref = QString::fromStdString(f.ref)] {
            emit linkFollowed(station, ref);
        });
    buttons->addStretch(1);
    column->addLayout(buttons);
    return frame;
}

/// Works a remedy out off the interface's thread; it is dropped if the design changes meanwhile.
void FindingsPanel::work(const std::string& id, const std::string& label) {
    const auto& all = session_.findings();  // as it is now: the card may have outlived an edit
    const auto finding = std::find_if(all.begin(), all.end(), [&](const Finding& f) { return f.id == id; });
    if (finding == all.end()) return;
    const auto& remedies = finding->remedies;
    const auto found = std::find_if(remedies.begin(), remedies.end(),
                                    [&](const Remedy& remedy) { return remedy.label == label; });
    if (found == remedies.end()) return;
    const Remedy& remedy = *found;
    if (!remedy_.running()) session_.beginWork();
    remedy_.start([remedy, design = session_.design()](const Progress&) { return remedy.apply(design); },
                  [this, label = QString::fromStdString(remedy.label),
                   before = session_.design()](Result<Design> next) {
                      session_.endWork();
                      if (session_.design() == before) session_.edit(next, label);
                  });
}

void FindingsPanel::decide(const QString& id, const QString& reason) {
    session_.edit(with_decision(session_.design(), id.toStdString(), reason.toStdString()),
                  reason.isEmpty() ? tr("reopen a finding") : tr("settle a finding"));
}

}  // namespace elkit
