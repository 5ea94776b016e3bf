#include "recipes/effect.hpp"

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"
#include "quantity/brightness.hpp"
#include "recipes/blocks.hpp"
#include "recipes/level.hpp"
#include "recipes/measured.hpp"

namespace elkit {
namespace {

constexpr std::size_t samples = 240;
constexpr int cycles = 3;
constexpr double flicker = 0.02;  // s: quicker than that an eye sees the mean
constexpr double rests = 2;       // s that are shown of each world where there are several

/// The first light of a block, as a probe.
std::string light_probe(const Design& design) {
    for (const auto& [local, designator] : design.blocks.front().parts) {
        const Part* part = design.circuit.find(designator);
        if (part && is(*part, Role::light)) return "light:" + designator;
    }
    return {};
}

/// Brightness at even times; what is quicker than an eye is averaged.
Effect seen(const std::vector<double>& time, const std::vector<double>& light, double from, double seconds) {
    Effect effect;
    effect.seconds = seconds;
    const double most = *std::max_element(light.begin(), light.end());
    for (std::size_t k = 0; k < samples; ++k) {
        const double at = from + seconds * static_cast<double>(k) / samples;
        const double until = std::min(at + std::min(flicker, seconds / samples), time.back());
        const double mean =
            until > at ? integral(time, light, at, until) / (until - at) : value_at(time, light, at);
        effect.brightness.push_back(most > 0 ? std::clamp(perceived(mean / most), 0.0, 1.0) : 0);
    }
    return effect;
}

/// What a press starts, with a little before and after.
Result<Effect> after_press(const Design& design, const Expectation& x, const std::string& probe) {
    Expectation light = x;
    light.probe = probe;
    const double whole = x.reading == "lasts" ? std::min(1.3 * x.high, 2.5 * x.target + x.pressed) : 3;
    auto run = run_of_presses(design.circuit, light, {}, whole);
    if (!run) return run.error();
    const auto& time = run.value().time;
    return seen(time, run.value().trace(probe)->values, 0, time.back());
}

/// What a bench supply sets off, slowed down to be seen.
Result<Effect> triggered(const Design& design, Expectation x, const std::string& probe) {
    x.probe = probe;
    auto run = run_of_bench(design.circuit, x, fresh(design.circuit, {}));
    if (!run) return run.error();
    const auto& time = run.value().time;
    Effect effect = seen(time, run.value().trace(probe)->values, 0, time.back());
    effect.seconds = rests;
    return effect;
}

/// Of what a knob dims: the knob turned up and back again. What is quicker than an eye counts by its mean.
Result<Effect> turned(const Ask& ask, const Keyed<Circuit>& circuit, const std::string& knob,
                      const std::string& light) {
    constexpr int places = 9;
    Effect effect;
    effect.seconds = 3;
    std::vector<double> currents;
    for (int k = 0; k < places; ++k) {
        Conditions conditions = fresh(*circuit, {});
        conditions.knobs[knob] = static_cast<double>(k) / (places - 1);
        const auto run = ask(RunQuery(circuit, conditions));
        if (!run) return run.error();
        currents.push_back(std::abs(run->mean().part(light).current));
    }
    const double most = *std::max_element(currents.begin(), currents.end());
    for (std::size_t k = 0; k < samples; ++k) {
        const double turn = 1 - std::abs(2 * static_cast<double>(k) / samples - 1), at = turn * (places - 1);
        const auto below = std::min<std::size_t>(static_cast<std::size_t>(at), places - 2);
        const double part = at - static_cast<double>(below);
        const double current = currents[below] * (1 - part) + currents[below + 1] * part;
        effect.brightness.push_back(most > 0 ? perceived(current / most) : 0);
    }
    return effect;
}

/// A few cycles of what goes by itself, a while of what rests, in one world after the other.
Result<Effect> one_after_the_other(const Ask& ask, const Keyed<Circuit>& circuit, const std::string& part,
                                   const std::vector<Conditions>& worlds) {
    std::vector<double> time, values;
    double end = 0;
    bool moves = worlds.size() > 1;
    const auto add = [&](double at, double amps) {
        time.push_back(at), values.push_back(std::max(0.0, amps));
    };
    for (const Conditions& world : worlds) {
        const auto run = ask(RunQuery(circuit, world));
        if (!run) return run.error();
        if (!run->moves()) {
            const double amps = std::abs(run->mean().part(part).current);
            add(end, amps), add(end + rests, amps);
            end += rests;
            continue;
        }
        moves = true;
        const Recording& cycle = run->steady().cycle;
        const Trace* light = cycle.trace("part:" + part + "." + circuit->find(part)->pins.front().name);
        if (!light) return Effect{0, {1}};
        const double start = cycle.time.front(), period = cycle.time.back() - start;
        if (worlds.size() == 1 && cycles * period < flicker) return Effect{0, {1}};  // an eye sees its mean
        const int times =
            worlds.size() > 1 ? static_cast<int>(std::clamp(rests / period, 2.0, 20.0)) : cycles;
        for (int k = 0; k < times; ++k)
            for (std::size_t i = 0; i < cycle.time.size(); ++i)
                add(end + cycle.time[i] - start + k * period, light->values[i]);
        end += times * period;
    }
    if (!moves) return Effect{0, {1}};
    return seen(time, values, 0, end);
}

}  // namespace

double Effect::at(double t) const {
    if (brightness.empty()) return 1;
    if (!(seconds > 0)) return brightness.front();
    const double turn = std::fmod(t, seconds) / seconds * static_cast<double>(brightness.size());
    return brightness[std::min(brightness.size() - 1, static_cast<std::size_t>(std::max(0.0, turn)))];
}

Digest EffectQuery::key() const {
    Digester d;
    d << recipe << goals.values;
    return d.digest();
}

Result<Effect> EffectQuery::compute(const Ask& ask) const {
    auto design = with_block({}, recipe, goals);
    if (!design) return design.error();
    const Circuit& circuit = design.value().circuit;
    const std::string probe = light_probe(design.value());
    if (probe.empty()) return Effect{0, {0}};
    const auto sized = sized_block(design.value(), 0);
    if (!sized) return sized.error();
    for (const Expectation& local : sized.value().expected)
        if (const auto x = in_design(local, design.value().blocks[0], circuit); x && !x->presses.empty())
            return after_press(design.value(), *x, probe);
    for (const Expectation& local : sized.value().expected)
        if (const auto x = in_design(local, design.value().blocks[0], circuit); x && !x->bench.part.empty())
            return triggered(design.value(), *x, probe);
    for (const Expectation& local : sized.value().expected)
        if (const auto x = in_design(local, design.value().blocks[0], circuit); x && !x->knobs.empty())
            return turned(ask, Keyed<Circuit>(circuit), x->knobs.begin()->first, probe.substr(6));
    std::vector<Conditions> worlds;
    for (const Expectation& x : sized.value().expected)
        if (x.celsius || x.lux) {
            Conditions world = fresh(circuit, {});
            world.celsius = x.celsius.value_or(world.celsius), world.lux = x.lux.value_or(world.lux);
            world.infrared = world.lux * x.infrared_per_lux.value_or(0);
            if (std::find(worlds.begin(), worlds.end(), world) == worlds.end()) worlds.push_back(world);
        }
    if (worlds.empty()) worlds.push_back(fresh(circuit, {}));
    return one_after_the_other(ask, Keyed<Circuit>(circuit), probe.substr(6), worlds);
}

}  // namespace elkit
