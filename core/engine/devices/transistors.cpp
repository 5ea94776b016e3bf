// Bipolar transistors and MOSFETs.
#include <algorithm>
#include <array>
#include <cmath>

#include "engine/devices/makers.hpp"
#include "engine/devices/semiconductor.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

/// Three nodes and their nine entries.
struct Triple {
    std::array<int, 3> node{};
    std::array<std::array<int, 3>, 3> entry{};
    void bind(Binder& b, int first, int second, int third) {
        node = {first, second, third};
        for (std::size_t r = 0; r < 3; ++r)
            for (std::size_t c = 0; c < 3; ++c) entry[r][c] = b.entry(node[r], node[c]);
    }
    void add(double* entries, std::size_t row, std::size_t column, double slope) const {
        entries[entry[row][column]] += slope;
    }
};

/// Ebers–Moll in transport form with Early effect (Getreu, "Modeling the Bipolar Transistor", 1976):
///   I_F = Is (e^(Vbe/Vt) − 1), I_R = Is (e^(Vbc/Vt) − 1), I_T = (I_F − I_R)(1 − Vbc/V_A),
///   I_C = I_T − I_R/β_R, I_B = I_F/β_F + I_R/β_R; a leak I_CBO from collector to base.
/// At high current the base is flooded (Gummel & Poon, Bell Syst. Tech. J. 49, 1970): I_T and τ_F I_F are
/// divided by q_b = (1 + √(1 + 4 I_F/I_K))/2, so that the gain falls above the knee I_K. R_C stands before
/// the collector. Charges: τ_F I_F/q_b + depletion at the emitter, τ_R I_R + depletion at the collector.
/// Beyond their breakdown voltages collector–emitter and base–emitter conduct.
class Bipolar final : public Device {
  public:
    Bipolar(const Part& p, double celsius, double gain_place)
        : sign_(p.kind == "npn" ? 1 : -1), across_(1.4 * p.number("max_voltage"), 5) {
        const double t = (celsius + 273.15) / 298.15;
        vt_ = thermal_voltage(celsius);
        // Is ~ T³ exp(−Eg/kT), Eg = 1.11 eV; gain +0.5 %/°C; leak doubles every 10 °C
        is_ = p.number("saturation_current") * t * t * t * std::exp(1.11 / thermal_voltage(25) * (1 - 1 / t));
        per_gain_ = 1 / (p.number("gain") * (1 + 0.5 * gain_place) * (1 + 0.005 * (celsius - 25)));
        per_vt_ = 1 / vt_, per_early_ = 1 / p.number("early"), per_knee_ = 1 / p.number("knee_current");
        leak_ = p.number("leakage") * std::exp2((celsius - 25) / 10);
        cje_ = p.number("cje"), cjc_ = p.number("cjc"), tf_ = p.number("transit"), tr_ = p.number("storage");
        collector_ = 1 / std::max(p.number("collector_resistance"), 1e-3);
        critical_ = vt_ * std::log(vt_ / (std::sqrt(2.0) * is_));
    }
    void bind(const Part& part, Binder& b) override {
        const int inner = b.inner_node("collector inside " + part.designator);
        n_.bind(b, inner, b.net(part, "b"), b.net(part, "e"));
        lead_.bind(b, b.net(part, "c"), inner), ce_.bind(b, inner, n_.node[2]),
            eb_.bind(b, n_.node[2], n_.node[1]);
        memory_be_ = b.memory(), memory_bc_ = b.memory();
    }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        const double xc = l.x[n_.node[0]], xb = l.x[n_.node[1]], xe = l.x[n_.node[2]];
        const double be = sign_ * (xb - xe), bc = sign_ * (xb - xc);
        const double vbe = limited(l, be, memory_be_), vbc = limited(l, bc, memory_bc_);
        const auto f = bounded_exp(vbe, per_vt_), r = bounded_exp(vbc, per_vt_);
        const double i_f = is_ * (f.value - 1), g_f = is_ * f.slope;
        const double i_r = is_ * (r.value - 1), g_r = is_ * r.slope;
        const double early = 1 - vbc * per_early_;
        const double root = std::sqrt(1 + 4 * std::max(i_f, 0.0) * per_knee_), per_flood = 2 / (1 + root),
                     flood_be = i_f > 0 ? g_f * per_knee_ / root : 0;
        const double transport = (i_f - i_r) * early * per_flood;
        const double t_be = (g_f * early - transport * flood_be) * per_flood,
                     t_bc = (-g_r * early - (i_f - i_r) * per_early_) * per_flood;
        const Swing swing = leak_swing(-vbc);
        const double cbo = leak_ * swing.value, cbo_bc = -leak_ * swing.slope;
        double ic = transport - i_r / reverse + cbo, ic_be = t_be, ic_bc = t_bc - g_r / reverse + cbo_bc;
        double ib = i_f * per_gain_ + i_r / reverse - cbo, ib_be = g_f * per_gain_,
               ib_bc = g_r / reverse - cbo_bc;
        ib += 1e-12 * (vbe + vbc), ib_be += 1e-12,
            ib_bc += 1e-12;  // a dark transistor still has a definite base
        ic -= 1e-12 * vbc, ic_bc -= 1e-12;
        // the tangent at the limited voltages, seen from the trial point
        ic += ic_be * (be - vbe) + ic_bc * (bc - vbc);
        ib += ib_be * (be - vbe) + ib_bc * (bc - vbc);
        const auto qe = depletion(vbe, cje_), qc = depletion(vbc, cjc_);
        const double stored = tf_ * i_f * per_flood;
        const double q_be = stored + qe.current,
                     c_be = (tf_ * g_f - stored * flood_be) * per_flood + qe.conductance;
        const double q_bc = tr_ * i_r + qc.current, c_bc = tr_ * g_r + qc.conductance;
        const double qbe = q_be + c_be * (be - vbe), qbc = q_bc + c_bc * (bc - vbc);
        l.f[n_.node[0]] += sign_ * ic, l.f[n_.node[1]] += sign_ * ib, l.f[n_.node[2]] -= sign_ * (ic + ib);
        l.q[n_.node[0]] -= sign_ * qbc, l.q[n_.node[1]] += sign_ * (qbe + qbc),
            l.q[n_.node[2]] -= sign_ * qbe;
        row(l.df, 0, ic_be, ic_bc), row(l.df, 1, ib_be, ib_bc), row(l.df, 2, -ic_be - ib_be, -ic_bc - ib_bc);
        row(l.dq, 0, 0, -c_bc), row(l.dq, 1, c_be, c_bc), row(l.dq, 2, -c_be, 0);
        lead_.current(l, collector_ * lead_.voltage(l.x), collector_);
        give_way(l, ce_, across_), give_way(l, eb_, emitter_breakdown);
    }

  private:
    static constexpr double reverse = 4;  // β_R, typical
    inline static const Knee emitter_breakdown{7, 10};
    void give_way(Load& l, const Pair& pair, const Knee& knee) const {
        const auto [i, g] = knee.at(sign_ * pair.voltage(l.x));
        pair.current(l, sign_ * i, g);
    }
    double limited(Load& l, double v, int memory) const {
        const double at = l.limiting ? limit_junction(v, l.memory[memory], vt_, critical_) : v;
        l.limited = l.limited || at != v;
        return l.memory[memory] = at;
    }
    void row(double* entries, std::size_t r, double by_be, double by_bc) const {
        n_.add(entries, r, 1, by_be + by_bc);
        n_.add(entries, r, 2, -by_be);
        n_.add(entries, r, 0, -by_bc);
    }
    double sign_, vt_, is_, leak_, cje_, cjc_, tf_, tr_, collector_, critical_;
    double per_gain_, per_vt_, per_early_, per_knee_;
    Knee across_;
    Triple n_;
    Pair lead_, ce_, eb_;
    int memory_be_ = 0, memory_bc_ = 0;
};

