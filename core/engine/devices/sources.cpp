// Cells, supplies, and sources that follow a waveform.
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <utility>

#include "engine/devices/makers.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

/// An open-circuit voltage behind a resistance, in Norton form; in a row with it, what a lasting load wears
/// away: resistances with a capacitance beside each, without charge when the cell has rested.
class Cell final : public Device {
  public:
    Cell(const Part& part, const Catalogue& catalogue, Thevenin t)
        : part_(part), catalogue_(catalogue), t_(std::move(t)) {}
    void bind(const Part& part, Binder& b) override {
        int minus = b.net(part, "-");
        for (std::size_t k = 0; k < t_.sag.size(); ++k) {
            const int inner = b.inner_node("inside of " + part.designator);
            sag_.emplace_back().bind(b, inner, minus);
            minus = inner;
        }
        pair_.bind(b, b.net(part, "+"), minus);
    }
    void load(Load& l) const override {
        const double g = 1 / std::max(t_.resistance, 1e-4);
        pair_.current(l, g * (pair_.voltage(l.x) - t_.voltage * l.drive), g);
        for (std::size_t k = 0; k < sag_.size(); ++k) {
            const double own = 1 / t_.sag[k].resistance, v = sag_[k].voltage(l.x);
            const double stored = std::min(t_.sag[k].seconds, longest_) * own;
            sag_[k].current(l, own * v, own);
            sag_[k].charge(l, stored * v, stored);
        }
    }
    bool configure(const Conditions& c) override {
        const auto now = source_model(part_, catalogue_, c);
        if (!now || now.value() == t_) return false;
        t_ = now.value();
        return true;
    }
    bool hasten(double longest) override {
        return std::exchange(longest_, longest) != longest && !sag_.empty();
    }

  private:
    Part part_;
    const Catalogue& catalogue_;
    Thevenin t_;
    double longest_ = std::numeric_limits<double>::infinity();  // s
    Pair pair_;
    std::vector<Pair> sag_;
};

/// Value of a source over time, and where its slope jumps.
class Waveform {
  public:
    Waveform(const Part& p, const Conditions& c)
        : wave_(p.text("wave")),
          value_(has_level(p) ? c.level(p) : p.number("value")),
          high_(p.number("high")),
          delay_(p.number("delay")),
          width_(p.number("width")),
          edge_(std::max(p.number("edge"), 1e-12)),
          period_(std::max(p.number("period"), width_ + 2 * edge_)),
          amplitude_(p.number("amplitude")),
          frequency_(p.number("frequency")) {
        if (const PointList* points = p.points("points")) table_ = *points;
        std::sort(table_.begin(), table_.end());
    }
    bool set_level(double value) { return std::exchange(value_, value) != value; }
    bool constant() const { return wave_ == "dc" || (wave_ == "table" && table_.empty()); }
    double at(double t) const {
        if (wave_ == "pulse") {
            const double s = t - delay_;
            if (s < 0) return value_;
            const double in = std::fmod(s, period_);
            const double up = std::clamp(in / edge_, 0.0, 1.0);
            const double down = std::clamp((in - edge_ - width_) / edge_, 0.0, 1.0);
            return value_ + (high_ - value_) * (up - down);
        }
        if (wave_ == "sine")
            return t < delay_
                       ? value_
                       : value_ + amplitude_ * std::sin(2 * std::numbers::pi * frequency_ * (t - delay_));
        if (constant()) return value_;
        if (t <= table_.front()[0]) return table_.front()[1];
        for (std::size_t k = 1; k < table_.size(); ++k)
            if (t < table_[k][0]) {
                const auto &a = table_[k - 1], &b = table_[k];
                return a[1] + (b[1] - a[1]) * (t - a[0]) / (b[0] - a[0]);
            }
        return table_.back()[1];
    }
    double next_corner(double t) const {
        constexpr double never = std::numeric_limits<double>::infinity();
        if (wave_ == "table") {
            for (const auto& point : table_)
                if (point[0] > t * (1 + 1e-12)) return point[0];
            return never;
        }
        if (wave_ == "sine") return t < delay_ ? delay_ : never;
        if (wave_ != "pulse") return never;
        if (t < delay_) return delay_;
        const double cycle = std::floor((t - delay_) / period_);
        for (const double k : {cycle, cycle + 1})
            for (const double at : {0.0, edge_, edge_ + width_, 2 * edge_ + width_}) {
                const double corner = delay_ + k * period_ + at;
                if (corner > t + 1e-9 * edge_ + 1e-15 * corner) return corner;
            }
        return never;
    }

  private:
    std::string wave_;
    double value_, high_, delay_, width_, edge_, period_, amplitude_, frequency_;
    PointList table_;
};

class WaveSource final : public Device {
  public:
    WaveSource(const Part& p, bool voltage, const Conditions& c)
        : part_(p),
          wave_(p, c),
          voltage_(voltage),
          g_(voltage ? 1 / std::max(p.number("resistance"), 1e-6) : 0) {}
    void bind(const Part& part, Binder& b) override { pair_.bind(b, b.net(part, "+"), b.net(part, "-")); }
    Nature nature() const override { return wave_.constant() ? Nature::linear : Nature::varying; }
    void load(Load& l) const override {
        const double value = wave_.at(l.time) * l.drive;
        if (voltage_)
            pair_.current(l, g_ * (pair_.voltage(l.x) - value), g_);
        else
            pair_.current(l, -value, 0);  // a current source drives out of its + pin
    }
    double next_corner(double t) const override { return wave_.next_corner(t); }
    bool configure(const Conditions& c) override {
        return has_level(part_) && wave_.set_level(c.level(part_));
    }

  private:
    Part part_;
    Waveform wave_;
    bool voltage_;
    double g_;
    Pair pair_;
};

Result<std::unique_ptr<Device>> cell(const Making& m) {
    auto model = source_model(m.part, m.catalogue, m.conditions);
    if (!model) return model.error();
    return std::make_unique<Cell>(m.part, m.catalogue, model.value());
}

}  // namespace

void add_source_devices(Makers& makers) {
    makers["battery"] = makers["supply"] = cell;
    makers["vsource"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<WaveSource>(m.part, true, m.conditions);
    };
    makers["isource"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<WaveSource>(m.part, false, m.conditions);
    };
}

}  // namespace elkit
