// The buttons and readings around the traces.
#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QSlider>

#include "app/stations/circuit/time_lane.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/quantity_edit.hpp"

namespace elkit {

/// A column beside the traces: what to record, and how to go through it.
QWidget* TimeLane::tools() {
    auto* box = new QWidget;
    box->setFixedWidth(px(186));
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(5);
    grid->setHorizontalSpacing(6);
    record_ = new QPushButton(tr("Record"));
    record_->setToolTip(tr("Follows the circuit from now on for the time beside (Alt R)"));
    record_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_R));
    span_ = new QuantityEdit(tr("time to record"), Unit::second, 1e-9, 1e4);
    span_->setValue(0.02);
    from_ = new QComboBox;
    from_->addItem(tr("from power-up"), true);
    from_->addItem(tr("from rest"), false);
    from_->setAccessibleName(tr("where the recording starts"));
    laid_over_ = new QCheckBox(tr("laid over"));
    laid_over_->setToolTip(tr("All curves in one picture, volts at the left and amperes at the right"));
    band_wanted_ = new QCheckBox(tr("batch"));
    band_wanted_->setToolTip(
        tr("Shades between which values 90 % of a batch would run: forty copies with "
           "every part at a random place of its tolerance"));
    play_ = new QPushButton(tr("Play"));
    play_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_P));
    auto* back = new QPushButton(tr("◂ event"));
    auto* next = new QPushButton(tr("event ▸"));
    back->setAccessibleName(tr("to the event before"));
    next->setAccessibleName(tr("to the next event"));
    speed_ = new QComboBox;
    speed_->setAccessibleName(tr("speed of playing"));
    for (const double slower : {1.0, 10.0, 100.0, 1e3, 1e4, 1e5, 1e6})
        speed_->addItem(
            slower == 1 ? tr("as it is") : tr("%1 × slower").arg(QLocale().toString(slower, 'f', 0)), slower);
    for (const double seconds : {5.0, 20.0}) speed_->addItem(tr("all in %1 s").arg(seconds), -seconds);
    speed_->setCurrentIndex(speed_->findData(-5.0));
    speed_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    speed_->setMinimumContentsLength(7);
    mark_button_ = new QPushButton(tr("Mark"));
    mark_button_->setToolTip(
        tr("Keeps this moment: differences are shown against it (Alt M); again takes it away"));
    mark_button_->setShortcut(QKeySequence(Qt::ALT | Qt::Key_M));
    QWidget* const pairs[][2] = {{record_, span_}, {from_, nullptr}, {laid_over_, band_wanted_},
                                 {play_, speed_},  {back, next},     {mark_button_, nullptr}};
    int row = 0;
    for (const auto& [first, second] : pairs) {
        grid->addWidget(first, row, 0, 1, second || first == mark_button_ ? 1 : 2);
        if (second) grid->addWidget(second, row, 1);
        ++row;
    }
    grid->setRowStretch(row, 1);
    connect(record_, &QPushButton::clicked, this, [this] {
        if (!run_.running()) return start();
        run_.stop();
        record_->setText(tr("Record"));
        say(tr("Stopped."));
    });
    connect(span_, &QuantityEdit::valueEntered, this, &TimeLane::start);
    connect(band_wanted_, &QCheckBox::toggled, this, &TimeLane::showBand);
    connect(laid_over_, &QCheckBox::toggled, this, &TimeLane::plot);
    connect(play_, &QPushButton::clicked, this, &TimeLane::play);
    connect(back, &QPushButton::clicked, this, [this] { step(-1); });
    connect(next, &QPushButton::clicked, this, [this] { step(1); });
    connect(mark_button_, &QPushButton::clicked, this, &TimeLane::mark);
    return box;
}

/// Where in the recording one is, and what was recorded.
QLayout* TimeLane::scrubber() {
    auto* row = new QHBoxLayout;
    trouble_ = new ElidingLabel;
    trouble_->setObjectName(QStringLiteral("muted"));
    head_ = new QSlider(Qt::Horizontal);
    head_->setRange(0, ticks);
    head_->setAccessibleName(tr("moment of the recording"));
    time_ = label({}, "bold");
    balance_ = new FigureLabel(session_, FigureLabel::Size::plain);
    balance_->hide();
    row->addWidget(trouble_, 3);
    row->addWidget(head_, 2);
    row->addWidget(time_);
    row->addWidget(balance_);
    return row;
}

QWidget* TimeLane::readings() {
    auto* box = new QWidget;
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);  // shows what has room
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    measured_ = new QComboBox;
    measured_->setAccessibleName(tr("trace to measure"));
    row->addWidget(measured_);
    const auto reading = [&] {
        auto* figure = new FigureLabel(session_, FigureLabel::Size::plain);
        row->addWidget(figure);
        figure->hide();
        return figure;
    };
    since_mark_ = reading(), change_since_mark_ = reading();
    level_ = new QuantityEdit(tr("level to reach"), Unit::none, -1e6, 1e6);
    level_->setPlaceholderText(tr("level"));
    level_->setFixedWidth(px(52));
    row->addWidget(level_);
    reached_ = reading();
    for (int k = 0; k < 5; ++k) figures_.push_back(reading());
    row->addStretch(1);
    connect(level_, &QuantityEdit::valueEntered, this, &TimeLane::showMeasurements);
    return box;
}

}  // namespace elkit
