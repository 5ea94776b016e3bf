#include "app/drawer/count_bar.hpp"

#include <QDate>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include "app/drawer/stock.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "drawer/sheet.hpp"

namespace elkit {

CountBar::CountBar(Stock& stock, QWidget* parent) : QFrame(parent), stock_(stock) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 4, 0, 4);
    asked_ = label({}, "bold");
    pieces_ = new QLineEdit;
    pieces_->setAccessibleName(tr("pieces counted"));
    pieces_->setObjectName(QStringLiteral("counted"));
    pieces_->setFixedWidth(px(80));
    auto* skip = new QPushButton(tr("Skip it"));
    auto* end = new QPushButton(tr("End counting"));
    row->addWidget(asked_);
    row->addWidget(pieces_);
    row->addWidget(label(tr("Enter: the next"), "muted"));
    row->addStretch(1);
    row->addWidget(skip);
    row->addWidget(end);
    hide();
    connect(skip, &QPushButton::clicked, this, [this] {
        ++now_;
        step();
    });
    connect(end, &QPushButton::clicked, this, &QWidget::hide);
    connect(pieces_, &QLineEdit::returnPressed, this, [this] {
        const DrawerItem* item = now_ < keys_.size() ? stock_.find(keys_[now_]) : nullptr;
        const auto number = loose_number(pieces_->text().toStdString(), false);
        if (!item || !number) return emit refused(tr("“%1” is no number of pieces").arg(pieces_->text()));
        DrawerItem next = *item;
        next.stock = *number;
        next.counted = QDate::currentDate().toString(Qt::ISODate).toStdString();
        ++now_;
        emit counted(next);
        step();
    });
}

void CountBar::begin(std::vector<std::string> keys) {
    keys_ = std::move(keys), now_ = 0;
    show();
    step();
}

void CountBar::step() {
    while (now_ < keys_.size() && !stock_.find(keys_[now_])) ++now_;
    if (now_ >= keys_.size()) return hide();
    const DrawerItem& item = *stock_.find(keys_[now_]);
    asked_->setText(
        tr("%1 of %2 · %3%4 · the drawer says %5, there are")
            .arg(now_ + 1)
            .arg(keys_.size())
            .arg(QString::fromStdString(item.name))
            .arg(item.place.empty() ? QString() : QStringLiteral(" · ") + QString::fromStdString(item.place))
            .arg(item.stock));
    pieces_->clear();
    pieces_->setFocus();
    emit at(item.key);
}

}  // namespace elkit
