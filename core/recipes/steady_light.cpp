#include "recipes/steady_light.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "catalogue/catalogue.hpp"
#include "recipes/sketch.hpp"
#include "recipes/string_resistor.hpp"

namespace elkit {
namespace {

std::vector<int> lengths_of(const Goals& g) {
    return string_lengths(static_cast<int>(g.number("count")), static_cast<int>(g.number("per_string")));
}

/// What the recipe asks of one resistor.
Result<ResistorAnswer> size_resistor(const Goals& goals, int leds, const Environment& environment) {
    auto series = parse_series(goals.text("series"));
    if (!series) return series.error();
    StringQuestion q;
    q.source = source_of(goals, environment);
    q.led = {"L1", "led", {}, {}, {}};
    q.led.params["type"] = goals.text("led");
    q.leds = leds;
    q.led_current = goals.number("current");
    q.total = q.led_current * static_cast<double>(lengths_of(goals).size());
    q.current = goals.text("limiter") == "shared" ? q.total : q.led_current;
    q.contact = goals.text("switch") == "yes" ? Part{"S1", "switch", {}, {}, {}}.number("on_resistance") : 0;
    q.series = series.value(), q.owned = environment.owned;
    q.rounding = goals.text("rounding") == "nearest" ? Rounding::nearest : Rounding::under;
    return size_string(q);
}

/// Every string gets the goal's current, to what rounding and the cells' and LEDs' models leave: an E24 step
/// is 10 %, and as much again is bench practice.
std::vector<Expectation> expect(const Goals& g) {
    std::vector<Expectation> all;
    const auto lengths = lengths_of(g);
    const bool unequal = g.text("limiter") == "shared" && lengths.front() != lengths.back();
    if (g.text("limiter") == "none" || unequal) return all;
    const double target = g.number("current");
    int led = 1, index = 1;
    for (const int length : lengths) {
        all.push_back({fmt::format("current of string {}", index++), fmt::format("part:L{}", led), target,
                       0.8 * target, 1.2 * target});
        led += length;
    }
    return all;
}

class LightsBuilder {
  public:
    LightsBuilder(const Goals& goals, const Environment& environment)
        : goals_(goals), environment_(environment) {}

    Result<Sized> build() {
        out_.parts.push_back(source_of(goals_, environment_));
        std::string feed = "V+";
        if (goals_.text("switch") == "yes") {
            out_.parts.push_back({"S1", "switch", {}, {{"a", "V+"}, {"b", "LAMP"}}, {}});
            feed = "LAMP";
        }
        const auto lengths = lengths_of(goals_);
        if (goals_.text("limiter") == "shared") {
            if (auto added = add_resistor(lengths.front(), feed, "LEDS"); !added) return added.error();
            feed = "LEDS";
        }
        for (std::size_t s = 0; s < lengths.size(); ++s)
            if (auto added = add_string(static_cast<int>(s) + 1, lengths[s], feed); !added)
                return added.error();
        out_.expected = expect(goals_);
        return std::move(out_);
    }

  private:
    Result<void> add_resistor(int leds, const std::string& from, const std::string& to) {
        auto sized = size_resistor(goals_, leds, environment_);
        if (!sized) return sized.error();
        const ResistorAnswer& a = sized.value();
        const std::string name = fmt::format("R{}", ++resistors_);
        Part r{name, "resistor", {}, {{"a", from}, {"b", to}}, {}};
        r.params["value"] = a.value;
        if (a.rating > 0.25) r.params["rating"] = a.rating;
        out_.figures[name + ".value"] = {
            "recipe." + name, "series resistor " + name, a.value, Unit::ohm, {}, {}, a.working};
        out_.parts.push_back(std::move(r));
        return success();
    }

    Result<void> add_string(int index, int leds, const std::string& feed) {
        std::string net = feed;
        if (goals_.text("limiter") == "string") {
            net = fmt::format("A{}", index);
            if (auto added = add_resistor(leds, feed, net); !added) return added.error();
        }
        for (int k = 1; k <= leds; ++k) {
            const std::string next =
                k == leds ? "GND"
                          : fmt::format("M{}{}", index,
                                        leds > 2 ? std::string(1, static_cast<char>('a' + k - 1)) : "");
            Part led{fmt::format("L{}", ++leds_), "led", {}, {{"a", net}, {"k", next}}, {}};
            led.params["type"] = goals_.text("led");
            out_.parts.push_back(std::move(led));
            net = next;
        }
        return success();
    }

    const Goals& goals_;
    const Environment& environment_;
    Sized out_;
    int resistors_ = 0, leds_ = 0;
};

std::vector<Variant> variants(const Goals& g, const Environment&) {
    if (g.text("limiter") == "none") return {};
    std::vector<Variant> all{{"nearest", g, false}, {"never above", g, false}, {"in the drawer", g, true}};
    all[0].goals.values["rounding"] = std::string("nearest");
    all[1].goals.values["rounding"] = std::string("under");
    return all;
}

/// A cell that does not limit itself wants a resistor.
Goals suited(Goals g) {
    const CellType* cell = known_catalogue().cell(g.text("cell"));
    if (cell && !cell->limits_itself && g.text("limiter") == "none")
        g.values["limiter"] = std::string("string");
    return g;
}

}  // namespace

std::vector<int> string_lengths(int count, int per_string) {
    const int per = std::clamp(per_string, 1, std::max(1, count));
    std::vector<int> lengths(static_cast<std::size_t>(std::max(1, count) / per), per);
    if (std::max(1, count) % per) lengths.push_back(std::max(1, count) % per);
    return lengths;
}

Recipe steady_light() {
    Recipe r = declared_recipe("steady-light").value();
    r.size = [](const Goals& g, const Environment& e) { return LightsBuilder(g, e).build(); };
    r.variants = variants, r.suited = suited;
    r.works_at = [](const Goals& g) { return g.text("limiter") != "none"; };
    return r;
}

}  // namespace elkit
