#include "app/stations/power/charging_panel.hpp"

#include <QHBoxLayout>
#include <QPushButton>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"

namespace elkit {

ChargingPanel::ChargingPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    use_ = new QPushButton(tr("Put in a charger"));
    auto* tools = new QHBoxLayout;
    tools->addWidget(label(tr("an empty cell, charged by a small module"), "muted"));
    tools->addStretch(1);
    tools->addWidget(use_);
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Currents to charge with"), "charging",
                       {{tr("set to"), number},
                        {tr("C-rate"), number},
                        {tr("full after"), number},
                        {tr("heat"), number},
                        {tr("module at"), number},
                        {tr("to mind")}},
                       true);
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_, use_});
    connect(use_, &QPushButton::clicked, this, &ChargingPanel::use);
    connect(table_, &QTableWidget::itemActivated, this, &ChargingPanel::use);
}

void ChargingPanel::refresh() {
    present(query(), use_, [this](const Charging& found) { fill(found); });
}

void ChargingPanel::fill(const Charging& found) {
    use_->setText(found.charger.empty() ? tr("Put in a charger") : tr("Set the charger to it"));
    table_->setRowCount(static_cast<int>(found.rows.size()));
    int chosen = found.advised;
    for (int r = 0; r < table_->rowCount(); ++r) {
        const ChargeRow& row = found.rows[static_cast<std::size_t>(r)];
        const bool allowed = row.verdict != ChargeRow::Verdict::no;
        if (row.present) chosen = r;
        const QString set = QString::fromStdString(format_quantity(row.current, Unit::ampere));
        int column = 0;
        auto* current = new QTableWidgetItem(row.present ? tr("%1 (as it is)").arg(set) : set);
        current->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        for (QTableWidgetItem* item :
             {current, figure_item(row.rate, QStringLiteral("%1 C").arg(row.rate.value, 0, 'f', 2)),
              figure_item(row.time), figure_item(row.heat), figure_item(row.warmth),
              new QTableWidgetItem(QString::fromStdString(row.remark))}) {
            if (!allowed) item->setForeground(theme().muted);
            table_->setItem(r, column++, item);
        }
    }
    table_->fit();
    table_->setCurrentCell(std::max(0, chosen), 0);
    const auto text = [](const Figure& f) { return QString::fromStdString(f.text()); };
    QStringList words{tr("%1: full at %2, nothing may be taken below %3")
                          .arg(QString::fromStdString(found.cell), text(found.full), text(found.lock))};
    if (!found.reached.label.empty()) words << tr("the gadget stops at %1").arg(text(found.reached));
    for (const std::string& caution : found.cautions) words << QString::fromStdString(caution);
    tell(words.join(QStringLiteral(" · ")));
}

void ChargingPanel::use() {
    const auto found = session_.ask(query());
    const int row = table_->currentRow();
    if (!found || !found.current() || row < 0 || row >= static_cast<int>(found->rows.size())) return;
    const double current = found->rows[static_cast<std::size_t>(row)].current;
    session_.edit(with_charger(session_.design(), current),
                  tr("charge with %1").arg(QString::fromStdString(format_quantity(current, Unit::ampere))));
}

}  // namespace elkit
