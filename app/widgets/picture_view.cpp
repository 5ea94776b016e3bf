#include "app/widgets/picture_view.hpp"

#include <QApplication>
#include <QDrag>
#include <QKeyEvent>
#include <QMimeData>
#include <QPainter>
#include <QWheelEvent>
#include <algorithm>
#include <utility>

#include "app/theme/theme.hpp"
#include "app/widgets/picture_accessible.hpp"
#include "render/paint.hpp"

namespace elkit {

PictureView::PictureView(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    install_picture_accessibility();
}

void PictureView::setDrawing(const Drawing& drawing) {
    drawing_ = drawing;
    pan({});
    update();
}

void PictureView::setHighlight(const QString& ref) {
    highlight_ = ref;
    update();
}

void PictureView::select(const QString& ref) {
    selected_ = ref;
    ensureVisible(ref);
    update();
}

QSize PictureView::viewSize() const { return size(); }

double PictureView::fitted() const {
    if (drawing_.width <= 0 || drawing_.height <= 0) return 1;
    const QSize view = viewSize();
    return std::min({view.width() / drawing_.width, view.height() / drawing_.height, maximum_scale_});
}

double PictureView::scale() const { return std::max(1e-3, fitted() * (zoomable_ ? zoom_ : 1)); }

void PictureView::zoom(double factor, QPointF around) {
    const QPointF at = (around - origin()) / scale();
    zoom_ = std::clamp(zoom_ * factor, 1.0, 8.0);
    pan(around - (origin() + at * scale()));
}

void PictureView::fit() {
    zoom_ = 1;
    pan_ = {};
    pan({});
}

/// A picture that is smaller than its view stays in the middle, a larger one covers it.
void PictureView::pan(QPointF by) {
    const QSizeF size = QSizeF(drawing_.width, drawing_.height) * scale();
    const QSize view = viewSize();
    pan_ += by;
    pan_.setX(std::clamp(pan_.x(), std::min(0.0, view.width() - size.width()), 0.0));
    pan_.setY(std::clamp(pan_.y(), std::min(0.0, view.height() - size.height()), 0.0));
    update();
    emit panned();
}

bool PictureView::overflows() const {
    const QSize view = viewSize();
    return drawing_.width * scale() > view.width() + 1 || drawing_.height * scale() > view.height() + 1;
}

QRectF PictureView::viewShare() const {
    const double w = drawing_.width * scale(), h = drawing_.height * scale();
    if (w <= 0 || h <= 0) return {0, 0, 1, 1};
    const QSize view = viewSize();
    return {-pan_.x() / w, -pan_.y() / h, std::min(1.0, view.width() / w), std::min(1.0, view.height() / h)};
}

void PictureView::centreOn(QPointF share) {
    const QRectF now = viewShare();
    pan({(now.center().x() - share.x()) * drawing_.width * scale(),
         (now.center().y() - share.y()) * drawing_.height * scale()});
}

/// Scrolls no further than it must.
void PictureView::ensureVisible(const QString& ref) {
    const QRectF box = itemRect(ref);
    if (!overflows() || box.isEmpty()) return;
    const double left = drawing_.margin * scale(), margin = 12;
    const QSize view = viewSize();
    QPointF by;
    if (const auto* tag = stickyOf(ref.toStdString()); !tag || tag->reach < drawing_.width) {
        if (box.right() + margin > view.width()) by.setX(view.width() - box.right() - margin);
        if (box.left() + by.x() < left + margin) by.setX(left + margin - box.left());
    }
    if (box.bottom() + margin > view.height()) by.setY(view.height() - box.bottom() - margin);
    if (box.top() + by.y() < margin) by.setY(margin - box.top());
    if (!by.isNull()) pan(by);
}

QPointF PictureView::origin() const {
    const QSize view = viewSize();
    return QPointF(std::max(0.0, (view.width() - drawing_.width * scale()) / 2),
                   std::max(0.0, (view.height() - drawing_.height * scale()) / 2)) +
           pan_;
}

/// How far a sticky group is moved, in drawing units.
double PictureView::shiftOf(const Drawing::Sticky& group) const {
    return pan_.x() < 0 ? group.shift(-pan_.x() / scale()) : 0;
}

const Drawing::Sticky* PictureView::stickyOf(const std::string& ref) const {
    for (const auto& group : drawing_.sticky)
        if (group.begin < group.end && drawing_.items[group.begin].ref == ref) return &group;
    return nullptr;
}

Items PictureView::at(std::size_t index) const {
    return drawing_.items.begin() + static_cast<std::ptrdiff_t>(index);
}

QString PictureView::refAt(QPointF position) const {
    const QPointF p = (position - origin()) / scale();
    const double slack = std::min(3.0, 4 / scale());  // pixels where the picture is enlarged
    for (auto group = drawing_.sticky.rbegin(); group != drawing_.sticky.rend(); ++group)
        if (const auto ref =
                hit(at(group->begin), at(group->end), p.x() - shiftOf(*group), p.y(), std::min(2.0, slack));
            !ref.empty())
            return QString::fromStdString(ref);
    if (pan_.x() < 0 && position.x() < drawing_.margin * scale()) return {};  // covered
    return QString::fromStdString(hit(at(0), at(drawing_.scrolling()), p.x(), p.y(), slack));
}

/// Of what has a tag, the tag.
QRectF PictureView::itemRect(const QString& ref) const {
    const std::string name = ref.toStdString();
    const Drawing::Sticky* tag = stickyOf(name);
    const Box b = tag ? bounds(at(tag->begin), at(tag->end), name)
                      : bounds(drawing_.items.begin(), drawing_.items.end(), name);
    if (b.x0 > b.x1) return {};
    const QPointF from = origin() + QPointF(tag ? shiftOf(*tag) * scale() : 0, 0);
    return {QPointF(b.x0, b.y0) * scale() + from, QPointF(b.x1, b.y1) * scale() + from};
}

QString PictureView::itemName(const QString& ref) const {
    QStringList words;
    const std::string wanted = ref.toStdString();
    const std::string part = wanted.substr(wanted.find(':') + 1);
    for (const Item& item : drawing_.items)
        if (const Text* text = std::get_if<Text>(&item.shape);
            text && (item.ref == wanted || item.ref == "part:" + part || item.ref == "value:" + part))
            words << QString::fromStdString(text->text);
    return words.isEmpty() ? ref : words.join(QLatin1Char(' '));
}

std::vector<std::string> PictureView::selectableRefs() const {
    std::vector<std::string> out;
    for (const auto& ref : drawing_.refs())
        for (const auto& prefix : selectable_)
            if (ref.starts_with(prefix)) out.push_back(ref);
    return out;
}

void PictureView::ring(QPainter& painter, const QString& ref, const QColor& colour) const {
    const QRectF box = itemRect(ref);
    if (box.isEmpty()) return;
    painter.setPen(QPen(colour, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(box.adjusted(-4, -3, 4, 3), 6, 6);
}

void PictureView::setDimmed(bool dimmed) {
    if (std::exchange(dimmed_, dimmed) != dimmed) update();
}

void PictureView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    if (dimmed_) painter.setOpacity(0.5);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.save();
    painter.translate(origin());
    painter.scale(scale(), scale());
    paint(painter, drawing_, theme().inks(), 0, drawing_.scrolling());
    painter.restore();
    if (!drawing_.sticky.empty()) paintSticky(painter);
    if (!highlight_.isEmpty()) ring(painter, highlight_, theme().teal);
    if (hasFocus() && !selected_.isEmpty()) ring(painter, selected_, theme().amber);
    if (in_frame_) {
        painter.setPen(QPen(theme().teal, 2, Qt::DashLine));
        painter.drawRect(QRectF(pressed_, dragging_).normalized());
    }
    if (among(pullable_, dragged_) && dragging_ != pressed_) {
        painter.setPen(QPen(theme().teal, 2, Qt::DashLine));
        painter.drawLine(pressed_, dragging_);
        painter.setBrush(theme().teal);
        painter.drawEllipse(dragging_, 5, 5);
    }
    if (among(movable_, dragged_) && dragging_ != pressed_) {  // where it would lie
        painter.setPen(QPen(theme().teal, 2, Qt::DashLine));
        painter.drawRect(itemRect(dragged_).translated(dragging_ - pressed_));
    }
}

/// Over what scrolls by below.
void PictureView::paintSticky(QPainter& painter) const {
    const double right = drawing_.margin * scale();
    if (pan_.x() < -1) {
        painter.fillRect(QRectF(0, 0, right, height()), theme().card);
        QLinearGradient fade(right, 0, right + 14, 0);
        QColor clear = theme().card;
        clear.setAlpha(0);
        fade.setColorAt(0, theme().card), fade.setColorAt(1, clear);
        painter.fillRect(QRectF(right, 0, 14, height()), fade);
    }
    for (const auto& group : drawing_.sticky) {
        painter.save();
        painter.translate(origin() + QPointF(shiftOf(group) * scale(), 0));
        painter.scale(scale(), scale());
        paint(painter, drawing_, theme().inks(), group.begin, group.end);
        painter.restore();
    }
}

void PictureView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    pan({});
    emit resized();
}

void PictureView::mousePressEvent(QMouseEvent* event) {
    if (framing_ && event->modifiers() & Qt::ShiftModifier) {
        in_frame_ = true, pressed_ = dragging_ = event->position();
        return;
    }
    const QString ref = refAt(event->position());
    pressed_ = event->position();
    panning_ = ref.isEmpty() && zoomable_;
    if (ref.isEmpty()) return;
    selected_ = ref;
    dragged_ = ref;
    pressed_ = dragging_ = event->position();
    update();
    emit clicked(ref);
    emit pressed(ref);
}

void PictureView::mouseReleaseEvent(QMouseEvent* event) {
    if (std::exchange(in_frame_, false)) {
        update();
        const QRectF frame = QRectF(pressed_, event->position()).normalized();
        if (frame.width() > 5 && frame.height() > 5)
            emit framed({(frame.topLeft() - origin()) / scale(), frame.size() / scale()});
        return;
    }
    const QString ref = std::exchange(dragged_, {});
    panning_ = false;
    update();
    if (const QPointF by = event->position() - pressed_; among(movable_, ref) && by.manhattanLength() > 3)
        emit moved(ref, by / scale());
    if (!ref.isEmpty() && (event->position() - pressed_).manhattanLength() > 10)
        emit dropped(ref, (event->position() - origin()) / scale());
}

void PictureView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (const QString ref = refAt(event->position()); !ref.isEmpty()) emit activated(ref);
}

