#pragma once

#include "app/widgets/tab_panel.hpp"
#include "power/supplies.hpp"

class QComboBox;
class QPushButton;

namespace elkit {

class SupplyPlot;

/// The same light from other supplies, as a table or as a plot of run time, to take one of them.
class SuppliesPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit SuppliesPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    SupplyPlot* plot() { return plot_; }

  private:
    SuppliesQuery query() const;
    SupplyPolicy policy() const;
    void fill(const std::vector<SupplyRow>& rows);
    void fillRow(int row, const SupplyRow& supply);
    void hideUnowned();
    void choose(int row);
    void explain(int row);
    void use();
    QComboBox *scope_, *policy_, *shown_as_;
    QPushButton* use_;
    DataTable* table_;
    SupplyPlot* plot_;
};

}  // namespace elkit
