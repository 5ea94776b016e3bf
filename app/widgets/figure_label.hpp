#pragma once
#include <QWidget>

#include "quantity/figure.hpp"

namespace elkit {

class Session;

/// A computed number: large value, small unit, its spread behind it. Click, or Tab and Enter, shows its
/// working.
class FigureLabel : public QWidget {
    Q_OBJECT
  public:
    enum class Size { hero, large, plain };
    FigureLabel(Session& session, Size size, QWidget* parent = nullptr);

    void setFigure(const Figure& figure, const QString& caption = {});
    void setText(const QString& instead);  ///< words in place of a number, such as "endless"
    void setDimmed(bool dimmed);           ///< being recomputed
    const Figure& figure() const { return figure_; }
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void focusInEvent(QFocusEvent*) override;

  private:
    QFont valueFont() const;
    QFont unitFont() const;
    Session& session_;
    Size size_;
    Figure figure_;
    QString caption_, instead_;
    bool dimmed_ = false;
};

}  // namespace elkit
