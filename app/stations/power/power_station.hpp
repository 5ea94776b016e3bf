#pragma once
#include "app/stations/station.hpp"
#include "power/supplies.hpp"

class QComboBox;
class QLabel;
class QPushButton;

namespace elkit {

class DataTable;
class FigureLabel;
class LifePlot;
class QuantityEdit;
class SituationCard;

/// Which supply, and how long it lasts.
class PowerStation : public Station {
    Q_OBJECT
  public:
    explicit PowerStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    QWidget* supplyCard();
    QWidget* lifeCard();
    QWidget* compareCard();
    void fillTable();
    void fillRow(int row, const SupplyRow& supply);
    void useRow();
    void changeSource(const char* key, const ParamValue& value, const QString& what);
    SuppliesQuery suppliesQuery();
    QComboBox *cell_, *policy_;
    QuantityEdit *count_, *lead_length_, *lead_area_;
    FigureLabel *run_time_, *left_, *average_, *standby_, *standby_current_, *voltage_;
    LifePlot* life_;
    QLabel* life_title_;
    SituationCard* situations_;
    DataTable* table_;
    QPushButton* use_;
};

StationInfo power_station();

}  // namespace elkit
