#include "app/widgets/folding_tabs.hpp"

#include <QMouseEvent>
#include <QSettings>
#include <QSplitter>
#include <QTabBar>
#include <QToolButton>

namespace elkit {

FoldingTabs::FoldingTabs(const QString& name, QWidget* parent) : QTabWidget(parent), name_(name) {
    button_ = new QToolButton;
    button_->setObjectName(QStringLiteral("foldTabs"));
    button_->setAutoRaise(true);
    setCornerWidget(button_);
    connect(button_, &QToolButton::clicked, this, [this] { setFolded(!folded_); });
    tabBar()->installEventFilter(this);
    QSettings settings;
    height_ = settings.value(name_ + QStringLiteral("/height"), 0).toInt();
    setFolded(settings.value(name_ + QStringLiteral("/folded"), false).toBool());
}

void FoldingTabs::setFolded(bool folded) {
    folded_ = folded;
    button_->setArrowType(folded ? Qt::UpArrow : Qt::DownArrow);
    button_->setAccessibleName(folded ? tr("open the panel below") : tr("fold the panel below"));
    button_->setToolTip(folded ? tr("Open") : tr("Fold to the tabs, for more room above"));
    QSettings().setValue(name_ + QStringLiteral("/folded"), folded);
    for (QWidget* child : findChildren<QWidget*>(QStringLiteral("qt_tabwidget_stackedwidget")))
        child->setVisible(!folded);
    applyHeight();
}

void FoldingTabs::applyHeight() {
    setMaximumHeight(folded_ ? tabBar()->sizeHint().height() + 2 : QWIDGETSIZE_MAX);
    auto* splitter = qobject_cast<QSplitter*>(parentWidget());
    if (folded_ || !splitter || !isVisible() || height_ <= 0) return;
    QList<int> sizes = splitter->sizes();
    const int at = splitter->indexOf(this), rest = sizes[0] + sizes[at] - height_;
    if (at != 1 || rest < 100) return;
    sizes[0] = rest, sizes[1] = height_;
    splitter->setSizes(sizes);
}

void FoldingTabs::showPage(QWidget* page) {
    setCurrentWidget(page);
    if (folded_) setFolded(false);
}

/// Any click on a tab of folded ones opens them; one on the open tab folds them.
bool FoldingTabs::eventFilter(QObject* watched, QEvent* event) {
    if (watched == tabBar() && event->type() == QEvent::MouseButtonPress) {
        const int at = tabBar()->tabAt(static_cast<QMouseEvent*>(event)->position().toPoint());
        if (at >= 0 && (folded_ || at == currentIndex())) setFolded(!folded_);
    }
    return QTabWidget::eventFilter(watched, event);
}

void FoldingTabs::resizeEvent(QResizeEvent* event) {
    QTabWidget::resizeEvent(event);
    if (folded_ || !isVisible() || height() == height_) return;
    if (!qobject_cast<QSplitter*>(parentWidget())) return;
    height_ = height();
    QSettings().setValue(name_ + QStringLiteral("/height"), height_);
}

void FoldingTabs::showEvent(QShowEvent* event) {
    QTabWidget::showEvent(event);
    applyHeight();
}

QWidget* halves(QWidget* above, FoldingTabs* below, const QList<int>& heights) {
    auto* splitter = new QSplitter(Qt::Vertical);
    splitter->addWidget(above);
    splitter->addWidget(below);
    splitter->setStretchFactor(0, heights[0]);
    splitter->setStretchFactor(1, heights[1]);
    splitter->setSizes(heights);
    splitter->setHandleWidth(8);
    splitter->setChildrenCollapsible(false);
    return splitter;
}

}  // namespace elkit
