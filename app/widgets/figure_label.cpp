#include "app/widgets/figure_label.hpp"

#include <QFocusEvent>
#include <QPainter>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"

namespace elkit {

FigureLabel::FigureLabel(Session& session, Size size, QWidget* parent)
    : QWidget(parent), session_(session), size_(size) {
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
}

void FigureLabel::setFigure(const Figure& figure, const QString& caption) {
    const bool wider = figure_.text() != figure.text();
    figure_ = figure;
    caption_ = caption;
    instead_.clear();
    const QString spread = QString::fromStdString(figure.spread_text());
    setAccessibleName(QString::fromStdString(figure.label) + QStringLiteral(": ") +
                      QString::fromStdString(figure.text()));
    setAccessibleDescription(spread.isEmpty() ? tr("Press Enter for the working")
                                              : tr("spread %1; press Enter for the working").arg(spread));
    setToolTip(tr("%1: click for the working").arg(QString::fromStdString(figure.label)));
    if (wider) updateGeometry();
    update();
    if (hasFocus()) session_.focusFigure(figure_);
}

void FigureLabel::setText(const QString& instead) {
    instead_ = instead;
    updateGeometry();
    update();
}

void FigureLabel::setDimmed(bool dimmed) {
    if (dimmed_ == dimmed) return;
    dimmed_ = dimmed;
    update();
}

QFont FigureLabel::valueFont() const {
    QFont f = font();
    f.setPixelSize(px(size_ == Size::hero ? 44 : (size_ == Size::large ? 26 : 14)));
    f.setWeight(size_ == Size::plain ? QFont::DemiBold : QFont::Bold);
    return f;
}

QFont FigureLabel::unitFont() const {
    QFont f = font();
    if (size_ == Size::hero) f.setPixelSize(px(22));
    if (size_ == Size::large) f.setPixelSize(px(15));
    return f;
}

QSize FigureLabel::sizeHint() const {
    const QFontMetrics big(valueFont()), unit_metrics(unitFont()), small(font());
    const auto [number, unit] = split_quantity(figure_.value, figure_.unit);
    int width =
        big.horizontalAdvance(instead_.isEmpty() ? QString::fromStdString(number) : instead_) + px(16);
    if (instead_.isEmpty()) width += unit_metrics.horizontalAdvance(QString::fromStdString(unit));
    int height = big.height();
    const int below = small.horizontalAdvance(caption_ + QString::fromStdString(figure_.spread_text()) +
                                              QStringLiteral("  · ")) +
                      px(8);
    if (size_ == Size::plain) {
        if (!caption_.isEmpty() || figure_.low) width += below;
    } else {
        width = std::max(width, below);
        height += small.height() + 2;
    }
    return {width, height + 4};
}

void FigureLabel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setOpacity(dimmed_ ? 0.4 : 1);
    const auto [number, unit] = split_quantity(figure_.value, figure_.unit);
    const QFontMetrics big(valueFont());
    int x = 2;
    const int baseline = big.ascent() + 1;
    p.setPen(theme().ink);
    p.setFont(valueFont());
    const QString main = instead_.isEmpty() ? QString::fromStdString(number) : instead_;
    p.drawText(x, baseline, main);
    x += big.horizontalAdvance(main) + px(size_ == Size::plain ? 4 : 6);
    p.setFont(unitFont());
    p.setPen(theme().muted);
    if (instead_.isEmpty()) {
        p.drawText(x, baseline, QString::fromStdString(unit));
        x += QFontMetrics(unitFont()).horizontalAdvance(QString::fromStdString(unit)) + px(8);
    }
    QString behind = caption_;
    if (const QString spread = QString::fromStdString(figure_.spread_text());
        !spread.isEmpty() && instead_.isEmpty())
        behind += (behind.isEmpty() ? QString() : QStringLiteral(" · ")) + spread;
    p.setFont(font());
    if (size_ == Size::plain)
        p.drawText(x, baseline, (behind.isEmpty() ? QString() : QStringLiteral("· ")) + behind);
    else
        p.drawText(2, big.height() + QFontMetrics(font()).ascent() + 1, behind);
    if (hasFocus()) {
        p.setPen(QPen(theme().amber, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(rect().adjusted(1, 1, -1, -1), 5, 5);
    }
}

void FigureLabel::mousePressEvent(QMouseEvent*) {
    setFocus(Qt::MouseFocusReason);
    session_.focusFigure(figure_);
}

void FigureLabel::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Space)
        session_.focusFigure(figure_);
    else
        QWidget::keyPressEvent(event);
}

void FigureLabel::focusInEvent(QFocusEvent* event) {
    if (event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason)
        session_.focusFigure(figure_);
    update();
    QWidget::focusInEvent(event);
}

}  // namespace elkit
