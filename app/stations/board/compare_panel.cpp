#include "app/stations/board/compare_panel.hpp"

#include "app/widgets/said.hpp"
#include "board/compare.hpp"

namespace elkit {
namespace {

QString hours(double minutes) {
    return minutes < 90 ? QObject::tr("%1 min").arg(minutes, 0, 'f', 0)
                        : QObject::tr("%1 h").arg(minutes / 60, 0, 'f', 1);
}

}  // namespace

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
    connect(table_, &QTableWidget::cellDoubleClicked, this, [this](int row, int) {
        const auto& methods = board_methods();
        if (row < 0 || row >= static_cast<int>(methods.size())) return;
        Design next = session_.design();
        next.board.method = methods[static_cast<std::size_t>(row)].id;
        session_.edit(std::move(next),
                      tr("make it on %1").arg(said(methods[static_cast<std::size_t>(row)].name)));
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
                    int column = 0;
                    for (const QString& text :
                         {said(m.name), made ? said(m.size) : said(m.error),
                          made ? hours(m.batch_minutes) : QString(),
                          made ? QString::number(m.batch_cost, 'f', 2) : QString(),
                          made ? QString::number(m.days) : QString(), said(m.tools), said(m.risk)}) {
                        auto* item = new QTableWidgetItem(text);
                        if (column >= 2 && column <= 4)
                            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
                        item->setToolTip(column == 1 ? said(m.summary) : text);
                        table_->setItem(row, column++, item);
                    }
                }
                table_->fit();
                tell(
                    tr("For this batch. Work: preparing, joints, wires; without looking for parts. Cost: "
                       "what the methods of "
                       "making.json say, "
                       "material is in the parts list. Days until they are in hand. A double click chooses a "
                       "method."));
            });
}

}  // namespace elkit
