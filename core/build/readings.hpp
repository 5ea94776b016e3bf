#pragma once
#include <optional>
#include <vector>

#include "engine/queries.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// What a meter shows on a good unit: the typical state and those at the corners of the spread (LED bins,
/// resistor tolerance, cells from 85 % to fresh) in a situation; averages where the circuit moves, as a meter
/// takes them.
class Readings {
  public:
    static Result<Readings> solve(const Ask& ask, const Keyed<Circuit>& circuit, const Conditions& situation);

    Figure between(const std::string& red, const std::string& black, std::string id, std::string label) const;
    Figure supply_current(std::string id) const;
    /// True if it moves so slowly that a meter shows each swing.
    bool swings() const { return period_ > 0.2; }

  private:
    template <class Read>
    Figure figure(std::string id, std::string label, Unit unit, Read read) const;
    OperatingPoint typical_;
    std::vector<OperatingPoint> corners_;
    bool moves_ = false;
    double period_ = 0;  // s
    double celsius_ = 21;
};

}  // namespace elkit
