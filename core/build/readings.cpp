#include "build/readings.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace elkit {

Result<Readings> Readings::solve(const Ask& ask, const Keyed<Circuit>& circuit, const Conditions& situation) {
    Readings r;
    Conditions c = situation;
    r.celsius_ = c.celsius;
    const auto solve = [&](double battery, const Corner& corner) -> Result<OperatingPoint> {
        c.battery = battery;
        if (!may_move(*circuit)) {
            const auto op = ask(RestQuery(circuit, c, corner));
            return op ? Result<OperatingPoint>(*op) : op.error();
        }
        const auto run = ask(RunQuery(circuit, c, corner));
        if (!run) return run.error();
        r.moves_ = r.moves_ || run->moves();
        r.period_ = std::max(r.period_, run->moves() ? run->steady().period : 0);
        return run->mean();
    };
    auto typical = solve(0.95, {});
    if (!typical) return typical.error();
    r.typical_ = std::move(typical).value();
    // where it moves a corner costs a whole cycle: the two that pull the same way stand for all
    for (const double battery : {0.85, 1.0})
        for (const double led : {-1.0, 1.0})
            for (const double resistor : {-1.0, 1.0}) {
                if (r.moves_ && (led != resistor || (battery < 1) != (led > 0))) continue;
                auto op = solve(battery, {led, resistor, 0});
                if (!op) return op.error();
                r.corners_.push_back(std::move(op).value());
            }
    return r;
}

template <class Read>
Figure Readings::figure(std::string id, std::string label, Unit unit, Read read) const {
    const double typical = read(typical_);
    double low = typical, high = typical;
    for (const auto& op : corners_) low = std::min(low, read(op)), high = std::max(high, read(op));
    // a hand meter reads to about 1 % and two counts; the band must not blame a good unit
    const double slack = 0.01 * std::abs(typical) + (unit == Unit::volt ? 0.01 : 1e-4);
    Figure f{std::move(id), std::move(label), typical, unit, low - slack, high + slack, {}};
    f.working = {
        std::string(moves_ ? "averaged over a cycle" : "solved") +
            fmt::format(" at 95 % battery and {}; band over LED bins, resistor tolerance, cells 85 % … fresh",
                        format_quantity(celsius_, Unit::celsius)),
        fmt::format("{} … {}, and 1 % for the meter", format_quantity(low, unit),
                    format_quantity(high, unit))};
    return f;
}

Figure Readings::between(const std::string& red, const std::string& black, std::string id,
                         std::string label) const {
    return figure(std::move(id), std::move(label), Unit::volt,
                  [&](const OperatingPoint& op) { return op.voltage(red) - op.voltage(black); });
}

Figure Readings::supply_current(std::string id) const {
    return figure(std::move(id), "current from the supply", Unit::ampere,
                  [](const OperatingPoint& op) { return op.supply_current(); });
}

}  // namespace elkit
