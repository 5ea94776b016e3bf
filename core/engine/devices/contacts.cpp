// Resistances, and contacts that something moves: a hand, a coil, heat.
#include <algorithm>
#include <array>
#include <cmath>

#include "engine/devices/makers.hpp"

namespace elkit {
namespace {

constexpr double open_contact = 1e12;  // Ω

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
    Contact(const Part& part, const Conditions& c)
        : part_(part), closed_(c.closed(part)), on_(1 / std::max(part.number("on_resistance"), 1e-6)) {}
    void bind(const Part& part, Binder& b) override {
        poles_.resize(part.kind == "double_switch" ? 2 : 1);
        for (std::size_t k = 0; k < poles_.size(); ++k)
            poles_[k].bind(b, b.net(part, part.pins[2 * k].name), b.net(part, part.pins[2 * k + 1].name));
    }
    void load(Load& l) const override {
        const double g = closed_ ? on_ : 1 / open_contact;
        for (const Pair& pole : poles_) pole.current(l, g * pole.voltage(l.x), g);
    }
    bool configure(const Conditions& c) override {
        return std::exchange(closed_, c.closed(part_)) != closed_;
    }

  private:
    Part part_;
    bool closed_;
    double on_;
    std::vector<Pair> poles_;
};

/// Joins its common pin to a, or to b when moved.
class Changeover final : public Device {
  public:
    Changeover(const Part& part, const Conditions& c)
        : part_(part), moved_(c.closed(part)), on_(1 / std::max(part.number("on_resistance"), 1e-6)) {}
    void bind(const Part& part, Binder& b) override {
        const int common = b.net(part, "common");
        rest_.bind(b, common, b.net(part, "a"));
        other_.bind(b, common, b.net(part, "b"));
    }
    void load(Load& l) const override {
        const double open = 1 / open_contact;
        rest_.current(l, (moved_ ? open : on_) * rest_.voltage(l.x), moved_ ? open : on_);
        other_.current(l, (moved_ ? on_ : open) * other_.voltage(l.x), moved_ ? on_ : open);
    }
    bool configure(const Conditions& c) override { return std::exchange(moved_, c.closed(part_)) != moved_; }

  private:
    Part part_;
    bool moved_;
    double on_;
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
        const int inner = b.unknown("wiper of " + part.designator);
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

/// A resistance and an inductance in series, with the current as an unknown of its own.
class Coil {
  public:
    void bind(const Part& part, Binder& b, int plus, int minus) {
        plus_ = plus, minus_ = minus;
        current_ = b.unknown("coil current of " + part.designator);
        plus_current_ = b.entry(plus_, current_), minus_current_ = b.entry(minus_, current_);
        row_plus_ = b.entry(current_, plus_), row_minus_ = b.entry(current_, minus_);
        row_current_ = b.entry(current_, current_);
    }
    void load(Load& l, double resistance, double inductance) const {
        const double i = l.x[current_];
        l.f[plus_] += i, l.f[minus_] -= i;
        l.matrix[plus_current_] += 1, l.matrix[minus_current_] -= 1;
        l.f[current_] += l.x[plus_] - l.x[minus_] - resistance * i;
        l.q[current_] -= inductance * i;
        l.matrix[row_plus_] += 1, l.matrix[row_minus_] -= 1;
        l.matrix[row_current_] -= resistance + inductance * l.rate;
    }
    int current() const { return current_; }

  private:
    int plus_ = 0, minus_ = 0, current_ = 0;
    int plus_current_ = 0, minus_current_ = 0, row_plus_ = 0, row_minus_ = 0, row_current_ = 0;
};

/// A coil with inductance; its contacts change over at the pull-in and release currents.
class Relay final : public Device {
  public:
    explicit Relay(const Part& p)
        : resistance_(p.number("coil_resistance")),
          inductance_(p.number("coil_inductance")),
          pull_in_(p.number("pull_in") / resistance_),
          release_(p.number("release") / resistance_),
          on_(1 / std::max(p.number("contact_resistance"), 1e-6)) {}
    void bind(const Part& part, Binder& b) override {
        coil_.bind(part, b, b.net(part, "coil+"), b.net(part, "coil-"));
        const int common = b.net(part, "common");
        no_.bind(b, common, b.net(part, "no"));
        nc_.bind(b, common, b.net(part, "nc"));
    }
    void load(Load& l) const override {
        coil_.load(l, resistance_, inductance_);
        const double g_no = pulled_ ? on_ : 1 / open_contact, g_nc = pulled_ ? 1 / open_contact : on_;
        no_.current(l, g_no * no_.voltage(l.x), g_no);
        nc_.current(l, g_nc * nc_.voltage(l.x), g_nc);
    }
    int monitors() const override { return 1; }
    void watch(const double* x, double* values) const override {
        const double i = std::abs(x[coil_.current()]);
        values[0] = pulled_ ? release_ - i : i - pull_in_;
    }
    std::vector<int> watched() const override { return {coil_.current()}; }
    bool fire(int) override {
        pulled_ = !pulled_;
        return true;
    }

