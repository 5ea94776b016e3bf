#pragma once
#include "app/widgets/tab_panel.hpp"
#include "power/protection.hpp"

class QPushButton;

namespace elkit {

/// Reversed cells and shorts: what each part against them costs in volts and hours.
class ProtectionPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit ProtectionPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void use();  ///< puts the chosen part into the circuit
    DataTable* table() const { return table_; }

  private:
    ProtectionQuery query() const { return {session_.design(), session_.conditions()}; }
    void fill(const Protection& found);
    void explain(int row);
    QPushButton* use_;
    DataTable* table_;
};

}  // namespace elkit
