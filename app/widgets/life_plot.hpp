#pragma once
#include <QWidget>

#include "power/discharge.hpp"

class QCustomPlot;

namespace elkit {

/// Perceived light over time from fresh cells, with its band, the brief's target, and where the battery is
/// now.
class LifePlot : public QWidget {
    Q_OBJECT
  public:
    explicit LifePlot(QWidget* parent = nullptr);
    /// `charge_now` places the "now" line; `with_voltage` adds the terminal voltage.
    void show_discharge(const PowerResult& power, double wanted_hours, double end_brightness,
                        double charge_now, bool with_voltage);
    void clear();

  protected:
    void paintEvent(QPaintEvent*) override {}
    void resizeEvent(QResizeEvent*) override;

  private:
    void style();
    QCustomPlot* plot_;
};

}  // namespace elkit
