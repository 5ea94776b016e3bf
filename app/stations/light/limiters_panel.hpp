#pragma once

#include "app/widgets/tab_panel.hpp"
#include "planning/limiters.hpp"

class QPushButton;

namespace elkit {

/// Ways to keep the current of the design's strings: resistors, diodes, the cell itself, current sources.
class LimitersPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit LimitersPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    DataTable* table() { return table_; }
    void use(int row);  ///< takes the limiter of this row into the design

  private:
    LimitersQuery query() const;
    void fill(const LimitersQuery::Value& found);
    void explain(int row);
    DataTable* table_;
    QPushButton* use_;
};

}  // namespace elkit
