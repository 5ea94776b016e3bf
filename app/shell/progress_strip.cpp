#include "app/shell/progress_strip.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"

namespace elkit {

ProgressStrip::ProgressStrip(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      text_(label({}, "muted")),
      bar_(new QProgressBar),
      button_(new QPushButton) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 4, 14, 8);
    column->setSpacing(4);
    text_->setWordWrap(true);
    text_->setFixedHeight(px(50));
    text_->setAlignment(Qt::AlignLeft | Qt::AlignBottom);
    column->addWidget(text_);
    auto* row = new QHBoxLayout;
    row->addWidget(bar_, 1);
    row->addWidget(button_);
    column->addLayout(row);
    // its room stays free, so that nothing moves when it comes and goes
    QSizePolicy keeps = sizePolicy();
    keeps.setRetainSizeWhenHidden(true);
    setSizePolicy(keeps);
    bar_->setTextVisible(false);
    bar_->setFixedHeight(px(8));
    bar_->setRange(0, 100);
    bar_->setAccessibleName(tr("Progress"));
    patience_.setSingleShot(true);
    patience_.setInterval(300);
    hide();
    connect(&patience_, &QTimer::timeout, this, &ProgressStrip::refresh);
    connect(button_, &QPushButton::clicked, this, [this] {
        if (session_.stopped())
            session_.computeAgain();
        else
            session_.stopComputing();
    });
    connect(&session_, &Session::progressChanged, this, [this] {
        if (isVisible() || session_.stopped() || !session_.computing())
            refresh();
        else if (!patience_.isActive())
            patience_.start();
    });
}

void ProgressStrip::refresh() {
    const bool stopped = session_.stopped();
    setVisible(session_.computing() || stopped);
    text_->setText(stopped ? tr("Stopped. What is dimmed belongs to the earlier design.")
                           : session_.progressStage() + QStringLiteral(" …"));
    bar_->setVisible(!stopped);
    bar_->setValue(static_cast<int>(100 * session_.progressFraction()));
    button_->setText(stopped ? tr("Compute") : tr("Stop"));
}

}  // namespace elkit
