#pragma once
#include "app/stations/station.hpp"

class QCheckBox;
class QTabWidget;
class QTableWidget;

namespace elkit {

class FigureLabel;
class MeterPanel;
class StaveWidget;
class TimeLane;

/// The stave, and the same parts as rows for those who prefer them.
class CircuitStation : public Station {
    Q_OBJECT
  public:
    explicit CircuitStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    StaveWidget* stave() { return stave_; }
    TimeLane* timeLane() { return time_; }
    MeterPanel* meter() { return meter_; }
    QTabWidget* tabs() { return tabs_; }

  protected:
    void refresh() override;

  private:
    void edited(int row, int column);
    StaveWidget* stave_;
    QTableWidget* table_;
    TimeLane* time_;
    MeterPanel* meter_;
    QTabWidget* tabs_;
    QCheckBox* true_height_;
    FigureLabel *total_, *period_, *mean_;
    bool filling_ = false;
};

}  // namespace elkit
