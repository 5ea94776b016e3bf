#pragma once
#include <QWidget>
#include <set>

#include "drawing/drawing.hpp"

namespace elkit {

/// Shows a drawing, fitted to its room; knows which item is under the mouse or chosen by key.
class PictureView : public QWidget {
    Q_OBJECT
  public:
    explicit PictureView(QWidget* parent = nullptr);

    void setDrawing(const Drawing& drawing);
    const Drawing& drawing() const { return drawing_; }
    void setMaximumScale(double pixels_per_unit) { maximum_scale_ = pixels_per_unit; }
    /// Zoom by Ctrl and wheel or + and −, pan by dragging the ground, 0 fits; never starts smaller than
    /// `least` pixels per unit.
    void setZoomable(double least) { least_ = least; }
    void zoom(double factor, QPointF around);
    void fit();
    void setDimmed(bool dimmed);            ///< being computed anew
    void setHighlight(const QString& ref);  ///< an item shown with a ring
    /// Kinds of refs that keys walk through, such as {"value:"}.
    void setSelectable(std::vector<std::string> prefixes) { selectable_ = std::move(prefixes); }
    /// Kinds of refs that can be dragged out of the picture, as "application/x-elkit-ref".
    void setDraggable(std::vector<std::string> prefixes) { draggable_ = std::move(prefixes); }
    QString selected() const { return selected_; }
    void select(const QString& ref);
    std::vector<std::string> selectableRefs() const;
    QRectF itemRect(const QString& ref) const;   ///< in widget coordinates
    QString itemName(const QString& ref) const;  ///< the words of the item, for assistive technology
    QSize sizeHint() const override { return {360, 240}; }

  signals:
    void clicked(const QString& ref);
    void activated(const QString& ref);  ///< double click, or Enter
    void hovered(const QString& ref);
    void dropped(const QString& ref, QPointF at);  ///< an item was dragged to `at`, in drawing coordinates
    void stepped(const QString& ref, int steps);   ///< wheel or up and down keys on an item

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent*) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;

    QString refAt(QPointF position) const;

  private:
    bool mayDrag(const QString& ref) const;
    double scale() const;
    QPointF origin() const;
    void ring(QPainter& painter, const QString& ref, const QColor& colour) const;
    Drawing drawing_;
    std::vector<std::string> selectable_, draggable_;
    QString selected_, highlight_, hovered_, dragged_;
    QPointF pressed_, dragging_;
    double maximum_scale_ = 1.25, least_ = 0, zoom_ = 1;
    QPointF pan_;
    bool panning_ = false, dimmed_ = false;
};

}  // namespace elkit
