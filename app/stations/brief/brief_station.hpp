#pragma once
#include <QCheckBox>
#include <QLineEdit>

#include "app/stations/station.hpp"
#include "app/widgets/quantity_edit.hpp"

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
    QLineEdit *name_, *purpose_;
    QuantityEdit *run_time_, *end_, *kits_, *cost_, *width_, *height_;
    QCheckBox* children_;
    QGridLayout* verdicts_;
    std::vector<class FigureLabel*> figures_;
    std::vector<QLabel*> wanted_, judged_;
};

StationInfo brief_station();

}  // namespace elkit
