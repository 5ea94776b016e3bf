#pragma once
#include <QWidget>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "build/steps.hpp"

class QBoxLayout;
class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QTreeWidget;

namespace elkit {

class FigureLabel;
class PictureView;
class Session;

/// Ordered steps with their checks, a list and the one that is chosen; ticks, notes and readings are stored
/// in the design.
class StepsView : public QWidget {
    Q_OBJECT
  public:
    using PhaseNames = std::string (*)(Phase);
    /// The list beside the step, or above it.
    StepsView(Session& session, Qt::Orientation orientation, PhaseNames phases, QWidget* parent = nullptr);
    /// Shows these; what is chosen and ticked stays.
    void setSteps(const std::vector<BuildStep>& steps);
    const BuildStep* current() const;  ///< nullptr before any are shown
    void choose(const QString& id);
    void focusReading();  ///< puts the keyboard there
    void setDimmed(bool dimmed);
    QBoxLayout* room() { return room_; }  ///< below the reading, for a picture
    /// "5 of 20 steps done · 1 readings outside their band"
    QString summary() const;
    int done() const;

  signals:
    void stepShown();

  private:
    QWidget* detail();
    void fillTree();
    void showStep();
    void record(const QString& what, const std::function<void(StepRecord&)>& change);
    Session& session_;
    PhaseNames phases_;
    QTreeWidget* tree_;
    QLabel *title_, *text_, *polarity_, *caution_, *probes_, *verdict_, *learnt_;
    FigureLabel* expected_;
    QLineEdit *measured_, *note_;
    QComboBox* heard_;
    QCheckBox* done_;
    PictureView* legs_;
    QBoxLayout* room_;
    QString current_;
    std::vector<std::string> shown_;
    std::optional<std::vector<BuildStep>> steps_;  ///< as shown
    bool filling_ = false;
};

}  // namespace elkit
