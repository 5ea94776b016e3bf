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
    update();
}

void PictureView::setHighlight(const QString& ref) {
    highlight_ = ref;
    update();
}

void PictureView::select(const QString& ref) {
    selected_ = ref;
    update();
}

double PictureView::scale() const {
    if (drawing_.width <= 0 || drawing_.height <= 0) return 1;
    const double fitted = std::min({width() / drawing_.width, height() / drawing_.height, maximum_scale_});
    return least_ > 0 ? std::clamp(std::max(fitted, least_) * zoom_, 0.2, 4.0) : fitted;
}

void PictureView::zoom(double factor, QPointF around) {
    const QPointF at = (around - origin()) / scale();
    zoom_ = std::clamp(zoom_ * factor, 0.2, 6.0);
    pan_ += around - (origin() + at * scale());
    update();
}

void PictureView::fit() {
    const double fitted = std::min({width() / drawing_.width, height() / drawing_.height, maximum_scale_});
    zoom_ = fitted / std::max(fitted, least_);
    pan_ = {};
    update();
}

QPointF PictureView::origin() const {
    return QPointF(std::max(0.0, (width() - drawing_.width * scale()) / 2),
                   std::max(0.0, (height() - drawing_.height * scale()) / 2)) +
           pan_;
}

QString PictureView::refAt(QPointF position) const {
    const QPointF at = (position - origin()) / scale();
    return QString::fromStdString(drawing_.hit(at.x(), at.y(), 3));
}

QRectF PictureView::itemRect(const QString& ref) const {
    const Box b = drawing_.bounds(ref.toStdString());
    if (b.x0 > b.x1) return {};
    return {QPointF(b.x0, b.y0) * scale() + origin(), QPointF(b.x1, b.y1) * scale() + origin()};
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
    paint(painter, drawing_, theme().inks());
    painter.restore();
    if (!highlight_.isEmpty()) ring(painter, highlight_, theme().teal);
    if (hasFocus() && !selected_.isEmpty()) ring(painter, selected_, theme().amber);
    if (dragged_.startsWith(QLatin1String("pin:")) && dragging_ != pressed_) {
        painter.setPen(QPen(theme().teal, 2, Qt::DashLine));
        painter.drawLine(pressed_, dragging_);
        painter.setBrush(theme().teal);
        painter.drawEllipse(dragging_, 5, 5);
    }
}

void PictureView::mousePressEvent(QMouseEvent* event) {
    const QString ref = refAt(event->position());
    pressed_ = event->position();
    panning_ = ref.isEmpty() && least_ > 0;
    if (ref.isEmpty()) return;
    selected_ = ref;
    dragged_ = ref;
    pressed_ = dragging_ = event->position();
    update();
    emit clicked(ref);
}

void PictureView::mouseReleaseEvent(QMouseEvent* event) {
    const QString ref = std::exchange(dragged_, {});
    panning_ = false;
    update();
    if (!ref.isEmpty() && (event->position() - pressed_).manhattanLength() > 10)
        emit dropped(ref, (event->position() - origin()) / scale());
}

void PictureView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (const QString ref = refAt(event->position()); !ref.isEmpty()) emit activated(ref);
}

bool PictureView::mayDrag(const QString& ref) const {
    return std::any_of(draggable_.begin(), draggable_.end(),
                       [&](const std::string& p) { return ref.startsWith(QString::fromStdString(p)); });
}

void PictureView::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton && panning_) {
        pan_ += event->position() - pressed_;
        pressed_ = event->position();
        return update();
    }
    if (event->buttons() & Qt::LeftButton && dragged_.startsWith(QLatin1String("pin:"))) {
        dragging_ = event->position();
        return update();
    }
    if (event->buttons() & Qt::LeftButton && mayDrag(dragged_) &&
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

void PictureView::wheelEvent(QWheelEvent* event) {
    if (least_ > 0 && event->modifiers() & Qt::ControlModifier) {
        zoom(event->angleDelta().y() > 0 ? 1.15 : 1 / 1.15, event->position());
        return event->accept();
    }
    const QString ref = refAt(event->position());
    if (!ref.startsWith(QLatin1String("value:")) || event->angleDelta().y() == 0) return event->ignore();
    emit stepped(ref, event->angleDelta().y() > 0 ? 1 : -1);
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
            if (least_ > 0) zoom(event->key() == Qt::Key_Plus ? 1.15 : 1 / 1.15, rect().center());
            return;
        case Qt::Key_0:
            if (least_ > 0) fit();
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
