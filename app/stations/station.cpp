#include "app/stations/station.hpp"

#include <QEvent>
#include <QGraphicsOpacityEffect>

#include "app/shell/session.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"

namespace elkit {

Station::Station(Session& session, const QString& title, QWidget* parent)
    : QWidget(parent), session_(session), body_(new QVBoxLayout(this)) {
    setObjectName(QStringLiteral("benchInside"));
    setAttribute(Qt::WA_StyledBackground);
    setAccessibleName(title);
    body_->setContentsMargins(22, 10, 12, 10);
    body_->setSpacing(10);
    head_ = new QHBoxLayout;
    head_->setSpacing(12);
    head_->addWidget(label(title, "title"));
    subtitle_ = new ElidingLabel;
    subtitle_->setObjectName(QStringLiteral("subtitle"));
    head_->addWidget(subtitle_, 1, Qt::AlignBottom);
    body_->addLayout(head_);
    const auto follow = [this] {
        if (isVisible()) refresh();
    };
    for (auto signal : {&Session::changed, &Session::arrived}) connect(&session_, signal, this, follow);
}

void Station::dim(QWidget* view, bool dimmed) {
    auto* effect = qobject_cast<QGraphicsOpacityEffect*>(view->graphicsEffect());
    if (!effect && !dimmed) return;
    if (!effect) {
        effect = new QGraphicsOpacityEffect(view);
        effect->setOpacity(0.4);
        view->setGraphicsEffect(effect);
    }
    effect->setEnabled(dimmed);
}

bool Station::outdated(const Digest& content) {
    if (filled_ == content) return false;
    filled_ = content;
    return true;
}

void Station::changeEvent(QEvent* event) {
    QWidget::changeEvent(event);
    if (event->type() != QEvent::PaletteChange) return;
    filled_ = {};
    if (isVisible())
        QMetaObject::invokeMethod(
            this, [this] { refresh(); }, Qt::QueuedConnection);
}

std::function<void(Session&, Station&)> shows_figure(const QString& name, double battery) {
    return [name, battery](Session& session, Station& station) {
        Conditions conditions = session.conditions();
        conditions.battery = battery;
        session.setConditions(conditions);
        session.settle();
        if (auto* label = station.findChild<FigureLabel*>(name)) session.focusFigure(label->figure());
    };
}

}  // namespace elkit
