// Resistances, and contacts that a hand or a coil moves.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "engine/devices/makers.hpp"
#include "engine/devices/semiconductor.hpp"
#include "engine/devices/warm.hpp"

namespace elkit {
namespace {

/// Two contacts in air. Open, they spark over at the least voltage that does so across any gap (Paschen's
/// minimum in air, 327 V: Raizer, Gas Discharge Physics, 1991); the arc holds that voltage until the current
/// is gone.
class Gap {
  public:
    Gap(double on_resistance, bool arcs) : on_(1 / std::max(on_resistance, 1e-6)), arcs_(arcs) {}
    bool arcs() const { return arcs_; }
    void load(Load& l, const Pair& pair, bool closed) const {
        const double v = pair.voltage(l.x), g = closed ? on_ : 1 / open_contact;
        pair.current(l, g * v, g);
        if (!arcs_) return;
        pair.charge(l, capacitance * v, capacitance);
        if (closed) return;
        const auto [i, slope] = spark.at(std::abs(v));
        pair.current(l, std::copysign(i, v), slope);
    }
    Nature nature() const { return arcs_ ? Nature::nonlinear : Nature::linear; }

  private:
    static constexpr double capacitance = 2e-12;  // F, of the contacts towards each other
    inline static const Knee spark{327, 10};
    double on_;
    bool arcs_;
};

class Resistance final : public Device {
  public:
    explicit Resistance(double ohms) : g_(1 / std::max(ohms, 1e-6)) {}
    void bind(const Part& part, Binder& b) override {
        pair_.bind(b, b.net(part, part.pins[0].name), b.net(part, part.pins[1].name));
    }
    void load(Load& l) const override { pair_.current(l, g_ * pair_.voltage(l.x), g_); }

  private:
    double g_;
    Pair pair_;
};

/// One or two contacts that a hand closes and opens together.
class Contact final : public Device {
  public:
    Contact(const Part& part, const Conditions& c, bool arcs)
        : part_(part), closed_(c.closed(part)), gap_(part.number("on_resistance"), arcs) {}
    void bind(const Part& part, Binder& b) override {
        poles_.resize(part.kind == "double_switch" ? 2 : 1);
        for (std::size_t k = 0; k < poles_.size(); ++k)
            poles_[k].bind(b, b.net(part, part.pins[2 * k].name), b.net(part, part.pins[2 * k + 1].name));
    }
    void load(Load& l) const override {
        for (const Pair& pole : poles_) gap_.load(l, pole, closed_);
    }
    Nature nature() const override { return gap_.nature(); }
    bool configure(const Conditions& c) override {
        return std::exchange(closed_, c.closed(part_)) != closed_;
    }

  private:
    Part part_;
    bool closed_;
    Gap gap_;
    std::vector<Pair> poles_;
};

/// Joins its common pin to a, or to b when moved.
class Changeover final : public Device {
  public:
    Changeover(const Part& part, const Conditions& c, bool arcs)
        : part_(part), moved_(c.closed(part)), gap_(part.number("on_resistance"), arcs) {}
    void bind(const Part& part, Binder& b) override {
        const int common = b.net(part, "common");
        rest_.bind(b, common, b.net(part, "a"));
        other_.bind(b, common, b.net(part, "b"));
    }
    void load(Load& l) const override { gap_.load(l, rest_, !moved_), gap_.load(l, other_, moved_); }
    Nature nature() const override { return gap_.nature(); }
    bool configure(const Conditions& c) override { return std::exchange(moved_, c.closed(part_)) != moved_; }

