#pragma once
#include "app/stations/station.hpp"

class QLabel;
class QPushButton;

namespace elkit {

class DataTable;
class FigureLabel;
class FieldForm;

/// How many, from what, at what cost; the drawer; what leaves as files.
class BatchStation : public Station {
    Q_OBJECT
  public:
    explicit BatchStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    QLayout* drawerRow();
    void tellReserved();
    void edited(int row, int column);
    DataTable* table_;
    FigureLabel *cost_, *spend_;
    FieldForm* form_;
    QLabel* reserved_;
    QPushButton* give_back_;
    std::vector<std::string> short_of_;  ///< of the last step
    bool filling_ = false;
};

StationInfo batch_station();

}  // namespace elkit
