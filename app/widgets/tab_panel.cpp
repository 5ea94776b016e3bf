#include "app/widgets/tab_panel.hpp"

#include <QLabel>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_table.hpp"

namespace elkit {

TabPanel::TabPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), column_(new QVBoxLayout(this)) {
    column_->setContentsMargins(10, 6, 10, 6);
    column_->setSpacing(4);
}

DataTable* TabPanel::makeTable(const QString& name, const char* object,
                               const std::vector<DataTable::Column>& columns, bool choosing) {
    auto* table = new DataTable(name, columns);
    table->setObjectName(QLatin1String(object));
    if (choosing) table->setSelectionMode(QAbstractItemView::SingleSelection);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table->setMinimumHeight(px(56));
    show_workings(table, session_);
    return table;
}

void TabPanel::addNote() {
    note_ = label({}, "muted");
    note_->setWordWrap(true);
    column_->addWidget(note_);
}

void TabPanel::tell(const QString& words) {
    note_->setText(words);
    note_->setVisible(!words.isEmpty());
}

void TabPanel::lack(const QString& words) {
    shown_ = {};
    for (QWidget* widget : of_answer_) widget->hide();
    tell(words);
}

}  // namespace elkit
