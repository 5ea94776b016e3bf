#pragma once
#include <QWidget>

#include "app/widgets/plot_labels.hpp"
#include "power/run_time.hpp"

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
    const PlotLabels& labels() const { return labels_; }

  protected:
    void paintEvent(QPaintEvent*) override {}
    void resizeEvent(QResizeEvent*) override;

  private:
    void style();
    void add_upright(double x, const QString& words, const QColor& colour);
    QCustomPlot* plot_;
    PlotLabels labels_;
};

}  // namespace elkit
