#include "app/stations/power/protection_panel.hpp"

#include <QHBoxLayout>
#include <QPushButton>
#include <cmath>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {
QString way_text(const std::string& text) { return QString::fromStdString(text); }
}  // namespace

ProtectionPanel::ProtectionPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    use_ = new QPushButton(tr("Put it in"));
    auto* tools = new QHBoxLayout;
    tools->addWidget(label(tr("against cells put in the wrong way, and against shorts"), "muted"));
    tools->addStretch(1);
    tools->addWidget(use_);
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Ways of protection"), "protection",
                       {{tr("with")},
                        {tr("lost"), number},
                        {tr("current"), number},
                        {tr("runs"), number},
                        {tr("backward"), number},
                        {tr("to mind")}},
                       true);
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_});
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { explain(row); });
    connect(use_, &QPushButton::clicked, this, &ProtectionPanel::use);
    connect(table_, &QTableWidget::itemActivated, this, &ProtectionPanel::use);
}

void ProtectionPanel::refresh() {
    present(query(), use_, [this](const Protection& found) { fill(found); });
}

void ProtectionPanel::fill(const Protection& found) {
    table_->setRowCount(static_cast<int>(found.ways.size() + found.fuses.size()));
    int row = 0;
    const auto put = [&](const std::vector<QTableWidgetItem*>& cells, bool good) {
        for (std::size_t c = 0; c < cells.size(); ++c) {
            if (!good) cells[c]->setForeground(theme().muted);
            table_->setItem(row, static_cast<int>(c), cells[c]);
        }
        ++row;
    };
    for (const ProtectionWay& way : found.ways)
        put({new QTableWidgetItem(way_text(way.name)), figure_item(way.drop), figure_item(way.current),
             way.lasts
                 ? figure_item(way.run_time, std::isfinite(way.run_time.value) ? QString() : tr("endless"))
                 : unknown_item(),
             std::isfinite(way.reversed.value) ? figure_item(way.reversed) : unknown_item(),
             new QTableWidgetItem(way_text(way.remark))},
            true);
    for (const FuseWay& fuse : found.fuses)
        put({new QTableWidgetItem(way_text(fuse.name)), figure_item(fuse.drop), new QTableWidgetItem,
             new QTableWidgetItem, figure_item(fuse.short_circuit),
             new QTableWidgetItem(way_text(fuse.remark))},
            fuse.holds && fuse.opens);
    table_->fit();
    if (table_->rowCount() > 0) table_->setCurrentCell(0, 0);
    explain(0);
}

/// What is to be minded of the chosen way, in full, and of the cells.
void ProtectionPanel::explain(int row) {
    const auto found = session_.ask(query());
    if (!found || row < 0) return;
    QStringList words;
    const auto at = static_cast<std::size_t>(row), ways = found->ways.size();
    if (at < ways)
        words << way_text(found->ways[at].name + ": " + found->ways[at].remark);
    else if (at < ways + found->fuses.size())
        words << tr("%1: %2; “backward” is the current of a short")
                     .arg(way_text(found->fuses[at - ways].name), way_text(found->fuses[at - ways].remark));
    for (const std::string& caution : found->cautions) words << way_text(caution);
    words << tr(
        "Each is computed with its part in the circuit, cells fresh. What it takes while off stands under "
        "Supply.");
    tell(words.join(QStringLiteral(" · ")));
}

void ProtectionPanel::use() {
    const auto found = session_.ask(query());
    const int row = table_->currentRow();
    if (!found || !found.current() || row < 0) return;
    const auto at = static_cast<std::size_t>(row), ways = found->ways.size();
    if (at < ways && !found->ways[at].circuit)
        return session_.reportError(
            tr("That is no part of the circuit: choose the plug or the holder by it."));
    if (at >= ways + found->fuses.size()) return;
    const std::string& name = at < ways ? found->ways[at].name : found->fuses[at - ways].name;
    session_.edit(with_circuit(session_.design(),
                               at < ways ? *found->ways[at].circuit : found->fuses[at - ways].circuit),
                  tr("put in: %1").arg(way_text(name)));
}

}  // namespace elkit
