#pragma once
#include <QWidget>
#include <vector>

#include "drawing/drawing.hpp"

class QBoxLayout;

namespace elkit {

class Card;
class PictureView;

/// The sides of a board: both, beside or above each other as they come out larger, or one of them.
class BoardSides : public QWidget {
    Q_OBJECT
  public:
    enum class Show { both, component, solder };
    explicit BoardSides(QWidget* parent = nullptr);
    /// The component side first. Another board is shown from one side only if both would be too small to
    /// read, unless someone chose.
    void setPictures(const std::vector<const Drawing*>& sides, double board_width);
    void choose(Show show);  ///< from now on
    Show shown() const { return show_; }
    void setHighlight(const QString& ref);
    void setDimmed(bool dimmed);
    void setMovable(bool movable);  ///< parts, what joins them, and areas that stay free
    PictureView* picture(std::size_t side) const { return pictures_[side]; }

  signals:
    void clicked(const QString& ref);
    void moved(const QString& ref, QPointF by);  ///< [mm], as seen from the component side
    /// A track, or a place it was pulled to, dragged to a place of the board [mm].
    void pulled(const QString& ref, QPointF to, bool component_side);
    void framed(QRectF area);            ///< drawn on the board [mm]
    void activated(const QString& ref);  ///< double click, or Enter
    void shownChanged(Show show);

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void arrange();
    QPointF onBoard(std::size_t side, QPointF at) const;  ///< [mm], from a place of the picture
    /// Pixels per mm if both sides were shown beside each other, or one below the other.
    double scaleBeside() const;
    double scaleBelow() const;
    QBoxLayout* across_;
    std::vector<Card*> cards_;
    std::vector<PictureView*> pictures_;
    Show show_ = Show::both;
    bool chosen_ = false;
    double board_width_ = 0;  // mm
};

}  // namespace elkit
