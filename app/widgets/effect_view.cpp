#include "app/widgets/effect_view.hpp"

#include <QPainter>
#include <QPainterPath>
#include <QStyle>
#include <QTimer>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.hpp"
#include "quantity/format.hpp"

namespace elkit {

static constexpr int frame_time = 40;  // ms

double shown_time(const Effect& effect, double real) {
    if (!(effect.seconds > 0)) return 0;
    return real * effect.seconds / std::clamp(effect.seconds, 1.5, 6.0);
}

void paint_effect(QPainter& painter, const QRectF& room, const Effect& effect, double seconds) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const double lamp = room.height(), bright = effect.at(seconds);
    const QRectF disc(room.left(), room.top(), lamp, lamp);
    QColor glow = theme().amber;
    glow.setAlphaF(static_cast<float>(0.35 * bright));
    painter.setPen(Qt::NoPen);
    painter.setBrush(glow);
    painter.drawEllipse(disc);
    const QRectF body = disc.adjusted(lamp / 4, lamp / 4, -lamp / 4, -lamp / 4);
    QColor on = theme().amber;
    on.setAlphaF(static_cast<float>(bright));
    painter.setPen(QPen(theme().muted, 1.2));
    painter.setBrush(on);
    painter.drawEllipse(body);
    const QRectF plot(disc.right() + 8, room.top() + 3, room.right() - disc.right() - 10, room.height() - 6);
    if (plot.width() > 20) {
        QPainterPath line;
        const auto n = std::max<std::size_t>(1, effect.brightness.size());
        for (std::size_t k = 0; k <= n; ++k) {
            const double level = effect.brightness.empty() ? 1 : effect.brightness[std::min(k, n - 1)];
            const QPointF at(plot.left() + plot.width() * static_cast<double>(k) / static_cast<double>(n),
                             plot.bottom() - level * plot.height());
            k ? line.lineTo(at) : line.moveTo(at);
        }
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(theme().amber_text, 1.4));
        painter.drawPath(line);
        if (effect.seconds > 0) {
            const double x = plot.left() + plot.width() * std::fmod(seconds, effect.seconds) / effect.seconds;
            painter.setPen(QPen(theme().teal, 1));
            painter.drawLine(QPointF(x, plot.top()), QPointF(x, plot.bottom()));
        }
    }
    painter.restore();
}

EffectView::EffectView(QWidget* parent) : QWidget(parent), timer_(new QTimer(this)) {
    timer_->setInterval(frame_time);
    connect(timer_, &QTimer::timeout, this, qOverload<>(&QWidget::update));
    clock_.start();
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize EffectView::sizeHint() const { return {px(220), px(46)}; }

void EffectView::setEffect(const Effect& effect, bool dimmed) {
    effect_ = effect, dimmed_ = dimmed;
    const QString span =
        effect.seconds > 0
            ? tr("%1 of light").arg(QString::fromStdString(format_quantity(effect.seconds, Unit::second)))
            : tr("steady");
    setAccessibleName(tr("What the light does: %1").arg(span));
    setToolTip(effect.seconds > 0
                   ? tr("its brightness as an eye sees it, over %1")
                         .arg(QString::fromStdString(format_quantity(effect.seconds, Unit::second)))
                   : tr("it stays as it is"));
    update();
}

void EffectView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    if (dimmed_) painter.setOpacity(0.4);
    paint_effect(painter, QRectF(rect()).adjusted(0, 1, 0, -1), effect_,
                 shown_time(effect_, static_cast<double>(clock_.elapsed()) / 1000));
}

void EffectView::showEvent(QShowEvent*) { timer_->start(); }
void EffectView::hideEvent(QHideEvent*) { timer_->stop(); }

}  // namespace elkit
