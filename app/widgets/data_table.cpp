#include "app/widgets/data_table.hpp"

#include <QApplication>
#include <QClipboard>
#include <QCollator>
#include <QHeaderView>
#include <QKeyEvent>
#include <algorithm>
#include <numeric>

#include "app/theme/theme.hpp"
#include "app/widgets/figure_table.hpp"

namespace elkit {

constexpr int cell_room = 9, least_words = 70, first_words = 170;

DataTable::DataTable(const QString& name, const std::vector<Column>& columns, int row_height, QWidget* parent)
    : QTableWidget(0, static_cast<int>(columns.size()), parent) {
    setAccessibleName(name);
    for (int c = 0; c < columnCount(); ++c) {
        const Column& column = columns[static_cast<std::size_t>(c)];
        holds_.push_back(column.holds);
        auto* heading = new QTableWidgetItem(column.heading);
        heading->setTextAlignment((column.holds == numbers ? Qt::AlignRight : Qt::AlignLeft) |
                                  Qt::AlignVCenter);
        heading->setToolTip(tr("%1: click to sort").arg(column.heading));
        setHorizontalHeaderItem(c, heading);
    }
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(px(row_height));
    horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
    horizontalHeader()->setResizeContentsPrecision(0);  // what is in view
    horizontalHeader()->setSectionsClickable(true);
    horizontalHeader()->setHighlightSections(false);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setTabKeyNavigation(false);
    setShowGrid(false);
    setWordWrap(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(horizontalHeader(), &QHeaderView::sectionClicked, this, &DataTable::sortBy);
}

/// Words columns give way, the widest first, but for the first column, which names the rows; what is left
/// over goes to the last of them.
void DataTable::share(std::vector<int>& widths) const {
    int spare = viewport()->width() - std::accumulate(widths.begin(), widths.end(), 0);
    const auto widest = [&] {
        int at = -1;
        for (std::size_t c = 0; c < widths.size(); ++c)
            if (holds_[c] == words && (c > 0 || widths[c] > px(first_words)) &&
                (at < 0 || widths[c] > widths[static_cast<std::size_t>(at)]))
                at = static_cast<int>(c);
        return at;
    };
    const auto last = std::find(holds_.rbegin(), holds_.rend(), words);
    if (last == holds_.rend()) {
        for (int& width : widths) width += std::max(0, spare) / static_cast<int>(widths.size());
        return;
    }
    if (spare > 0) widths[static_cast<std::size_t>(holds_.rend() - last) - 1] += spare;
    while (spare < 0) {
        const int found = widest();
        if (found < 0) return;
        const auto at = static_cast<std::size_t>(found);
        if (widths[at] <= px(least_words)) return;
        int next = px(least_words);  // down to the next widest
        for (std::size_t c = 0; c < widths.size(); ++c)
            if (holds_[c] == words && c != at && widths[c] < widths[at]) next = std::max(next, widths[c]);
        const int give = std::max(1, std::min(-spare, widths[at] - next));
        widths[at] -= give, spare += give;
    }
}

void DataTable::fit() {
    std::vector<int> widths;
    for (int c = 0; c < columnCount(); ++c)
        widths.push_back(
            std::max(sizeHintForColumn(c) + px(cell_room), horizontalHeader()->sectionSizeHint(c) + 6));
    share(widths);
    for (int c = 0; c < columnCount(); ++c)
        if (columnWidth(c) != widths[static_cast<std::size_t>(c)])
            setColumnWidth(c, widths[static_cast<std::size_t>(c)]);
    resort();
}

void DataTable::sortBy(int column) {
    if (column != sorted_by_) {
        sorted_by_ = column, order_ = Qt::AscendingOrder;
    } else if (order_ == Qt::AscendingOrder) {
        order_ = Qt::DescendingOrder;
    } else {
        sorted_by_ = -1;
    }
    horizontalHeader()->setSortIndicatorShown(sorted_by_ >= 0);
    if (sorted_by_ >= 0) horizontalHeader()->setSortIndicator(sorted_by_, order_);
    resort();
}

/// Moves rows in the view only.
void DataTable::resort() {
    std::vector<int> rows(static_cast<std::size_t>(rowCount()));
    std::iota(rows.begin(), rows.end(), 0);
    QHeaderView* header = verticalHeader();
    if (sorted_by_ < 0 && !header->sectionsMoved()) return;
    if (sorted_by_ >= 0) {
        QCollator natural;
        natural.setNumericMode(true);
        const bool up = order_ == Qt::AscendingOrder;
        std::stable_sort(rows.begin(), rows.end(), [&](int a, int b) {
            const QTableWidgetItem *x = item(up ? a : b, sorted_by_), *y = item(up ? b : a, sorted_by_);
            if (!x || !y) return !x && y;
            const auto p = figure_value(x), q = figure_value(y);
            if (p && q) return *p < *q;
            return natural.compare(x->text(), y->text()) < 0;
        });
    }
    for (int place = 0; place < rowCount(); ++place)
        header->moveSection(header->visualIndex(rows[static_cast<std::size_t>(place)]), place);
}

QString DataTable::copied() const {
    std::vector<int> rows;
    for (const QModelIndex& index : selectionModel()->selectedRows()) rows.push_back(index.row());
    if (rows.empty())
        for (int r = 0; r < rowCount(); ++r) rows.push_back(r);
    std::sort(rows.begin(), rows.end(), [this](int a, int b) {
        return verticalHeader()->visualIndex(a) < verticalHeader()->visualIndex(b);
    });
    QStringList lines, cells;
    for (int c = 0; c < columnCount(); ++c) cells << horizontalHeaderItem(c)->text();
    lines << cells.join(QLatin1Char('\t'));
    for (const int r : rows) {
        cells.clear();
        for (int c = 0; c < columnCount(); ++c) cells << (item(r, c) ? item(r, c)->text() : QString());
        lines << cells.join(QLatin1Char('\t'));
    }
    return lines.join(QLatin1Char('\n')) + QLatin1Char('\n');
}

void DataTable::resizeEvent(QResizeEvent* event) {
    QTableWidget::resizeEvent(event);
    fit();
}

void DataTable::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Copy)) return QApplication::clipboard()->setText(copied());
    QTableWidget::keyPressEvent(event);
}

}  // namespace elkit
