#pragma once
#include <QWidget>

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
    void touch(const QString& net);  ///< the next probe goes here: red, then black

  private:
    void rebuild();
    void measure();
    Session& session_;
    QComboBox *red_, *black_, *mode_, *lifted_;
    FigureLabel* value_;
    QLabel *display_, *note_;
    bool next_is_red_ = true;
};

}  // namespace elkit
