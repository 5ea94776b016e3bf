#pragma once
#include <QHeaderView>
#include <QTableWidget>
#include <vector>

#include "quantity/figure.hpp"

namespace elkit {

class Session;

/// A right-aligned table cell that stands for a computed number; `text` in place of the figure's own, if
/// given.
QTableWidgetItem* figure_item(const Figure& figure, const QString& text = {});

/// Makes an item stand for another figure, such as the same number after a slider moved.
void set_figure(QTableWidgetItem* item, const Figure& figure, const QString& text = {});

/// Shows the working of a figure_item() when its cell is reached by mouse or keys.
void show_workings(QTableWidget* table, Session& session);

/// While it lives, columns that fit their contents keep their widths: a table filled cell by cell would
/// measure all of its cells for each.
class Filling {
  public:
    explicit Filling(QTableWidget* table);
    ~Filling();
    Filling(const Filling&) = delete;
    Filling& operator=(const Filling&) = delete;

  private:
    QHeaderView* header_;
    std::vector<int> fitted_;  ///< columns
};

}  // namespace elkit
