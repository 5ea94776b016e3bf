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
    /// Several lights over the lives of their cells, each against its own from fresh ones.
    struct Named {
        QString name;
        const Discharge* run;
        bool stands_out;
    };
    void show_side_by_side(const std::vector<Named>& lives, double end_brightness);
    void clear();
    const PlotLabels& labels() const { return labels_; }

  protected:
    void paintEvent(QPaintEvent*) override {}
    void resizeEvent(QResizeEvent*) override;

  private:
    void style();
    void begin();
    void add_end(double end_brightness, double span);
    void add_upright(double x, const QString& words, const QColor& colour);
    QCustomPlot* plot_;
    PlotLabels labels_;
};

}  // namespace elkit
