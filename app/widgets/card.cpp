#include "app/widgets/card.hpp"

#include <QGraphicsOpacityEffect>
#include <QPainter>

namespace elkit {

Card::Card(const QString& title, QWidget* parent) : QFrame(parent), body_(new QVBoxLayout(this)) {
    setObjectName(QStringLiteral("card"));
    body_->setContentsMargins(14, 10, 14, 10);
    body_->setSpacing(8);
    if (!title.isEmpty()) body_->addWidget(label(title, "cardTitle"));
}

QSize ElidingLabel::minimumSizeHint() const { return {24, QLabel::minimumSizeHint().height()}; }

void ElidingLabel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setPen(palette().color(foregroundRole()));
    painter.drawText(contentsRect(), static_cast<int>(alignment()) | Qt::TextSingleLine,
                     fontMetrics().elidedText(text(), Qt::ElideRight, contentsRect().width()));
    const QString whole = fontMetrics().horizontalAdvance(text()) > width() ? text() : QString();
    if (toolTip() != whole) setToolTip(whole);
}

QLabel* label(const QString& text, const char* look) {
    auto* l = new QLabel(text);
    l->setObjectName(QLatin1String(look));
    l->setWordWrap(false);
    return l;
}

void Form::addWide(const QString& name, QWidget* field) {
    auto* l = label(name, "muted");
    l->setBuddy(field);
    field->setAccessibleName(name);
    addWidget(l, rows_, 0);
    addWidget(field, rows_++, 1, 1, 2);
}

void Form::setShown(QWidget* field, bool shown) {
    int row = 0, column = 0, rows = 0, columns = 0;
    getItemPosition(indexOf(field), &row, &column, &rows, &columns);
    for (int k = 0; k < columnCount(); ++k)
        if (QLayoutItem* item = itemAtPosition(row, k); item && item->widget())
            item->widget()->setVisible(shown);
}

void Form::addField(const QString& name, QWidget* field, QWidget* remark) {
    auto* l = label(name, "muted");
    l->setBuddy(field);
    if (field->accessibleName().isEmpty()) field->setAccessibleName(name);
    addWidget(l, rows_, 0);
    addWidget(field, rows_, 1, Qt::AlignLeft);
    if (remark) addWidget(remark, rows_, 2);
    setColumnStretch(2, 1);
    setVerticalSpacing(6);
    setHorizontalSpacing(10);
    ++rows_;
}

void dim(QWidget* view, bool dimmed) {
    auto* effect = qobject_cast<QGraphicsOpacityEffect*>(view->graphicsEffect());
    if (!effect && !dimmed) return;
    if (!effect) {
        effect = new QGraphicsOpacityEffect(view);
        effect->setOpacity(0.4);
        view->setGraphicsEffect(effect);
    }
    effect->setEnabled(dimmed);
}

}  // namespace elkit
