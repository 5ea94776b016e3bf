#pragma once
#include <QWidget>

#include "app/shell/background.hpp"
#include "engine/meter.hpp"

class QComboBox;
class QLabel;

namespace elkit {

class FigureLabel;
class Session;

/// A bench meter: two probes on two nets, or a lifted leg, and what a real meter shows.
class MeterPanel : public QWidget {
    Q_OBJECT
  public:
    explicit MeterPanel(Session& session, QWidget* parent = nullptr);
    void touch(const QString& net);            ///< the next probe goes here: red, then black
    void probe(const QString& net, bool red);  ///< this probe goes here
    bool measuring() const { return work_.running(); }
    QString red() const;  ///< the net under the red probe; none while a leg is lifted
    QString black() const;

  signals:
    void probesMoved();

  private:
    void rebuild();
    void measure();
    void show(const Result<MeterReading>& reading, MeterMode mode);
    Session& session_;
    QComboBox *red_, *black_, *mode_, *lifted_;
    QStringList nets_, legs_;  ///< in the boxes
    FigureLabel* value_;
    QLabel *display_, *note_;
    bool next_is_red_ = true;
    Background work_;
};

}  // namespace elkit
