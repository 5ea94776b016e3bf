#include "app/drawer/import_dialog.hpp"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/drawer/stock.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"

namespace elkit {
namespace {
constexpr int rows_shown = 200, first_rows = 2;  // what a column is, and its own heading
}

ImportDialog::ImportDialog(Stock& stock, DrawerSheet sheet, const QString& file, QWidget* parent)
    : QDialog(parent), stock_(stock), sheet_(std::move(sheet)) {
    setWindowTitle(tr("Parts from %1").arg(file));
    setObjectName(QStringLiteral("bench"));
    resize(px(980), px(560));
    auto* column = new QVBoxLayout(this);
    column->addWidget(
        label(tr("What each column is stands above it and can be changed. The last column tells what "
                 "a row does to the drawer."),
              "muted"));
    table_ = new QTableWidget;
    table_->setAccessibleName(tr("Rows that are read"));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(px(26));
    table_->setColumnCount(static_cast<int>(sheet_.columns.size()) + 1);
    table_->setRowCount(first_rows + std::min(rows_shown, static_cast<int>(sheet_.rows.size())));
    for (std::size_t c = 0; c < sheet_.columns.size(); ++c) {
        auto* box = new QComboBox;
        box->setAccessibleName(tr("what column %1 is").arg(c + 1));
        for (std::size_t k = 0; k < item_columns; ++k) {
            const auto heading = heading_of(static_cast<ItemColumn>(k));
            box->addItem(k == 0 ? tr("leave out")
                                : QString::fromUtf8(heading.data(), static_cast<qsizetype>(heading.size())));
        }
        box->setCurrentIndex(static_cast<int>(sheet_.columns[c]));
        connect(box, &QComboBox::activated, this, [this, c](int index) {
            sheet_.columns[c] = static_cast<ItemColumn>(index);
            compute();
        });
        boxes_.push_back(box);
        table_->setCellWidget(0, static_cast<int>(c), box);
        auto* title = new QTableWidgetItem(QString::fromStdString(sheet_.titles[c]));
        title->setForeground(theme().muted);
        table_->setItem(1, static_cast<int>(c), title);
        for (int r = 0; r + first_rows < table_->rowCount(); ++r) {
            const auto& cells = sheet_.rows[static_cast<std::size_t>(r)];
            if (c < cells.size())
                table_->setItem(r + first_rows, static_cast<int>(c),
                                new QTableWidgetItem(QString::fromStdString(cells[c])));
        }
    }
    for (int c = 0; c + 1 < table_->columnCount(); ++c)
        table_->setColumnWidth(c,
                               std::clamp(px(760) / std::max(1, table_->columnCount() - 1), px(84), px(190)));
    table_->horizontalHeader()->setStretchLastSection(true);
    column->addWidget(table_, 1);
    auto* below = new QHBoxLayout;
    counts_ = new QComboBox;
    counts_->setAccessibleName(tr("what the counts of the table mean"));
    counts_->addItems({tr("its counts are what is there"), tr("its counts came in: add them")});
    connect(counts_, &QComboBox::activated, this, [this] { compute(); });
    below->addWidget(counts_);
    summary_ = label({});
    summary_->setWordWrap(true);
    below->addWidget(summary_, 1);
    progress_ = new QProgressBar;
    progress_->setFixedWidth(px(120));
    below->addWidget(progress_);
    column->addLayout(below);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    take_ = buttons->addButton(tr("Take them over"), QDialogButtonBox::AcceptRole);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    column->addWidget(buttons);
    compute();
}

void ImportDialog::compute() {
    plan_.reset();
    take_->setEnabled(false);
    progress_->setValue(0);
    progress_->show();
    summary_->setText(tr("reading %1 rows …").arg(sheet_.rows.size()));
    const auto counts = counts_->currentIndex() == 0 ? ImportCounts::set : ImportCounts::add;
    work_.start(
        [sheet = sheet_, known = stock_.items(), counts](const Progress& progress) -> Result<ImportPlan> {
            return plan_import(sheet, *known, counts, progress);
        },
        [this](Result<ImportPlan> found) {
            progress_->hide();
            if (!found) return summary_->setText(QString::fromStdString(found.error().text()));
            plan_ = std::move(found).value();
            show_plan();
        },
        [this](double fraction) { progress_->setValue(static_cast<int>(100 * fraction)); });
}

void ImportDialog::show_plan() {
    take_->setEnabled(plan_->fresh + plan_->changed > 0);
    QString words = tr("%1 new, %2 changed, %3 as they are, %4 left out")
                        .arg(plan_->fresh)
                        .arg(plan_->changed)
                        .arg(plan_->same)
                        .arg(plan_->left_out);
    const QString effects[] = {tr("new"), tr("changed"), tr("as it is"), tr("left out")};
    const int last = table_->columnCount() - 1, heading = sheet_.headings ? 1 : 0;
    for (int r = first_rows; r < table_->rowCount(); ++r) table_->setItem(r, last, nullptr);
    QStringList left_out;
    constexpr qsizetype told = 3;
    for (const ImportedRow& row : plan_->rows) {
        const QString why = QString::fromStdString(row.told);
        const bool out = row.effect == ImportedRow::Effect::left_out;
        if (out && left_out.size() < told) left_out << tr("row %1: %2").arg(row.line).arg(why);
        const int at = static_cast<int>(row.line) - 1 - heading + first_rows;
        if (at >= table_->rowCount()) continue;
        QString effect = effects[static_cast<int>(row.effect)];
        if (!out) effect += QStringLiteral(": ") + QString::fromStdString(row.item.name);
        if (!why.isEmpty()) effect += QStringLiteral(" · ") + why;
        auto* cell = new QTableWidgetItem(effect);
        cell->setToolTip(effect);
        if (out) cell->setForeground(theme().rust);
        table_->setItem(at, last, cell);
    }
    if (!left_out.isEmpty()) words += QStringLiteral(" · ") + left_out.join(QStringLiteral(" · "));
    summary_->setText(words);
}

}  // namespace elkit
