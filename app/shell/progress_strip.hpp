#pragma once
#include <QTimer>
#include <QWidget>

class QLabel;
class QProgressBar;
class QPushButton;

namespace elkit {

class Session;

/// What long work is at and how far it has come, with a way to stop it. Hidden while nothing takes long.
class ProgressStrip : public QWidget {
    Q_OBJECT
  public:
    explicit ProgressStrip(Session& session, QWidget* parent = nullptr);

  private:
    void refresh();
    Session& session_;
    QTimer patience_;  ///< work that is done at once shows no bar
    QLabel* text_;
    QProgressBar* bar_;
    QPushButton* button_;
};

}  // namespace elkit
