#include "app/stations/light/limiters_panel.hpp"

#include <QHBoxLayout>
#include <QPushButton>
#include <cmath>

#include "app/stations/light/place_row.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/owned_box.hpp"

namespace elkit {

LimitersPanel::LimitersPanel(Session& session, QWidget* parent) : TabPanel(session, parent) {
    auto* tools = new QHBoxLayout;
    use_ = new QPushButton(tr("Use this limiter"));
    tools->addWidget(new OwnedBox(session_));
    tools->addStretch(1);
    tools->addWidget(use_);
    place_ = new PlaceRow;
    column_->addWidget(place_);
    column_->addLayout(tools);
    constexpr auto number = DataTable::numbers;
    table_ = makeTable(tr("Ways to keep the current"), "limiters",
                       {{tr("limiter")},
                        {tr("current"), number},
                        {tr("spread"), number},
                        {tr("headroom"), number},
                        {tr("in LEDs"), number},
                        {tr("half full"), number},
                        {tr("nearly flat"), number},
                        {tr("cost"), number}},
                       true);
    column_->addWidget(table_, 1);
    addNote();
    setShownOnlyWithAnswer({table_});
    connect(place_, &PlaceRow::chosen, this, &LimitersPanel::lightChosen);
    connect(&session_, &Session::started, this, [this] { light_.clear(), place_->hide(); });
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { explain(row); });
    connect(use_, &QPushButton::clicked, this, [this] { use(table_->currentRow()); });
    connect(table_, &QTableWidget::itemActivated, this, [this](QTableWidgetItem* item) { use(item->row()); });
}

LimitersQuery LimitersPanel::query() const {
    LimitersQuery q{
        {session_.design(), fresh(*session_.circuit(), session_.conditions()), {}}, 0, session_.drawer()};
    if (session_.circuit()->find(light_)) q.array.wishes.light = light_;
    q.array.wishes.owned = session_.resistorsToChooseFrom();
    return q;
}

void LimitersPanel::setLight(const std::string& light) {
    light_ = light;
    refresh();
}

void LimitersPanel::refresh() {
    present(query(), use_, [this](const LimitersQuery::Value& found) { fill(found); });
}

void LimitersPanel::fill(const LimitersQuery::Value& found) {
    const ArrayQuestion& lights = found.question.array;
    place_->offer(hung_lights(*session_.circuit()), lights.at, lights.fed);
    table_->setRowCount(static_cast<int>(found.rows.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const LimiterRow& row = found.rows[static_cast<std::size_t>(r)];
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
    if (!found || row < 0 || row >= static_cast<int>(found->rows.size())) return tell({});
    const LimiterRow& limiter = found->rows[static_cast<std::size_t>(row)];
    QStringList words;
    if (!limiter.reason.empty())
        words << (limiter.possible ? QString() : tr("Not possible: ")) +
                     QString::fromStdString(limiter.reason);
    for (const std::string& part : limiter.parts) words << QString::fromStdString(part);
    if (limiter.possible && limiter.parts.empty()) words << tr("no part");
    tell(words.join(QStringLiteral(" · ")));
}

void LimitersPanel::use(int row) {
    const auto found = session_.ask(query());
    if (!found || !found.current() || row < 0 || row >= static_cast<int>(found->rows.size())) return;
    const LimiterRow& limiter = found->rows[static_cast<std::size_t>(row)];
    const Circuit before = *session_.circuit();
    const std::string light = found->question.array.at;
    if (session_.edit(with_limiter(session_.design(), found->question, limiter),
                      tr("keep the current by %1").arg(QString::fromStdString(limiter.name))))
        return setLight(light_at(*session_.circuit(), before, light));
    refresh();
}

}  // namespace elkit
