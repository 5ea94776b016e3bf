#include "recipes/lamp_switcher.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <cmath>

#include "engine/filament.hpp"
#include "recipes/converted_feed.hpp"
#include "recipes/pin_plan.hpp"
#include "recipes/switching.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double lamp_amps = 0.01;                   // A in an LED lamp, about
constexpr double lamp_low = 0.75, lamp_high = 1.2;   // of the volts that a ready-made lamp is bought for
constexpr double dimmest_share = 0.7;                // of a filament's rated volts, to be of use
constexpr double strip_from = 9, strip_to = 14;      // V that suit a strip of three in series
constexpr double step_press = 0.2, step_wait = 0.6;  // s of the button; after it went down
constexpr double gate_reserve = 3;                   // times the lamps, that the gate has to let through

bool steps_by_press(const Goals& g) { return g.text("effect") == "press"; }
bool by_relays(const Goals& g) { return g.text("by") == "relays"; }
int channels_of(const Goals& g) { return static_cast<int>(std::lround(g.number("channels"))); }
int lamps_in_each(const Goals& g) {
    return g.text("lamp") == "strip" ? 1 : static_cast<int>(std::lround(g.number("count")));
}
int on_at_once(const Goals& g) { return g.text("effect") == "together" ? channels_of(g) : 1; }

Error unsuited(double volts, double low, double high, const char* what) {
    return {Fault::design, "cells", fmt::format("{} do not suit {}", volts_text(volts), what),
            fmt::format("{} to {}", volts_text(low), volts_text(high))};
}

/// A lamp of the kind that is asked for, made for so many volts, without its name and pins.
struct Lamp {
    Part part;
    std::string prefix, plus, minus;
    double amps = 0, surge = 0;  ///< A while lit, and for a moment before
};

Result<Lamp> led_lamp(const Goals& g, double volts) {
    const Lights one{g.text("led"), 1, 1, lamp_amps};
    const auto junction = light_junction(one);
    if (!junction) return junction.error();
    const double across = junction.value().voltage_at(lamp_amps);
    if (!(volts > 1.2 * across)) return unsuited(volts, 1.2 * across, 24, "a lamp of this colour");
    const double ohms = nearest_preferred((volts - across) / lamp_amps, Series::e12);
    const double amps = (volts - across) / ohms;
    Lamp lamp{
        {"", "prewired_led", {{"type", one.type}, {"resistance", ohms}}, {}, {}}, "L", "a", "k", amps, amps};
    lamp.part.params["low"] = std::round(10 * lamp_low * volts) / 10;
    lamp.part.params["high"] = std::round(10 * lamp_high * volts) / 10;
    return lamp;
}

/// The filament lamp for these volts that takes least.
Result<Lamp> filament_lamp(double volts) {
    const PartType* best = nullptr;
    double low = 0, high = 0;
    for (const PartType& type : known_catalogue().types) {
        if (type.kind != "lamp") continue;
        const double rated = type.value("voltage"), most = type.value("max_voltage");
        low = low > 0 ? std::min(low, dimmest_share * rated) : dimmest_share * rated;
        high = std::max(high, most);
        if (volts > most || volts < dimmest_share * rated) continue;
        if (!best || type.value("test_current") < best->value("test_current")) best = &type;
    }
    if (!best) return unsuited(volts, low, high, "a filament lamp of the catalogue");
    const double rated = best->value("test_current"), share = volts / best->value("voltage");
    const double cold = usual_number(*part_kind("lamp"), "filament") / room_in_kelvin;
    return Lamp{{"", "lamp", {{"type", best->id}}, {}, {}},
                "LP",
                "a",
                "b",
                rated * std::pow(share, filament_current_by_volts),
                rated * share * std::pow(cold, filament_resistance_by_heat)};
}

Result<Lamp> lamp_of(const Goals& g, double volts) {
    if (g.text("lamp") == "led") return led_lamp(g, volts);
    if (g.text("lamp") == "filament") return filament_lamp(volts);
    if (volts < strip_from || volts > strip_to) return unsuited(volts, strip_from, strip_to, "a strip");
    Part strip{"", "strip", {{"length", g.number("length")}}, {}, {}};
    const double amps = strip_current(strip, volts);
    return Lamp{std::move(strip), "LS", "+", "-", amps, amps};
}

