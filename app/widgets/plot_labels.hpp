#pragma once
#include <QColor>
#include <QFont>
#include <QRectF>
#include <QString>
#include <vector>

class QCustomPlot;
class QCPAxis;
class QCPItemText;

namespace elkit {

/// Words in a plot that keep clear of each other, of its curves and of its upright lines, whatever its size.
class PlotLabels {
  public:
    /// A place for a label, in coordinates of two axes, and the side of it where the words stand.
    struct Place {
        QCPAxis* x;
        QCPAxis* y;
        double at_x, at_y;
        Qt::Alignment side;
    };
    explicit PlotLabels(QCustomPlot* plot) : plot_(plot) {}
    /// Forgets all labels, curves and lines; for the plot that cleared its items.
    void clear();
    /// A label with the places it may take, the best first.
    void add(const QString& words, const QColor& colour, const QFont& font, std::vector<Place> places);
    /// What labels keep clear of: a curve, in coordinates of two axes.
    void keep_clear(QCPAxis* x, QCPAxis* y, std::vector<QPointF> curve);
    /// Puts each label at its first free place, or where it covers least; to be called when the plot has been
    /// laid out, before it is drawn.
    void arrange();
    /// Where they stand [pixels of the plot], for tests.
    std::vector<QRectF> rects() const { return taken_; }

  private:
    struct Label {
        QCPItemText* item;
        std::vector<Place> places;
    };
    struct Curve {
        QCPAxis* x;
        QCPAxis* y;
        std::vector<QPointF> points;
    };
    QRectF rect(const Label& label, const Place& place) const;
    /// How much of the rectangle other things cover [pixels], and how far it stands outside of the plot.
    double trouble(const QRectF& rect) const;
    QCustomPlot* plot_;
    std::vector<Label> labels_;
    std::vector<Curve> curves_;
    std::vector<std::vector<QPointF>> lines_;  // the curves in pixels, while labels are arranged
    std::vector<QRectF> taken_;
};

/// Places along a curve, above and below it, from its middle outwards.
std::vector<PlotLabels::Place> along(QCPAxis* x, QCPAxis* y, const std::vector<QPointF>& curve);

}  // namespace elkit