bool PictureView::among(const std::vector<std::string>& prefixes, const QString& ref) {
    return std::any_of(prefixes.begin(), prefixes.end(),
                       [&](const std::string& p) { return ref.startsWith(QString::fromStdString(p)); });
}

void PictureView::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton && panning_) {
        pan(event->position() - std::exchange(pressed_, event->position()));
        return;
    }
    if (event->buttons() & Qt::LeftButton &&
        (in_frame_ || among(pullable_, dragged_) || among(movable_, dragged_))) {
        dragging_ = event->position();
        return update();
    }
    if (event->buttons() & Qt::LeftButton && among(draggable_, dragged_) &&
        (event->position() - pressed_).manhattanLength() > QApplication::startDragDistance()) {
        auto* out = new QDrag(this);
        auto* payload = new QMimeData;
        payload->setData(QStringLiteral("application/x-elkit-ref"), std::exchange(dragged_, {}).toUtf8());
        out->setMimeData(payload);
        out->exec(Qt::CopyAction);
        return;
    }
    const QString ref = refAt(event->position());
    if (ref == hovered_) return;
    hovered_ = ref;
    setCursor(ref.startsWith(QLatin1String("value:")) ? Qt::PointingHandCursor : Qt::ArrowCursor);
    emit hovered(ref);
}

