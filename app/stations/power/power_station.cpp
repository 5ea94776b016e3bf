#include "app/stations/power/power_station.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/stations/power/cell_panel.hpp"
#include "app/stations/power/charging_panel.hpp"
#include "app/stations/power/fit_panel.hpp"
#include "app/stations/power/protection_panel.hpp"
#include "app/stations/power/supplies_panel.hpp"
#include "app/stations/power/wires_panel.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/life_plot.hpp"
#include "app/widgets/owned_box.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "app/widgets/situation_card.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "recipes/blocks.hpp"
#include "recipes/low_battery.hpp"

namespace elkit {

PowerStation::PowerStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Power"), parent) {
    auto* upper = new QHBoxLayout;
    upper->setSpacing(12);
    upper->addWidget(supplyCard(), 3);
    upper->addWidget(lifeCard(), 6);
    auto* above = new QWidget;
    upper->setContentsMargins(0, 0, 0, 0);
    above->setLayout(upper);
    situations_ = new SituationCard(session(), true);
    auto* below = new FoldingTabs(QStringLiteral("power-below"));
    below->setAccessibleName(tr("Other supplies, and how a day is spent"));
    const auto add = [&](TabPanel* panel, const QString& title) {
        panels_.push_back(panel);
        below->addScrolling(panel, title);
    };
    panels_.push_back(new SuppliesPanel(session()));
    below->addTab(panels_.back(), tr("Other supplies"));
    add(new WiresPanel(session()), tr("Wires"));
    add(new ProtectionPanel(session()), tr("Protection"));
    add(new ChargingPanel(session()), tr("Charging"));
    add(new CellPanel(session()), tr("Cell"));
    add(new FitPanel(session()), tr("Measured"));
    connect(below, &QTabWidget::currentChanged, this, [this] { refresh(); });
    below->addTab(situations_, tr("Situations and the day"));
    body()->addWidget(halves(above, below, {360, 280}), 1);
}

QWidget* PowerStation::supplyCard() {
    auto* supply = new Card(tr("Supply"));
    supply->body()->setSpacing(px(4));
    auto* form = new Form;
    cell_ = new QComboBox;
    cell_->setFixedWidth(px(140));
    cell_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    cell_->setMinimumContentsLength(10);
    count_ = new QuantityEdit(tr("cells in series"), Unit::count, 1, 40);
    lead_length_ = new QuantityEdit(tr("lead length"), Unit::metre, 0, 20);
    lead_area_ = new QuantityEdit(tr("lead cross-section"), Unit::square_metre, 0.01, 10);
    form->addField(tr("Cell"), cell_);
    form->addField(tr("In series"), count_);
    form->addField(tr("Leads, each"), lead_length_);
    form->addField(tr("of"), lead_area_);
    supply->body()->addLayout(form);
    voltage_ = new FigureLabel(session(), FigureLabel::Size::plain);
    supply->body()->addWidget(voltage_);
    standby_ = new FigureLabel(session(), FigureLabel::Size::plain);
    standby_current_ = new FigureLabel(session(), FigureLabel::Size::plain);
    supply->body()->addWidget(standby_);
    supply->body()->addWidget(standby_current_);
    warn_ = new FigureLabel(session(), FigureLabel::Size::plain);
    supply->body()->addWidget(warn_);
    show_low_ = new QPushButton(tr("Show it with a light"));
    show_low_->setToolTip(tr("Puts a block into the circuit whose light comes on below these volts"));
    supply->body()->addWidget(show_low_, 0, Qt::AlignLeft);
    connect(show_low_, &QPushButton::clicked, this, &PowerStation::showLow);
    auto* warned = new QHBoxLayout;
    warn_words_ = label(tr("Warns below"), "muted");
    warn_below_ = new QuantityEdit(tr("warns below"), Unit::volt, 2, 30);
    warn_words_->setBuddy(warn_below_);
    warn_below_->setFixedWidth(px(74));
    warned->addWidget(warn_words_);
    warned->addWidget(warn_below_);
    warned->addStretch(1);
    supply->body()->addLayout(warned);
    connect(warn_below_, &QuantityEdit::valueEntered, this, [this](double volts) {
        if (const auto block = block_with(session().design(), low_battery_recipe))
            session().edit(with_goal(session().design(), *block, "warn", volts), tr("warn at other volts"));
    });
    supply->body()->addStretch(1);
    connect(cell_, &QComboBox::activated, this, [this] {
        changeSource("cell", cell_->currentData().toString().toStdString(), tr("change the cell"));
    });
    connect(count_, &QuantityEdit::valueEntered, this,
            [this](double n) { changeSource("count", std::round(n), tr("change the number of cells")); });
    const auto lead = [this](QuantityEdit* field, const char* key) {
        connect(field, &QuantityEdit::valueEntered, this,
                [this, key](double value) { changeSource(key, value, tr("change the leads")); });
    };
    lead(lead_length_, "lead_length");
    lead(lead_area_, "lead_area");
    return supply;
}

