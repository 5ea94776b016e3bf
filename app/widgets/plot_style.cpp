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
        axis->setBasePen(QPen(theme().line)), axis->setTickPen(QPen(theme().line));
        axis->setSubTickPen(Qt::NoPen);
        axis->grid()->setPen(QPen(theme().line, 1));
    }
    plot->yAxis2->grid()->setVisible(false);
}

void add_plot_name(QCustomPlot* plot, const QString& words, const QColor& ink, int column) {
    auto* name = new QCPItemText(plot);
    name->setText(words);
    name->setColor(ink);
    name->setFont(plot->xAxis->tickLabelFont());
    name->position->setType(QCPItemPosition::ptAxisRectRatio);
    name->position->setCoords(0.01 + 0.16 * column, -0.02);
    name->setPositionAlignment(Qt::AlignLeft | Qt::AlignBottom);
    name->setClipToAxisRect(false);
}

}  // namespace elkit
