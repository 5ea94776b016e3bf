#include "planning/arrays_of_design.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "light/light.hpp"
#include "recipes/blocks.hpp"
#include "recipes/variants.hpp"

namespace elkit {
namespace {

constexpr const char* lights_recipe = "steady-light";

std::optional<std::size_t> lights_block(const Design& design) {
    for (std::size_t k = 0; k < design.blocks.size(); ++k)
        if (design.blocks[k].recipe == lights_recipe) return k;
    return std::nullopt;
}

ArrayQuestion from_goals(const Goals& goals) {
    ArrayQuestion q;
    q.led = {"L1", "led", {}, {}, {}};
    q.led.params["type"] = goals.text("led");
    q.count = static_cast<int>(goals.number("count"));
    q.current = goals.number("current");
    if (goals.text("switch") == "yes") q.contact = Part{"S1", "switch", {}, {}, {}}.number("on_resistance");
    if (auto series = parse_series(goals.text("series"))) q.series = series.value();
    q.rounding = goals.text("rounding") == "nearest" ? Rounding::nearest : Rounding::under;
    return q;
}

/// Puts strings of real parts between two nets.
class StringBuilder {
  public:
    StringBuilder(Circuit circuit, const Part& source, const Part& led)
        : circuit_(std::move(circuit)), plus_(source.net("+")), minus_(source.net("-")), led_(led) {
        for (const std::string& net : circuit_.nets()) nets_.insert(net);
    }
    void add(const AlikeStringsOfArray& s) {
        for (int k = 0; k < s.strings; ++k) {
            std::string net = s.resistance > 0 ? free_net() : plus_;
            Part resistor{circuit_.free_designator("R"), "resistor", {}, {{"a", plus_}, {"b", net}}, {}};
            resistor.params["value"] = s.resistance;
            if (s.rating > 0.25 && std::isfinite(s.rating)) resistor.params["rating"] = s.rating;
            if (s.resistance > 0) circuit_.parts.push_back(std::move(resistor));
            for (int n = 1; n <= s.leds; ++n) {
                const std::string next = n == s.leds ? minus_ : free_net();
                Part led{
                    circuit_.free_designator("L"), led_.kind, led_.params, {{"a", net}, {"k", next}}, {}};
                circuit_.parts.push_back(std::move(led));
                net = next;
            }
        }
    }
    Circuit take() { return std::move(circuit_); }

  private:
    std::string free_net() {
        for (int k = 1;; ++k)
            if (std::string name = fmt::format("A{}", k); nets_.insert(name).second) return name;
    }
    Circuit circuit_;
    std::string plus_, minus_;
    const Part& led_;
    std::set<std::string> nets_;
};

}  // namespace

Result<ArrayQuestion> array_question(const Ask& ask, const Design& design, const Conditions& conditions) {
    const Part* source = design.circuit.source();
    if (!source)
        return Error{Fault::design, "circuit", "it has no source",
                     "cells or a supply, such as battery 3 x LR6"};
    ArrayQuestion q = from_goals(find_recipe(lights_recipe)->standard());
    const auto block = lights_block(design);
    if (block)
        q = from_goals(goals_of(design, design.blocks[*block]));
    else
        q.contact = 0;
    q.source = *source;
    const auto strings = led_strings(design.circuit);
    if (strings.empty()) return q;
    const Part& first = *strings.front().leds.front();
    if (block && first.text("type") == q.led.text("type")) q.led = first;  // with its bin and measured points
    if (block) return q;
    q.led = first, q.count = 0;
    for (const LedString& s : strings)
        for (const Part* led : s.leds) q.count += led->text("type") == first.text("type");
    const Keyed<Circuit> circuit(design.circuit);
    if (const auto light = ask(LightQuery(circuit, fresh(*circuit, conditions)));
        light && !light->strings.empty() && light->strings.front().fresh_current.value > 1e-6)
        q.current = light->strings.front().fresh_current.value;
    return q;
}

Digest ArraysQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << wishes.led << wishes.count.has_value() << wishes.count.value_or(0) << wishes.current.has_value()
      << wishes.current.value_or(0) << wishes.owned;
    return d.digest();
}

Result<ArraysOfDesign> ArraysQuery::compute(const Ask& ask) const {
    auto asked = array_question(ask, design, conditions);
    if (!asked) return asked.error();
    ArraysOfDesign found{std::move(asked).value(), {}};
    ArrayQuestion& q = found.question;
    std::size_t lights = 0, longest = 0;
    const auto strings = led_strings(design.circuit);
    for (const LedString& s : strings) lights += s.leds.size(), longest = std::max(longest, s.leds.size());
    if (!wishes.led.empty() && wishes.led != q.led.text("type")) {
        q.led = {"L1", "led", {}, {}, {}};
        q.led.params["type"] = wishes.led;
    }
    if (wishes.count) q.count = *wishes.count;
    if (wishes.current) q.current = *wishes.current;
    q.owned = wishes.owned;
    if (longest > 0 && lights == static_cast<std::size_t>(q.count) &&
        strings.size() == (lights + longest - 1) / longest)
        found.present = static_cast<int>(longest);
    auto list = arrangements(q);
    if (!list) return list.error();
    found.list = std::move(list).value();
    return found;
}

Result<Design> with_arrangement(const Design& design, const ArrayQuestion& question,
                                const Arrangement& arrangement) {
    if (arrangement.verdict == Arrangement::Verdict::impossible)
        return Error{Fault::usage, arrangement.name(), arrangement.reason, "a possible arrangement"};
    const Part* source = design.circuit.source();
    if (!source) return Error{Fault::design, "circuit", "it has no source", "cells or a supply"};
    if (const auto block = lights_block(design); block && is(*source, Role::cells)) {
        Variant wanted{arrangement.name(), goals_of(design, design.blocks[*block]), !question.owned.empty()};
        wanted.goals.values["led"] = question.led.text("type");
        wanted.goals.values["count"] = static_cast<double>(question.count);
        wanted.goals.values["per_string"] = static_cast<double>(arrangement.per_string);
        wanted.goals.values["current"] = question.current;
        wanted.goals.values["limiter"] =
            std::string(arrangement.strings.front().resistance > 0 ? "string" : "none");
        return with_variant(design, *block, wanted, question.owned);
    }
    StringBuilder builder(design.circuit, *source, question.led);
    for (const AlikeStringsOfArray& s : arrangement.strings) builder.add(s);
    return with_circuit(design, builder.take());
}

}  // namespace elkit
