#include "power/cell_fit.hpp"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "circuit/part_kind.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

constexpr double bench_celsius = 21;
constexpr int time_steps = 600;
constexpr std::size_t most_fitted = 2000;  // more are thinned out
constexpr double most_scale = 20;          // of a type, either way

/// The volts of scaled cells on a load, step by step.
class CellOnLoad {
  public:
    CellOnLoad(const CellType& cell, int count, const FitLoad& load, double until)
        : cell_(cell), count_(count), load_(load), until_(until) {}

    /// Volts at the times of the points; scales: of voltage, resistance, capacity.
    std::vector<double> volts(const std::vector<MeasuredDischarge::Point>& points,
                              const Eigen::Vector3d& scales) const {
        std::vector<double> grid;
        double s = 1;
        const double dt = until_ / time_steps;
        for (int k = 0; k <= time_steps; ++k) {
            grid.push_back(at(s, scales).volts);
            const double half = s - dt / 2 * rate(s, scales);  // the midpoint rule
            s = std::max(0.0, s - dt * rate(std::max(half, 0.0), scales));
        }
        std::vector<double> out;
        for (const auto& p : points) {
            const double place = std::clamp(p.hours / dt, 0.0, double(time_steps));
            const auto k = std::min(static_cast<std::size_t>(place), std::size_t(time_steps - 1));
            out.push_back(grid[k] + (grid[k + 1] - grid[k]) * (place - double(k)));
        }
        return out;
    }

  private:
    struct State {
        double volts, amps;
    };
    State at(double s, const Eigen::Vector3d& scales) const {
        double ohms = cell_.resistance.at(s);
        for (const CellType::Sag& sag : cell_.sag) ohms += sag.resistance * ohms / cell_.resistance.at(1);
        const double open = count_ * scales[0] * cell_.open_circuit.at(s), within = count_ * scales[1] * ohms;
        const double amps = load_.amps > 0 ? load_.amps : open / (within + load_.ohms);
        return {open - amps * within, amps};
    }
    double rate(double s, const Eigen::Vector3d& scales) const {
        const double amps = at(s, scales).amps;
        return amps / (scales[2] * cell_.usable_charge(amps, bench_celsius));
    }
    const CellType& cell_;
    int count_;
    const FitLoad& load_;
    double until_;
};

std::vector<MeasuredDischarge::Point> thinned(const std::vector<MeasuredDischarge::Point>& points) {
    if (points.size() <= most_fitted) return points;
    std::vector<MeasuredDischarge::Point> fewer;
    for (std::size_t k = 0; k < most_fitted; ++k)
        fewer.push_back(points[k * (points.size() - 1) / (most_fitted - 1)]);
    return fewer;
}

}  // namespace

