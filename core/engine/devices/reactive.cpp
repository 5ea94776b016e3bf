// What stores charge and flux: capacitors, inductors, wound cores.
#include <algorithm>
#include <cmath>

#include "engine/devices/makers.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

/// A capacitance with its leak between the plates. A series resistance, if it matters, stands before it: then
/// the voltage between the plates is an unknown of its own, and what goes in at one pin comes out at the
/// other whatever the rounding.
class Capacitor final : public Device {
  public:
    Capacitor(const Part& p, double farads)
        : c_(farads),
          leak_(1 / leak_resistance(p)),
          series_(1 / p.number("esr")),
          start_(p.number("initial")),
          inner_(p.params.contains("esr") || p.kind == "electrolytic") {}
    void bind(const Part& part, Binder& b) override {
        pins_.bind(b, b.net(part, part.pins[0].name), b.net(part, part.pins[1].name));
        if (!inner_) return;
        plates_ = b.inner_node("voltage inside " + part.designator);
        plates_plates_ = b.entry(plates_, plates_);
        a_plates_ = b.entry(pins_.a, plates_), b_plates_ = b.entry(pins_.b, plates_);
        plates_a_ = b.entry(plates_, pins_.a), plates_b_ = b.entry(plates_, pins_.b);
    }
    void load(Load& l) const override {
        const double v = pins_.voltage(l.x);
        if (!inner_) {
            pins_.current(l, leak_ * v, leak_);
            return pins_.charge(l, c_ * v, c_);
        }
        const double u = l.x[plates_], i = series_ * (v - u);
        pins_.current(l, i, series_);
        l.df[a_plates_] -= series_, l.df[b_plates_] += series_;
        l.f[plates_] += leak_ * u - i;
        l.q[plates_] += c_ * u, l.dq[plates_plates_] += c_;
        l.df[plates_plates_] += leak_ + series_;
        l.df[plates_a_] -= series_, l.df[plates_b_] += series_;
    }
    void initial(double* q) const override {
        if (inner_)
            q[plates_] += c_ * start_;
        else
            q[pins_.a] += c_ * start_, q[pins_.b] -= c_ * start_;
    }

  private:
    double c_, leak_, series_, start_;
    bool inner_;  // a ceramic's series resistance is left out unless the part states it
    Pair pins_;
    int plates_ = 0, plates_plates_ = 0, a_plates_ = 0, b_plates_ = 0, plates_a_ = 0, plates_b_ = 0;
};

/// Linked windings on one core. Flux a turn Φ(θ) of the ampere-turns θ = Σ N i:
/// Φ = Φs·tanh((k A_L − A_air) θ/Φs) + A_air θ, with Φs = Bsat·Ae and A_air = k A_L/200; a winding links N Φ
/// and its own leakage inductance (1 − k) N² A_L, so that it has N² A_L by itself and any two are coupled by
/// k. The dots are at the first pins. Across each winding its own capacitance; across the first the core's
/// losses.
class WoundCore : public Device {
  public:
    struct Winding {
        double turns, resistance, capacitance;
        Pair across{};
        int current = 0;
        int a_i = 0, b_i = 0, i_a = 0, i_b = 0;
        std::vector<int> to{};  // entries (this row, current of each winding)
    };
    WoundCore(double al, double flux_limit, double coupling, double loss, std::vector<Winding> windings)
        : al_(al * coupling),
          limit_(flux_limit),
          leak_(al * (1 - coupling)),
          loss_(loss),
          windings_(std::move(windings)) {}

