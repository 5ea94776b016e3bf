#include "app/stations/light/light_words.hpp"

#include <QObject>
#include <algorithm>

#include "circuit/part_words.hpp"

namespace elkit {
namespace {

QString kind_of(const StringResult& string, const Circuit& circuit) {
    const Part* led = circuit.find(string.leds.front());
    return QString::fromStdString(led ? shop_name(*led) : string.leds.front());
}

}  // namespace

QString strings_in_words(const LightResult& light, const Circuit& circuit) {
    const StringResult& first = light.strings.front();
    const QString kind = kind_of(first, circuit);
    const auto alike = std::count_if(light.strings.begin(), light.strings.end(), [&](const StringResult& s) {
        return s.leds.size() == first.leds.size() && kind_of(s, circuit) == kind;
    });
    const auto others = static_cast<std::ptrdiff_t>(light.strings.size()) - alike;
    QString words = QObject::tr("%1 of %2 × %3")
                        .arg(alike == 1 ? QObject::tr("One string") : QObject::tr("%1 strings").arg(alike))
                        .arg(first.leds.size())
                        .arg(kind);
    if (others > 0)
        words += others == 1 ? QObject::tr(" and another one") : QObject::tr(" and %1 others").arg(others);
    return first.average ? QObject::tr("%1, pulsed: currents while it is on").arg(words) : words;
}

}  // namespace elkit
