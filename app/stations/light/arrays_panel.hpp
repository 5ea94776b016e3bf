#pragma once
#include <QWidget>
#include <optional>

#include "planning/arrays_of_design.hpp"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace elkit {

class DataTable;
class QuantityEdit;
class Session;

/// All ways to arrange the lights on the supply, the best first, to take one of them.
class ArraysPanel : public QWidget {
    Q_OBJECT
  public:
    explicit ArraysPanel(Session& session, QWidget* parent = nullptr);
    void refresh();
    DataTable* table() { return table_; }
    void use(int row);  ///< takes the arrangement of this row into the design

  private:
    ArraysQuery query() const;
    void fill(const ArraysOfDesign& found);
    void wish();
    void explain(int row);
    Session& session_;
    QComboBox* led_;
    QuantityEdit *count_, *current_;
    QCheckBox* owned_;
    QPushButton* use_;
    DataTable* table_;
    QLabel* why_;
    ArrayWishes wishes_;  ///< what was asked here otherwise than the design does
    Digest shown_;
};

}  // namespace elkit
