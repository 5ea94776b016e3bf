#pragma once
#include <QWidget>
#include <array>

#include "quantity/figure.hpp"

class QLabel;

namespace elkit {

/// The arithmetic of the number that has focus; copyable.
class WorkingDrawer : public QWidget {
    Q_OBJECT
  public:
    explicit WorkingDrawer(QWidget* parent = nullptr);
    void show_figure(const Figure& figure);
    void clear();  ///< shows how to choose a number
    QString text() const;

  private:
    QLabel* title_;
    std::array<QLabel*, 3> columns_;
    QString text_;
};

}  // namespace elkit
