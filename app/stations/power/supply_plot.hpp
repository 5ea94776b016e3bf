#pragma once
#include <QWidget>
#include <optional>

#include "app/widgets/plot_labels.hpp"
#include "power/supplies.hpp"

class QCustomPlot;

namespace elkit {

/// Supplies as points: how long each runs, against what it costs, the room that its holder takes, or its
/// mass. Filled: nothing to mind; hollow: with a remark. Those that nothing beats are named. A click or the
/// arrow keys choose one.
class SupplyPlot : public QWidget {
    Q_OBJECT
  public:
    explicit SupplyPlot(QWidget* parent = nullptr);
    void setSupplies(std::vector<SupplyRow> rows);
    void setAcross(SupplyTakes across);
    void setShown(std::vector<bool> shown);  ///< of the rows, in their order
    void setChosen(int row);
    /// Where a row's point is [pixels]; nothing for one that is not drawn, as one that does not empty.
    std::optional<QPointF> place(int row) const;

  signals:
    void chosen(int row);

  protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent*) override {}
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    int nearest(const QPointF& to) const;
    bool drawn(int row) const;
    double across(const SupplyRow& row) const;
    void draw();
    QCustomPlot* plot_;
    PlotLabels labels_;
    std::vector<SupplyRow> rows_;
    std::vector<bool> shown_;
    SupplyTakes across_ = SupplyTakes::cost;
    int chosen_ = -1;
};

}  // namespace elkit
