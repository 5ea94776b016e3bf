#pragma once
#include <QStackedWidget>

class QLabel;
class QPushButton;

namespace elkit {

/// A place for something that has to be asked for: until it is there, words that say what is missing and a
/// button that fetches it.
class Offer : public QStackedWidget {
    Q_OBJECT
  public:
    explicit Offer(QWidget* wanted, QWidget* parent = nullptr);
    /// Nothing is there: says why, and what the button does; no button without a name for it.
    void say(const QString& words, const QString& button = {});
    void showWanted() { setCurrentIndex(0); }
    bool offers() const { return currentIndex() == 1; }
    QPushButton* button() const { return button_; }

  signals:
    void asked();

  private:
    QLabel* words_;
    QPushButton* button_;
};

}  // namespace elkit
