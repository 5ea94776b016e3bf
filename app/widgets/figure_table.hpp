#pragma once
#include <QTableWidget>
#include <optional>

#include "quantity/figure.hpp"

namespace elkit {

class Session;

/// A right-aligned table cell that stands for a computed number; `text` in place of the figure's own, if
/// given.
QTableWidgetItem* figure_item(const Figure& figure, const QString& text = {});

/// A cell where a number would stand that is not known.
QTableWidgetItem* unknown_item();

/// Makes an item stand for another figure, such as the same number after a slider moved.
void set_figure(QTableWidgetItem* item, const Figure& figure, const QString& text = {});

/// Shows the working of a figure_item() when its cell is reached by mouse or keys.
void show_workings(QTableWidget* table, Session& session);

/// The value of a figure_item(); nothing for another item, or if it is not a number.
std::optional<double> figure_value(const QTableWidgetItem* item);

}  // namespace elkit
