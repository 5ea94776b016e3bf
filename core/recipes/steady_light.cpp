#include "recipes/steady_light.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/models.hpp"

namespace elkit {
namespace {

Part battery_part(const LightGoals& goals) {
    Part part{"B1", "battery", {}, {{"+", "V+"}, {"-", "GND"}}, {}};
    part.params["cell"] = goals.cell;
    part.params["count"] = goals.cells;
    return part;
}

/// Makes `wanted` the part of that designator, keeping what the old one knew about itself.
void place(Circuit& circuit, const Circuit& before, Part wanted) {
    if (const Part* old = before.find(wanted.designator); old && old->kind == wanted.kind) {
        const auto type_of = [](const Part& p) { return p.text("type"); };
        for (const auto& [key, value] : old->params)
            if (key != "points" || type_of(*old) == type_of(wanted)) wanted.params.emplace(key, value);
        wanted.extra = old->extra;
    }
    circuit.parts.push_back(std::move(wanted));
}

class Builder {
  public:
    Builder(const Design& design, const LightGoals& goals) : before_(design.circuit), goals_(goals) {}

    Result<Circuit> build() {
        place(out_, before_, battery_part(goals_));
        std::string feed = "V+";
        if (goals_.has_switch) {
            place(out_, before_, {"S1", "switch", {}, {{"a", "V+"}, {"b", "LAMP"}}, {}});
            feed = "LAMP";
        }
        const auto lengths = string_lengths(goals_);
        if (goals_.resistor && goals_.one_resistor) {
            if (auto added = add_resistor(lengths.front(), feed, "LEDS"); !added) return added.error();
            feed = "LEDS";
        }
        for (std::size_t s = 0; s < lengths.size(); ++s)
            if (auto added = add_string(static_cast<int>(s) + 1, lengths[s], feed); !added)
                return added.error();
        return out_;
    }

  private:
    Result<void> add_resistor(int leds, const std::string& from, const std::string& to) {
        auto sized = size_resistor(goals_, leds);
        if (!sized) return sized.error();
        Part r{fmt::format("R{}", ++resistors_), "resistor", {}, {{"a", from}, {"b", to}}, {}};
        r.params["value"] = sized.value().value;
        if (sized.value().rating > 0.25) r.params["rating"] = sized.value().rating;
        place(out_, before_, std::move(r));
        return success();
    }

    Result<void> add_string(int index, int leds, const std::string& feed) {
        std::string net = feed;
        if (goals_.resistor && !goals_.one_resistor) {
            net = fmt::format("A{}", index);
            if (auto added = add_resistor(leds, feed, net); !added) return added.error();
        }
        for (int k = 1; k <= leds; ++k) {
            const std::string next =
                k == leds ? "GND"
                          : fmt::format("M{}{}", index,
                                        leds > 2 ? std::string(1, static_cast<char>('a' + k - 1)) : "");
            Part led{fmt::format("L{}", ++leds_), "led", {}, {{"a", net}, {"k", next}}, {}};
            led.params["type"] = goals_.led;
            place(out_, before_, std::move(led));
            net = next;
        }
        return success();
    }

    const Circuit& before_;
    const LightGoals& goals_;
    Circuit out_;
    int resistors_ = 0, leds_ = 0;
};

}  // namespace

std::vector<int> string_lengths(const LightGoals& goals) {
    const int count = std::max(1, static_cast<int>(goals.count));
    const int per = std::clamp(static_cast<int>(goals.per_string), 1, count);
    std::vector<int> lengths(static_cast<std::size_t>(count / per), per);
    if (count % per) lengths.push_back(count % per);
    return lengths;
}

Result<ResistorAnswer> size_resistor(const LightGoals& goals, int leds, const std::vector<double>& owned) {
    const Catalogue& catalogue = built_in_catalogue();
    auto source = source_model(battery_part(goals), catalogue, {});
    if (!source) return source.error();
    Part led{"L1", "led", {}, {}, {}};
    led.params["type"] = goals.led;
    auto junction = junction_model(led, catalogue, 21, 0);
    if (!junction) return junction.error();
    const double strings = static_cast<double>(string_lengths(goals).size());
    const double contact = goals.has_switch
                               ? part_kind("switch")->param("on_resistance")
                                     ? std::get<double>(part_kind("switch")->param("on_resistance")->standard)
                                     : 0
                               : 0;
    const double total = goals.current * strings;
    ResistorQuestion q;
    q.supply = source.value().voltage - total * (source.value().resistance + contact);
    q.leds_voltage = leds * junction.value().voltage_at(goals.current);
    q.current = goals.one_resistor ? total : goals.current;
    q.series = goals.series, q.rounding = goals.rounding, q.owned = owned;
    auto answer = choose_resistor(q);
    if (answer)
        answer.value().working.insert(
            answer.value().working.begin(),
            {fmt::format("V supply, fresh and loaded = {} − {} × {} = {}",
                         format_quantity(source.value().voltage, Unit::volt),
                         format_quantity(total, Unit::ampere),
                         format_quantity(source.value().resistance + contact, Unit::ohm),
                         format_quantity(q.supply, Unit::volt)),
             fmt::format("V LEDs = {} × {} at {}, from the LED's own curve", leds,
                         format_quantity(q.leds_voltage / leds, Unit::volt),
                         format_quantity(goals.current, Unit::ampere))});
    return answer;
}

Design new_light() {
    Design d;
    d.name = "New light";
    return apply_steady_light(d, {}).value();
}

Result<Design> apply_steady_light(const Design& design, const LightGoals& goals) {
    auto built = Builder(design, goals).build();
    if (!built) return built.error();
    Design out = design;
    out.circuit = std::move(built).value();
    out.light = goals;
    for (const Part& part :
         design.circuit.parts) {  // parts of kinds the recipe does not place are the user's own
        const bool ours =
            part.kind == "battery" || part.kind == "switch" || part.kind == "resistor" || part.kind == "led";
        if (!ours) out.circuit.parts.push_back(part);
    }
    return out;
}

}  // namespace elkit
