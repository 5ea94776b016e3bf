#pragma once
#include <QWidget>

#include "app/shell/session.hpp"
#include "power/plain_cells.hpp"

namespace elkit {

class DataTable;
class LifePlot;

/// A light that lifts the volts of its cells beside the same light on more of them: numbers, and light over
/// time.
class CellsPanel : public QWidget {
    Q_OBJECT
  public:
    explicit CellsPanel(Session& session, QWidget* parent = nullptr);
    void show_block(const Design& design, std::size_t block);
    DataTable* table() const { return table_; }

  private:
    Session& session_;
    DataTable* table_;
    LifePlot* plot_;
};

}  // namespace elkit