  private:
    Part part_;
    bool moved_;
    Gap gap_;
    Pair rest_, other_;
};

/// A track from a to b and a wiper behind its contact resistance; position 0 is at a.
class Potentiometer final : public Device {
  public:
    Potentiometer(const Part& part, double ohms, const Conditions& c)
        : part_(part),
          ohms_(ohms),
          position_(c.position(part)),
          wiper_g_(1 / std::max(part.number("wiper_resistance"), 1e-3)) {}
    void bind(const Part& part, Binder& b) override {
        const int inner = b.inner_node("wiper of " + part.designator);
        upper_.bind(b, b.net(part, "a"), inner);
        lower_.bind(b, inner, b.net(part, "b"));
        wiper_.bind(b, b.net(part, "wiper"), inner);
    }
    void load(Load& l) const override {
        const auto part_of = [this](double share) { return 1 / std::max(share * ohms_, 0.5e-3 * ohms_); };
        upper_.current(l, part_of(position_) * upper_.voltage(l.x), part_of(position_));
        lower_.current(l, part_of(1 - position_) * lower_.voltage(l.x), part_of(1 - position_));
        wiper_.current(l, wiper_g_ * wiper_.voltage(l.x), wiper_g_);
    }
    bool configure(const Conditions& c) override {
        return std::exchange(position_, c.position(part_)) != position_;
    }

  private:
    Part part_;
    double ohms_, position_, wiper_g_;
    Pair upper_, lower_, wiper_;
};

/// A resistance and an inductance in series, with the current as an unknown of its own. Across both the
/// winding's own capacitance, and the losses of an iron core, which damp what the two would ring with: a
/// resistance of √(L/C).
class Coil {
  public:
    Coil(double resistance, double inductance, double capacitance)
        : resistance_(resistance),
          inductance_(inductance),
          capacitance_(capacitance),
          loss_(capacitance > 0 && inductance > 0 ? std::sqrt(capacitance / inductance) : 0) {}
    void bind(const Part& part, Binder& b, int plus, int minus) {
        across_.bind(b, plus, minus);
        current_ = b.unknown("coil current of " + part.designator);
        plus_current_ = b.entry(plus, current_), minus_current_ = b.entry(minus, current_);
        row_plus_ = b.entry(current_, plus), row_minus_ = b.entry(current_, minus);
        row_current_ = b.entry(current_, current_);
    }
    void load(Load& l) const {
        const double i = l.x[current_], v = across_.voltage(l.x);
        l.f[across_.a] += i, l.f[across_.b] -= i;
        l.df[plus_current_] += 1, l.df[minus_current_] -= 1;
        l.f[current_] += v - resistance_ * i;
        l.q[current_] -= inductance_ * i;
        l.df[row_plus_] += 1, l.df[row_minus_] -= 1;
        l.df[row_current_] -= resistance_, l.dq[row_current_] -= inductance_;
        across_.current(l, loss_ * v, loss_);
        across_.charge(l, capacitance_ * v, capacitance_);
    }
    int current() const { return current_; }

  private:
    double resistance_, inductance_, capacitance_, loss_;
    Pair across_;
    int current_ = 0;
    int plus_current_ = 0, minus_current_ = 0, row_plus_ = 0, row_minus_ = 0, row_current_ = 0;
};

/// A coil with inductance; its contacts change over at the pull-in and release currents.
class Relay final : public Device {
  public:
    Relay(const Part& p, double copper)
        : coil_(p.number("coil_resistance") * copper, p.number("coil_inductance"),
                p.number("winding_capacitance")),
          pull_in_(p.number("pull_in") / p.number("coil_resistance")),
          release_(p.number("release") / p.number("coil_resistance")),
          gap_(p.number("contact_resistance"), true) {}
    void bind(const Part& part, Binder& b) override {
        coil_.bind(part, b, b.net(part, "coil+"), b.net(part, "coil-"));
        const int common = b.net(part, "common");
        no_.bind(b, common, b.net(part, "no"));
        nc_.bind(b, common, b.net(part, "nc"));
    }
    Nature nature() const override { return gap_.nature(); }
    bool keeps_state() const override { return true; }
    void load(Load& l) const override {
        coil_.load(l);
        gap_.load(l, no_, pulled_), gap_.load(l, nc_, !pulled_);
    }
    int monitors() const override { return 1; }
    void watch(const double* x, double* values) const override {
        const double i = std::abs(x[coil_.current()]);
        values[0] = pulled_ ? release_ - i : i - pull_in_;
    }
    std::vector<int> watched() const override { return {coil_.current()}; }
    bool fire(int, double) override {
        pulled_ = !pulled_;
        return true;
    }

