#include "app/stations/circuit/meter_panel.hpp"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"

namespace elkit {

MeterPanel::MeterPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(12, 8, 12, 8);
    across->setSpacing(28);
    auto* face = new QVBoxLayout;
    value_ = new FigureLabel(session_, FigureLabel::Size::hero);
    display_ = label({}, "title");
    note_ = label({}, "muted");
    note_->setWordWrap(true);
    face->addWidget(value_);
    face->addWidget(display_);
    face->addWidget(note_);
    face->addStretch(1);
    across->addLayout(face, 1);
    auto* grid = new QGridLayout;
    const auto box = [&](int row, const QString& name) {
        auto* b = new QComboBox;
        b->setAccessibleName(name);
        auto* l = label(name, "muted");
        l->setBuddy(b);
        grid->addWidget(l, row, 0);
        grid->addWidget(b, row, 1);
        connect(b, &QComboBox::activated, this, &MeterPanel::measure);
        return b;
    };
    mode_ = box(0, tr("dial"));
    red_ = box(1, tr("red probe ▲"));
    black_ = box(2, tr("black probe ▼"));
    lifted_ = box(3, tr("lifted leg"));
    grid->setColumnMinimumWidth(1, px(150));
    grid->setRowStretch(4, 1);
    across->addLayout(grid);
    struct Mode {
        QString name;
        MeterMode mode;
    };
    for (const Mode& m :
         {Mode{tr("volts, steady"), MeterMode::volts_dc}, Mode{tr("volts, swinging"), MeterMode::volts_ac},
          Mode{tr("amperes"), MeterMode::amps}, Mode{tr("ohms, power off"), MeterMode::ohms},
          Mode{tr("continuity"), MeterMode::beep}})
        mode_->addItem(m.name, static_cast<int>(m.mode));
    connect(&session_, &Session::designChanged, this, &MeterPanel::rebuild);
    connect(&session_, &Session::changed, this, [this] {
        if (isVisible()) measure();
    });
    rebuild();
}

void MeterPanel::touch(const QString& net) {
    (next_is_red_ ? red_ : black_)->setCurrentText(net);
    next_is_red_ = !next_is_red_;
    measure();
}

void MeterPanel::rebuild() {
    QStringList nets, legs;
    for (const auto& net : session_.design().circuit.nets()) nets << QString::fromStdString(net);
    for (const Part& part : session_.design().circuit.parts)
        for (const Pin& pin : part.pins) legs << QString::fromStdString(part.designator + "." + pin.name);
    if (nets == nets_ && legs == legs_) {
        if (isVisible()) measure();
        return;
    }
    nets_ = nets, legs_ = legs;
    const QString red = red_->currentText(), black = black_->currentText(), leg = lifted_->currentText();
    for (QComboBox* b : {red_, black_, lifted_}) b->clear();
    for (QComboBox* b : {red_, black_}) b->addItems(nets);
    lifted_->addItems(legs);
    red_->setCurrentIndex(std::max(0, red_->findText(red)));
    lifted_->setCurrentIndex(std::max(0, lifted_->findText(leg)));
    const QString rail = QString::fromStdString(session_.design().circuit.negative_rail());
    black_->setCurrentIndex(std::max(0, black_->findText(black_->findText(black) >= 0 ? black : rail)));
    if (isVisible()) measure();
}

QString MeterPanel::red() const { return red_->isEnabled() ? red_->currentText() : QString(); }
QString MeterPanel::black() const { return black_->isEnabled() ? black_->currentText() : QString(); }

void MeterPanel::probe(const QString& net, bool red) {
    (red ? red_ : black_)->setCurrentText(net);
    next_is_red_ = !red;
    measure();
}

/// A circuit that moves is averaged over its cycle, which takes a while: off the interface's thread.
void MeterPanel::measure() {
    const auto mode = static_cast<MeterMode>(mode_->currentData().toInt());
    const bool amps = mode == MeterMode::amps;
    lifted_->setEnabled(amps), red_->setEnabled(!amps), black_->setEnabled(!amps);
    Probing p{red_->currentText().toStdString(), black_->currentText().toStdString(), mode, {}};
    if (amps) p.lifted = lifted_->currentText().toStdString();
    emit probesMoved();
    const Circuit& circuit = session_.design().circuit;
    if (!may_move(circuit)) {
        work_.stop();
        return show(read_meter(circuit, known_catalogue(), session_.conditions(), p), mode);
    }
    value_->setDimmed(true);
    work_.start([circuit, c = session_.conditions(),
                 p](const Progress&) { return read_meter(circuit, known_catalogue(), c, p); },
                [this, mode](const Result<MeterReading>& reading) { show(reading, mode); });
}

void MeterPanel::show(const Result<MeterReading>& reading, MeterMode mode) {
    value_->setDimmed(false);
    if (!reading) {
        value_->hide();
        display_->show();
        display_->setText(tr("–"));
        note_->setText(QString::fromStdString(reading.error().text()));
        return;
    }
    const MeterReading& m = reading.value();
    const bool words = m.overload || mode == MeterMode::beep;
    value_->setVisible(!words);
    value_->setFigure(m.value, QString::fromStdString(m.value.label));
    display_->setVisible(words);
    display_->setText(m.overload && mode != MeterMode::beep ? tr("OL: beyond every range")
                                                            : QString::fromStdString(m.display));
    note_->setText(QString::fromStdString(m.note));
}

}  // namespace elkit
