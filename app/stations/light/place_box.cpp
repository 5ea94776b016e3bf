#include "app/stations/light/place_box.hpp"

#include <QSignalBlocker>
#include <algorithm>

namespace elkit {

PlaceBox::PlaceBox(QWidget* parent) : QComboBox(parent) {
    setAccessibleName(tr("Lights that are meant"));
    setToolTip(tr("Lights hang in more than one place: those that are to be arranged"));
    setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    setMinimumContentsLength(14);
    hide();
    connect(this, &QComboBox::activated, this,
            [this] { emit chosen(currentData().toString().toStdString()); });
}

void PlaceBox::offer(const std::vector<HungLights>& places, const std::string& light) {
    const QSignalBlocker blocker(this);
    clear();
    int at = 0;
    for (const HungLights& lights : places) {
        const auto& all = lights.strings;
        if (std::find(all.begin(), all.end(), light) != all.end()) at = count();
        addItem(tr("%1, %2 to %3")
                    .arg(QString::fromStdString(lights.name()), QString::fromStdString(lights.plus),
                         QString::fromStdString(lights.minus)),
                QString::fromStdString(all.front()));
    }
    setCurrentIndex(places.empty() ? -1 : at);
    setVisible(places.size() > 1);
}

std::string light_at(const Circuit& now, const Circuit& before, const std::string& light) {
    const auto was = without_lights(before, light);
    if (!was || was.value().strings.empty()) return {};
    for (const HungLights& lights : hung_lights(now))
        if (lights.plus == was.value().plus && lights.minus == was.value().minus)
            return lights.strings.front();
    return {};
}

}  // namespace elkit
