#include "app/stations/circuit/made_by_panel.hpp"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/widgets/card.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"
#include "app/widgets/panel_tools.hpp"

namespace elkit {
namespace {

constexpr int ways_shown = 3;

QString of_core(const std::string& text) { return QString::fromStdString(text); }

QTableWidgetItem* plain_item(const QString& text) {
    auto* item = new QTableWidgetItem(text);
    item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    return item;
}

}  // namespace

MadeByPanel::MadeByPanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      table_(new DataTable(
          tr("Timer or controller"),
          {{tr("made by")}, {{}, DataTable::numbers}, {{}, DataTable::numbers}, {{}, DataTable::numbers}},
          21)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(table_);
    auto* tools = new QHBoxLayout;
    tools->addWidget(label(tr("bold: as it is"), "muted"));
    tools->addStretch(1);
    take_ =
        tool_button(tools, tr("Make it this way"), tr("The block, made as the chosen column says (Enter)"),
                    [this] { take(table_->currentColumn() - 1); });
    column->addLayout(tools);
    column->addStretch(1);
    connect(table_, &QTableWidget::currentCellChanged, this, [this] { offer(); });
    show_workings(table_, session_);
    connect(table_, &QTableWidget::itemActivated, this,
            [this](const QTableWidgetItem* item) { take(item->column() - 1); });
}

void MadeByPanel::show_block(const Design& design, std::size_t block, bool there) {
    block_ = there ? std::optional(block) : std::nullopt;
    const auto found =
        session_.ask(MadeByQuery(design, block, session_.drawerItems()), Urgency::in_view, "made by");
    dim(table_, !found.current());
    if (!found) return;
    shown_ = *found;
    struct Row {
        QString name;
        std::function<QTableWidgetItem*(const MadeBy&)> item;
        bool wanted = true;
    };
    const auto of = [](Figure MadeBy::*figure) {
        return [figure](const MadeBy& way) { return figure_item(way.*figure); };
    };
    const bool waits =
        std::any_of(shown_.begin(), shown_.end(), [](const MadeBy& w) { return !w.waits.label.empty(); });
    const std::vector<Row> rows{
        {tr("parts"), of(&MadeBy::parts)},
        {tr("cost of a kit"), of(&MadeBy::cost)},
        {waits ? tr("takes, lit") : tr("takes"), of(&MadeBy::lit)},
        {tr("takes, waiting"), of(&MadeBy::waits), waits},
        {waits ? tr("waits for") : tr("blinks for"), of(&MadeBy::lasts)},
        {tr("board"), of(&MadeBy::area)},
        {waits ? tr("time") : tr("rate"), of(&MadeBy::pace)},
        {tr("over a batch"), [](const MadeBy& way) { return plain_item(of_core(way.pace.spread_text())); }},
        {tr("to program"),
         [](const MadeBy& way) { return plain_item(way.programmed ? tr("yes") : tr("no")); }}};
    table_->setRowCount(
        static_cast<int>(std::count_if(rows.begin(), rows.end(), [](const Row& r) { return r.wanted; })));
    const int ways = std::min(static_cast<int>(shown_.size()), ways_shown);
    for (int c = 1; c <= ways_shown; ++c) table_->setColumnHidden(c, c > ways);
    int r = 0;
    for (const Row& row : rows) {
        if (!row.wanted) continue;
        table_->setItem(r, 0, new QTableWidgetItem(row.name));
        for (int c = 1; c <= ways; ++c) {
            const MadeBy& way = shown_[static_cast<std::size_t>(c - 1)];
            auto* item = way.reason.empty() ? row.item(way) : unknown_item();
            if (!way.reason.empty()) item->setToolTip(of_core(way.reason));
            if (way.present) {
                QFont font = item->font();
                font.setBold(true);
                item->setFont(font);
            }
            table_->setItem(r, c, item);
        }
        ++r;
    }
    for (int c = 1; c <= ways; ++c) {
        const MadeBy& way = shown_[static_cast<std::size_t>(c - 1)];
        table_->horizontalHeaderItem(c)->setText(of_core(way.brief));
        table_->horizontalHeaderItem(c)->setToolTip(of_core(way.reason.empty() ? way.name : way.reason));
    }
    offer();
    table_->fit();
    table_->setFixedHeight(table_->horizontalHeader()->height() + table_->rowCount() * table_->rowHeight(0) +
                           4);
}

bool MadeByPanel::can_take(int column) const {
    if (!block_ || column < 0 || column >= static_cast<int>(shown_.size())) return false;
    const MadeBy& way = shown_[static_cast<std::size_t>(column)];
    return !way.present && way.reason.empty();
}

void MadeByPanel::offer() {
    take_->setEnabled(can_take(table_->currentColumn() - 1));
    take_->setToolTip(block_ ? tr("The block, made as the chosen column says (Enter)")
                             : tr("Put it in first; then it can be made another way"));
}

void MadeByPanel::take(int column) {
    if (!can_take(column)) return;
    const MadeBy& way = shown_[static_cast<std::size_t>(column)];
    session_.edit(made_by(session_.design(), *block_, way), tr("make it by a %1").arg(of_core(way.name)));
}

}  // namespace elkit
