#include "app/widgets/figure_table.hpp"

#include "app/shell/session.hpp"

namespace elkit {
namespace {
constexpr int figure_role = Qt::UserRole + 17;
}

QTableWidgetItem* figure_item(const Figure& figure, const QString& text) {
    auto* item = new QTableWidgetItem;
    item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    set_figure(item, figure, text);
    return item;
}

void set_figure(QTableWidgetItem* item, const Figure& figure, const QString& text) {
    const QString shown = text.isEmpty() ? QString::fromStdString(figure.text()) : text;
    const QString name = QString::fromStdString(figure.label) + QStringLiteral(": ") + shown;
    item->setText(shown);
    item->setData(figure_role, QVariant::fromValue(figure));
    item->setToolTip(name);
    item->setData(Qt::AccessibleTextRole, name);
}

void show_workings(QTableWidget* table, Session& session) {
    const auto show = [table, &session](int row, int column) {
        const QTableWidgetItem* item = table->item(row, column);
        const QVariant held = item ? item->data(figure_role) : QVariant();
        if (held.canConvert<Figure>()) session.focusFigure(held.value<Figure>());
    };
    QObject::connect(table, &QTableWidget::cellClicked, table, show);
    QObject::connect(table, &QTableWidget::currentCellChanged, table, [table, show](int row, int column) {
        if (table->hasFocus()) show(row, column);
    });
}

Filling::Filling(QTableWidget* table) : header_(table->horizontalHeader()) {
    for (int c = 0; c < header_->count(); ++c)
        if (header_->sectionResizeMode(c) == QHeaderView::ResizeToContents) fitted_.push_back(c);
    for (const int c : fitted_) header_->setSectionResizeMode(c, QHeaderView::Fixed);
}

Filling::~Filling() {
    for (const int c : fitted_) header_->setSectionResizeMode(c, QHeaderView::ResizeToContents);
}

}  // namespace elkit
