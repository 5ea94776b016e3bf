#include "app/stations/power/power_station.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/folding_tabs.hpp"
#include "app/widgets/life_plot.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "app/widgets/situation_card.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "recipes/blocks.hpp"

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
    below->addTab(compareCard(), tr("The same light from other supplies"));
    below->addTab(situations_, tr("Situations, and how a day is spent"));
    body()->addWidget(halves(above, below, {360, 280}), 1);
}

QWidget* PowerStation::supplyCard() {
    auto* supply = new Card(tr("Supply"));
    auto* form = new Form;
    cell_ = new QComboBox;
    for (const auto& type : known_catalogue().cells)
        cell_->addItem(QString::fromStdString(type.name), QString::fromStdString(type.id));
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

QWidget* PowerStation::compareCard() {
    auto* compare = new Card({});
    auto* head = new QHBoxLayout;
    head->addStretch(1);
    policy_ = new QComboBox;
    policy_->addItem(tr("sized anew for each"));
    policy_->addItem(tr("same parts for all"));
    policy_->setAccessibleName(tr("whether recipes size their parts for the other supplies"));
    head->addWidget(policy_);
    use_ = new QPushButton(tr("Use this supply"));
    head->addWidget(use_);
    compare->body()->addLayout(head);
    constexpr auto number = DataTable::numbers;
    table_ = new DataTable(tr("Supplies compared"), {{tr("supply")},
                                                     {tr("resistor"), number},
                                                     {tr("current"), number},
                                                     {tr("fresh"), number},
                                                     {tr("at end"), number},
                                                     {tr("runs"), number},
                                                     {tr("per hour"), number},
                                                     {tr("mass"), number},
                                                     {tr("remark")}});
    table_->setObjectName(QStringLiteral("supplies"));
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setMinimumHeight(px(110));
    compare->body()->addWidget(table_, 1);
    show_workings(table_, session());
    connect(policy_, &QComboBox::activated, this, [this] { refresh(); });
    connect(use_, &QPushButton::clicked, this, &PowerStation::useRow);
    connect(table_, &QTableWidget::itemActivated, this, &PowerStation::useRow);
    return compare;
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
    next.find(source->designator)->params[key] = value;
    session().edit(with_circuit(session().design(), std::move(next)), what);
    refresh();
}

SuppliesQuery PowerStation::suppliesQuery() {
    return session().suppliesQuery(policy_->currentIndex() == 0 ? SupplyPolicy::sized_anew
                                                                : SupplyPolicy::same_parts);
}

void PowerStation::useRow() {
    const auto rows = session().ask(suppliesQuery());
    const int row = table_->currentRow();
    if (!rows || row < 0 || row >= static_cast<int>(rows->size()))
        return session().reportError(tr("Choose a supply in the table first."));
    const SupplyRow& chosen = (*rows)[static_cast<std::size_t>(row)];
    session().edit(with_supply(session().design(), chosen.cell, chosen.count),
                   tr("use %1").arg(QString::fromStdString(chosen.name)));
}

void PowerStation::fillTable() {
    const SuppliesQuery query = suppliesQuery();
    const auto rows = session().ask(query);
    dim(table_, !rows.current());
    if (!rows || !rows.current() || !outdated(query.key())) return;
    table_->setRowCount(static_cast<int>(rows->size()));
    for (int r = 0; r < table_->rowCount(); ++r) fillRow(r, (*rows)[static_cast<std::size_t>(r)]);
    table_->fit();
}

void PowerStation::fillRow(int r, const SupplyRow& s) {
    const QString reason = QString::fromStdString(s.reason);
    const auto words = [](const QString& text) {
        auto* item = new QTableWidgetItem(text);
        item->setToolTip(text);
        return item;
    };
    std::vector<QTableWidgetItem*> cells{
        words(QString::fromStdString(s.name) + (s.present ? tr("  (this one)") : QString()))};
    if (s.possible) {
        cells.push_back(figure_item(s.resistor, s.resistor.value > 0 ? QString() : tr("none")));
        for (const Figure* f : {&s.current, &s.start, &s.end}) cells.push_back(figure_item(*f));
        const QString none = QStringLiteral("–");
        cells.push_back(figure_item(s.run_time, !s.lasts                          ? none
                                                : std::isfinite(s.run_time.value) ? QString()
                                                                                  : tr("endless")));
        cells.push_back(figure_item(s.cost_per_hour, s.lasts ? QString() : none));
    } else {
        for (int k = 0; k < 6; ++k) cells.push_back(unknown_item());
    }
    cells.push_back(figure_item(s.mass));
    cells.push_back(words(s.possible ? reason : tr("not possible: %1").arg(reason)));
    QFont f = font();
    f.setBold(s.present);
    for (std::size_t c = 0; c < cells.size(); ++c) {
        if (!s.possible) cells[c]->setForeground(theme().muted);
        cells[c]->setFont(f);
        table_->setItem(r, static_cast<int>(c), cells[c]);
    }
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
    const Part* source = session().design().circuit.source();
    if (source) {
        cell_->setCurrentIndex(cell_->findData(QString::fromStdString(source->text("cell"))));
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
    const auto now = session().ask(session().restQuery(), Urgency::in_view, "now");
    if (now)
        voltage_->setFigure(supply_voltage(*session().circuit(), session().conditions(), *now),
                            tr("at the leads now"));
    voltage_->setDimmed(!now.current());
    fillTable();
    dim(situations_->table(), !situations_->refresh());
    const int active = session().situation();
    life_title_->setText(
        !session().design().use.empty() ? tr("Run time, by the day plan")
        : active > 0
            ? tr("Run time in \"%1\", without a pause")
                  .arg(QString::fromStdString(session().situations()[static_cast<std::size_t>(active)].name))
            : tr("Run time, lit without a pause"));
    const auto power = session().ask(session().powerQuery());
    for (auto* f : {run_time_, left_, average_, standby_, standby_current_}) f->setDimmed(!power.current());
    dim(life_, !power.current());
    if (!power && power.there()) return lackFor(power.error());
    if (!power) return setSubtitle(tr("computing …"));
    lackNothing();
    const PowerResult& p = *power;
    setSubtitle(tr("Ended by: %1").arg(QString::fromStdString(p.typical.ended_by)));
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