std::string switching_table(const PinPlan& plan, const Goals& g) {
    std::vector<std::string> pins;
    for (const PinPlan::Use& use : plan.lights) pins.push_back(use.pin);
    const std::string all = fmt::format("{}", fmt::join(pins, " "));
    if (g.text("effect") == "together") return "state lit; " + all + " on";
    if (!steps_by_press(g))
        return pins.size() == 1 ? fmt::format("state goes; {} blink {:.0f}ms", all, 2000 * g.number("every"))
                                : fmt::format("state goes; {} chase {:.0f}ms", all, 1000 * g.number("every"));
    const std::string& button = plan.button->pin;
    std::string table = "state dark; press " + button + " to lit1";
    for (std::size_t k = 0; k < pins.size(); ++k)
        table += fmt::format("; state lit{}; {} on; press {} to {}", k + 1, pins[k], button,
                             k + 1 < pins.size() ? fmt::format("lit{}", k + 2) : "dark");
    return table;
}

/// What switches the lamps, at the board's nets OUT, OUT2 and so on, and the lamps themselves.
class Channels {
  public:
    Channels(Sketch& s, const Goals& g, const Lamp& lamp, const Feed& supply, const Feed& five)
        : s_(s), g_(g), lamp_(lamp), supply_(supply), five_(five) {}
    static std::string numbered(const char* name, int k) { return k == 1 ? name : name + std::to_string(k); }

    void add(int k) {
        const std::string out = numbered("OUT", k), lamps = fmt::format("LAMP{}", k);
        if (by_relays(g_))
            s_.add({fmt::format("Krelay{}", k),
                    "relay_module",
                    {},
                    {{"vcc", five_.net}, {"gnd", "GND"}, {"in", out}, {"common", supply_.net}, {"no", lamps}},
                    {}});
        else
            add_gate(s_, lamps, 100e3, out, k == 1 ? "" : std::to_string(k));
        for (int n = 0; n < lamps_in_each(g_); ++n) {
            Part part = lamp_.part;
            part.designator = lamp_.prefix + std::to_string(++count_);
            part.pins = {{lamp_.plus, by_relays(g_) ? lamps : supply_.net},
                         {lamp_.minus, by_relays(g_) ? "GND" : lamps}};
            s_.add(std::move(part));
        }
    }

  private:
    Sketch& s_;
    const Goals& g_;
    const Lamp& lamp_;
    const Feed &supply_, &five_;
    int count_ = 0;
};

/// Whether a pin opens the MOSFET far enough. Errors as gate_volts(), or that.
Result<void> pin_opens(const PartKind& board, double five, double surge) {
    const double high = board.param("pin_voltage") ? usual_number(board, "pin_voltage") : five;
    const auto needed = gate_volts(switch_mosfet, gate_reserve * surge);
    if (!needed) return needed.error();
    if (high >= needed.value()) return success();
    return Error{
        Fault::design, "by",
        fmt::format("a pin of {} opens the MOSFET for less than {}", volts_text(high), amps_text(surge)),
        fmt::format("{} at its gate, fewer lamps, or relays", volts_text(needed.value()))};
}

Figure total_figure(const Goals& g, const PartKind& board, const Lamp& lamp, double most, double five) {
    const int at_once = on_at_once(g);
    Figure f{"recipe.total", "takes from the supply, at most", most, Unit::ampere, {}, {}, {}};
    f.working.push_back(fmt::format("{} lamp{} of {}", at_once * lamps_in_each(g),
                                    at_once * lamps_in_each(g) == 1 ? "" : "s", amps_text(lamp.amps)));
    f.working.push_back(fmt::format(
        "{} by the {}{}", amps_text(five), board.name,
        by_relays(g) ? fmt::format(" and {} relay module{} that are on", at_once, at_once == 1 ? "" : "s")
                     : std::string()));
    if (g.text("feed") != "direct") f.working.push_back("of 5 V, that a converter makes of the supply");
    if (lamp.surge > 2 * lamp.amps)
        f.working.push_back(
            fmt::format("a cold filament takes {} for some {} ms", amps_text(lamp.surge), 20));
    return f;
}

