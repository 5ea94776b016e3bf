#include "engine/operating_point.hpp"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <cmath>
#include <unordered_map>

#include "circuit/connectivity.hpp"
#include "engine/device.hpp"
#include "engine/equations.hpp"

namespace elkit {
namespace {

/// The circuit as devices between numbered nodes.
struct Network {
    std::vector<std::string> nets;  // nets[0] is the negative rail; node k is nets[k + 1]
    std::vector<std::unique_ptr<Device>> devices;
    int nodes() const { return static_cast<int>(nets.size()) - 1; }
};

Result<Network> build(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                      const Corner& corner) {
    Network net;
    const std::string rail = circuit.negative_rail();
    std::unordered_map<std::string, int> node{{rail, -1}};
    net.nets.push_back(rail);
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins)
            if (node.emplace(pin.net, net.nodes()).second) net.nets.push_back(pin.net);
    net.devices.reserve(circuit.parts.size());
    for (const Part& part : circuit.parts) {
        if (part.pins.size() != 2)
            return Error{Fault::design, "part " + part.designator,
                         fmt::format("has {} pins", part.pins.size()), "two"};
        auto device = make_device(part, node.at(part.pins[0].net), node.at(part.pins[1].net), catalogue,
                                  conditions, corner);
        if (!device) return device.error();
        net.devices.push_back(std::move(device).value());
    }
    return net;
}

class Newton {
  public:
    explicit Newton(const Network& network)
        : net_(network), equations_(network.nodes()), v_(network.nodes()), across_(network.devices.size()) {
        v_.setZero();
    }

    Eigen::VectorXd& voltages() { return v_; }
    int iterations() const { return iterations_; }
    Eigen::Index worst_node() const { return worst_; }

    /// One Newton run from the present voltages. True when settled.
    bool run(double gmin, double drive, int budget) {
        for (std::size_t k = 0; k < across_.size(); ++k) across_[k] = difference(*net_.devices[k]);
        Eigen::VectorXd next;
        int balanced = 0;
        for (int step = 0; step < budget; ++step) {
            ++iterations_;
            bool limited = false;
            equations_.clear();
            for (int n = 0; n < net_.nodes(); ++n) equations_.add(n, n, gmin);
            for (std::size_t k = 0; k < across_.size(); ++k)
                net_.devices[k]->stamp(equations_, across_[k], drive);
            if (!equations_.solve(next)) return false;
            const double change = (next - v_).cwiseAbs().maxCoeff(&worst_);
            v_ = next;
            for (std::size_t k = 0; k < across_.size(); ++k) {
                const double wanted = difference(*net_.devices[k]);
                const double taken = net_.devices[k]->limit(across_[k], wanted);
                limited = limited || taken != wanted;
                across_[k] = taken;
            }
            // Behind open contacts rounding moves a voltage by more than 1 nV although all currents balance:
            // twice in balance counts as settled too.
            balanced = !limited && residual(gmin, drive) <= tolerance(drive) ? balanced + 1 : 0;
            if (balanced > 0 && (change < 1e-9 || balanced > 1)) return true;
        }
        return false;
    }

    /// Largest sum of currents [A] at any node; Kirchhoff wants zero.
    double residual(double gmin, double drive) {
        sums_ = gmin * v_;
        for (const auto& d : net_.devices) {
            const double i = d->current(difference(*d), drive);
            if (d->a() >= 0) sums_[d->a()] += i;
            if (d->b() >= 0) sums_[d->b()] -= i;
        }
        return sums_.size() ? sums_.cwiseAbs().maxCoeff() : 0;
    }

    double difference(const Device& d) const { return node(d.a()) - node(d.b()); }
    double node(int n) const { return n < 0 ? 0 : v_[n]; }

  private:
    double tolerance(double drive) const {
        double largest = 0;
        for (const auto& d : net_.devices)
            largest = std::max(largest, std::abs(d->current(difference(*d), drive)));
        return 1e-9 * largest + 1e-15 * equations_.largest() * (1 + v_.cwiseAbs().maxCoeff());
    }

    const Network& net_;
    Equations equations_;
    Eigen::VectorXd v_, sums_;
    std::vector<double> across_;
    int iterations_ = 0;
    Eigen::Index worst_ = 0;
};

constexpr double final_gmin =
    1e-14;  // S from every net to the rail: a net behind open contacts still has a voltage

bool settle(Newton& newton) {
    if (newton.run(final_gmin, 1, 60)) return true;
    newton.voltages().setZero();
    bool good = true;
    for (double g = 1e-2; good && g > final_gmin; g /= 10) good = newton.run(g, 1, 100);
    if (good && newton.run(final_gmin, 1, 100)) return true;
    newton.voltages().setZero();
    good = true;
    for (int k = 1; good && k <= 40; ++k) good = newton.run(final_gmin, k / 40.0, 100);
    return good;
}

}  // namespace

double OperatingPoint::voltage(std::string_view net) const {
    for (std::size_t i = 0; i < nets.size(); ++i)
        if (nets[i] == net) return voltages[i];
    return 0;
}

const PartState& OperatingPoint::part(std::string_view designator) const {
    static const PartState none;
    for (const PartState& p : parts)
        if (p.designator == designator) return p;
    return none;
}

double OperatingPoint::supply_current() const { return -part(source).current; }

Result<OperatingPoint> operating_point(const Circuit& circuit, const Catalogue& catalogue,
                                       const Conditions& conditions, const Corner& corner,
                                       const OperatingPoint* start) {
    if (auto errors = connectivity_errors(circuit); !errors.empty()) return errors.front();
    auto built = build(circuit, catalogue, conditions, corner);
    if (!built) return built.error();
    const Network& network = built.value();
    Newton newton(network);
    if (start)
        for (int n = 0; n < network.nodes(); ++n)
            newton.voltages()[n] = start->voltage(network.nets[static_cast<std::size_t>(n) + 1]);
    if (!settle(newton))
        return Error{Fault::design, "net " + network.nets[static_cast<std::size_t>(newton.worst_node()) + 1],
                     "its voltage would not settle", "a circuit with a definite state"};
    OperatingPoint op;
    op.nets = network.nets;
    op.voltages.push_back(0);
    for (int n = 0; n < network.nodes(); ++n) op.voltages.push_back(newton.node(n));
    for (std::size_t k = 0; k < network.devices.size(); ++k) {
        const double v = newton.difference(*network.devices[k]);
        op.parts.push_back({circuit.parts[k].designator, network.devices[k]->current(v, 1), v});
    }
    op.source = circuit.source()->designator;
    op.iterations = newton.iterations();
    op.residual = newton.residual(final_gmin, 1);
    return op;
}

}  // namespace elkit
