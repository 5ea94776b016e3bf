#include "app/shell/do_line.hpp"

#include <QKeyEvent>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"

namespace elkit {

DoLine::DoLine(Session& session, std::vector<ActionName> actions, QWidget* parent)
    : QLineEdit(parent), session_(session), actions_(std::move(actions)), popup_(new QListWidget) {
    setPlaceholderText(tr("Do anything…   Ctrl K"));
    setAccessibleName(tr("Do anything: a station, an action, or a part such as r1 = 82"));
    setMinimumHeight(px(30));
    popup_->setWindowFlags(Qt::ToolTip);
    popup_->setFocusPolicy(Qt::NoFocus);
    popup_->setAccessibleName(tr("what can follow"));
    connect(this, &QLineEdit::textEdited, this, &DoLine::refresh);
    connect(this, &QLineEdit::returnPressed, this, &DoLine::run);
    connect(popup_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        if (item->flags() & Qt::ItemIsSelectable) setText(item->text());
        refresh();
    });
    connect(this, &QObject::destroyed, popup_, &QObject::deleteLater);
}

void DoLine::refresh() {
    popup_->clear();
    auto command = parse_command(text().toStdString(), session_.design(), session_.conditions(), actions_);
    preview_ = command ? QString::fromStdString(command.value().preview)
                       : QString::fromStdString(command.error().text());
    auto* first =
        new QListWidgetItem((command ? QStringLiteral("↵  ") : QStringLiteral("…  ")) + preview_, popup_);
    first->setFlags(Qt::ItemIsEnabled);
    first->setForeground(command ? theme().teal : theme().muted);
    int count = 0;
    for (const auto& line : complete_command(text().toStdString(), session_.design(), actions_)) {
        if (++count > 9) break;
        popup_->addItem(QString::fromStdString(line));
    }
    const int row = popup_->sizeHintForRow(0) + 2;
    popup_->setGeometry(QRect(mapToGlobal(QPoint(std::min(0, width() - px(340)), height() + 2)),
                              QSize(std::max(width(), px(340)), row * popup_->count() + 8)));
    popup_->setVisible(hasFocus() && isVisible());
}

void DoLine::run() {
    auto command = parse_command(text().toStdString(), session_.design(), session_.conditions(), actions_);
    if (!command) return refresh();
    popup_->hide();
    clear();
    Command& c = command.value();
    const QString id = QString::fromStdString(c.id);
    switch (c.kind) {
        case Command::Kind::station:
            return emit stationAsked(id);
        case Command::Kind::action:
            return emit actionAsked(id);
        case Command::Kind::edit:
            return session_.edit(std::move(*c.design), QString::fromStdString(c.preview));
        case Command::Kind::condition:
            return session_.setConditions(*c.conditions);
    }
}

void DoLine::keyPressEvent(QKeyEvent* event) {
    const int last = popup_->count() - 1;
    if (event->key() == Qt::Key_Escape) {
        popup_->hide();
        clear();
        if (auto* up = parentWidget()) up->window()->setFocus();
    } else if ((event->key() == Qt::Key_Down || event->key() == Qt::Key_Up) && last > 0) {
        const int at = popup_->currentRow() + (event->key() == Qt::Key_Down ? 1 : -1);
        popup_->setCurrentRow(at > last ? 1 : (at < 1 ? last : at));
        setText(popup_->currentItem()->text());
        auto command =
            parse_command(text().toStdString(), session_.design(), session_.conditions(), actions_);
        if (command)
            popup_->item(0)->setText(QStringLiteral("↵  ") + QString::fromStdString(command.value().preview));
    } else {
        QLineEdit::keyPressEvent(event);
    }
}

void DoLine::focusOutEvent(QFocusEvent* event) {
    popup_->hide();
    QLineEdit::focusOutEvent(event);
}

}  // namespace elkit
