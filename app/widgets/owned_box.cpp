#include "app/widgets/owned_box.hpp"

#include <QComboBox>
#include <QLocale>
#include <QSignalBlocker>
#include <algorithm>
#include <cmath>

#include "app/shell/session.hpp"
#include "batch/owned_values.hpp"
#include "catalogue/catalogue.hpp"
#include "power/wiring.hpp"

namespace elkit {

OwnedBox::OwnedBox(Session& session, QWidget* parent) : QCheckBox(tr("only what I own"), parent) {
    setToolTip(tr("Only parts and values that are in the drawer are offered"));
    setChecked(session.ownedOnly());
    connect(this, &QCheckBox::toggled, &session, &Session::setOwnedOnly);
    connect(&session, &Session::changed, this, [this, &session] {
        const QSignalBlocker blocker(this);
        setChecked(session.ownedOnly());
    });
}

void offer_types(QComboBox& box, const Session& session, const std::string& list, const std::string& now) {
    auto ids = known_catalogue().ids(list, "");
    if (session.ownedOnly())
        std::erase_if(ids, [&](const std::string& id) {
            return id != now && !owns_choice(session.drawerItems(), list, id);
        });
    bool same = box.count() == static_cast<int>(ids.size());
    for (int k = 0; same && k < box.count(); ++k)
        same = box.itemData(k).toString().toStdString() == ids[static_cast<std::size_t>(k)];
    if (!same) {
        box.clear();
        for (const std::string& id : ids)
            box.addItem(QString::fromStdString(known_catalogue().name_of("", id)),
                        QString::fromStdString(id));
    }
    box.setCurrentIndex(box.findData(QString::fromStdString(now)));
}

void offer_wires(QComboBox& box, const Session& session, double now) {
    std::vector<double> areas;
    for (const WireType& wire : known_catalogue().wires) areas.push_back(wire.area);
    const auto apart = [now](double area) { return std::abs(std::log(area / std::max(now, 1e-3))); };
    const auto nearest = [&] {
        return std::min_element(areas.begin(), areas.end(),
                                [&](double a, double b) { return apart(a) < apart(b); });
    };
    const double kept = *nearest();
    const auto owned = session.ownedOnly() ? owned_wires(session.drawerItems()) : std::vector<double>{};
    if (!owned.empty())
        std::erase_if(areas, [&](double area) { return area != kept && !is_about(owned, area); });
    box.clear();
    for (const double area : areas)
        box.addItem(QObject::tr("%1 mm²").arg(QLocale().toString(area, 'g', 3)), area);
    box.setCurrentIndex(static_cast<int>(nearest() - areas.begin()));
}

}  // namespace elkit
