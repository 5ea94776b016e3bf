#pragma once
#include "app/stations/station.hpp"

class QComboBox;
class QPushButton;
class QTableWidget;

namespace elkit {

class FigureLabel;
class LifePlot;
class QuantityEdit;
struct SupplyRow;

/// Which supply, and how long it lasts.
class PowerStation : public Station {
    Q_OBJECT
  public:
    explicit PowerStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;

  protected:
    void refresh() override;

  private:
    void fillTable();
    void fillRow(int row, const SupplyRow& supply);
    void useRow();
    QComboBox *cell_, *policy_;
    QuantityEdit *count_, *lead_length_, *lead_area_;
    FigureLabel *run_time_, *left_, *average_, *standby_, *standby_current_, *voltage_;
    LifePlot* life_;
    QTableWidget* table_;
    QPushButton* use_;
};

}  // namespace elkit
