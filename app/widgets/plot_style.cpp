#include "app/widgets/plot_style.hpp"

#include <qcustomplot.h>

#include "app/theme/theme.hpp"

namespace elkit {

void style_plot(QCustomPlot* plot) {
    plot->setBackground(theme().card);
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px(11));
    for (QCPAxis* axis : {plot->xAxis, plot->yAxis, plot->yAxis2}) {
        axis->setTickLabelFont(font), axis->setLabelFont(font);
        axis->setTickLabelColor(theme().muted), axis->setLabelColor(theme().muted);
        axis->setBasePen(QPen(theme().line)), axis->setTickPen(QPen(theme().muted));
        axis->setSubTickPen(QPen(theme().line));
        axis->grid()->setPen(QPen(theme().line, 1));
    }
    plot->yAxis2->grid()->setVisible(false);
}

}  // namespace elkit
