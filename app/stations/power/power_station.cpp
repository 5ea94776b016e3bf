#include "app/stations/power/power_station.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>
#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/life_plot.hpp"
#include "app/widgets/quantity_edit.hpp"
#include "catalogue/catalogue.hpp"
#include "recipes/steady_light.hpp"

namespace elkit {

PowerStation::PowerStation(Session& session_in, QWidget* parent) : Station(session_in, tr("Power"), parent) {
    auto* upper = new QHBoxLayout;
    upper->setSpacing(12);
    auto* supply = new Card(tr("Supply"));
    auto* form = new Form;
    cell_ = new QComboBox;
    for (const auto& type : built_in_catalogue().cells)
        cell_->addItem(QString::fromStdString(type.name), QString::fromStdString(type.id));
    cell_->setFixedWidth(px(184));
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
    upper->addWidget(supply, 3);
    auto* life = new Card(tr("Run time, lit without a pause"));
    auto* figures = new QHBoxLayout;
    run_time_ = new FigureLabel(session(), FigureLabel::Size::hero);
    run_time_->setObjectName(QStringLiteral("runTime"));
    left_ = new FigureLabel(session(), FigureLabel::Size::large);
    average_ = new FigureLabel(session(), FigureLabel::Size::large);
    for (auto* f : {run_time_, average_, left_}) figures->addWidget(f, 0, Qt::AlignBottom);
    figures->addStretch(1);
    life->body()->addLayout(figures);
    life_ = new LifePlot;
    life->body()->addWidget(life_, 1);
    upper->addWidget(life, 6);
    body()->addLayout(upper, 3);
    auto* compare = new Card({});
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("The same light from other supplies"), "cardTitle"));
    head->addStretch(1);
    policy_ = new QComboBox;
    policy_->addItem(tr("resistor chosen anew for each"));
    policy_->addItem(tr("same resistor for all"));
    policy_->setAccessibleName(tr("which resistor the other supplies get"));
    head->addWidget(policy_);
    use_ = new QPushButton(tr("Use this supply"));
    head->addWidget(use_);
    compare->body()->addLayout(head);
    table_ = new QTableWidget(0, 9);
    table_->setHorizontalHeaderLabels({tr("supply"), tr("resistor"), tr("current"), tr("fresh"), tr("at end"),
                                       tr("runs"), tr("per hour"), tr("mass"), tr("remark")});
    table_->setAccessibleName(tr("Supplies compared"));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(px(24));
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setStretchLastSection(true);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setTabKeyNavigation(false);
    table_->setShowGrid(false);
    table_->setMinimumHeight(px(150));
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    compare->body()->addWidget(table_, 1);
    body()->addWidget(compare, 3);
    show_workings(table_, session());
    connect(policy_, &QComboBox::activated, this, &PowerStation::fillTable);
    connect(use_, &QPushButton::clicked, this, &PowerStation::useRow);
    connect(table_, &QTableWidget::itemActivated, this, &PowerStation::useRow);
    const auto resize = [this](const QString& what, auto change) {
        const Design& d = session().design();
        if (!d.light)
            return session().reportError(
                tr("This circuit was entered by hand: change its battery on the Circuit station."));
        LightGoals goals = *d.light;
        change(goals);
        auto next = apply_steady_light(d, goals);
        if (next)
            session().edit(std::move(next).value(), what);
        else
            session().reportError(QString::fromStdString(next.error().text()));
        refresh();
    };
    connect(cell_, &QComboBox::activated, this, [this, resize] {
        resize(tr("change the cell"),
               [this](LightGoals& g) { g.cell = cell_->currentData().toString().toStdString(); });
    });
    connect(count_, &QuantityEdit::valueEntered, this, [resize](double n) {
        resize(tr("change the number of cells"), [n](LightGoals& g) { g.cells = std::round(n); });
    });
    const auto lead = [this](QuantityEdit* field, const char* key) {
        connect(field, &QuantityEdit::valueEntered, this, [this, key](double value) {
            Design next = session().design();
            for (Part& part : next.circuit.parts)
                if (part.kind == "battery" || part.kind == "supply") part.params[key] = value;
            session().edit(std::move(next), tr("change the leads"));
        });
    };
    lead(lead_length_, "lead_length");
    lead(lead_area_, "lead_area");
}

