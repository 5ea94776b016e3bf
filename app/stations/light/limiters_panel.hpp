#pragma once
#include <QWidget>

#include "planning/limiters.hpp"

class QLabel;

namespace elkit {

class DataTable;
class Session;

/// Ways to keep the current of the design's strings: resistors, diodes, the cell itself, current sources.
class LimitersPanel : public QWidget {
    Q_OBJECT
  public:
    explicit LimitersPanel(Session& session, QWidget* parent = nullptr);
    void refresh();
    DataTable* table() { return table_; }

  private:
    LimitersQuery query() const;
    void explain(int row);
    Session& session_;
    DataTable* table_;
    QLabel* why_;
    Digest shown_;
};

}  // namespace elkit
