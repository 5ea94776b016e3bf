#pragma once
#include "app/widgets/tab_panel.hpp"
#include "power/wiring.hpp"

class QPushButton;

namespace elkit {

class QuantityEdit;

/// The leads of the source by gauge: what they lose, how warm they get, which is enough.
class WiresPanel : public TabPanel {
    Q_OBJECT
  public:
    explicit WiresPanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    void use();  ///< takes length and the chosen gauge into the design
    DataTable* table() { return table_; }

  private:
    WiringQuery query() const;
    void fill(const WiringQuery::Value& found);
    QuantityEdit* length_;
    QPushButton* use_;
    DataTable* table_;
    bool asked_ = false;  ///< another length was asked here than the design has
};

}  // namespace elkit
