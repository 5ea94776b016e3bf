#include "app/stations/board/compare_panel.hpp"

#include "app/widgets/figure_table.hpp"
#include "app/widgets/said.hpp"
#include "board/compare.hpp"

namespace elkit {
ComparePanel::ComparePanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    table_ = makeTable(tr("Ways to make the boards"), "methods",
                       {{tr("method")},
                        {tr("size")},
                        {tr("work"), DataTable::numbers},
                        {tr("cost"), DataTable::numbers},
                        {tr("days"), DataTable::numbers},
                        {tr("tools")},
                        {tr("risk")}},
                       true);
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_});
    connect(table_, &QTableWidget::cellActivated, this, [this](int row, int) {
        const auto& methods = board_methods();
        if (row < 0 || row >= static_cast<int>(methods.size())) return;
        Design next = session_.design();
        next.board.method = methods[static_cast<std::size_t>(row)].id;
        session_.edit(next, tr("make it on %1").arg(said(methods[static_cast<std::size_t>(row)].name)));
    });
}

void ComparePanel::showEvent(QShowEvent* event) {
    TabPanel::showEvent(event);
    refresh();
}

void ComparePanel::refresh() {
    if (!isVisible() || session_.design().circuit.parts.empty()) return;
    const BoardQuery now = session_.boardQuery();
    present(CompareQuery{now.circuit, now.choices, session_.design().brief.kits}, nullptr,
            [this](const std::vector<MethodCompared>& all) {
                table_->setRowCount(static_cast<int>(all.size()));
                for (int row = 0; row < table_->rowCount(); ++row) {
                    const MethodCompared& m = all[static_cast<std::size_t>(row)];
                    const bool made = m.error.empty();
                    auto* size = new QTableWidgetItem(said(made ? m.size : m.error));
                    size->setToolTip(said(made ? m.summary : m.error));
                    table_->setItem(row, 0, new QTableWidgetItem(said(m.name)));
                    table_->setItem(row, 1, size);
                    table_->setItem(row, 2, made ? figure_item(m.work) : unknown_item());
                    table_->setItem(row, 3, made ? figure_item(m.cost) : unknown_item());
                    auto* days = made ? new QTableWidgetItem(QString::number(m.days)) : unknown_item();
                    days->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
                    table_->setItem(row, 4, days);
                    for (const auto& [column, words] : {std::pair{5, &m.tools}, {6, &m.risk}}) {
                        auto* item = new QTableWidgetItem(said(*words));
                        item->setToolTip(said(*words));
                        table_->setItem(row, column, item);
                    }
                }
                table_->fit();
                tell(
                    tr("For this batch. Work: preparing, joints, wires; without looking for parts. Cost: "
                       "what the methods of "
                       "making.json say, "
                       "material is in the parts list. Days until they are in hand. A double click or Enter "
                       "chooses a method."));
            });
}

}  // namespace elkit
