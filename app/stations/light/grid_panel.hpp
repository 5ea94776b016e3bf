#pragma once

#include "app/widgets/tab_panel.hpp"
#include "planning/grid.hpp"
#include "planning/grid_patterns.hpp"

class QComboBox;
class QLabel;

namespace elkit {

class FigureLabel;
class PictureView;
class QuantityEdit;

/// Lights at the crossings of rows and columns: what one resistor with several lights does, which patterns
/// plain switches reach, and what scanning takes.
class GridPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit GridPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void tap(const QString& ref);  ///< "light:2,3": wished, or not any more
    const GridPattern& wish() const { return wish_; }
    DataTable* table() { return table_; }

  private:
    GridQuery query() const;
    void ask();
    void drawPattern();
    void fill(const Grid& grid);
    QuantityEdit *rows_, *columns_, *refresh_;
    QComboBox *resistor_, *sized_for_;
    PictureView* picture_;
    FigureLabel *ohms_, *alone_, *all_, *total_;
    DataTable* table_;
    QLabel* answer_;
    GridPattern wish_ = GridPattern::dark(1, 1);
    bool asked_ = false;  ///< something was asked here otherwise than the design does
};

}  // namespace elkit
