#include "app/stations/light/place_row.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <algorithm>

#include "app/widgets/card.hpp"

namespace elkit {

PlaceRow::PlaceRow(QWidget* parent) : QWidget(parent) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    box_ = new QComboBox;
    box_->setAccessibleName(tr("Lights that are meant"));
    box_->setToolTip(tr("Lights hang in more than one place: those that are meant here"));
    fed_ = label({}, "muted");
    row->addWidget(box_);
    row->addWidget(fed_, 1);
    hide();
    connect(box_, &QComboBox::activated, this,
            [this] { emit chosen(box_->currentData().toString().toStdString()); });
}

void PlaceRow::offer(const std::vector<HungLights>& places, const std::string& light,
                     const std::string& fed) {
    box_->clear();
    int at = 0;
    for (const HungLights& lights : places) {
        const auto& all = lights.strings;
        if (std::find(all.begin(), all.end(), light) != all.end()) at = box_->count();
        box_->addItem(tr("%1, %2 to %3")
                          .arg(QString::fromStdString(lights.name()), QString::fromStdString(lights.plus),
                               QString::fromStdString(lights.minus)),
                      QString::fromStdString(all.front()));
    }
    box_->setCurrentIndex(places.empty() ? -1 : at);
    fed_->setText(tr("fed by %1").arg(QString::fromStdString(fed)));
    setVisible(places.size() > 1);
}

}  // namespace elkit
