#pragma once
#include "app/stations/station.hpp"

class QComboBox;
class QPushButton;

namespace elkit {

class BoardSides;
class ComparePanel;
class FieldForm;
class FigureLabel;
class FoldingTabs;
class HandPanel;
class MountsPanel;
class Offer;

/// The board from both sides, how parts meet it, and the proof that it equals the circuit.
class BoardStation : public Station {
    Q_OBJECT
  public:
    explicit BoardStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

    BoardSides* sides() { return sides_; }

  protected:
    void refresh() override;

  private:
    void buildTools();
    void buildKeys();
    QWidget* sizePage();
    QWidget* proofPage();
    void showSides(const Board& board);
    bool showGlance(const BoardQuery& query);
    BoardSides* sides_;
    Offer* offer_;  ///< in place of the sides where there is no layout
    QComboBox *shown_, *method_;
    MountsPanel* mounts_;
    HandPanel* hand_;
    ComparePanel* compare_;
    FoldingTabs* tabs_;
    FieldForm *form_, *copper_form_;
    QWidget *holes_fields_, *copper_fields_;  ///< one of them is shown
    FigureLabel *width_, *height_;
    QPushButton* files_;
    QLabel *equal_, *joints_, *picked_;
    QLabel* groups_;
};

StationInfo board_station();

}  // namespace elkit
