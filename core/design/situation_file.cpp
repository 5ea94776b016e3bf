#include "design/situation_file.hpp"

#include <cmath>

#include "design/json_text.hpp"

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

constexpr double longest_life = 1e6;  // s after power-up
constexpr std::size_t most_events = 1000;

std::map<std::string, double> read_amounts(JsonReader& r, const std::string& key, double low, double high) {
    std::map<std::string, double> amounts;
    r.object(key, [&](JsonReader& list) {
        list.each(
            [&](const std::string& name, const Json&) { amounts[name] = list.number(name, 0, low, high); });
    });
    return amounts;
}

void read_events(JsonReader& r, std::vector<HandEvent>& events) {
    r.list("events", [&](JsonReader& e) {
        for (const char* key : {"at_s", "part", "on"}) e.require(key, "at_s, part and on");
        HandEvent event{e.number("at_s", 0, 0, longest_life), e.name("part"), e.boolean("on", true)};
        if (!events.empty() && event.time < events.back().time)
            e.error("at_s", "is before the event before it", "events in order of time");
        if (const Json unknown = e.rest(); unknown.is_object())  // what it does to the circuit, nobody knows
            e.error(unknown.begin().key(), "an event has nothing of this name", "at_s, part and on");
        if (events.size() == most_events) e.error("at_s", "is one too many", "at most 1000 events");
        if (events.size() < most_events) events.push_back(std::move(event));
    });
}

void write_amounts(Json& j, const char* key, const std::map<std::string, double>& amounts) {
    for (const auto& [name, amount] : amounts) append_key(j[key], name, json_number(amount));
}

}  // namespace

void read_situation(JsonReader& r, Design& design) {
    Situation s;
    r.require("name", "a name such as lit");
    s.name = r.text("name", "", longest_situation);
    for (const Situation& other : design.situations)
        if (other.name == s.name) r.error("name", "a second situation is called " + s.name, "each name once");
    if (r.has("battery")) s.battery = r.number("battery", 1, 0, 1);
    Conditions& c = s.conditions;
    c.as_set = true;
    c.celsius = r.number("temperature", c.celsius, -40, 125);
    c.lux = r.number("lux", c.lux, 0, 2e5);
    c.infrared = r.number("infrared", c.infrared, 0, 1000);
    r.object("switches", [&](JsonReader& list) {
        list.each(
            [&](const std::string& name, const Json&) { c.switches[name] = list.boolean(name, false); });
    });
    c.knobs = read_amounts(r, "knobs", 0, 1);
    c.levels = read_amounts(r, "sources", -1e6, 1e6);
    c.warmth = read_amounts(r, "warmth", -60, 200);
    read_events(r, c.events);
    c.moment = r.number("moment_s", 0, 0, longest_life);
    s.extra = r.rest();
    design.situations.push_back(std::move(s));
}

void read_use(JsonReader& r, Design& design) {
    DayUse use;
    r.require("situation", "the name of a situation");
    use.situation = r.text("situation", "", longest_situation);
    use.hours = r.number("hours_a_day", 0, 0, 24);
    use.times = r.number("times_a_day", 0, 0, 1e6);
    use.seconds = r.number("seconds", 0, 0, 86400);
    use.extra = r.rest();
    design.use.push_back(std::move(use));
}

Json write_situation(const Situation& s) {
    const Conditions usual, &c = s.conditions;
    Json j;
    j["name"] = s.name;
    if (s.battery) j["battery"] = json_number(*s.battery);
    if (c.celsius != usual.celsius) j["temperature"] = json_number(c.celsius);
    if (c.lux != usual.lux) j["lux"] = json_number(c.lux);
    if (c.infrared != usual.infrared) j["infrared"] = json_number(c.infrared);
    for (const auto& [name, on] : c.switches) append_key(j["switches"], name, on);
    write_amounts(j, "knobs", c.knobs), write_amounts(j, "sources", c.levels),
        write_amounts(j, "warmth", c.warmth);
    for (const HandEvent& e : c.events)
        j["events"].push_back({{"at_s", json_number(e.time)}, {"part", e.part}, {"on", e.on}});
    if (c.moment > 0) j["moment_s"] = json_number(c.moment);
    append_extra(j, s.extra);
    return j;
}

Json write_use(const DayUse& use) {
    Json j;
    j["situation"] = use.situation;
    if (use.hours > 0) j["hours_a_day"] = json_number(use.hours);
    if (use.times > 0) j["times_a_day"] = json_number(use.times);
    if (use.seconds > 0 || use.times > 0) j["seconds"] = json_number(use.seconds);
    append_extra(j, use.extra);
    return j;
}

}  // namespace elkit