QWidget* PowerStation::lifeCard() {
    auto* life = new Card({});
    life_title_ = label({}, "cardTitle");
    life->body()->addWidget(life_title_);
    auto* figures = new QHBoxLayout;
    figures->setSpacing(px(24));
    run_time_ = new FigureLabel(session(), FigureLabel::Size::hero);
    run_time_->setObjectName(QStringLiteral("runTime"));
    left_ = new FigureLabel(session(), FigureLabel::Size::large);
    average_ = new FigureLabel(session(), FigureLabel::Size::large);
    for (auto* f : {run_time_, average_, left_}) figures->addWidget(f, 0, Qt::AlignBottom);
    figures->addStretch(1);
    life->body()->addLayout(figures);
    life_ = new LifePlot;
    life->body()->addWidget(life_, 1);
    return life;
}

/// A block whose light comes on where the battery is low.
void PowerStation::showLow() {
    if (const auto power = session().ask(session().powerQuery()))
        session().edit(with_low_battery_light(session().design(), power->warn_at.value),
                       tr("show a low battery"));
}

void PowerStation::focusRef(const QString& ref) {
    if (ref.startsWith(QLatin1String("field:")))
        run_time_->setFocus();
    else
        cell_->setFocus();
}

/// A parameter of the source; blocks that it feeds follow.
void PowerStation::changeSource(const char* key, const ParamValue& value, const QString& what) {
    const Part* source = session().design().circuit.source();
    if (!source || !part_kind(source->kind)->param(key))
        return session().reportError(
            tr("This circuit has no cells: change its supply on the Circuit station."));
    Circuit next = session().design().circuit;
    Part& fed = *next.find(source->designator);
    if (const auto* cell = std::get_if<std::string>(&value); cell && std::string_view(key) == "cell")
        put_cell(fed, *cell);
    else
        fed.params[key] = value;
    session().edit(with_circuit(session().design(), std::move(next)), what);
    refresh();
}

KeyFigure PowerStation::keyFigure() {
    const auto power = session().ask(session().powerQuery(), Urgency::key_figure);
    if (!power) return {power.there() ? tr("not computable yet") : tr("computing …"), power.current()};
    const Figure& f = power->run_time;
    return {std::isfinite(f.value) ? QString::fromStdString(f.text() + " (" + f.spread_text(2) + ")")
                                   : tr("does not empty"),
            power.current()};
}

void PowerStation::refresh() {
    for (TabPanel* panel : panels_)
        if (panel->isVisible()) panel->refresh();
    const Part* source = session().design().circuit.source();
    if (source) {
        offer_types(*cell_, session(), "cells", source->text("cell"));
        count_->setValue(source->number("count"));
        lead_length_->setValue(source->number("lead_length"));
        lead_area_->setValue(source->number("lead_area"));
    }
    const bool cells = source && is(*source, Role::cells);
    for (QWidget* field : {static_cast<QWidget*>(cell_), static_cast<QWidget*>(count_)})
        field->setEnabled(cells);
    if (source && !cells) {  // nothing that empties
        cell_->setPlaceholderText(QString::fromStdString(part_kind(source->kind)->name));
        count_->setText(QStringLiteral("–"));
    }
    const auto block = block_with(session().design(), low_battery_recipe);
    warn_words_->setVisible(block.has_value()), warn_below_->setVisible(block.has_value());
    if (block)
        warn_below_->setValue(goals_of(session().design(), session().design().blocks[*block]).number("warn"));
    const auto now = session().ask(session().restQuery(), Urgency::in_view, "now");
    if (now)
        voltage_->setFigure(supply_voltage(*session().circuit(), session().conditions(), *now),
                            tr("at the leads now"));
    voltage_->setDimmed(!now.current());
    dim(situations_->table(), !situations_->refresh());
    const int active = session().situation();
    life_title_->setText(
        !session().design().use.empty() ? tr("Run time, by the day plan")
        : active > 0
            ? tr("Run time in \"%1\", without a pause")
                  .arg(QString::fromStdString(session().situations()[static_cast<std::size_t>(active)].name))
            : tr("Run time, lit without a pause"));
    const auto power = session().ask(session().powerQuery());
    for (auto* f : {run_time_, left_, average_, standby_, standby_current_, warn_})
        f->setDimmed(!power.current());
    dim(life_, !power.current());
    if (!power && power.there()) return lackFor(power.error());
    if (!power) return setSubtitle(tr("computing …"));
    lackNothing();
    const PowerResult& p = *power;
    QString words = tr("Ended by: %1").arg(QString::fromStdString(p.typical.ended_by));
    setSubtitle(words);
    const bool empties = std::isfinite(p.warn_at.value) && cells;
    warn_->setVisible(empties), show_low_->setVisible(empties && !block);
    if (empties) warn_->setFigure(p.warn_at, tr("low below"));
    run_time_->setFigure(p.run_time, tr("run time"));
    if (!std::isfinite(p.run_time.value)) run_time_->setText(tr("endless"));
    left_->setFigure(p.energy_left, tr("energy left"));
    average_->setFigure(p.average_brightness, tr("average light"));
    standby_->setFigure(p.standby, tr("standby"));
    standby_current_->setFigure(p.standby_current, tr("drain in standby"));
    life_->show_discharge(p, session().design().brief.run_time, session().design().brief.end_brightness,
                          session().conditions().battery, true);
}

StationInfo power_station() {
    return {QStringLiteral("power"),
            QObject::tr("Power"),
            [](Session& s) { return new PowerStation(s); },
            {{QStringLiteral("power"), QStringLiteral("tide-pool-lamp"),
              shows_figure(QStringLiteral("runTime"), 0.62), false, false}}};
}

}  // namespace elkit
