#include "app/widgets/overview_strip.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

#include "app/theme/theme.hpp"
#include "app/widgets/picture_view.hpp"
#include "render/paint.hpp"

namespace elkit {

OverviewStrip::OverviewStrip(PictureView* view, QWidget* parent) : QWidget(parent), view_(view) {
    setAccessibleName(tr("Overview: what is in view of the whole picture"));
    setToolTip(tr("The whole picture; click or drag to move what is in view"));
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    connect(view, &PictureView::panned, this, qOverload<>(&QWidget::update));
}

QRectF OverviewStrip::pictureRect() const {
    const Drawing& d = view_->drawing();
    if (d.width <= 0 || d.height <= 0) return {};
    const double w = width() - 16, h = height() - 8;
    // drawn flatter than it is where the strip is low: what matters is where one is
    const double k = std::min(w / d.width, 3 * h / d.height);
    return {(width() - k * d.width) / 2, 4, k * d.width, h};
}

void OverviewStrip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(theme().paper);
    p.drawRoundedRect(rect(), 6, 6);
    const Drawing& d = view_->drawing();
    const QRectF picture = pictureRect();
    if (picture.isEmpty()) return;
    p.save();
    p.translate(picture.topLeft());
    p.scale(picture.width() / d.width, picture.height() / d.height);
    p.setOpacity(0.8);
    paint(p, d, theme().inks(), 0, d.scrolling(), false);
    p.restore();
    const QRectF share = view_->viewShare();
    const QRectF frame(picture.x() + share.x() * picture.width(), picture.y() + share.y() * picture.height(),
                       share.width() * picture.width(), share.height() * picture.height());
    QColor tint = theme().teal;
    tint.setAlpha(28);
    p.setBrush(tint);
    p.setPen(QPen(theme().teal, hasFocus() ? 2.6 : 1.6));
    p.drawRoundedRect(frame, 4, 4);
}

void OverviewStrip::moveTo(QPointF at) {
    const QRectF picture = pictureRect();
    if (picture.isEmpty()) return;
    view_->centreOn({(at.x() - picture.x()) / picture.width(), (at.y() - picture.y()) / picture.height()});
}

void OverviewStrip::mousePressEvent(QMouseEvent* event) { moveTo(event->position()); }

void OverviewStrip::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) moveTo(event->position());
}

void OverviewStrip::keyPressEvent(QKeyEvent* event) {
    const QRectF share = view_->viewShare();
    QPointF to = share.center();
    switch (event->key()) {
        case Qt::Key_Left:
            to -= QPointF(share.width() / 2, 0);
            break;
        case Qt::Key_Right:
            to += QPointF(share.width() / 2, 0);
            break;
        case Qt::Key_Up:
            to -= QPointF(0, share.height() / 2);
            break;
        case Qt::Key_Down:
            to += QPointF(0, share.height() / 2);
            break;
        default:
            return QWidget::keyPressEvent(event);
    }
    view_->centreOn(to);
}

}  // namespace elkit
