#pragma once
#include "app/widgets/tab_panel.hpp"
#include "power/charging.hpp"

class QPushButton;

namespace elkit {

/// The design's lithium cell charged: by which current, how long, how warm, and what stops it when it is
/// empty.
class ChargingPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit ChargingPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void use();  ///< sets the charger to the chosen current, or puts one in

  private:
    ChargingQuery query() const { return {session_.design(), session_.conditions()}; }
    void fill(const Charging& found);
    QPushButton* use_;
    DataTable* table_;
};

}  // namespace elkit
