#include "app/stations/circuit/cells_panel.hpp"

#include <QHeaderView>
#include <QVBoxLayout>
#include <algorithm>

#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/life_plot.hpp"

namespace elkit {

CellsPanel::CellsPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), table_(nullptr), plot_(new LifePlot) {
    table_ = new DataTable(tr("Beside plain cells"),
                           {{tr("the same light from")},
                            {{}, DataTable::numbers},
                            {{}, DataTable::numbers},
                            {{}, DataTable::numbers},
                            {{}, DataTable::numbers}},
                           21);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(table_);
    column->addWidget(plot_, 1);
    show_workings(table_, session_);
}

void CellsPanel::show_block(const Design& design, std::size_t block) {
    const auto rows =
        session_.ask(PlainCellsQuery(design, block, session_.conditions()), Urgency::in_view, "plain cells");
    dim(table_, !rows.current());
    if (!rows) return;
    const std::vector<std::pair<QString, Figure CellsRow::*>> figures{
        {tr("light, fresh"), &CellsRow::light},
        {tr("a tenth left"), &CellsRow::late_light},
        {tr("lasts"), &CellsRow::run_time},
        {tr("each cell lasts"), &CellsRow::per_cell},
        {tr("into light, fresh"), &CellsRow::efficiency},
        {tr("into light, half empty"), &CellsRow::late_efficiency},
        {tr("stays in the cells"), &CellsRow::left}};
    table_->setRowCount(static_cast<int>(figures.size()));
    for (int r = 0; r < table_->rowCount(); ++r)
        table_->setItem(r, 0, new QTableWidgetItem(figures[static_cast<std::size_t>(r)].first));
    std::vector<LifePlot::Named> lives;
    const int ways = std::min(static_cast<int>(rows->size()), table_->columnCount() - 1);
    for (int c = 1; c < table_->columnCount(); ++c) table_->setColumnHidden(c, c > ways);
    for (int c = 1; c <= ways; ++c) {
        const CellsRow& row = (*rows)[static_cast<std::size_t>(c - 1)];
        const QString name = row.present ? tr("boosted") : tr("%1 cells").arg(row.cells);
        auto* head = table_->horizontalHeaderItem(c);
        head->setText(name);
        head->setToolTip(QString::fromStdString(row.reason.empty() ? row.name : row.reason));
        for (int r = 0; r < table_->rowCount(); ++r) {
            auto* item = row.reason.empty() ? figure_item(row.*figures[static_cast<std::size_t>(r)].second)
                                            : unknown_item();
            if (!row.reason.empty()) item->setToolTip(QString::fromStdString(row.reason));
            table_->setItem(r, c, item);
        }
        if (row.reason.empty()) lives.push_back({name, &row.run, row.present});
    }
    table_->fit();
    table_->setFixedHeight(table_->horizontalHeader()->height() + table_->rowCount() * table_->rowHeight(0) +
                           4);
    plot_->show_side_by_side(lives, design.brief.end_brightness);
}

}  // namespace elkit