  private:
    double resistance_, inductance_, pull_in_, release_, on_;
    bool pulled_ = false;
    Coil coil_;
    Pair no_, nc_;
};

/// Buzzer or motor: a winding, with its inductance where it has one. A turning armature gives a share of the
/// supply back, whatever the supply.
class Winding final : public Device {
  public:
    explicit Winding(const Part& p)
        : resistance_(std::max(p.number("resistance"), 1e-3) /
                      (1 - (p.kind == "motor" ? p.number("back_share") : 0))),
          inductance_(p.number("inductance")) {}
    void bind(const Part& part, Binder& b) override {
        pair_.bind(b, b.net(part, "+"), b.net(part, "-"));
        if (inductance_ > 0) coil_.bind(part, b, pair_.a, pair_.b);
    }
    void load(Load& l) const override {
        if (inductance_ > 0) return coil_.load(l, resistance_, inductance_);
        pair_.current(l, pair_.voltage(l.x) / resistance_, 1 / resistance_);
    }

  private:
    double resistance_, inductance_;
    Pair pair_;
    Coil coil_;
};

/// PTC or wire fuse. Its warmth T above ambient is an unknown:  C dT/dt = P − P_trip·T/T_trip. A PTC's
/// resistance rises over a few degrees at T_trip until it holds P_trip; a wire melts there and stays open.
class Fuse final : public Device {
  public:
    explicit Fuse(const Part& p)
        : cold_(p.number("resistance")), heat_(p.number("heat")), ptc_(p.number("trip_power") > 0) {
        const double geometric_mean = p.number("hold") * p.number("trip");
        spread_ = cold_ * geometric_mean / trip_rise;  // W/°C that the cold resistance can just hold
        if (ptc_) spread_ = std::min(spread_, p.number("trip_power") / trip_rise);
    }
    void bind(const Part& part, Binder& b) override {
        pair_.bind(b, b.net(part, "a"), b.net(part, "b"));
        warmth_ = b.unknown("warmth of " + part.designator);
        a_warmth_ = b.entry(pair_.a, warmth_), b_warmth_ = b.entry(pair_.b, warmth_);
        warmth_a_ = b.entry(warmth_, pair_.a), warmth_b_ = b.entry(warmth_, pair_.b);
        warmth_warmth_ = b.entry(warmth_, warmth_);
    }
    Nature nature() const override { return Nature::nonlinear; }
    void load(Load& l) const override {
        const double v = pair_.voltage(l.x), t = l.x[warmth_];
        double r = cold_, dr = 0;
        if (melted_) r = open_contact;
        if (ptc_ && !melted_) {  // ln R rises along a smooth step of ten decades over 20 °C
            const double z = std::clamp((t - trip_rise) / 4, -40.0, 40.0), e = 1 / (1 + std::exp(-z));
            r = cold_ * std::exp(12 * e);
            dr = r * 12 * e * (1 - e) / 4;
        }
        const double g = 1 / r, dg = -dr / (r * r);
        pair_.current(l, g * v, g);
        l.matrix[a_warmth_] += dg * v, l.matrix[b_warmth_] -= dg * v;
        l.f[warmth_] += spread_ * t - g * v * v;
        l.q[warmth_] += heat_ * t;
        l.matrix[warmth_warmth_] += spread_ + heat_ * l.rate - dg * v * v;
        l.matrix[warmth_a_] -= 2 * g * v, l.matrix[warmth_b_] += 2 * g * v;
    }
    int monitors() const override { return 1; }
    void watch(const double* x, double* values) const override {
        values[0] = ptc_ || melted_ ? -1 : x[warmth_] - trip_rise;
    }
    bool fire(int) override { return melted_ = true; }

  private:
    static constexpr double trip_rise = 100;  // °C above ambient
    double cold_, heat_, spread_ = 0;
    bool ptc_, melted_ = false;
    Pair pair_;
    int warmth_ = 0, a_warmth_ = 0, b_warmth_ = 0, warmth_a_ = 0, warmth_b_ = 0, warmth_warmth_ = 0;
};

template <class T>
Result<std::unique_ptr<Device>> contact(const Making& m) {
    return std::make_unique<T>(m.part, m.conditions);
}
template <class T>
Result<std::unique_ptr<Device>> plain(const Making& m) {
    return std::make_unique<T>(m.part);
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
    makers["relay"] = plain<Relay>;
    makers["buzzer"] = makers["motor"] = plain<Winding>;
    makers["fuse"] = plain<Fuse>;
}

}  // namespace elkit
