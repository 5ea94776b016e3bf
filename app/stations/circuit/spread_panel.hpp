#pragma once
#include <QWidget>
#include <optional>

#include "app/shell/background.hpp"
#include "app/widgets/plot_labels.hpp"
#include "engine/spread.hpp"

class QCustomPlot;
class QLabel;
class QPushButton;

namespace elkit {

class DataTable;
class FigureLabel;
class GoalChooser;
class Offer;
class QuantityEdit;
class Session;

/// A batch built on paper: how a measurement spreads over it, and which parts make the spread.
class SpreadPanel : public QWidget {
    Q_OBJECT
  public:
    explicit SpreadPanel(Session& session, QWidget* parent = nullptr);
    void start();
    GoalChooser* goal() { return goal_; }
    bool running() const { return work_.running(); }
    const std::optional<Spread>& result() const { return result_; }

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void show(const QString& note);
    static QString nothing_yet();
    void plot();
    Session& session_;
    GoalChooser* goal_;
    QuantityEdit *builds_, *seed_;
    QPushButton* run_;
    FigureLabel *median_, *least_, *most_;
    DataTable* parts_;
    QLabel* note_;
    QCustomPlot* plot_;
    Offer* offer_;
    PlotLabels names_{nullptr};
    std::optional<Spread> result_;
    Background work_;
};

}  // namespace elkit
