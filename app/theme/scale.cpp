#include "app/theme/scale.hpp"

#include <QSettings>
#include <algorithm>

namespace elkit {

static QSettings settings() {  // by name: there may be no application yet
    return QSettings(QStringLiteral("elkit"), QStringLiteral("elkit"));
}

int interface_scale() {
    return std::clamp(settings().value(QStringLiteral("interface/scale"), 100).toInt(), 100, 200);
}

void choose_interface_scale(int percent) {
    settings().setValue(QStringLiteral("interface/scale"), std::clamp(percent, 100, 200));
}

void take_interface_scale() {
    if (interface_scale() == 100 || qEnvironmentVariableIsSet("QT_SCALE_FACTOR")) return;
    qputenv("QT_SCALE_FACTOR", QByteArray::number(interface_scale() / 100.0));
}

}  // namespace elkit
