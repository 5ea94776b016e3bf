#include "light/strings.hpp"

#include <algorithm>
#include <cmath>

#include "circuit/part_kind.hpp"
#include "engine/filament.hpp"
#include "engine/models.hpp"

namespace elkit {

namespace {

bool ends_at(const Chain& chain, const std::string& net) { return chain.from == net || chain.to == net; }

const Part* resistor_in(const Chain& chain) {
    const auto found = std::find_if(chain.parts.begin(), chain.parts.end(),
                                    [](const Part* p) { return is(*p, Role::resistor); });
    return found == chain.parts.end() ? nullptr : *found;
}

/// The resistor that all strings which meet at this net share, as the row of a grid does: nothing else meets
/// there.
const Part* feeds_alone(const Circuit& circuit, const std::vector<Chain>& all, const std::string& net) {
    const bool others = std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
        const bool meets =
            std::any_of(p.pins.begin(), p.pins.end(), [&](const Pin& pin) { return pin.net == net; });
        return meets && !is(p, Role::no_current) && (p.pins.size() != 2 || is(p, Role::energy));
    });
    if (others) return nullptr;
    int lights = 0, feeds = 0;
    const Part* resistor = nullptr;
    for (const Chain& chain : all) {
        if (!ends_at(chain, net)) continue;
        if (chain.count(Role::diode_light) > 0 && !resistor_in(chain))
            ++lights;
        else
            ++feeds, resistor = resistor_in(chain);
    }
    return lights > 1 && feeds == 1 ? resistor : nullptr;
}

}  // namespace

std::vector<LedString> led_strings(const Circuit& circuit) {
    std::vector<LedString> strings;
    const auto all = chains(circuit);
    for (const Chain& chain : all) {
        if (chain.count(Role::diode_light) == 0) continue;
        LedString s{{}, nullptr, nullptr, chain.from, chain.to};
        for (const Part* part : chain.parts) {
            if (is(*part, Role::diode_light)) s.leds.push_back(part);
            if (is(*part, Role::resistor) && !s.resistor) s.resistor = part;
        }
        strings.push_back(std::move(s));
    }
    for (LedString& s : strings) {
        if (s.resistor) continue;
        s.shared = feeds_alone(circuit, all, s.from);
        if (!s.shared) s.shared = feeds_alone(circuit, all, s.to);
        const bool parallel =
            std::count_if(strings.begin(), strings.end(), [&](const LedString& o) {
                return (o.from == s.from && o.to == s.to) || (o.from == s.to && o.to == s.from);
            }) > 1;
        if (s.shared || !parallel) continue;
        for (const Chain& chain : all)
            if (chain.count(Role::diode_light) == 0 && resistor_in(chain) &&
                (ends_at(chain, s.from) || ends_at(chain, s.to)))
                s.shared = resistor_in(chain);
    }
    return strings;
}

bool meets_coil(const Circuit& circuit, const std::string& plus, const std::string& minus) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& part) {
        return is(part, Role::coil) && std::any_of(part.pins.begin(), part.pins.end(), [&](const Pin& pin) {
                   return pin.net == plus || pin.net == minus;
               });
    });
}

namespace {

std::vector<LightDie> nameless_dies(const Part& part, const Catalogue& catalogue) {
    std::vector<LightDie> all;
    const PartKind* kind = part_kind(part.kind);
    if (!kind || !kind->is(Role::light)) return all;
    const auto add = [&](const std::string& param, const std::string& pin) {
        if (const LedType* type = catalogue.led(part.text(param)))
            all.push_back({type, pin, type->intensity, type->test_current});
    };
    if (kind->module) {
        if (const LedType* type = catalogue.led(kind->module->light))
            all.push_back({type, kind->module->plus, part.number("intensity"),
                           std::max(part.number("active_current"), 1e-6)});
        return all;
    }
    if (!kind->filament_light.empty()) {
        LightDie die{light_type(part), "", part.number("intensity"), part.number("test_current")};
        die.name = kind->name;
        die.rated_power = part.number("voltage") * die.test_current, die.cools = part.number("warm_time");
        if (die.type && die.filament()) all.push_back(die);
        return all;
    }
    if (kind->dies.empty()) add("type", "");
    for (const auto& [pin, param] : kind->dies)
        if (!part.net(pin).empty()) add(param, pin);
    for (LightDie& die : all) {
        if (kind->param("intensity")) die.intensity = part.number("intensity");
        if (kind->param("test_current")) die.test_current = part.number("test_current");
        if (kind->param("in_series")) die.in_series = part.number("in_series");
        if (kind->param("dies")) die.in_series = part.number("dies");
        if (kind->param("cut")) die.side_by_side = strip_rows(part);
    }
    return all;
}

}  // namespace

std::vector<LightDie> dies(const Part& part, const Catalogue& catalogue) {
    std::vector<LightDie> all = nameless_dies(part, catalogue);
    for (LightDie& die : all)
        if (die.name.empty()) die.name = die.type->name;
    return all;
}

double LightDie::candela(double amps) const {
    const double share = std::max(0.0, amps) / test_current;
    return intensity * in_series * (filament() ? std::pow(share, filament_light_by_current) : share);
}

double die_current(const Part& part, const LightDie& die, const OperatingPoint& op) {
    const PartState& state = op.part(part.designator);
    if (die.filament())
        return die.test_current *
               std::pow(std::max(0.0, state.power()) / die.rated_power, 1 / filament_power_by_current);
    if (die.pin.empty()) return std::max(0.0, state.current);
    for (std::size_t k = 0; k < part.pins.size() && k < state.pins.size(); ++k)
        if (part.pins[k].name == die.pin) return std::abs(state.pins[k]);
    return 0;
}

double total_intensity(const Circuit& circuit, const Catalogue& catalogue, const OperatingPoint& op) {
    double sum = 0;
    for (const Part& part : circuit.parts)
        for (LightDie die : dies(part, catalogue)) {
            die.intensity = std::max(die.intensity, 1e-3);  // infrared counts beside its like
            sum += die.candela(die_current(part, die, op));
        }
    return sum;
}

}  // namespace elkit
