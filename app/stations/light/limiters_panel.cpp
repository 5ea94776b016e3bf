#include "app/stations/light/limiters_panel.hpp"

#include <cmath>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"

namespace elkit {

LimitersPanel::LimitersPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 10, 6);
    column->setSpacing(4);
    constexpr auto number = DataTable::numbers;
    table_ = new DataTable(tr("Ways to keep the current"), {{tr("limiter")},
                                                            {tr("current"), number},
                                                            {tr("spread"), number},
                                                            {tr("headroom"), number},
                                                            {tr("in LEDs"), number},
                                                            {tr("half full"), number},
                                                            {tr("nearly flat"), number},
                                                            {tr("cost"), number}});
    table_->setObjectName(QStringLiteral("limiters"));
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setMinimumHeight(px(56));
    column->addWidget(table_, 1);
    why_ = label({}, "muted");
    why_->setWordWrap(true);
    column->addWidget(why_);
    show_workings(table_, session_);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { explain(row); });
}

LimitersQuery LimitersPanel::query() const {
    LimitersQuery q{{session_.design(), fresh(*session_.circuit(), session_.conditions()), {}}, 0, {}};
    q.drawer = session_.drawerItems();
    return q;
}

void LimitersPanel::refresh() {
    const LimitersQuery asked = query();
    const auto found = session_.ask(asked);
    if (!found.current() || shown_ == asked.key()) return;
    shown_ = asked.key();
    if (!found) {
        table_->setRowCount(0);
        return why_->setText(QString::fromStdString(found.error().text()));
    }
    table_->setRowCount(static_cast<int>(found->rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const LimiterRow& row = found->rows[static_cast<std::size_t>(r)];
        std::vector<QTableWidgetItem*> cells{new QTableWidgetItem(QString::fromStdString(row.name))};
        if (row.possible) {
            cells.push_back(figure_item(row.current));
            cells.push_back(figure_item(row.spread, QString::fromStdString(row.current.spread_text())));
            for (const Figure* f : {&row.headroom, &row.efficiency, &row.half, &row.flat})
                cells.push_back(figure_item(*f));
            cells.push_back(
                figure_item(row.cost, std::isfinite(row.cost.value) ? QString() : QStringLiteral("–")));
        }
        while (static_cast<int>(cells.size()) < table_->columnCount()) cells.push_back(unknown_item());
        for (std::size_t c = 0; c < cells.size(); ++c) {
            if (!row.reason.empty()) cells[c]->setForeground(theme().muted);
            table_->setItem(r, static_cast<int>(c), cells[c]);
        }
    }
    table_->fit();
    table_->setCurrentCell(0, 0);
    explain(0);
}

/// Of what it is made, and what is to be minded.
void LimitersPanel::explain(int row) {
    const auto found = session_.ask(query());
    if (!found || row < 0 || row >= static_cast<int>(found->rows.size())) return why_->clear();
    const LimiterRow& limiter = found->rows[static_cast<std::size_t>(row)];
    QStringList words;
    if (!limiter.reason.empty())
        words << (limiter.possible ? QString() : tr("Not possible: ")) +
                     QString::fromStdString(limiter.reason);
    for (const std::string& part : limiter.parts) words << QString::fromStdString(part);
    if (limiter.possible && limiter.parts.empty()) words << tr("no part");
    why_->setText(words.join(QStringLiteral(" · ")));
}

}  // namespace elkit
