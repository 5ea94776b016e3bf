#include "app/widgets/quantity_ticker.hpp"

#include <cmath>

#include "quantity/format.hpp"

namespace elkit {

/// "2 ms" for 0.002, without zeros that say nothing.
static QString tick_words(double value, Unit unit) {
    const QString text = QString::fromStdString(format_quantity(value, unit, 4));
    const auto gap = text.indexOf(QChar(0xa0));
    QString digits = gap < 0 ? text : text.left(gap);
    if (digits.contains(QLatin1Char('.'))) {
        while (digits.endsWith(QLatin1Char('0'))) digits.chop(1);
        if (digits.endsWith(QLatin1Char('.'))) digits.chop(1);
    }
    return gap < 0 ? digits : digits + text.mid(gap);
}

double QuantityTicker::getTickStep(const QCPRange& range) {
    return step_ = QCPAxisTicker::getTickStep(range);
}

QString QuantityTicker::getTickLabel(double tick, const QLocale&, QChar, int) {
    return tick_words(std::abs(tick) < 1e-6 * step_ ? 0 : tick, unit_);
}

QString QuantityLogTicker::getTickLabel(double tick, const QLocale&, QChar, int) {
    return tick_words(tick, unit_);
}

}  // namespace elkit
