#include "situations/words.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <map>
#include <sstream>

#include "circuit/part_kind.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"

namespace elkit {
namespace {

constexpr double latest = 1e6;  // s

std::string event_text(const HandEvent& e) {
    return fmt::format("{} s {} {}", format_plain(e.time), e.part, e.on ? "on" : "off");
}

}  // namespace

std::string events_text(const std::vector<HandEvent>& events) {
    std::vector<std::string> words;
    words.reserve(events.size());
    for (const HandEvent& e : events) words.push_back(event_text(e));
    return fmt::format("{}", fmt::join(words, "; "));
}

std::string situation_text(const Situation& s) {
    const Conditions usual, &c = s.conditions;
    std::vector<std::string> words;
    if (s.battery) words.push_back(fmt::format("battery {:.0f} %", 100 * *s.battery));
    if (c.celsius != usual.celsius) words.push_back(format_quantity(c.celsius, Unit::celsius));
    if (c.lux != usual.lux) words.push_back(format_plain(c.lux) + " lx");
    if (c.infrared != usual.infrared) words.push_back(format_plain(c.infrared) + " W/m² infrared");
    for (const auto& [name, on] : c.switches) words.push_back(name + (on ? " on" : " off"));
    for (const auto& [name, at] : c.knobs) words.push_back(fmt::format("{} at {:.0f} %", name, 100 * at));
    for (const auto& [name, level] : c.levels) words.push_back(name + " = " + format_plain(level));
    for (const auto& [name, t] : c.warmth) words.push_back(name + " at " + format_quantity(t, Unit::celsius));
    for (const HandEvent& e : c.events) words.push_back(event_text(e));
    if (c.moment > 0) words.push_back("looked at " + format_quantity(c.moment, Unit::second) + " later");
    return fmt::format("{}", fmt::join(words, "; "));
}

std::string situation_orders(const Circuit& circuit, const Situation& situation) {
    const Conditions& c = situation.conditions;
    std::string orders;
    const auto say = [&](const std::string& order) { orders += (orders.empty() ? "" : " ") + order; };
    const auto last_event = [&](const std::string& part) -> const HandEvent* {
        const HandEvent* last = nullptr;
        for (const HandEvent& e : c.events)
            if (e.part == part) last = &e;
        return last;
    };
    for (const Part& part : circuit.parts) {
        const std::string& d = part.designator;
        const PartKind* kind = part_kind(part.kind);
        const HandEvent* last = last_event(d);
        if (is(part, Role::momentary)) {
            const auto set = c.switches.find(d);
            if (last ? last->on : set != c.switches.end() && set->second)
                say("Hold " + d + ".");
            else if (last)
                say("Press " + d + " and let go.");
        } else if (is(part, Role::stays)) {
            const bool two_ways = !kind->joined_open.empty(), on = c.after_events().closed(part);
            if (two_ways && on != closed_as_drawn(part)) say("Move " + d + (on ? " to b." : " to a."));
            if (!two_ways) say("Switch " + d + (on ? " on." : " off."));
        } else if (const auto at = c.knobs.find(d); at != c.knobs.end()) {
            say(fmt::format("Turn {} to {:.0f} %.", d, 100 * at->second));
        }
        if (const auto own = c.warmth.find(d); own != c.warmth.end())
            say(fmt::format("{} {} to {}.", own->second > c.celsius ? "Warm" : "Cool", d,
                            format_quantity(own->second, Unit::celsius)));
    }
    const Conditions usual;
    if (any(circuit, Role::light_sensor) && c.lux != usual.lux)
        say(c.lux < 1 ? "Keep the light sensor in the dark."
                      : fmt::format("Give the light sensor about {} lx.", format_plain(c.lux)));
    if (any(circuit, Role::sensor) && c.celsius != usual.celsius)
        say(fmt::format("At {}.", format_quantity(c.celsius, Unit::celsius)));
    if (c.moment > 0) say(fmt::format("Look {} later.", format_quantity(c.moment, Unit::second)));
    return orders;
}

std::string day_text(const std::vector<DayUse>& use, const std::string& situation) {
    for (const DayUse& u : use)
        if (u.situation == situation) {
            if (u.times > 0) return format_plain(u.times) + " × " + format_plain(u.seconds) + " s";
            return u.rest() ? "rest" : format_plain(u.hours) + " h";
        }
    return {};
}

Result<std::optional<DayUse>> read_day(const std::string& text, const std::string& situation) {
    const auto begin = text.find_first_not_of(' ');
    if (begin == std::string::npos) return std::optional<DayUse>();
    const std::string word = text.substr(begin, text.find_last_not_of(' ') - begin + 1);
    DayUse use;
    use.situation = situation;
    if (word == "rest") return std::optional(use);
    const Error bad{Fault::usage, "a day", "found \"" + word + "\"",
                    "such as 4 h, 30 × 20 s, 10 min or rest"};
    std::size_t at = std::string::npos, width = 0;
    for (const std::string_view sign : {"×", "x", "*"})
        if (const auto found = word.find(sign); found != std::string::npos && at == std::string::npos)
            at = found, width = sign.size();
    if (at != std::string::npos) {
        auto times = parse_quantity(word.substr(0, at), Unit::none);
        auto seconds = parse_quantity(word.substr(at + width), Unit::second);
        if (!times || !seconds || !(times.value() > 0) || !(seconds.value() > 0)) return bad;
        use.times = times.value(), use.seconds = seconds.value();
    } else {
        auto seconds = parse_quantity(word, Unit::second);
        auto hours = parse_quantity(word, Unit::hour);
        if (!seconds && !hours) return bad;
        use.hours = hours ? hours.value() : seconds.value() / 3600;
        if (!(use.hours > 0)) return bad;
    }
    if (use.share() > 1)
        return Error{Fault::usage, "a day", "\"" + word + "\" is more than a day", "24 h at most"};
    return std::optional(use);
}

Result<HandEvent> read_event(const std::string& text, const Circuit& circuit) {
    const Error bad{Fault::usage, "event \"" + text + "\"", "cannot be read",
                    "a time, what a hand does and to which contact, such as \"1s press S2\""};
    std::istringstream in(text);
    std::vector<std::string> words;
    for (std::string word; in >> word;) words.push_back(word);
    if (words.size() == 4) words[0] += words[1], words.erase(words.begin() + 1);  // "1 s"
    if (words.size() != 3) return bad;
    auto at = parse_quantity(words[0], Unit::second);
    if (!at || at.value() < 0 || at.value() > latest) return bad;
    static const std::map<std::string, bool> verbs{{"press", true},    {"close", true}, {"on", true},
                                                   {"release", false}, {"open", false}, {"off", false}};
    const bool verb_first = verbs.contains(words[1]);
    const std::string &verb = words[verb_first ? 1 : 2], &name = words[verb_first ? 2 : 1];
    const Part* part = circuit.find(name);
    if (!verbs.contains(verb) || !part || !is(*part, Role::contact)) return bad;
    return HandEvent{at.value(), name, verbs.at(verb)};
}

Result<std::vector<HandEvent>> read_events(const std::string& text, const Circuit& circuit) {
    std::vector<HandEvent> events;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ';');) {
        if (one.find_first_not_of(' ') == std::string::npos) continue;
        auto event = read_event(one, circuit);
        if (!event) return event.error();
        events.push_back(std::move(event).value());
    }
    std::stable_sort(events.begin(), events.end(),
                     [](const HandEvent& a, const HandEvent& b) { return a.time < b.time; });
    return events;
}

}  // namespace elkit