Result<CellFit> fit_cell(const CellType& cell, int count, const FitLoad& load,
                         const MeasuredDischarge& measured) {
    if (cell.endless()) return Error{Fault::usage, cell.id, "it does not empty", "a cell of the catalogue"};
    if ((load.amps > 0) == (load.ohms > 0))
        return Error{Fault::usage, "load", "found none, or two",
                     "a current such as 50mA, or ohms such as 10R"};
    if (count < 1 || count > 40)
        return Error{Fault::usage, "cells in a row", fmt::format("{}", count), "1 to 40"};
    const auto points = thinned(measured.points);
    const double until = points.back().hours;
    const CellOnLoad model(cell, count, load, until);
    CellFit fit;
    for (std::size_t k = 1; k < measured.points.size(); ++k) {
        const auto &a = measured.points[k - 1], &b = measured.points[k];
        const double mean = (a.volts + b.volts) / 2;
        fit.delivered += (b.hours - a.hours) * (load.amps > 0 ? load.amps : mean / load.ohms);
    }
    const double mean_amps = fit.delivered / until;
    const double usable = cell.usable_charge(mean_amps, bench_celsius);
    const double begin = points.front().volts / (count * cell.open_circuit.at(1));
    // parameters are logarithms, which keep every scale above zero
    Eigen::Vector3d p(std::log(std::clamp(begin, 1 / most_scale, most_scale)), 0,
                      std::log(std::clamp(fit.delivered / usable, 1 / most_scale, most_scale)));
    const auto n = static_cast<Eigen::Index>(points.size());
    const auto residual = [&](const Eigen::Vector3d& at) {
        const auto volts = model.volts(points, at.array().exp().matrix());
        Eigen::VectorXd r(n);
        for (Eigen::Index k = 0; k < n; ++k)
            r[k] = volts[static_cast<std::size_t>(k)] - points[static_cast<std::size_t>(k)].volts;
        return r;
    };
    Eigen::VectorXd r = residual(p);
    Eigen::Matrix3d normal = Eigen::Matrix3d::Identity();
    double damping = 1e-3;
    for (int round = 0; round < 200 && damping < 1e9; ++round) {
        Eigen::MatrixXd slope(n, 3);
        for (int k = 0; k < 3; ++k) {
            constexpr double step = 1e-4;
            Eigen::Vector3d up = p, down = p;
            up[k] += step, down[k] -= step;
            slope.col(k) = (residual(up) - residual(down)) / (2 * step);
        }
        normal = slope.transpose() * slope;
        Eigen::Matrix3d damped = normal;
        damped.diagonal() += damping * (normal.diagonal().array() + 1e-9).matrix();
        const Eigen::Vector3d move = damped.ldlt().solve(-slope.transpose() * r);
        const Eigen::Vector3d next =
            (p + move).cwiseMax(-std::log(most_scale)).cwiseMin(std::log(most_scale));
        const Eigen::VectorXd then = residual(next);
        if (then.squaredNorm() < r.squaredNorm()) {
            const bool small = r.squaredNorm() - then.squaredNorm() < 1e-10 * r.squaredNorm();
            p = next, r = then, damping /= 4;
            if (small) break;
        } else {
            damping *= 4;
        }
    }
    fit.cell = cell.id, fit.count = count;
    fit.rms = std::sqrt(r.squaredNorm() / double(n));
    if (fit.rms > 0.2 * points.front().volts)
        return Error{Fault::usage, "discharge",
                     fmt::format("{} on average from any discharge of {} × {}",
                                 format_quantity(fit.rms, Unit::volt), count, cell.id),
                     "the cell, their number and the load as they were"};
    const Eigen::Matrix3d spread = (normal + 1e-12 * Eigen::Matrix3d::Identity()).inverse() *
                                   r.squaredNorm() / std::max(1.0, double(n - 3));
    const auto figure = [&](const char* id, const char* label, double typical, int k, Unit unit) {
        const double scale = std::exp(p[k]), error = std::sqrt(std::max(0.0, spread(k, k)));
        return Figure{fmt::format("fit.{}", id),
                      fmt::format("{} of {}, as measured", label, cell.id),
                      typical * scale,
                      unit,
                      typical * scale * std::exp(-error),
                      typical * scale * std::exp(error),
                      {fmt::format("{} of the type × {:.3f}, by least squares over {} points",
                                   format_quantity(typical, unit), scale, n),
                       fmt::format("what is left between both curves: {} on average",
                                   format_quantity(fit.rms, Unit::volt))}};
    };
    fit.open_circuit = figure("open_circuit", "fresh voltage", cell.open_circuit.at(1), 0, Unit::volt);
    fit.resistance = figure("resistance", "fresh resistance", cell.resistance.at(1), 1, Unit::ohm);
    fit.capacity = figure("capacity", "capacity", cell.capacity.points.front().y, 2, Unit::ampere_hour);
    fit.capacity.working.push_back(
        fmt::format("{:.3g} Ah went through the load while it was measured", fit.delivered));
    const auto volts = model.volts(points, p.array().exp().matrix());
    for (std::size_t k = 0; k < points.size(); ++k) fit.curve.push_back({points[k].hours, volts[k]});
    return fit;
}

Result<Design> with_fit(const Design& design, const CellFit& fit) {
    const Part* source = design.circuit.source();
    if (!source || !is(*source, Role::cells))
        return Error{Fault::design, "circuit", "no battery feeds it", "a battery, such as 3 x LR6"};
    Circuit next = design.circuit;
    Part& cells = *next.find(source->designator);
    cells.params["cell"] = fit.cell;
    cells.params["capacity"] = fit.capacity.value, cells.params["open_circuit"] = fit.open_circuit.value;
    cells.params["cell_resistance"] = fit.resistance.value;
    return with_circuit(design, std::move(next));
}

}  // namespace elkit
