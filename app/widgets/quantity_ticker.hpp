#pragma once
#include <qcustomplot.h>

#include "quantity/unit.hpp"

namespace elkit {

/// Labels an axis in engineering units: "2 ms", "20 mA".
class QuantityTicker : public QCPAxisTicker {
  public:
    explicit QuantityTicker(Unit unit) : unit_(unit) {}

  protected:
    double getTickStep(const QCPRange& range) override;
    QString getTickLabel(double tick, const QLocale&, QChar, int) override;

  private:
    Unit unit_;
    double step_ = 0;
};

/// The same on an axis by ratio: "1 kΩ", "10 kΩ", "100 kΩ".
class QuantityLogTicker : public QCPAxisTickerLog {
  public:
    explicit QuantityLogTicker(Unit unit) : unit_(unit) {}

  protected:
    QString getTickLabel(double tick, const QLocale&, QChar, int) override;

  private:
    Unit unit_;
};

}  // namespace elkit
