#pragma once
#include <QWidget>
#include <vector>

#include "quantity/figure.hpp"

class QGridLayout;
class QLabel;

namespace elkit {

class FigureLabel;
class Session;

/// Figures one below the other, each behind its own label.
class FigureList : public QWidget {
  public:
    explicit FigureList(Session& session, QWidget* parent = nullptr);
    void setFigures(const std::vector<Figure>& figures);
    void setDimmed(bool dimmed);

  private:
    Session& session_;
    QGridLayout* grid_;
    std::vector<FigureLabel*> values_;
    std::vector<QLabel*> names_;
};

}  // namespace elkit
