#pragma once
#include "app/stations/station.hpp"

namespace elkit {

class FigureLabel;
class PictureView;
class FieldForm;

/// The pad board from both sides, and the proof that it equals the circuit.
class BoardStation : public Station {
    Q_OBJECT
  public:
    explicit BoardStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    PictureView *front_, *back_;
    FieldForm* form_;
    FigureLabel *width_, *height_;
    QLabel *equal_, *joints_, *picked_;
    QLabel* groups_;
};

StationInfo board_station();

}  // namespace elkit
