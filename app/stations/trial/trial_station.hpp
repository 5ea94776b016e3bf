#pragma once
#include "app/stations/station.hpp"
#include "build/trial.hpp"

class QComboBox;
class QLineEdit;

namespace elkit {

class DataTable;
class FoldingTabs;
class Offer;
class PictureView;
class StepsView;

/// Does it work on the breadboard: the plan, its wires, the steps with their readings, and what was found.
class TrialStation : public Station {
    Q_OBJECT
  public:
    explicit TrialStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    void buildTools();
    QWidget* wiresPage();
    QWidget* foundPage();
    QWidget* differsPage();
    void fill(const Trial& trial);
    void pick(const QString& ref);  ///< a part or wire: its step, its row
    void takeFound();
    PictureView* picture_;
    Offer* offer_;
    StepsView* steps_;
    FoldingTabs* tabs_;
    DataTable* wires_;
    QComboBox *size_, *colours_;
    QLineEdit* found_;
    QLabel *found_note_, *differs_;
};

StationInfo trial_station();

}  // namespace elkit
