#pragma once
#include "app/stations/station.hpp"

class QCheckBox;
class QTableWidget;

namespace elkit {

class FigureLabel;
class StaveWidget;

/// The stave, and the same parts as rows for those who prefer them.
class CircuitStation : public Station {
    Q_OBJECT
  public:
    explicit CircuitStation(Session& session, QWidget* parent = nullptr);
    void focusRef(const QString& ref) override;
    StaveWidget* stave() { return stave_; }

  protected:
    void refresh() override;

  private:
    void edited(int row, int column);
    StaveWidget* stave_;
    QTableWidget* table_;
    QCheckBox* true_height_;
    FigureLabel* total_;
    bool filling_ = false;
};

}  // namespace elkit
