#include "app/shell/situation_chips.hpp"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QMenu>
#include <QPushButton>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "situations/edit.hpp"
#include "situations/words.hpp"

namespace elkit {

SituationChips::SituationChips(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(6);
    setMinimumWidth(px(90));
    setMinimumHeight(px(28));
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    keep_ = new QPushButton(tr("keep as…"));
    keep_->setObjectName(QStringLiteral("pill"));
    keep_->setAccessibleName(tr("keep these conditions as a situation"));
    keep_->setToolTip(tr("Keep these conditions as a situation"));
    connect(keep_, &QPushButton::clicked, this, &SituationChips::keep);
    more_ = new QPushButton;
    more_->setObjectName(QStringLiteral("pill"));
    connect(more_, &QPushButton::clicked, this, &SituationChips::openMore);
    row_->addWidget(more_);
    row_->addWidget(keep_);
    row_->addStretch(1);
    more_->hide();
    for (auto signal : {&Session::changed, &Session::arrived})
        connect(&session_, signal, this, &SituationChips::refresh);
    refresh();
}

void SituationChips::refresh() {
    const std::vector<Situation> now = session_.situations();
    if (now != shown_ || chips_.empty()) {
        shown_ = now;
        rebuild();
    }
    const int active = session_.situation();
    for (std::size_t k = 0; k < chips_.size(); ++k) chips_[k]->setChecked(static_cast<int>(k) == active);
    keep_->setVisible(active < 0 && !shown_.empty());
    fit();
}

/// Shows the chips that fit, the present one among them, and how many more there are.
void SituationChips::fit() {
    const int gap = row_->spacing();
    int room = width() - (keep_->isHidden() ? 0 : keep_->sizeHint().width() + gap), all = 0;
    for (QPushButton* chip : chips_) all += chip->sizeHint().width() + gap;
    const bool short_of_room = all > room;
    if (short_of_room) room -= px(44) + gap;
    std::size_t hidden = 0;
    for (QPushButton* chip : chips_)
        if (chip->isChecked()) room -= chip->sizeHint().width() + gap;
    for (QPushButton* chip : chips_) {
        const int width = chip->sizeHint().width() + gap;
        const bool fits = chip->isChecked() || !short_of_room || room >= width;
        if (!chip->isChecked()) room -= fits ? width : room;  // after the first that does not, none
        chip->setVisible(fits);
        hidden += !fits;
    }
    more_->setVisible(hidden > 0);
    more_->setText(QStringLiteral("+%1").arg(hidden));
    more_->setAccessibleName(tr("%1 more situations").arg(hidden));
}

void SituationChips::openMore() {
    QMenu menu(this);
    for (std::size_t k = 0; k < chips_.size(); ++k)
        if (chips_[k]->isHidden())
            menu.addAction(chips_[k]->text(), this, [this, situation = shown_[k]] {
                session_.choose(situation);
                refresh();
            });
    menu.exec(more_->mapToGlobal(QPoint(0, more_->height())));
}

void SituationChips::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fit();
}

void SituationChips::rebuild() {
    for (QPushButton* old : chips_) {
        row_->removeWidget(old);
        old->hide();
        old->deleteLater();
    }
    chips_.clear();
    for (const Situation& s : shown_) {
        QPushButton* button = chip(s);
        row_->insertWidget(static_cast<int>(chips_.size()), button);
        chips_.push_back(button);
    }
}

QPushButton* SituationChips::chip(const Situation& situation) {
    const QString name = QString::fromStdString(situation.name);
    auto* button = new QPushButton(QString(name).replace(QLatin1Char('&'), QLatin1String("&&")));
    button->setObjectName(QStringLiteral("pill"));
    button->setCheckable(true);
    button->setAccessibleName(tr("situation %1").arg(name));
    const QString what = QString::fromStdString(situation_text(situation));
    button->setToolTip(what.isEmpty() ? tr("as drawn") : what);
    button->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(button, &QPushButton::clicked, this, [this, situation] {
        session_.choose(situation);
        refresh();
    });
    connect(button, &QWidget::customContextMenuRequested, this,
            [this, button, id = situation.name](const QPoint& at) { menuFor(id, button->mapToGlobal(at)); });
    return button;
}

void SituationChips::step(int by) {
    if (shown_.empty()) return;
    const int count = static_cast<int>(shown_.size()), active = session_.situation();
    const int next = active < 0 ? (by > 0 ? 0 : count - 1) : (active + by + count) % count;
    session_.choose(shown_[static_cast<std::size_t>(next)]);
    refresh();
}

void SituationChips::keep() {
    bool ok = false;
    const QString name =
        QInputDialog::getText(this, tr("Keep as a situation"), tr("Its name:"), QLineEdit::Normal, {}, &ok);
    if (!ok || name.trimmed().isEmpty()) return;
    Situation s;
    s.name = name.trimmed().toStdString();
    s.conditions = session_.conditions();
    s.conditions.battery = 1, s.conditions.as_set = true;
    if (session_.conditions().battery < 1) s.battery = session_.conditions().battery;
    if (session_.edit(keep_situation(session_.design(), shown_, s), tr("keep situation %1").arg(name)))
        session_.choose(s);
}

void SituationChips::menuFor(const std::string& name, const QPoint& at) {
    QMenu menu(this);
    const QString shown = QString::fromStdString(name);
    menu.addAction(tr("Rename…"), this, [this, name, shown] {
        bool ok = false;
        const QString to = QInputDialog::getText(this, tr("Rename"), tr("Name of the situation:"),
                                                 QLineEdit::Normal, shown, &ok);
        if (ok)
            session_.edit(rename_situation(session_.design(), shown_, name, to.trimmed().toStdString()),
                          tr("rename %1").arg(shown));
    });
    menu.addAction(tr("What happens…"), this, [this, name, shown] {
        const auto found =
            std::find_if(shown_.begin(), shown_.end(), [&](const Situation& s) { return s.name == name; });
        if (found == shown_.end()) return;
        Situation s = *found;
        bool ok = false;
        const QString text = QInputDialog::getText(
            this, tr("What happens after power-up"),
            tr("Times and contacts, such as: 1 s S2 on; 1.3 s S2 off"), QLineEdit::Normal,
            QString::fromStdString(events_text(s.conditions.events)), &ok);
        if (!ok) return;
        auto events = read_events(text.toStdString(), session_.design().circuit);
        if (!events) return session_.reportError(QString::fromStdString(events.error().text()));
        s.conditions.events = std::move(events).value();
        if (session_.edit(keep_situation(session_.design(), shown_, s), tr("what happens in %1").arg(shown)))
            session_.choose(s);
    });
    menu.addAction(tr("Set it to the present conditions"), this, [this, name, shown] {
        Situation s;
        s.name = name, s.conditions = session_.conditions();
        s.conditions.battery = 1, s.conditions.as_set = true;
        session_.edit(keep_situation(session_.design(), shown_, s), tr("change %1").arg(shown));
    });
    menu.addAction(tr("Remove"), this, [this, name, shown] {
        session_.edit(drop_situation(session_.design(), shown_, name), tr("remove %1").arg(shown));
    });
    if (!session_.design().situations.empty())
        menu.addAction(tr("Back to those that the circuit suggests"), this, [this] {
            Design next = session_.design();
            next.situations.clear();
            session_.edit(next, tr("suggested situations"));
        });
    menu.exec(at);
}

}  // namespace elkit
