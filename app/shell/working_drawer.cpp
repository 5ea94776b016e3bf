#include "app/shell/working_drawer.hpp"

#include <QClipboard>
#include <QFontDatabase>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"

namespace elkit {

WorkingDrawer::WorkingDrawer(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("working"));
    setAttribute(Qt::WA_StyledBackground);
    setFixedHeight(px(128));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 8, 20, 6);
    column->setSpacing(2);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("WORKING"), "cap"));
    head->addSpacing(12);
    title_ = label({}, "bold");
    head->addWidget(title_);
    head->addStretch(1);
    auto* copy = new QPushButton(tr("copy"));
    copy->setObjectName(QStringLiteral("plain"));
    copy->setAccessibleName(tr("copy the working as text"));
    connect(copy, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(text()); });
    head->addWidget(copy);
    column->addLayout(head);
    auto* across = new QHBoxLayout;
    across->setSpacing(44);
    for (QLabel*& l : columns_) {
        l = label({});
        l->setAlignment(Qt::AlignTop | Qt::AlignLeft);
        l->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
        l->setAccessibleName(tr("working of the chosen number"));
        across->addWidget(l);
    }
    across->addStretch(1);
    column->addLayout(across, 1);
    clear();
}

void WorkingDrawer::clear() {
    title_->clear();
    text_.clear();
    for (QLabel* column_of_words : columns_) column_of_words->setVisible(column_of_words == columns_[0]);
    columns_[0]->setText(
        tr("Click any number, or Tab to it: its formula, the numbers put in and the result stand here."));
}

void WorkingDrawer::show_figure(const Figure& figure) {
    title_->setText(QString::fromStdString(figure.label) + QStringLiteral("  ") +
                    QString::fromStdString(figure.text()));
    std::array<QStringList, 3> parts;
    constexpr std::size_t rows = 5;
    QStringList all;
    for (std::size_t i = 0; i < figure.working.size(); ++i) {
        const QString line = QString::fromStdString(figure.working[i]);
        parts[std::min<std::size_t>(i / rows, 2)] << line;
        all << line;
    }
    if (all.isEmpty()) parts[0] << tr("taken as it stands in the design");
    for (std::size_t c = 0; c < columns_.size(); ++c) {
        columns_[c]->setText(parts[c].join(QLatin1Char('\n')));
        columns_[c]->setVisible(!parts[c].isEmpty());
    }
    text_ = title_->text() + QLatin1Char('\n') + all.join(QLatin1Char('\n'));
}

QString WorkingDrawer::text() const { return text_; }

}  // namespace elkit
