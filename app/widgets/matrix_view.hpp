#pragma once
#include <QColor>
#include <QWidget>
#include <functional>
#include <vector>

#include "matrix/frames.hpp"

namespace elkit {

inline constexpr QColor matrix_ground(30, 32, 38);  ///< the board behind the lights, in either theme

/// One picture over all matrices of a chain, drawn by mouse or keys: a click or Space turns a light over, a
/// drag draws on with what the first one became, arrows move.
class MatrixView : public QWidget {
    Q_OBJECT
  public:
    explicit MatrixView(QWidget* parent = nullptr);
    void show(std::vector<MatrixFrame> matrices, const QColor& colour);  ///< of lights that are on
    const std::vector<MatrixFrame>& shown() const { return matrices_; }
    QPoint lightAt(int row, int column) const;  ///< its middle, column of all
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;
    void paintEvent(QPaintEvent* event) override;

  signals:
    void drawn();  ///< a light or a whole drag

  protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    int columns() const { return matrix_side * static_cast<int>(matrices_.size()); }
    double pitch() const;
    bool found(const QPointF& at, int& row, int& column) const;
    bool on(int row, int column) const;
    void set(int row, int column, bool on);
    std::vector<MatrixFrame> matrices_;
    QColor colour_;
    int row_ = 0, column_ = 0;  // of the keys
    bool drawing_ = false, pen_ = false, changed_ = false;
};

}  // namespace elkit
