#include "app/stations/station.hpp"

#include <QEvent>

#include "app/shell/session.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/offer.hpp"

namespace elkit {

Station::Station(Session& session, const QString& title, QWidget* parent)
    : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("benchInside"));
    setAttribute(Qt::WA_StyledBackground);
    setAccessibleName(title);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 10, 12, 10);
    column->setSpacing(10);
    head_ = new QHBoxLayout;
    head_->setSpacing(12);
    head_->addWidget(label(title, "title"));
    subtitle_ = new ElidingLabel;
    subtitle_->setObjectName(QStringLiteral("subtitle"));
    head_->addWidget(subtitle_, 1, Qt::AlignBottom);
    column->addLayout(head_);
    auto* content = new QWidget;
    body_ = new QVBoxLayout(content);
    body_->setContentsMargins(0, 0, 0, 0);
    body_->setSpacing(10);
    panels_ = new Offer(content);
    column->addWidget(panels_, 1);
    connect(panels_, &Offer::asked, this, [this] { emit actionAsked(offered_); });
    const auto follow = [this] {
        if (isVisible()) refresh();
    };
    for (auto signal : {&Session::changed, &Session::arrived}) connect(&session_, signal, this, follow);
}

void Station::lack(const QString& what, const QString& button, const QString& action) {
    offered_ = action;
    panels_->say(what, button);
}

void Station::lackParts() {
    setSubtitle({});
    lack(tr("There are no parts yet. Say the first ones, such as: battery 3 x LR6"),
         tr("Do anything (Ctrl K)"), QStringLiteral("do"));
}

void Station::lackFor(const Error& error) {
    if (session_.design().circuit.parts.empty()) return lackParts();
    setSubtitle({});
    lack(QString::fromStdString(error.text()), tr("See it in the circuit"),
         QStringLiteral("station-circuit"));
}

void Station::lackNothing() { panels_->showWanted(); }

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
