#pragma once
class QCustomPlot;

namespace elkit {

/// Fonts, inks and grid of a plot after the theme.
void style_plot(QCustomPlot* plot);

}  // namespace elkit
