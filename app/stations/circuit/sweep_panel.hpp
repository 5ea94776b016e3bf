#pragma once
#include <QWidget>
#include <optional>

#include "app/shell/background.hpp"
#include "app/widgets/plot_labels.hpp"
#include "engine/sweep.hpp"

class QCheckBox;
class QComboBox;
class QCPItemStraightLine;
class QCustomPlot;
class QLabel;
class QPushButton;

namespace elkit {

class FigureLabel;
class GoalChooser;
class Offer;
class QuantityEdit;
class Session;

/// One thing varied, a measurement against it as a curve.
class SweepPanel : public QWidget {
    Q_OBJECT
  public:
    explicit SweepPanel(Session& session, QWidget* parent = nullptr);
    void start();
    void vary(const QString& name);  ///< chooses what to vary, "RV1"
    void point(double at);           ///< shows the value nearest to a place on the curve
    GoalChooser* goal() { return goal_; }
    const std::optional<Sweep>& result() const { return result_; }
    bool running() const { return work_.running(); }

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void rebuild();
    void offerRange();
    void plot();
    void forget(const QString& why);
    void sweeping(const QString& how_far);
    Session& session_;
    QComboBox* over_;
    QuantityEdit *from_, *to_, *points_;
    QCheckBox* logarithmic_;
    GoalChooser* goal_;
    QPushButton* run_;
    FigureLabel *here_, *least_, *most_;
    QLabel* note_;
    QCustomPlot* plot_;
    Offer* offer_;
    PlotLabels names_{nullptr};
    QCPItemStraightLine* here_line_ = nullptr;
    std::vector<Variable> variables_;
    std::optional<Sweep> result_;
    Background work_;
};

}  // namespace elkit
