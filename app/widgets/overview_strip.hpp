#pragma once
#include <QWidget>

namespace elkit {

class PictureView;

/// A picture in small, with a frame round what its view shows; a click or drag moves the view.
class OverviewStrip : public QWidget {
    Q_OBJECT
  public:
    OverviewStrip(PictureView* view, QWidget* parent);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QRectF pictureRect() const;
    void moveTo(QPointF at);
    PictureView* view_;
};

}  // namespace elkit
