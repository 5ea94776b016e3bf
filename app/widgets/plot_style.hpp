#pragma once
class QCPAxis;
class QCustomPlot;
class QString;
class QColor;

namespace elkit {

/// Fonts, inks and grid of a plot after the theme.
void style_plot(QCustomPlot* plot);

/// Words beside the top of the plot, `column` of about six across.
void add_plot_name(QCustomPlot* plot, const QString& words, const QColor& ink, int column);

}  // namespace elkit
