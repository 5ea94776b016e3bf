#include "app/widgets/quantity_edit.hpp"

#include <QKeyEvent>
#include <QStyle>
#include <QToolTip>

#include "app/theme/theme.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"

namespace elkit {

QuantityEdit::QuantityEdit(const QString& name, Unit unit, double low, double high, QWidget* parent)
    : QLineEdit(parent), unit_(unit), low_(low), high_(high) {
    setAccessibleName(name);
    setObjectName(name);
    setFixedWidth(px(92));
    connect(this, &QLineEdit::returnPressed, this, &QuantityEdit::commit);
}

void QuantityEdit::setValue(double value) {
    value_ = value;
    if (property("bad").toBool() || (hasFocus() && isModified())) return;
    setText(QString::fromStdString(format_quantity(value, unit_)));
}

void mark_fault(QLineEdit& field, const QString& fault) {
    field.setProperty("bad", !fault.isEmpty());
    field.setToolTip(fault);
    field.setAccessibleDescription(fault);
    field.style()->unpolish(&field);
    field.style()->polish(&field);
    if (!fault.isEmpty() && field.isVisible())
        QToolTip::showText(field.mapToGlobal(QPoint(0, field.height())), fault, &field);
}

void QuantityEdit::mark(const QString& fault) { mark_fault(*this, fault); }

void QuantityEdit::commit() {
    if (!isModified()) return;
    auto parsed = parse_quantity(text().toStdString(), unit_);
    if (!parsed)
        return mark(tr("%1; expected %2")
                        .arg(QString::fromStdString(parsed.error().found),
                             QString::fromStdString(parsed.error().expected)));
    if (parsed.value() < low_ || parsed.value() > high_)
        return mark(tr("expected %1 to %2")
                        .arg(QString::fromStdString(format_quantity(low_, unit_)),
                             QString::fromStdString(format_quantity(high_, unit_))));
    mark({});
    setModified(false);
    value_ = parsed.value();
    setText(QString::fromStdString(format_quantity(value_, unit_)));
    emit valueEntered(value_);
}

void QuantityEdit::focusOutEvent(QFocusEvent* event) {
    commit();
    QLineEdit::focusOutEvent(event);
}

void QuantityEdit::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) {
        mark({});
        setModified(false);
        setText(QString::fromStdString(format_quantity(value_, unit_)));
        return;
    }
    QLineEdit::keyPressEvent(event);
}

}  // namespace elkit
