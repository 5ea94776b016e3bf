#pragma once
#include <vector>

#include "circuit/part.hpp"
#include "engine/operating_point.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// What a meter shows on a good unit: the typical operating point and those at the corners of the spread
/// (LED bins, resistor tolerance, cells from 85 % to fresh), all switches closed, 21 °C.
class Readings {
  public:
    static Result<Readings> solve(const Circuit& circuit);

    Figure between(const std::string& red, const std::string& black, std::string id, std::string label) const;
    Figure supply_current(std::string id) const;

  private:
    template <class Read>
    Figure figure(std::string id, std::string label, Unit unit, Read read) const;
    OperatingPoint typical_;
    std::vector<OperatingPoint> corners_;
};

}  // namespace elkit