/// One smooth curve from below threshold to fully on (Enz, Krummenacher & Vittoz, AICSP 8, 1995):
///   I = 2 n β Vt² [F(Vgs − Vth) − F(Vgs − Vth − n Vds)],  F(u) = ln²(1 + e^(u/(2 n Vt))).
/// β = 1/(Ron (Vdrive − Vth)). Vth falls 2 mV/°C, β as T^−1.5. Body diode from source to drain, constant
/// capacitances, drain leak, avalanche a fifth above the rated voltage.
class Mosfet final : public Device {
  public:
    Mosfet(const Part& p, MosfetFit fit, double celsius, double threshold_place)
        : sign_(p.kind == "nmos" ? 1 : -1),
          vt_(thermal_voltage(celsius)),
          avalanche_(1.2 * p.number("max_voltage"), 0.5) {
        threshold_ = fit.threshold * (1 + 0.3 * threshold_place) - 0.002 * (celsius - 25);
        beta_ = fit.beta * std::pow((celsius + 273.15) / 298.15, -1.5);
        leak_ = p.number("leakage") * std::exp2((celsius - 25) / 10);
        cgs_ = p.number("cgs"), cgd_ = p.number("cgd"), cds_ = p.number("cds");
        body_ = JunctionLaw({1e-13 * std::exp2((celsius - 25) / 10), vt_, 0.05});
    }
    void bind(const Part& part, Binder& b) override {
        n_.bind(b, b.net(part, "d"), b.net(part, "g"), b.net(part, "s"));
        gs_.bind(b, n_.node[1], n_.node[2]);
        gd_.bind(b, n_.node[1], n_.node[0]);
        ds_.bind(b, n_.node[0], n_.node[2]);
    }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        const double vgs = sign_ * gs_.voltage(l.x), vds = sign_ * ds_.voltage(l.x);
        const auto f = half(vgs - threshold_), r = half(vgs - threshold_ - mosfet_slope * vds);
        const double k = 2 * mosfet_slope * beta_ * vt_ * vt_;
        double i = k * (f.value - r.value), gm = k * (f.slope - r.slope), g = k * mosfet_slope * r.slope;
        const Swing swing = leak_swing(vds);
        i += leak_ * swing.value + 1e-12 * vds, g += leak_ * swing.slope + 1e-12;
        if (vds < 0.1) {  // forward the body diode bounds itself by its resistance; backward it is nothing
            const auto body = body_.at(-vds);
            i -= body.current, g += body.conductance;
        }
        const auto over = avalanche_.at(vds);
        i += over.current, g += over.conductance;
        l.f[n_.node[0]] += sign_ * i, l.f[n_.node[2]] -= sign_ * i;
        for (const std::size_t row : {0u, 2u}) {
            const double s = row == 0 ? 1 : -1;
            n_.add(l.df, row, 0, s * g), n_.add(l.df, row, 1, s * gm), n_.add(l.df, row, 2, -s * (g + gm));
        }
        gs_.charge(l, cgs_ * gs_.voltage(l.x), cgs_);
        gd_.charge(l, cgd_ * gd_.voltage(l.x), cgd_);
        ds_.charge(l, cds_ * ds_.voltage(l.x), cds_);
    }

  private:
    /// F(u) and dF/du.
    Exponential half(double u) const {
        const double z = u / (2 * mosfet_slope * vt_);
        if (z < -20) return {0, 0};  // below 1e-19 A
        const double log = z > 35 ? z : std::log1p(std::exp(z));
        const double sigmoid = z > 35 ? 1 : 1 / (1 + std::exp(-z));
        return {log * log, log * sigmoid / (mosfet_slope * vt_)};
    }
    double sign_, vt_, threshold_, beta_, leak_, cgs_, cgd_, cds_;
    JunctionLaw body_;
    Knee avalanche_;
    Triple n_;
    Pair gs_, gd_, ds_;
};

Result<std::unique_ptr<Device>> bipolar(const Making& m) {
    return std::make_unique<Bipolar>(m.part, m.conditions.celsius, m.corner.of(m.part, 0));
}

Result<std::unique_ptr<Device>> mosfet(const Making& m) {
    auto fit = mosfet_fit(m.part);
    if (!fit) return fit.error();
    return std::make_unique<Mosfet>(m.part, fit.value(), m.conditions.celsius, m.corner.of(m.part, 0));
}

}  // namespace

void add_transistor_devices(Makers& makers) {
    makers["npn"] = makers["pnp"] = bipolar;
    makers["nmos"] = makers["pmos"] = mosfet;
}

}  // namespace elkit