  private:
    Coil coil_;
    double pull_in_, release_;
    Gap gap_;
    bool pulled_ = false;
    Pair no_, nc_;
};

/// Buzzer: a resistance, or a winding where it has inductance.
class Buzzer final : public Device {
  public:
    Buzzer(const Part& p, double copper)
        : g_(p.number("inductance") > 0 ? 0 : 1 / std::max(p.number("resistance"), 1e-3)),
          coil_(p.number("resistance") * copper, p.number("inductance"), p.number("winding_capacitance")) {}
    void bind(const Part& part, Binder& b) override {
        pair_.bind(b, b.net(part, "+"), b.net(part, "-"));
        if (!(g_ > 0)) coil_.bind(part, b, pair_.a, pair_.b);
    }
    void load(Load& l) const override {
        g_ > 0 ? pair_.current(l, g_ * pair_.voltage(l.x), g_) : coil_.load(l);
    }

  private:
    double g_;
    Pair pair_;
    Coil coil_;
};

/// Motor: the winding, and against it the voltage E that the armature gives back. With its usual load that is
/// `back_share` s of the supply; as a circuit, the moving mass is a capacitance C that the current charges
/// and the load a resistance r = R s/(1 − s) beside it, with C (R ∥ r) the time in which it comes up to
/// speed. At the start the winding alone limits the current.
class Motor final : public Device {
  public:
    Motor(const Part& p, double copper)
        : coil_(p.number("resistance") * copper, p.number("inductance"), p.number("winding_capacitance")) {
        const double share = std::max(p.number("back_share"), 1e-3);
        const double r = p.number("resistance") * share / (1 - share);
        load_ = 1 / r;
        mass_ = p.number("start_time") / (r * (1 - share));  // R ∥ r = r (1 − s)
    }
    void bind(const Part& part, Binder& b) override {
        coil_.bind(part, b, b.net(part, "+"), b.net(part, "-"));
        back_ = b.inner_node("armature of " + part.designator);
        coil_back_ = b.entry(coil_.current(), back_), back_coil_ = b.entry(back_, coil_.current());
        back_back_ = b.entry(back_, back_);
    }
    void load(Load& l) const override {
        coil_.load(l);
        const double e = l.x[back_];
        l.f[coil_.current()] -= e, l.df[coil_back_] -= 1;
        l.f[back_] += load_ * e - l.x[coil_.current()], l.q[back_] += mass_ * e;
        l.df[back_back_] += load_, l.df[back_coil_] -= 1;
        l.dq[back_back_] += mass_;
    }

  private:
    Coil coil_;
    double load_ = 0, mass_ = 0;
    int back_ = 0, coil_back_ = 0, back_coil_ = 0, back_back_ = 0;
};

template <class T>
Result<std::unique_ptr<Device>> contact(const Making& m) {
    return std::make_unique<T>(m.part, m.conditions, m.coils);
}
template <class T>
Result<std::unique_ptr<Device>> of_copper(const Making& m) {
    return std::make_unique<T>(m.part, m.copper());
}

}  // namespace

void add_contact_devices(Makers& makers) {
    makers["resistor"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<Resistance>(m.part.number("value") * m.spread(m.corner.resistance));
    };
    makers["potentiometer"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        return std::make_unique<Potentiometer>(m.part, m.part.number("value") * m.spread(), m.conditions);
    };
    for (const char* kind : {"switch", "button", "double_switch", "jumper"}) makers[kind] = contact<Contact>;
    makers["changeover"] = contact<Changeover>;
    makers["relay"] = [](const Making& m) -> Result<std::unique_ptr<Device>> {
        if (const double in = m.part.number("pull_in"), out = m.part.number("release"); !(out < in))
            return Error{Fault::design, "part " + m.part.designator,
                         fmt::format("lets go at {:.3g} V and pulls in at {:.3g} V", out, in),
                         "a release voltage below the pull-in voltage"};
        return std::make_unique<Relay>(m.part, m.copper());
    };
    makers["buzzer"] = of_copper<Buzzer>;
    makers["motor"] = of_copper<Motor>;
}

}  // namespace elkit