void PictureView::leaveEvent(QEvent*) {
    hovered_.clear();
    emit hovered({});
}

/// Ctrl zooms; over the chosen value the wheel steps it; elsewhere it scrolls what does not fit.
void PictureView::wheelEvent(QWheelEvent* event) {
    if (zoomable_ && event->modifiers() & Qt::ControlModifier) {
        zoom(event->angleDelta().y() > 0 ? 1.15 : 1 / 1.15, event->position());
        return event->accept();
    }
    const QString ref = refAt(event->position());
    if (ref.startsWith(QLatin1String("value:")) && ref == selected_ && event->angleDelta().y() != 0) {
        emit stepped(ref, event->angleDelta().y() > 0 ? 1 : -1);
        return event->accept();
    }
    if (!zoomable_ || !overflows()) return event->ignore();
    QPointF by =
        event->pixelDelta().isNull() ? QPointF(event->angleDelta()) / 2 : QPointF(event->pixelDelta());
    const bool tall = drawing_.height * scale() > viewSize().height() + 1;
    if (by.x() == 0 && (!tall || event->modifiers() & Qt::ShiftModifier)) by = {by.y(), 0};
    pan(by);
    event->accept();
}

void PictureView::keyPressEvent(QKeyEvent* event) {
    const auto refs = selectableRefs();
    const auto at = std::find(refs.begin(), refs.end(), selected_.toStdString());
    const auto index = at == refs.end() ? -1 : static_cast<int>(at - refs.begin());
    const int count = static_cast<int>(refs.size());
    switch (event->key()) {
        case Qt::Key_Right:
        case Qt::Key_Left: {
            if (count == 0) return;
            const int next =
                index < 0 ? 0 : (index + (event->key() == Qt::Key_Right ? 1 : count - 1)) % count;
            select(QString::fromStdString(refs[static_cast<std::size_t>(next)]));
            emit clicked(selected_);
            return;
        }
        case Qt::Key_Up:
        case Qt::Key_Down:
            if (index >= 0) emit stepped(selected_, event->key() == Qt::Key_Up ? 1 : -1);
            return;
        case Qt::Key_Return:
        case Qt::Key_F2:
            if (!selected_.isEmpty()) emit activated(selected_);
            return;
        case Qt::Key_Plus:
        case Qt::Key_Minus:
            if (zoomable_) zoom(event->key() == Qt::Key_Plus ? 1.15 : 1 / 1.15, rect().center());
            return;
        case Qt::Key_0:
            if (zoomable_) fit();
            return;
        default:
            QWidget::keyPressEvent(event);
    }
}

void PictureView::focusInEvent(QFocusEvent* event) {
    const auto refs = selectableRefs();
    if (selected_.isEmpty() && !refs.empty()) selected_ = QString::fromStdString(refs.front());
    update();
    QWidget::focusInEvent(event);
}

}  // namespace elkit
