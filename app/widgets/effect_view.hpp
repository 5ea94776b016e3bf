#pragma once
#include <QElapsedTimer>
#include <QWidget>

#include "recipes/effect.hpp"

class QTimer;

namespace elkit {

/// Paints a lamp at a moment of an effect, and beside it its brightness over time with a mark at that moment.
void paint_effect(QPainter& painter, const QRectF& room, const Effect& effect, double seconds);

/// The time of an effect that is shown after `real` seconds: as it is, but quicker or slower where a round
/// would take more than a few seconds or less than one.
double shown_time(const Effect& effect, double real);

/// A light as it goes on and off, moving while it is seen; still where the desktop wants nothing to move.
class EffectView : public QWidget {
    Q_OBJECT
  public:
    explicit EffectView(QWidget* parent = nullptr);
    void setEffect(const Effect& effect, bool dimmed);
    QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent*) override;
    void showEvent(QShowEvent*) override;
    void hideEvent(QHideEvent*) override;

  private:
    Effect effect_;
    bool dimmed_ = true;
    QTimer* timer_;
    QElapsedTimer clock_;
};

}  // namespace elkit