    void bind(const Part& part, Binder& b) override {
        for (std::size_t k = 0; k < windings_.size(); ++k) {
            Winding& w = windings_[k];
            const bool one = part.kind == "inductor";
            const std::string n = std::to_string(k + 1);
            w.across.bind(b, b.net(part, one ? "a" : n + "a"), b.net(part, one ? "b" : n + "b"));
            w.current = b.unknown("current of " + part.designator + (one ? "" : " winding " + n));
            w.a_i = b.entry(w.across.a, w.current), w.b_i = b.entry(w.across.b, w.current);
            w.i_a = b.entry(w.current, w.across.a), w.i_b = b.entry(w.current, w.across.b);
        }
        for (Winding& w : windings_)
            for (const Winding& other : windings_) w.to.push_back(b.entry(w.current, other.current));
    }
    Nature nature() const override { return std::isfinite(limit_) ? Nature::nonlinear : Nature::linear; }
    bool keeps_state() const override { return true; }
    void load(Load& l) const override {
        double theta = 0;
        for (const Winding& w : windings_) theta += w.turns * l.x[w.current];
        double flux = al_ * theta, slope = al_;
        if (std::isfinite(limit_)) {
            const double air = al_ / 200, t = std::tanh((al_ - air) * theta / limit_);
            flux = limit_ * t + air * theta;
            slope = (al_ - air) * (1 - t * t) + air;
        }
        for (std::size_t k = 0; k < windings_.size(); ++k) {
            const Winding& w = windings_[k];
            const double i = l.x[w.current], own = leak_ * w.turns * w.turns, v = w.across.voltage(l.x);
            w.across.charge(l, w.capacitance * v, w.capacitance);
            if (k == 0) w.across.current(l, loss_ * v, loss_);
            l.f[w.across.a] += i, l.f[w.across.b] -= i;
            l.df[w.a_i] += 1, l.df[w.b_i] -= 1;
            l.f[w.current] += v - w.resistance * i;
            l.df[w.i_a] += 1, l.df[w.i_b] -= 1;
            l.q[w.current] -= w.turns * flux + own * i;
            for (std::size_t m = 0; m < windings_.size(); ++m)
                l.dq[w.to[m]] -= w.turns * windings_[m].turns * slope;
            l.dq[w.to[k]] -= own;
            l.df[w.to[k]] -= w.resistance;
        }
    }

  private:
    double al_, limit_, leak_, loss_;
    std::vector<Winding> windings_;
};

Result<std::unique_ptr<Device>> capacitor(const Making& m) {
    return std::make_unique<Capacitor>(m.part, m.part.number("value") * m.spread());
}

/// One winding of one turn: A_L is the inductance, the limit its flux at the saturation current. Where the
/// part does not say what its core loses, it rings down within a few swings (five times √(L/C), typical).
Result<std::unique_ptr<Device>> inductor(const Making& m) {
    const double henry = m.part.number("value") * m.spread(), farads = m.part.number("winding_capacitance");
    const double stated = m.part.number("core_loss");
    const double loss = stated > 0 ? 1 / stated : 0.2 * std::sqrt(farads / henry);
    const double ohms = m.part.number("resistance") * m.copper();
    return std::make_unique<WoundCore>(henry, henry * m.part.number("saturation"), 1.0, loss,
                                       std::vector<WoundCore::Winding>{{1, ohms, farads}});
}

Result<std::unique_ptr<Device>> core(const Making& m) {
    const Part& p = m.part;
    std::vector<WoundCore::Winding> windings;
    for (int k = 1; k <= 8; ++k) {
        const std::string n = std::to_string(k);
        const bool a = !p.net(n + "a").empty(), b = !p.net(n + "b").empty();
        if (a != b)
            return Error{Fault::design, "part " + p.designator, "winding " + n + " has one end only",
                         "nets for " + n + "a and " + n + "b"};
        if (!a) break;
        const double turns = p.number("turns" + n);
        windings.push_back(
            {turns, turns * p.number("wire_resistance") * m.copper(), p.number("winding_capacitance")});
    }
    const double flux = p.number("bsat") * p.number("area") * 1e-6;  // mm² to m²
    const double first = windings.empty() ? 1 : windings.front().turns;
    return std::make_unique<WoundCore>(p.number("al"), flux, p.number("coupling"),
                                       1 / (p.number("core_loss") * first * first), std::move(windings));
}

}  // namespace

void add_reactive_devices(Makers& makers) {
    makers["capacitor"] = makers["electrolytic"] = capacitor;
    makers["inductor"] = inductor;
    makers["core"] = core;
}

}  // namespace elkit
