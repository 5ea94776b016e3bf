#pragma once
#include <qcustomplot.h>

namespace elkit {

/// A plot that draws nothing while it has no room, as when its panel is folded.
class Plot : public QCustomPlot {
    Q_OBJECT
  public:
    using QCustomPlot::QCustomPlot;

  protected:
    void resizeEvent(QResizeEvent* event) override {
        if (!event->size().isEmpty()) QCustomPlot::resizeEvent(event);
    }
};

/// Fonts, inks and grid of a plot after the theme.
void style_plot(QCustomPlot* plot);

}  // namespace elkit
