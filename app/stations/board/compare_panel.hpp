#pragma once
#include "app/widgets/tab_panel.hpp"

namespace elkit {

/// The ways to make the boards of this batch beside each other: size, time, cost, tools, risk, when in hand.
class ComparePanel : public TabPanel {
    Q_OBJECT
  public:
    explicit ComparePanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    DataTable* table() const { return table_; }

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    DataTable* table_;
};

}  // namespace elkit
