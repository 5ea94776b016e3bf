#pragma once
#include "app/widgets/tab_panel.hpp"
#include "light/heat.hpp"

namespace elkit {

/// How warm lights and resistors get, and what to do about it.
class HeatPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit HeatPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    DataTable* table() { return table_; }

  private:
    void fill(const Heat& heat);
    DataTable* table_;
};

}  // namespace elkit
