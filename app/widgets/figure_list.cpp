#include "app/widgets/figure_list.hpp"

#include <QGridLayout>
#include <QLabel>

#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"
#include "app/widgets/figure_label.hpp"

namespace elkit {

FigureList::FigureList(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(10);
    grid_->setVerticalSpacing(0);
    grid_->setColumnStretch(0, 1);
}

void FigureList::setFigures(const std::vector<Figure>& figures) {
    while (values_.size() > figures.size()) {
        delete values_.back();
        delete names_.back();
        values_.pop_back(), names_.pop_back();
    }
    while (values_.size() < figures.size()) {
        const int row = static_cast<int>(values_.size());
        values_.push_back(new FigureLabel(session_, FigureLabel::Size::plain));
        names_.push_back(label({}, "muted"));
        grid_->addWidget(names_.back(), row, 0);
        grid_->addWidget(values_.back(), row, 1, Qt::AlignRight);
    }
    for (std::size_t k = 0; k < figures.size(); ++k) {
        names_[k]->setText(QString::fromStdString(figures[k].label));
        values_[k]->setFigure(figures[k]);
    }
}

void FigureList::setDimmed(bool dimmed) {
    for (FigureLabel* value : values_) value->setDimmed(dimmed);
}

}  // namespace elkit
