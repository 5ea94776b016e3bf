#include "app/widgets/figure_table.hpp"

#include <cmath>

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

QTableWidgetItem* unknown_item() {
    auto* item = new QTableWidgetItem(QStringLiteral("–"));
    item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
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

std::optional<double> figure_value(const QTableWidgetItem* item) {
    const QVariant held = item->data(figure_role);
    if (!held.canConvert<Figure>()) return std::nullopt;
    const double value = held.value<Figure>().value;
    return std::isnan(value) ? std::nullopt : std::optional(value);
}

}  // namespace elkit
