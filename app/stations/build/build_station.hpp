#pragma once
#include "app/stations/station.hpp"

namespace elkit {

class PictureView;
class StepsView;

/// The ordered steps with their checks, and where on the board each is.
class BuildStation : public Station {
    Q_OBJECT
  public:
    explicit BuildStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    void showPlace();
    StepsView* steps_;
    PictureView* picture_;
};

StationInfo build_station();

}  // namespace elkit
