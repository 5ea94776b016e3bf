#include "app/widgets/folding_tabs.hpp"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QScrollArea>
#include <QSettings>
#include <QSplitter>
#include <QTabBar>
#include <QToolButton>

#include "app/widgets/picture_view.hpp"

namespace elkit {

static constexpr double tall_share = 0.68;

FoldingTabs::FoldingTabs(const QString& name, bool folded, QWidget* parent)
    : QTabWidget(parent), name_(name) {
    auto* corner = new QWidget;
    auto* row = new QHBoxLayout(corner);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    tall_button_ = new QToolButton;
    tall_button_->setObjectName(QStringLiteral("tallTabs"));
    tall_button_->setCheckable(true);
    tall_button_->setText(tr("Tall"));
    tall_button_->setToolTip(tr("Most of the height for the panel below, and back (F6)"));
    tall_button_->setAccessibleName(tr("most of the height for the panel below"));
    tall_button_->setShortcut(QKeySequence(Qt::Key_F6));
    fold_ = new QToolButton;
    fold_->setObjectName(QStringLiteral("foldTabs"));
    fold_->setShortcut(QKeySequence(Qt::SHIFT | Qt::Key_F6));
    for (auto* button : {tall_button_, fold_}) button->setAutoRaise(true), row->addWidget(button);
    setCornerWidget(corner);
    connect(fold_, &QToolButton::clicked, this, [this] { setFolded(!folded_); });
    connect(tall_button_, &QToolButton::clicked, this, &FoldingTabs::setTall);
    tabBar()->installEventFilter(this);
    QSettings settings;
    height_ = settings.value(name_ + QStringLiteral("/height"), 0).toInt();
    setFolded(settings.value(name_ + QStringLiteral("/folded"), folded).toBool());
}

/// As it is now, if it is as it usually is: nothing may have been resized since it was shown.
void FoldingTabs::keepHeight() {
    if (!folded_ && !tall_ && isVisible()) height_ = height();
}

void FoldingTabs::setFolded(bool folded) {
    if (folded) keepHeight();
    if (folded) tall_ = false;
    folded_ = folded;
    fold_->setArrowType(folded ? Qt::UpArrow : Qt::DownArrow);
    fold_->setAccessibleName(folded ? tr("open the panel below") : tr("fold the panel below"));
    fold_->setToolTip(folded ? tr("Open (Shift F6)")
                             : tr("Fold to the tabs, for more room above (Shift F6)"));
    fold_->setShortcut(QKeySequence(Qt::SHIFT | Qt::Key_F6));
    QSettings().setValue(name_ + QStringLiteral("/folded"), folded);
    for (QWidget* child : findChildren<QWidget*>(QStringLiteral("qt_tabwidget_stackedwidget")))
        child->setVisible(!folded);
    applyHeight();
}

void FoldingTabs::setTall(bool tall) {
    if (tall) keepHeight();
    tall_ = tall;
    if (tall && folded_) return setFolded(false);
    applyHeight();
}

void FoldingTabs::applyHeight() {
    tall_button_->setChecked(tall_);
    setMaximumHeight(folded_ ? tabBar()->sizeHint().height() + 2 : QWIDGETSIZE_MAX);
    auto* splitter = qobject_cast<QSplitter*>(parentWidget());
    if (folded_ || !splitter || splitter->indexOf(this) != 1) return;
    QList<int> sizes = splitter->sizes();
    const int all = sizes[0] + sizes[1];
    const int below = tall_ ? static_cast<int>(tall_share * all) : height_;
    if (!isVisible() || below <= 0 || all - below < 100) return;
    sizes[0] = all - below, sizes[1] = below;
    splitter->setSizes(sizes);
}

void FoldingTabs::addScrolling(QWidget* page, const QString& title) {
    for (auto* roomy : page->findChildren<QAbstractScrollArea*>())
        roomy->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    for (auto* picture : page->findChildren<PictureView*>())
        picture->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setWidget(page);
    addTab(scroll, title);
}

void FoldingTabs::showPage(QWidget* page) {
    for (int k = 0; k < count(); ++k)
        if (widget(k) == page || widget(k)->isAncestorOf(page)) setCurrentIndex(k);
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
    if (folded_ || tall_ || !isVisible() || height() == height_) return;
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
