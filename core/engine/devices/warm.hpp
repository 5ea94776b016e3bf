#pragma once
#include <string>

#include "engine/device.hpp"

namespace elkit {

inline constexpr double open_contact = 1e12;  // Ω

/// A resistance between pins a and b that its own power warms: one more unknown, the warmth T above what is
/// around it, with  C dT/dt = V²/R(T) − δ T.
struct WarmResistance {
    Pair pair;
    int warmth = 0;

    void bind(const Part& part, Binder& b) {
        pair.bind(b, b.net(part, "a"), b.net(part, "b"));
        warmth = b.unknown("warmth of " + part.designator);
        a_warmth_ = b.entry(pair.a, warmth), b_warmth_ = b.entry(pair.b, warmth);
        warmth_a_ = b.entry(warmth, pair.a), warmth_b_ = b.entry(warmth, pair.b);
        warmth_warmth_ = b.entry(warmth, warmth);
    }
    /// R [Ω] and dR/dT [Ω/°C] at the present warmth, C [J/°C] and δ [W/°C].
    void load(Load& l, double r, double slope, double heat, double spread) const {
        load(l, r, slope, Held{heat * l.x[warmth], heat}, spread);
    }
    /// What it holds [J] at the present warmth, and what it takes for more [J/°C], where that is not the same
    /// at every warmth.
    struct Held {
        double joules, slope;
    };
    void load(Load& l, double r, double slope, const Held& held, double spread) const {
        const double v = pair.voltage(l.x), t = l.x[warmth];
        const double g = 1 / r, dg = -slope / (r * r);
        pair.current(l, g * v, g);
        l.df[a_warmth_] += dg * v, l.df[b_warmth_] -= dg * v;
        l.f[warmth] += spread * t - g * v * v;
        l.q[warmth] += held.joules, l.dq[warmth_warmth_] += held.slope;
        l.df[warmth_warmth_] += spread - dg * v * v;
        l.df[warmth_a_] -= 2 * g * v, l.df[warmth_b_] += 2 * g * v;
    }

  private:
    int a_warmth_ = 0, b_warmth_ = 0, warmth_a_ = 0, warmth_b_ = 0, warmth_warmth_ = 0;
};

}  // namespace elkit
