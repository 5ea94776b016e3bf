#include "app/widgets/situation_card.hpp"

#include <QHeaderView>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/data_table.hpp"
#include "app/widgets/figure_table.hpp"
#include "light/situation_table.hpp"
#include "situations/edit.hpp"
#include "situations/words.hpp"

namespace elkit {
namespace {

enum Column { name_column, what_column, current_column, light_column, day_column };
constexpr int row_height = 24, least_rows = 3;

}  // namespace

SituationCard::SituationCard(Session& session, bool plan, QWidget* parent)
    : Card({}, parent), session_(session), plan_(plan) {
    std::vector<DataTable::Column> columns{{tr("situation")},
                                           {tr("set apart by")},
                                           {tr("takes"), DataTable::numbers},
                                           {tr("light"), DataTable::numbers}};
    if (plan) columns.push_back({tr("of a day"), DataTable::numbers});
    table_ = new DataTable(tr("Situations"), columns, row_height);
    table_->setObjectName(QStringLiteral("situations"));
    table_->setSelectionBehavior(QAbstractItemView::SelectItems);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                            QAbstractItemView::AnyKeyPressed);
    body()->addWidget(table_, 1);
    sum_ = label({}, "muted");
    sum_->setWordWrap(true);
    body()->addWidget(sum_);
    body()->addStretch(0);
    sum_->setVisible(plan);
    show_workings(table_, session_);
    connect(table_, &QTableWidget::itemChanged, this, &SituationCard::entered);
    connect(table_, &QTableWidget::itemActivated, this, [this](QTableWidgetItem* item) {
        const auto all = session_.situations();
        if (item->column() != day_column && item->row() < static_cast<int>(all.size()))
            session_.choose(all[static_cast<std::size_t>(item->row())]);
    });
}

bool SituationCard::refresh() {
    const auto rows = session_.ask(SituationTableQuery{session_.circuit(), session_.design().situations});
    if (!rows) return rows.current();
    filling_ = true;
    table_->setRowCount(static_cast<int>(rows->size()));
    const int active = session_.situation();
    for (int r = 0; r < table_->rowCount(); ++r) {
        const SituationRow& row = (*rows)[static_cast<std::size_t>(r)];
        QString what = QString::fromStdString(row.fault.empty() ? situation_text(row.situation) : row.fault);
        if (!row.afterwards.empty())
            what +=
                (what.isEmpty() ? QString() : QStringLiteral("; ")) + QString::fromStdString(row.afterwards);
        const auto words = [&](const QString& text) {
            auto* item = new QTableWidgetItem(text);
            item->setToolTip(text);
            item->setFlags(item->flags() & ~Qt::ItemIsEditable);
            return item;
        };
        const auto number = [&](const Figure& figure, const QString& text) {
            auto* item =
                row.fault.empty() ? figure_item(figure, text) : new QTableWidgetItem(QStringLiteral("–"));
            item->setFlags(item->flags() & ~Qt::ItemIsEditable);
            return item;
        };
        std::vector<QTableWidgetItem*> cells{
            words(QString::fromStdString(row.situation.name)), words(what.isEmpty() ? tr("as drawn") : what),
            number(row.current, {}), number(row.light, row.lit ? QString() : tr("dark"))};
        if (plan_) {
            auto* day = new QTableWidgetItem(
                QString::fromStdString(day_text(session_.design().use, row.situation.name)));
            day->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            day->setToolTip(tr("Type how much of a day: 4 h, 30 × 20 s, rest"));
            cells.push_back(day);
        }
        QFont f = font();
        f.setBold(r == active);
        for (std::size_t c = 0; c < cells.size(); ++c) {
            cells[c]->setFont(f);
            table_->setItem(r, static_cast<int>(c), cells[c]);
        }
    }
    table_->fit();
    const int heading = table_->horizontalHeader()->sizeHint().height() + 4;
    table_->setMaximumHeight(heading + table_->rowCount() * px(row_height));
    table_->setMinimumHeight(heading + std::min(table_->rowCount(), least_rows) * px(row_height));
    sum_->setText(session_.design().use.empty() ? tr("No plan: lit without a pause. Type into the last "
                                                     "column how a day goes: 4 h, 30 × 20 s, rest.")
                                                : tr("What the plan leaves open is spent in standby."));
    filling_ = false;
    return rows.current();
}

void SituationCard::entered(QTableWidgetItem* item) {
    if (filling_ || item->column() != day_column) return;
    const auto all = session_.situations();
    if (item->row() >= static_cast<int>(all.size())) return;
    const std::string& name = all[static_cast<std::size_t>(item->row())].name;
    auto use = read_day(item->text().toStdString(), name);
    if (!use) {
        session_.reportError(QString::fromStdString(use.error().text()));
        refresh();
        return;
    }
    session_.edit(with_use(session_.design(), name, use.value()), tr("change the day plan"));
    refresh();
}

}  // namespace elkit
