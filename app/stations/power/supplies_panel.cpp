#include "app/stations/power/supplies_panel.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <cmath>

#include "app/stations/power/supply_plot.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/owned_box.hpp"
#include "batch/owned_values.hpp"

namespace elkit {

SuppliesPanel::SuppliesPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* head = new QHBoxLayout;
    head->addWidget(new OwnedBox(session_));
    head->addStretch(1);
    const auto box = [&](const QString& name, const QStringList& choices) {
        auto* made = new QComboBox;
        made->addItems(choices);
        made->setAccessibleName(name);
        head->addWidget(made);
        return made;
    };
    shown_as_ = box(tr("what is shown of the supplies"),
                    {tr("table"), tr("time by cost"), tr("time by size"), tr("time by mass")});
    scope_ = box(tr("which supplies are compared"),
                 {tr("usual ones"), tr("with converters"), tr("every cell, 1–6")});
    policy_ = box(tr("whether recipes size their parts for the other supplies"),
                  {tr("sized anew"), tr("same parts")});
    use_ = new QPushButton(tr("Use this supply"));
    head->addWidget(use_);
    column_->addLayout(head);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Supplies compared"), "supplies",
                       {{tr("supply")},
                        {tr("resistor"), number},
                        {tr("current"), number},
                        {tr("fresh"), number},
                        {tr("at end"), number},
                        {tr("runs"), number},
                        {tr("per hour"), number},
                        {tr("mass"), number},
                        {tr("remark")}},
                       true);
    table_->setMinimumHeight(px(110));
    plot_ = new SupplyPlot;
    column_->addWidget(table_, 1);
    column_->addWidget(plot_, 1);
    plot_->hide();
    addNote();
    connect(table_, &QTableWidget::currentCellChanged, this, &SuppliesPanel::choose);
    connect(plot_, &SupplyPlot::chosen, this, [this](int row) { table_->setCurrentCell(row, 0); });
    for (QComboBox* each : {scope_, policy_})
        connect(each, &QComboBox::activated, this, &SuppliesPanel::refresh);
    connect(shown_as_, &QComboBox::currentIndexChanged, this, [this](int index) {
        table_->setVisible(index == 0), plot_->setVisible(index > 0);
        if (index > 0) plot_->setAcross(static_cast<SupplyTakes>(index - 1));
    });
    connect(use_, &QPushButton::clicked, this, &SuppliesPanel::use);
    connect(table_, &QTableWidget::itemActivated, this, &SuppliesPanel::use);
}

SuppliesQuery SuppliesPanel::query() const {
    constexpr SupplyScope scopes[]{SupplyScope::usual, SupplyScope::converted, SupplyScope::all};
    return session_.suppliesQuery(policy(), scopes[std::max(0, scope_->currentIndex())]);
}

SupplyPolicy SuppliesPanel::policy() const {
    return policy_->currentIndex() == 0 ? SupplyPolicy::sized_anew : SupplyPolicy::same_parts;
}

void SuppliesPanel::refresh() {
    const auto rows = session_.ask(query());
    dim(table_, !rows.current()), dim(plot_, !rows.current());
    present(query(), use_, [this](const std::vector<SupplyRow>& found) { fill(found); });
    hideUnowned();
}

void SuppliesPanel::fill(const std::vector<SupplyRow>& rows) {
    table_->setRowCount(static_cast<int>(rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) fillRow(r, rows[static_cast<std::size_t>(r)]);
    table_->fit();
    if (table_->rowCount() > 0) table_->setCurrentCell(0, 0);
    plot_->setSupplies(rows);
    choose(table_->currentRow());
}

/// What is not owned, where only that is wanted.
void SuppliesPanel::hideUnowned() {
    const auto rows = session_.ask(query());
    if (!rows || !rows.current()) return;
    std::vector<bool> shown;
    for (const SupplyRow& row : *rows)
        shown.push_back(!session_.ownedOnly() || row.present ||
                        owns_choice(session_.drawerItems(), "cells", row.cell));
    for (int r = 0; r < table_->rowCount() && r < static_cast<int>(shown.size()); ++r)
        table_->setRowHidden(r, !shown[static_cast<std::size_t>(r)]);
    plot_->setShown(std::move(shown));
}

void SuppliesPanel::fillRow(int r, const SupplyRow& s) {
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

void SuppliesPanel::choose(int row) {
    plot_->setChosen(row);
    explain(row);
}

/// What a supply is by itself: price, room, shelf life, care; and what changes with it.
void SuppliesPanel::explain(int row) {
    const auto rows = session_.ask(query());
    if (!rows || row < 0 || row >= static_cast<int>(rows->size())) return tell({});
    const SupplyRow& s = (*rows)[static_cast<std::size_t>(row)];
    const auto number = [](const Figure& f) { return QString::fromStdString(f.text(2)); };
    QStringList words{tr("%1: a set %2").arg(QString::fromStdString(s.name), number(s.cost)),
                      tr("holder %1 × %2 mm%3")
                          .arg(s.width, 0, 'f', 0)
                          .arg(s.height, 0, 'f', 0)
                          .arg(s.fits ? QString() : tr(", more than the brief has room for"))};
    if (std::isfinite(s.keeps.value)) words << tr("keeps %1").arg(number(s.keeps));
    if (s.waste.value > 0) words << tr("%1 of spent cells in 100 h").arg(number(s.waste));
    if (s.converted > 0)
        words << tr("a converter module makes %1 of it, the parts stay as they are")
                     .arg(QString::fromStdString(format_quantity(s.converted, Unit::volt)));
    QStringList scaled;
    for (const auto& [designator, resistor] : s.scaled)
        scaled << QStringLiteral("%1 %2").arg(
            QString::fromStdString(designator),
            QString::fromStdString(format_quantity(resistor.ohms, Unit::ohm)));
    if (scaled.size() > 4) scaled = scaled.mid(0, 4) << tr("%1 more").arg(s.scaled.size() - 4);
    if (!scaled.isEmpty())
        words << tr("no recipe sized it: scaled to as much light, ") + scaled.join(QStringLiteral(", "));
    if (!s.care.empty()) words << QString::fromStdString(s.care);
    tell(words.join(QStringLiteral(" · ")));
}

void SuppliesPanel::use() {
    const auto rows = session_.ask(query());
    const int row = table_->currentRow();
    if (!rows || row < 0 || row >= static_cast<int>(rows->size()))
        return session_.reportError(tr("Choose a supply in the table first."));
    const SupplyRow& chosen = (*rows)[static_cast<std::size_t>(row)];
    session_.edit(with_supply_row(session_.design(), chosen, policy()),
                  tr("use %1").arg(QString::fromStdString(chosen.name)));
}

}  // namespace elkit
