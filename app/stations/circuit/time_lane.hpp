#pragma once
#include <QTimer>
#include <QWidget>
#include <memory>
#include <optional>

#include "app/shell/background.hpp"
#include "engine/band.hpp"

class QCheckBox;
class QComboBox;
class QLabel;
class QLayout;
class QPushButton;
class QSlider;

namespace elkit {

class FigureLabel;
class Offer;
class QuantityEdit;
class Session;
class TracePlot;
struct TraceCurve;

/// The circuit through time: records a run in the background, shows its traces with the batch's band, plays
/// or scrubs through it, and measures between a mark and the head. Takes probes dropped from the stave.
class TimeLane : public QWidget {
    Q_OBJECT
  public:
    explicit TimeLane(Session& session, QWidget* parent = nullptr);

    void start();  ///< records anew with the present design and conditions
    void record(double seconds);
    void showAt(double share);               ///< puts the head at this share of the recording
    void toggleProbe(const QString& probe);  ///< "net:OUT": puts it on the lane or takes it off
    void mark();  ///< remembers the head's moment; differences are then shown against it
    void showBand(bool wanted);
    bool writeWaveforms(const QString& path, bool csv);  ///< CSV or VCD; false if it could not
    const Recording* recording() const { return recording_.get(); }
    const Bands* band() const { return bands_ ? &*bands_ : nullptr; }
    bool recordingNow() const { return run_.running(); }
    TracePlot* traces() const { return plot_; }

  signals:
    void momentShown(const OperatingPoint* readings);  ///< nullptr: the present again

  protected:
    void changeEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    void arrived(Result<Recording> run);
    void startBand();
    void forget();
    void plot();
    TraceCurve curve(const Trace& trace, int number) const;
    QString source() const;
    void say(const QString& words);
    void showMeasurements();
    void fitMeasurements();
    void showDifferences();
    RunRequest request() const;
    void showHead();
    void step(int direction);  ///< to the next or last event
    void chooseProbes();
    void play();
    void advance();
    QWidget* tools();
    QLayout* scrubber();
    QWidget* readings();
    double head() const;
    static constexpr int ticks = 1000;  // of the head's slider
    Session& session_;
    QuantityEdit* span_;
    QComboBox *speed_, *measured_, *from_;
    QPushButton *record_, *play_, *mark_button_;
    QCheckBox *band_wanted_, *laid_over_;
    QSlider* head_;
    QLabel *time_, *trouble_;
    std::vector<FigureLabel*> figures_;
    std::size_t measurements_ = 0;  ///< how many of them have something to say
    QWidget* readings_;
    FigureLabel *since_mark_, *change_since_mark_, *reached_, *balance_;
    QuantityEdit* level_;
    TracePlot* plot_;
    Offer* offer_;
    QString recorded_;  ///< in which situation, and from where
    QTimer clock_;
    std::vector<std::string> probes_;
    std::shared_ptr<Recording> recording_;
    std::optional<Bands> bands_;
    std::optional<double> mark_;  ///< s
    double played_ = 0;           ///< s into the recording, between two ticks of the slider
    Background run_, band_;
    bool chosen_by_hand_ = false;
};

}  // namespace elkit
