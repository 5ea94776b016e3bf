#pragma once
#include <QTimer>
#include <QWidget>
#include <atomic>
#include <memory>

#include "engine/transient.hpp"

class QComboBox;
class QCustomPlot;
class QLabel;
class QPushButton;
class QSlider;

namespace elkit {

class FigureLabel;
class QuantityEdit;
class Session;

/// The circuit through time: records a run in the background, shows its traces, and plays or scrubs through
/// it.
class TimeLane : public QWidget {
    Q_OBJECT
  public:
    explicit TimeLane(Session& session, QWidget* parent = nullptr);
    ~TimeLane() override;

    void start();  ///< records anew with the present design and conditions
    void record(double seconds);
    void showAt(double share);               ///< puts the head at this share of the recording
    void toggleProbe(const QString& probe);  ///< "net:OUT": puts it on the lane or takes it off
    const Recording* recording() const { return recording_.get(); }
    bool recordingNow() const { return running_; }
    void refreshTheme();

  signals:
    void momentShown(const OperatingPoint* readings);  ///< nullptr: the present again

  private:
    void arrived(std::shared_ptr<Recording> recording, const QString& error);
    void plot();
    void showHead();
    void step(int direction);  ///< to the next or last event
    void chooseProbes();
    void play();
    double head() const;
    Session& session_;
    QuantityEdit* span_;
    QComboBox *speed_, *measured_, *from_;
    QPushButton *record_, *play_;
    QSlider* head_;
    QLabel *time_, *trouble_;
    std::vector<FigureLabel*> figures_;
    QCustomPlot* plot_;
    QTimer clock_;
    std::vector<std::string> probes_;
    std::shared_ptr<Recording> recording_;
    std::shared_ptr<std::atomic<int>> generation_;
    bool running_ = false, chosen_by_hand_ = false;
};

}  // namespace elkit
