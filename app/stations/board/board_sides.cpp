#include "app/stations/board/board_sides.hpp"

#include <QBoxLayout>
#include <algorithm>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/picture_view.hpp"

namespace elkit {
namespace {

constexpr double least_scale = 5.5;  // pixels per mm at which designators can be read
constexpr int sides_apart = 12, around_picture = 60;

double scale_in(double width, double height, const Drawing& d) {
    return std::min(width / std::max(d.width, 1.0), height / std::max(d.height, 1.0));
}

}  // namespace

BoardSides::BoardSides(QWidget* parent) : QWidget(parent) {
    across_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    across_->setContentsMargins(0, 0, 0, 0);
    across_->setSpacing(sides_apart);
    for (const QString& title : {tr("Component side"), tr("Solder side, mirrored")}) {
        auto* card = new Card(title);
        auto* view = new PictureView;
        view->setAccessibleName(title);
        view->setSelectable({"part:", "pull:", "free:"});
        view->setMaximumScale(40);
        view->setZoomable(true);
        view->setToolTip(tr("Ctrl and wheel zoom, dragging moves, 0 fits"));
        card->body()->addWidget(view, 1);
        across_->addWidget(card, 1);
        connect(view, &PictureView::clicked, this, &BoardSides::clicked);
        const double sign = pictures_.empty() ? 1 : -1;  // the other side is seen mirrored
        connect(view, &PictureView::moved, this, [this, sign](const QString& ref, QPointF by) {
            emit moved(ref, {sign * by.x(), by.y()});
        });
        const std::size_t side = pictures_.size();
        connect(view, &PictureView::dropped, this, [this, side](const QString& ref, QPointF at) {
            if (ref.startsWith(QLatin1String("net:")) || ref.startsWith(QLatin1String("pull:")))
                emit pulled(ref, onBoard(side, at), side == 0);
        });
        connect(view, &PictureView::framed, this, [this, side](const QRectF& frame) {
            emit framed(
                QRectF(onBoard(side, frame.topLeft()), onBoard(side, frame.bottomRight())).normalized());
        });
        connect(view, &PictureView::activated, this, &BoardSides::activated);
        cards_.push_back(card), pictures_.push_back(view);
    }
}

QPointF BoardSides::onBoard(std::size_t side, QPointF at) const {
    const double margin = (pictures_[side]->drawing().width - board_width_) / 2, x = at.x() - margin;
    return {side == 0 ? x : board_width_ - x, at.y() - margin};
}

void BoardSides::setPictures(const std::vector<const Drawing*>& sides, double board_width) {
    board_width_ = board_width;
    const bool other = pictures_[0]->drawing().width != sides[0]->width ||
                       pictures_[0]->drawing().height != sides[0]->height;
    for (std::size_t k = 0; k < std::min(sides.size(), pictures_.size()); ++k)
        pictures_[k]->setDrawing(*sides[k]);
    if (other && !chosen_) {
        show_ = std::max(scaleBeside(), scaleBelow()) < px(10) / 10.0 * least_scale ? Show::component
                                                                                    : Show::both;
        emit shownChanged(show_);
    }
    arrange();
}

void BoardSides::choose(Show show) {
    chosen_ = true, show_ = show;
    arrange();
}

void BoardSides::setHighlight(const QString& ref) {
    for (PictureView* view : pictures_) view->setHighlight(ref);
}

void BoardSides::setMovable(bool movable) {
    using Kinds = std::vector<std::string>;
    for (PictureView* view : pictures_) {
        view->setMovable(movable ? Kinds{"part:"} : Kinds{});
        view->setPullable(movable ? Kinds{"net:", "pull:"} : Kinds{});
        view->setFraming(movable);
    }
}

void BoardSides::setDimmed(bool dimmed) {
    for (PictureView* view : pictures_) view->setDimmed(dimmed);
}

double BoardSides::scaleBeside() const {
    return scale_in((width() - sides_apart) / 2.0, height() - around_picture, pictures_[0]->drawing());
}

double BoardSides::scaleBelow() const {
    return scale_in(width(), (height() - sides_apart) / 2.0 - around_picture, pictures_[0]->drawing());
}

void BoardSides::arrange() {
    across_->setDirection(scaleBeside() < scaleBelow() ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    cards_[0]->setVisible(show_ != Show::solder);
    cards_[1]->setVisible(show_ != Show::component);
}

void BoardSides::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    arrange();
}

}  // namespace elkit
