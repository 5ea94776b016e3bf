#pragma once
#include "app/stations/station.hpp"
#include "circuit/part.hpp"

class QComboBox;
class QLabel;
class QPushButton;

namespace elkit {

class FigureLabel;
class LifePlot;
class QuantityEdit;
class SituationCard;
class TabPanel;

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
    void showLow();
    void changeSource(const char* key, const ParamValue& value, const QString& what);
    std::vector<TabPanel*> panels_;  ///< below, besides situations
    QComboBox* cell_;
    QuantityEdit *count_, *lead_length_, *lead_area_, *warn_below_;
    FigureLabel *run_time_, *left_, *average_, *standby_, *standby_current_, *voltage_, *warn_;
    QPushButton* show_low_;
    QLabel* warn_words_;
    LifePlot* life_;
    QLabel* life_title_;
    SituationCard* situations_;
};

StationInfo power_station();

}  // namespace elkit
