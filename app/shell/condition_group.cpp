#include "app/shell/condition_group.hpp"

#include <QEvent>
#include <QGridLayout>
#include <QKeyEvent>
#include <algorithm>

#include "app/theme/theme.hpp"

namespace elkit {

constexpr int most_in_a_row = 4;

ConditionGroup::ConditionGroup(const QString& name, QWidget* parent)
    : QToolButton(parent), name_(name), panel_(new QFrame), grid_(new QGridLayout(panel_)) {
    setObjectName(QStringLiteral("conditionGroup"));
    setCheckable(true);
    setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    setArrowType(Qt::DownArrow);
    setFocusPolicy(Qt::StrongFocus);
    panel_->setObjectName(QStringLiteral("floating"));
    panel_->setAccessibleName(name);
    panel_->setAutoFillBackground(true);
    panel_->hide();
    grid_->setContentsMargins(16, 12, 16, 14);
    grid_->setHorizontalSpacing(24);
    grid_->setVerticalSpacing(12);
    for (QObject* watched : {static_cast<QObject*>(panel_), static_cast<QObject*>(this)})
        watched->installEventFilter(this);
    connect(this, &QToolButton::toggled, this, [this](bool open) {
        if (open) place();
        panel_->setVisible(open);
        if (!open) return;
        panel_->raise();
        for (auto* control : panel_->findChildren<QWidget*>())
            if (control->isVisible() && control->focusPolicy() & Qt::TabFocus)
                return control->setFocus(Qt::TabFocusReason);
    });
    connect(this, &QObject::destroyed, panel_, &QObject::deleteLater);
}

void ConditionGroup::setControls(const std::vector<QWidget*>& controls) {
    int n = 0;
    for (QWidget* control : controls) {
        grid_->addWidget(control, n / most_in_a_row, n % most_in_a_row);
        control->show();
        ++n;
    }
    setText(QStringLiteral("%1 %2").arg(name_).arg(n));
    setAccessibleName(tr("%1: %2 controls, opens downwards").arg(name_).arg(n));
    setVisible(n > 0);
    if (isChecked()) place();
}

void ConditionGroup::place() {
    QWidget* top = window();
    panel_->setParent(top);
    panel_->adjustSize();
    const QPoint below = mapTo(top, QPoint(0, height() + 8));
    panel_->move(std::max(8, std::min(below.x(), top->width() - panel_->width() - 8)), below.y());
}

void ConditionGroup::hideEvent(QHideEvent* event) {
    QToolButton::hideEvent(event);
    setChecked(false);
}

bool ConditionGroup::eventFilter(QObject* watched, QEvent* event) {
    if (isChecked() && event->type() == QEvent::KeyPress &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        setChecked(false);
        setFocus();
        return true;
    }
    return QToolButton::eventFilter(watched, event);
}

}  // namespace elkit
