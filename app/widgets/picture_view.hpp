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
    /// Zoom by Ctrl and wheel or + and −, pan by the wheel or by dragging the ground, 0 fits.
    void setZoomable(bool zoomable) { zoomable_ = zoomable; }
    virtual void zoom(double factor, QPointF around);
    virtual void fit();
    bool overflows() const;        ///< not all of the picture is in view
    QRectF viewShare() const;      ///< what is in view, as shares of the picture's width and height
    void centreOn(QPointF share);  ///< brings this place of the picture to the middle
    void ensureVisible(const QString& ref);
    void setDimmed(bool dimmed);  ///< being computed anew
    bool dimmed() const { return dimmed_; }
    void setHighlight(const QString& ref);  ///< an item shown with a ring
    /// Kinds of refs that keys walk through, such as {"value:"}.
    void setSelectable(std::vector<std::string> prefixes) { selectable_ = std::move(prefixes); }
    /// Kinds of refs that can be dragged out of the picture, as "application/x-elkit-ref".
    void setDraggable(std::vector<std::string> prefixes) { draggable_ = std::move(prefixes); }
    /// Kinds of refs that are moved within the picture.
    void setMovable(std::vector<std::string> prefixes) { movable_ = std::move(prefixes); }
    /// Kinds of refs from which a line is drawn to where they are dropped.
    void setPullable(std::vector<std::string> prefixes) { pullable_ = std::move(prefixes); }
    void setFraming(bool framing) { framing_ = framing; }  ///< Shift and the mouse draw a frame
    QString selected() const { return selected_; }
    void select(const QString& ref);
    std::vector<std::string> selectableRefs() const;
    QRectF itemRect(const QString& ref) const;   ///< in widget coordinates
    QString itemName(const QString& ref) const;  ///< the words of the item, for assistive technology
    QSize sizeHint() const override { return {360, 240}; }

  signals:
    void clicked(const QString& ref);    ///< with the mouse, or come to by key
    void pressed(const QString& ref);    ///< with the mouse
    void activated(const QString& ref);  ///< double click, or Enter
    void hovered(const QString& ref);
    void dropped(const QString& ref, QPointF at);  ///< an item was dragged to `at`, in drawing coordinates
    void moved(const QString& ref, QPointF by);    ///< an item was moved by the mouse, in drawing units
    void framed(QRectF frame);                     ///< drawn with Shift, in drawing coordinates
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
    void resizeEvent(QResizeEvent* event) override;

    QString refAt(QPointF position) const;
    virtual double scale() const;    ///< pixels per unit
    virtual QSize viewSize() const;  ///< the part of the widget that shows the picture
    void pan(QPointF by);

  signals:
    void panned();
    void resized();

  private:
    double fitted() const;
    QPointF origin() const;
    Items at(std::size_t index) const;
    double shiftOf(const Drawing::Sticky& group) const;
    const Drawing::Sticky* stickyOf(const std::string& ref) const;  ///< nullptr if it is not sticky
    void paintSticky(QPainter& painter) const;
    void ring(QPainter& painter, const QString& ref, const QColor& colour) const;
    Drawing drawing_;
    static bool among(const std::vector<std::string>& prefixes, const QString& ref);
    std::vector<std::string> selectable_, draggable_, movable_, pullable_{"pin:"};
    QString selected_, highlight_, hovered_, dragged_;
    QPointF pressed_, dragging_;
    double maximum_scale_ = 1.25, zoom_ = 1;
    QPointF pan_;
    bool zoomable_ = false, panning_ = false, dimmed_ = false, framing_ = false, in_frame_ = false;
};

}  // namespace elkit
