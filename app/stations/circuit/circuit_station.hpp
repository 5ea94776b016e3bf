#pragma once
#include "app/shell/session.hpp"
#include "app/stations/station.hpp"

class QCheckBox;
class QPushButton;
class QStackedWidget;

namespace elkit {

class DataTable;
class FigureLabel;
class FoldingTabs;
class MeterPanel;
class Offer;
class RecipePage;
class SpreadPanel;
class StaveWidget;
class SweepPanel;
class TimeLane;
class WiringPanel;
class BehaviourPanel;
class PicturesPanel;

/// The stave, and the same parts as rows for those who prefer them.
class CircuitStation : public Station {
    Q_OBJECT
  public:
    explicit CircuitStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;
    StaveWidget* stave() { return stave_; }
    TimeLane* timeLane() { return time_; }
    BehaviourPanel* behaviour() { return behaviour_; }
    PicturesPanel* pictures() { return pictures_; }
    WiringPanel* wiring() { return wiring_; }
    MeterPanel* meter() { return meter_; }
    SweepPanel* sweepPanel() { return sweep_; }
    SpreadPanel* spreadPanel() { return spread_; }
    FoldingTabs* tabs() { return tabs_; }
    DataTable* table() { return table_; }
    RecipePage* recipes() { return recipes_; }
    void showRecipes(bool shown);  ///< "What should it do?" in place of the circuit
    void showNextState();          ///< the other states of rest of a latch, one after the other
    void pasteRows();              ///< parts of the clipboard, as rows of a spreadsheet
    void copyRows();               ///< the chosen rows, or all, to the clipboard

  protected:
    void refresh() override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void buildTools();
    void fillTable();
    void fillFiguresInView();
    void fillRow(int row, const Part& part);
    void fillFigures(int row, const Part& part, const OperatingPoint& op);
    std::pair<int, int> rowsInView() const;
    Shown<std::vector<OperatingPoint>> states();
    void deleteRow();
    void buildTable();
    void wireStave();
    void showProbes();
    void edited(int row, int column);
    StaveWidget* stave_;
    Offer* offer_;  ///< in its place while there are no parts
    DataTable* table_;
    BehaviourPanel* behaviour_;
    PicturesPanel* pictures_;
    WiringPanel* wiring_;
    TimeLane* time_;
    MeterPanel* meter_;
    SweepPanel* sweep_;
    SpreadPanel* spread_;
    QPushButton* state_;
    std::size_t shown_state_ = 0;
    FoldingTabs* tabs_;
    QCheckBox* true_height_;
    QPushButton* intents_;
    QStackedWidget* pages_;
    RecipePage* recipes_;
    bool circuit_wanted_ = false;     ///< although it has no parts
    bool for_want_of_parts_ = false;  ///< the intents came up by themselves
    FigureLabel *total_, *period_, *mean_;
    bool filling_ = false;
};

StationInfo circuit_station();

}  // namespace elkit
