#include "app/widgets/offer.hpp"

#include <QPushButton>

#include "app/widgets/card.hpp"

namespace elkit {

Offer::Offer(QWidget* wanted, QWidget* parent) : QStackedWidget(parent) {
    setObjectName(QStringLiteral("offer"));
    addWidget(wanted);
    auto* page = new QWidget;
    page->setObjectName(QStringLiteral("offer"));
    auto* column = new QVBoxLayout(page);
    words_ = label({}, "muted");
    words_->setWordWrap(true);
    words_->setAlignment(Qt::AlignCenter);
    button_ = new QPushButton;
    column->addStretch(1);
    column->addWidget(words_);
    column->addWidget(button_, 0, Qt::AlignCenter);
    column->addStretch(1);
    addWidget(page);
    connect(button_, &QPushButton::clicked, this, &Offer::asked);
}

void Offer::say(const QString& words, const QString& button) {
    words_->setText(words);
    button_->setText(button);
    button_->setVisible(!button.isEmpty());
    setCurrentIndex(1);
}

}  // namespace elkit
