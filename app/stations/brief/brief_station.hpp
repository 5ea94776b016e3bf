#pragma once

#include "app/stations/station.hpp"
#include "app/widgets/field_form.hpp"

class QGridLayout;

namespace elkit {

/// What the gadget must do, and how the design stands against it.
class BriefStation : public Station {
    Q_OBJECT
  public:
    explicit BriefStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    KeyFigure keyFigure() override;

  protected:
    void refresh() override;

  private:
    FieldForm* form_;
    QGridLayout* verdicts_;
    std::vector<class FigureLabel*> figures_;
    std::vector<QLabel*> wanted_, judged_;
};

StationInfo brief_station();

}  // namespace elkit
