#include "light/sight.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/filament.hpp"
#include "light/judgement.hpp"
#include "light/strings.hpp"
#include "quantity/brightness.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr double steady_within = 1.02;  // highest to mean current of a light that is taken as steady
constexpr double unknown = std::numeric_limits<double>::quiet_NaN();

struct Light {
    const Part* part;
    LightDie die;
    std::string name, pin;
    double on = 0, mean = 0, frequency = 0, modulation = 0;  // A, A, Hz, %
    double share = 1;                                        // of the light while it is on, on average
};

/// A of a filament once it is warm at the most volts that it gets: what it takes before that says nothing.
double current_by_volts(const Part& part, const LightDie& die, const LongRun& run) {
    const auto [low, high] = run.between(part.pins.front().net, part.pins.back().net);
    const double share = std::max(std::abs(low), std::abs(high)) * die.test_current / die.rated_power;
    return die.test_current * std::pow(share, filament_current_by_volts);
}

Light light_of(const Part& part, const LightDie& die, const LongRun& run) {
    Light l{&part, die, die.pin.empty() ? part.designator : part.designator + "." + die.pin,
            die.pin.empty() ? part.pins.front().name : die.pin};
    l.mean = l.on = std::abs(die_current(part, die, run.mean()));
    const double most = run.moves() ? run.lasting(part.designator, l.pin) : l.mean;
    if (most < gives_light) l.mean = l.on = 0;
    if (most < gives_light || most < steady_within * l.mean) return l;
    const double least = run.least(part.designator, l.pin);
    l.on = die.filament() ? current_by_volts(part, die, run) : most;
    l.modulation = 100 * (most - least) / (most + least);
    l.frequency = std::max(1, run.pulses(part.designator, l.pin)) / run.steady().period;
    l.share = die.filament() ? std::pow(l.mean / l.on, filament_power_by_current) : l.mean / l.on;
    if (die.filament() && l.frequency * die.cools > 1)  // it glows on through the gaps
        l.on = l.mean, l.share = 1, l.frequency = l.modulation = 0;
    return l;
}

bool alike(const Light& a, const Light& b) {
    const auto near = [](double x, double y) { return std::abs(x - y) <= 0.005 * std::max(x, y); };
    return a.die.type == b.die.type && a.die.pin == b.die.pin && near(a.on, b.on) && near(a.mean, b.mean) &&
           near(a.frequency, b.frequency) && near(a.die.intensity, b.die.intensity);
}

class RowMaker {
  public:
    RowMaker(double distance, double factor) : distance_(distance), factor_(factor) {}

    SightRow row(const Light& l) const {
        SightRow r;
        r.led = l.die.name, r.lights = {l.name};
        r.visible = l.die.type->visible, r.caution = l.die.filament() ? std::string() : l.die.type->caution;
        r.frequency = l.frequency, r.modulation = l.modulation;
        r.flicker = judge_flicker(l.frequency, l.modulation);
        const std::string id = "sight." + l.name + ".";
        const double on = l.die.candela(l.on), share = l.share;
        r.on = figure(
            id + "on", "light of " + l.name + " while it is on", on, Unit::candela,
            fmt::format("{} at {} {} {}", text(l.die.intensity, Unit::candela),
                        text(l.die.test_current, Unit::ampere),
                        l.die.filament() ? ", more than in proportion:" : "×", text(l.on, Unit::ampere)));
        r.share = figure(id + "share", "share of the time of " + l.name, 100 * share, Unit::percent,
                         fmt::format("{} on average / {} while it is on", text(l.mean, Unit::ampere),
                                     text(l.on, Unit::ampere)));
        r.seen = figure(id + "seen", "how bright " + l.name + " looks", 100 * perceived(share), Unit::percent,
                        l.modulation > 0 && l.frequency > 0 && l.frequency < pulses_seen_below
                            ? "if the eye could follow no pulse: CIE 1976 lightness of the average"
                            : "the eye averages pulses; CIE 1976 lightness of the average");
        const double average = r.visible ? on * share * factor_ : 0;
        r.average =
            figure(id + "average", "light of " + l.name + " on average", average, Unit::candela,
                   fmt::format("{} × {:.3g}{}", r.on.text(), share,
                               factor_ == 1 ? std::string()
                                            : fmt::format(" × {:.3g} of diffuser and lens", factor_)));
        r.illuminance =
            figure(id + "lux", "light of " + l.name + " at the eye",
                   distance_ > 0 ? average / (distance_ * distance_) : unknown, Unit::lux,
                   fmt::format("E = I / d² = {} / ({})²", r.average.text(), text(distance_, Unit::metre)));
        const double size =
            l.part->kind == "led" && l.die.type->diameter > 0 ? l.die.type->diameter / 1000 : 0;
        const double area = std::numbers::pi / 4 * size * size;
        r.luminance = figure(
            id + "luminance", "luminance of " + l.name, area > 0 ? average / area : unknown, Unit::luminance,
            fmt::format("{} from a disc of {}; up to 10 kcd/m² it is calm to look at (IEC 62471)",
                        r.average.text(), text(size, Unit::metre)));
        return r;
    }

  private:
    static std::string text(double value, Unit unit) { return format_quantity(value, unit); }
    static Figure figure(std::string id, std::string label, double value, Unit unit, std::string working) {
        return {std::move(id), std::move(label), value, unit, {}, {}, {std::move(working)}};
    }
    double distance_, factor_;
};

}  // namespace

Digest SightQuery::key() const {
    Digester d;
    d << Situated::key() << distance << factor;
    return d.digest();
}

Result<Sight> SightQuery::compute(const Ask& ask) const {
    const auto run = ask(RunQuery(circuit, conditions));
    if (!run) return run.error();
    std::vector<Light> lights;
    Sight sight;
    const RowMaker maker(distance, factor);
    double lux = 0, brightest = 0;
    for (const Part& part : circuit->parts) {
        if (!is(part, Role::light) || part.pins.empty()) continue;
        for (const LightDie& die : dies(part, known_catalogue())) {
            const Light light = light_of(part, die, *run);
            const auto known = std::find_if(lights.begin(), lights.end(),
                                            [&](const Light& other) { return alike(light, other); });
            const auto at = static_cast<std::size_t>(known - lights.begin());
            if (known == lights.end()) {
                lights.push_back(light);
                sight.rows.push_back(maker.row(light));
            } else {
                sight.rows[at].lights.push_back(light.name);
            }
            const SightRow& row = sight.rows[at];
            if (distance > 0) lux += row.illuminance.value;
            if (std::isfinite(row.luminance.value)) brightest = std::max(brightest, row.luminance.value);
        }
    }
    sight.together = {"sight.together",
                      "light of all at the eye",
                      distance > 0 ? lux : unknown,
                      Unit::lux,
                      {},
                      {},
                      {"all lights, as if each looked straight at the eye"}};
    if (brightest > calm_to_look_at) sight.share_for_eyes = calm_to_look_at / brightest;
    sight.near_eyes = distance > 0 && distance <= near_to_eyes;
    sight.glare = {"sight.glare",
                   "brightest light against what is calm to look at",
                   brightest / calm_to_look_at,
                   Unit::none,
                   {},
                   {},
                   {fmt::format("{} / {}", format_quantity(brightest, Unit::luminance),
                                format_quantity(calm_to_look_at, Unit::luminance))}};
    return sight;
}

}  // namespace elkit