Result<Sized> size_lamp_switcher(const Goals& g, const Environment& environment) {
    Sketch s(g, environment);
    auto fed = s.feed();
    if (!fed) return fed.error();
    const Feed& supply = fed.value();
    const PartKind &board = *part_kind(g.text("board")), &relay = *part_kind("relay_module");
    const auto lamp = lamp_of(g, supply.fresh.voltage);
    if (!lamp) return lamp.error();
    const double each = lamp.value().amps * lamps_in_each(g), surge = lamp.value().surge * lamps_in_each(g);
    if (const double most = usual_number(relay, "max_current"); by_relays(g) && each > most)
        return Error{Fault::design, "lamps", fmt::format("a relay would carry {}", amps_text(each)),
                     amps_text(most) + " at most"};
    const double coils = by_relays(g)
                             ? on_at_once(g) * usual_number(relay, "active_current") +
                                   (channels_of(g) - on_at_once(g)) * usual_number(relay, "idle_current")
                             : 0;
    const double five_amps = usual_number(board, "active_current") + coils;
    auto five = converted_feed(s, g.text("feed"), board, supply, five_amps, "channels");
    if (!five) return five.error();
    if (!by_relays(g))
        if (auto open = pin_opens(board, five.value().fresh.voltage, surge); !open) return open.error();
    const double lamps = on_at_once(g) * each,
                 most = lamps + before_converter(g.text("feed"), supply, five_amps);
    s.carries(most);
    std::vector<PinPlan::Use> uses;
    for (int k = 1; k <= channels_of(g); ++k)
        uses.push_back({"", fmt::format("{} {}", by_relays(g) ? "relay" : "gate", k),
                        by_relays(g)
                            ? usual_number(board, "highest_supply") / usual_number(relay, "input_resistance")
                            : 0});
    const auto planned = plan_pins(board, uses, false, steps_by_press(g));
    if (!planned) return planned.error();
    const PinPlan& plan = planned.value();
    std::map<std::string, std::string> pins;
    for (int k = 1; k <= channels_of(g); ++k)
        pins[plan.lights[static_cast<std::size_t>(k) - 1].pin] = Channels::numbered("OUT", k);
    if (plan.button) pins[plan.button->pin] = "GO";
    if (auto added = add_controller(s, board, five.value(), switching_table(plan, g), pins); !added)
        return added.error();
    if (steps_by_press(g)) s.button("Sgo", "GO", "GND");
    Channels channels(s, g, lamp.value(), supply, five.value());
    for (int k = 1; k <= channels_of(g); ++k) channels.add(k);
    add_converter(s, g.text("feed"), supply.net, five.value().net);

    const std::string first = lamp.value().prefix + "1";
    Expectation lit{
        "lamp 1", "part:" + first, lamp.value().amps, 0.75 * lamp.value().amps, 1.25 * lamp.value().amps,
        {},       Unit::ampere};
    if (steps_by_press(g))
        lit.presses = {"Sgo"}, lit.pressed = step_press, lit.wait = step_wait, lit.reading = "after";
    s.expect(std::move(lit));
    s.result(total_figure(g, board, lamp.value(), most, five_amps));
    s.result(plan.figure());
    return s.done();
}

Goals complete_lamp_switcher(Goals g, const std::set<std::string>& said, const Environment& environment) {
    if (!environment.source && !said.contains("cell") && !said.contains("cells"))
        g.values["cell"] = std::string("Lead-12V"), g.values["cells"] = 1.0;
    if (!said.contains("feed"))
        if (const double fresh = fresh_volts(g, environment); fresh > 0)
            g.values["feed"] = feed_for(*part_kind(g.text("board")), source_of(g, environment), fresh);
    return g;
}

}  // namespace

Recipe lamp_switcher() {
    Recipe r = declared_recipe("lamp-switcher").value();
    r.size = size_lamp_switcher, r.complete = complete_lamp_switcher;
    return r;
}

}  // namespace elkit
