#include "app/widgets/matrix_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

#include "app/theme/theme.hpp"

namespace elkit {
namespace {

constexpr double widest_pitch = 17, narrowest_pitch = 5;  // between lights
constexpr double gap = 0.6;                               // of it, between matrices
constexpr QColor lamp_off(58, 61, 70);

}  // namespace

MatrixView::MatrixView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setObjectName(QStringLiteral("pictureDrawn"));
    setAccessibleName(tr("Picture: click a light to turn it on or off; arrows and Space do the same"));
    setCursor(Qt::PointingHandCursor);
}

void MatrixView::show(std::vector<MatrixFrame> matrices, const QColor& colour) {
    matrices_ = std::move(matrices), colour_ = colour;
    row_ = std::min(row_, matrix_side - 1), column_ = std::clamp(column_, 0, std::max(0, columns() - 1));
    updateGeometry();
    update();
}

double MatrixView::pitch() const {
    const double across = columns() + gap * (static_cast<double>(matrices_.size()) + 1);
    return std::clamp(std::min(width() / std::max(1.0, across), height() / (matrix_side + 2 * gap)),
                      static_cast<double>(px(narrowest_pitch)), static_cast<double>(px(widest_pitch)));
}

QSize MatrixView::sizeHint() const {
    const auto n = static_cast<double>(std::max<std::size_t>(1, matrices_.size()));
    return {static_cast<int>(px(widest_pitch) * (matrix_side * n + gap * (n + 1))),
            static_cast<int>(px(widest_pitch) * (matrix_side + 2 * gap))};
}

QSize MatrixView::minimumSizeHint() const {
    return {px(120), static_cast<int>(px(narrowest_pitch) * (matrix_side + 2 * gap))};
}

QPoint MatrixView::lightAt(int row, int column) const {
    const double p = pitch();
    const int gaps = 1 + column / matrix_side;
    const double left = p * gap * gaps;
    return QPointF(left + p * (column + 0.5), p * (gap + row + 0.5)).toPoint();
}

bool MatrixView::found(const QPointF& at, int& row, int& column) const {
    for (int r = 0; r < matrix_side; ++r)
        for (int c = 0; c < columns(); ++c) {
            const QPointF off = at - lightAt(r, c);
            if (std::max(std::abs(off.x()), std::abs(off.y())) > pitch() / 2) continue;
            row = r, column = c;
            return true;
        }
    return false;
}

bool MatrixView::on(int row, int column) const {
    return matrices_[static_cast<std::size_t>(column / matrix_side)].on(row, column % matrix_side);
}

void MatrixView::set(int row, int column, bool on) {
    changed_ = changed_ || this->on(row, column) != on;
    matrices_[static_cast<std::size_t>(column / matrix_side)].set(row, column % matrix_side, on);
    row_ = row, column_ = column;
    update();
}

void MatrixView::mousePressEvent(QMouseEvent* event) {
    int row = 0, column = 0;
    if (event->button() != Qt::LeftButton || !found(event->position(), row, column)) return;
    drawing_ = true, changed_ = false, pen_ = !on(row, column);
    set(row, column, pen_);
}

void MatrixView::mouseMoveEvent(QMouseEvent* event) {
    int row = 0, column = 0;
    if (drawing_ && found(event->position(), row, column)) set(row, column, pen_);
}

void MatrixView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && std::exchange(drawing_, false) && changed_) emit drawn();
}

void MatrixView::keyPressEvent(QKeyEvent* event) {
    if (matrices_.empty()) return QWidget::keyPressEvent(event);
    switch (event->key()) {
        case Qt::Key_Left:
            column_ = std::max(0, column_ - 1);
            break;
        case Qt::Key_Right:
            column_ = std::min(columns() - 1, column_ + 1);
            break;
        case Qt::Key_Up:
            row_ = std::max(0, row_ - 1);
            break;
        case Qt::Key_Down:
            row_ = std::min(matrix_side - 1, row_ + 1);
            break;
        case Qt::Key_Space:
            set(row_, column_, !on(row_, column_));
            emit drawn();
            break;
        default:
            return QWidget::keyPressEvent(event);
    }
    update();
}

void MatrixView::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    update();
}

void MatrixView::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    update();
}

void MatrixView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double p = pitch();
    painter.setPen(Qt::NoPen);
    for (std::size_t m = 0; m < matrices_.size(); ++m) {
        const QPointF first = lightAt(0, static_cast<int>(m) * matrix_side);
        painter.setBrush(matrix_ground);
        painter.drawRoundedRect(QRectF(first.x() - 0.75 * p, first.y() - 0.75 * p, p * (matrix_side + 0.5),
                                       p * (matrix_side + 0.5)),
                                p / 4, p / 4);
    }
    for (int row = 0; row < matrix_side; ++row)
        for (int column = 0; column < columns(); ++column) {
            painter.setBrush(on(row, column) ? colour_ : lamp_off);
            painter.drawEllipse(QPointF(lightAt(row, column)), 0.38 * p, 0.38 * p);
        }
    if (!hasFocus() || matrices_.empty()) return;
    painter.setPen(QPen(theme().teal, 2));
    painter.setBrush(Qt::NoBrush);
    const QPointF at = lightAt(row_, column_);
    painter.drawRect(QRectF(at.x() - p / 2, at.y() - p / 2, p, p));
}

}  // namespace elkit