void PowerStation::focusRef(const QString& ref) {
    if (ref.startsWith(QLatin1String("field:")))
        run_time_->setFocus();
    else
        cell_->setFocus();
}

void PowerStation::useRow() {
    const DeepSurvey* deep = session().deep();
    const int row = table_->currentRow();
    if (!deep || row < 0 || row >= static_cast<int>(deep->supplies.size()))
        return session().reportError(tr("Choose a supply in the table first."));
    const SupplyRow& chosen = deep->supplies[static_cast<std::size_t>(row)];
    auto next = with_supply(session().design(), chosen.cell, chosen.count);
    if (next)
        session().edit(std::move(next).value(), tr("use %1").arg(QString::fromStdString(chosen.name)));
    else
        session().reportError(QString::fromStdString(next.error().text()));
}

void PowerStation::fillTable() {
    const DeepSurvey* deep = session().deep();
    if (!deep) return;
    const auto& rows = policy_->currentIndex() == 0 ? deep->supplies : deep->supplies_same;
    table_->clearSpans();
    table_->setRowCount(static_cast<int>(rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) fillRow(r, rows[static_cast<std::size_t>(r)]);
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
        cells.push_back(figure_item(s.run_time, std::isfinite(s.run_time.value) ? QString() : tr("endless")));
        cells.push_back(figure_item(s.cost_per_hour));
    } else {  // the reason takes the room of the numbers that there are not
        table_->setSpan(r, 1, 1, 6);
        cells.push_back(words(tr("not possible: %1").arg(reason)));
        for (int k = 0; k < 5; ++k) cells.push_back(words({}));
    }
    cells.push_back(figure_item(s.mass));
    cells.push_back(words(s.possible ? reason : QString()));
    QFont f = font();
    f.setBold(s.present);
    for (std::size_t c = 0; c < cells.size(); ++c) {
        if (!s.possible) cells[c]->setForeground(theme().muted);
        cells[c]->setFont(f);
        table_->setItem(r, static_cast<int>(c), cells[c]);
    }
}

void PowerStation::refresh() {
    const Part* source = session().design().circuit.source();
    if (source) {
        cell_->setCurrentIndex(cell_->findData(QString::fromStdString(source->text("cell"))));
        count_->setValue(source->number("count"));
        lead_length_->setValue(source->number("lead_length"));
        lead_area_->setValue(source->number("lead_area"));
    }
    const DeepSurvey* deep = session().deep();
    for (auto* f : {run_time_, left_, average_, standby_, standby_current_})
        f->setDimmed(session().deepPending());
    for (QWidget* view : {static_cast<QWidget*>(table_), static_cast<QWidget*>(life_)})
        dim(view, session().deepPending());
    if (!deep || !deep->power) {
        setSubtitle(deep && deep->error ? QString::fromStdString(deep->error->text()) : tr("computing …"));
        return;
    }
    const PowerResult& p = *deep->power;
    setSubtitle(tr("Ended by: %1").arg(QString::fromStdString(p.typical.ended_by)));
    run_time_->setFigure(p.run_time, tr("run time"));
    if (!std::isfinite(p.run_time.value)) run_time_->setText(tr("endless"));
    left_->setFigure(p.energy_left, tr("energy left"));
    average_->setFigure(p.average_brightness, tr("average light"));
    standby_->setFigure(p.standby, tr("switched off"));
    standby_current_->setFigure(p.standby_current, tr("drain switched off"));
    voltage_->setFigure(
        supply_voltage(session().design().circuit, session().conditions(), session().live().op),
        tr("at the leads now"));
    life_->show_discharge(p, session().design().brief.run_time, session().design().brief.end_brightness,
                          session().conditions().battery, true);
    if (tableOutdated()) fillTable();
}

}  // namespace elkit
