// Questions that come before a circuit: which arrangement.
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>

#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "light/arrays_of_design.hpp"

namespace elkit::cli {
namespace {

struct ArrayOptions {
    Options common;
    std::string supply, led, current, use;
    int count = 0;
    bool owned = false;
};

/// "3 x LR6" or "12V" as a part.
Result<Part> source_from_words(const std::string& words) {
    Part source{"B1", "battery", {}, {{"+", "V+"}, {"-", "GND"}}, {}};
    const auto times = words.find_first_of("xX");
    int count = 0;
    if (times != std::string::npos && std::sscanf(words.c_str(), "%d", &count) == 1 && count >= 1) {
        std::string cell = words.substr(times + 1);
        cell.erase(0, cell.find_first_not_of(' '));
        for (const CellType& type : known_catalogue().cells)
            if (CLI::detail::to_lower(type.id) == CLI::detail::to_lower(cell)) {
                source.params["cell"] = type.id, source.params["count"] = static_cast<double>(count);
                return source;
            }
        return Error{Fault::usage, "--supply", fmt::format("there is no cell \"{}\"", cell),
                     fmt::format("{}", fmt::join(known_catalogue().ids("cells", {}), ", "))};
    }
    auto volts = quantity_of("--supply", words, Unit::volt);
    if (!volts) return volts.error();
    source.designator = "PS1", source.kind = "supply";
    source.params["voltage"] = volts.value();
    return source;
}

Result<ArraysQuery> question(const ArrayOptions& o) {
    ArraysQuery query{};
    if (!o.common.file.empty()) {
        auto design = load(o.common);
        if (!design) return design.error();
        query.design = std::move(design).value();
    }
    if (!o.supply.empty()) {
        auto source = source_from_words(o.supply);
        if (!source) return source.error();
        query.design = {};
        query.design.circuit.parts = {source.value()};
    }
    query.wishes.led = o.led;
    if (o.count > 0) query.wishes.count = o.count;
    if (!o.current.empty()) {
        auto amps = quantity_of("--current", o.current, Unit::ampere);
        if (!amps) return amps.error();
        query.wishes.current = amps.value();
    }
    if (o.owned) {
        auto drawer = drawer_items(o.common);
        if (!drawer) return drawer.error();
        query.wishes.owned = owned_resistors(drawer.value());
    }
    return query;
}

const char* word_of(Arrangement::Verdict verdict) {
    switch (verdict) {
        case Arrangement::Verdict::sound:
            return "sound";
        case Arrangement::Verdict::doubtful:
            return "doubtful";
        case Arrangement::Verdict::impossible:
            break;
    }
    return "impossible";
}

Json arrangement_json(const Arrangement& a) {
    Json strings = Json::array();
    if (a.verdict != Arrangement::Verdict::impossible)
        for (const AlikeStringsOfArray& s : a.strings)
            strings.push_back({{"strings", s.strings},
                               {"leds", s.leds},
                               {"resistance_ohm", s.resistance},
                               {"rating_W", number(s.rating)},
                               {"current", figure_json(s.current)},
                               {"power", figure_json(s.power)}});
    Json json{{"name", a.name()}, {"per_string", a.per_string}, {"verdict", word_of(a.verdict)},
              {"reason", a.reason}, {"strings", strings}};
    if (a.verdict == Arrangement::Verdict::impossible) return json;
    json["total"] = figure_json(a.total), json["efficiency"] = figure_json(a.efficiency);
    json["half"] = figure_json(a.half), json["flat"] = figure_json(a.flat);
    json["wiring"] = a.wiring;
    return json;
}

void print_arrangement(const Arrangement& a) {
    if (a.verdict == Arrangement::Verdict::impossible)
        return fmt::print("{:<18} not possible: {}\n", a.name(), a.reason);
    const AlikeStringsOfArray& s = a.strings.front();
    fmt::print("{:<18} {:>8} {:>9} {:>12} {:>9} {:>6} {:>6} {:>6}  {}\n", a.name(),
               format_quantity(s.resistance, Unit::ohm), s.current.text(), s.current.spread_text(),
               a.total.text(), a.efficiency.text(2), a.half.text(2), a.flat.text(2), a.reason);
}

int array(const ArrayOptions& o) {
    auto query = question(o);
    if (!query) return fail(query.error());
    Store store;
    const auto found = Ask(store)(query.value());
    if (!found) return fail(found.error());
    if (!o.use.empty()) {
        const auto wanted =
            std::find_if(found->list.begin(), found->list.end(), [&](const Arrangement& a) {
                return a.name() == o.use || fmt::format("{}", a.per_string) == o.use;
            });
        if (wanted == found->list.end())
            return fail({Fault::usage, "--use", "there is no arrangement \"" + o.use + "\"",
                         "a name as it is listed, or the number of LEDs in a string"});
        auto next = with_arrangement(query.value().design, found->question, *wanted);
        if (!next) return fail(next.error());
        std::cout << write_design(next.value());
        return 0;
    }
    if (!o.common.json) {
        fmt::print("{} × {} at {}\n", found->question.count, found->question.led.text("type"),
                   format_quantity(found->question.current, Unit::ampere));
        fmt::print("{:<18} {:>8} {:>9} {:>12} {:>9} {:>6} {:>6} {:>6}\n", "strings × lights", "resistor", "current",
                   "spread", "total", "in LEDs", "half", "flat");
        for (const Arrangement& a : found->list) print_arrangement(a);
        return 0;
    }
    Json list = Json::array();
    for (const Arrangement& a : found->list) list.push_back(arrangement_json(a));
    print_json({{"led", found->question.led.text("type")},
                {"count", found->question.count},
                {"current_A", found->question.current},
                {"arrangements", list}});
    return 0;
}

}  // namespace

std::vector<Command> planning_commands() {
    return {{"array", "all ways to arrange LEDs on a supply, the best first", [](CLI::App& sub) {
                 const auto o = std::make_shared<ArrayOptions>();
                 auto* file = sub.add_option("FILE", o->common.file, "a design whose lights and supply are meant");
                 auto* supply = sub.add_option("--supply", o->supply, "\"3 x LR6\" or \"12V\", in place of a file");
                 supply->excludes(file);
                 sub.add_option("--led", o->led, "LED type, an id of the catalogue");
                 sub.add_option("--count", o->count, "LEDs in all")->check(within(1, 1000));
                 sub.add_option("--current", o->current, "A in each LED, such as 15mA");
                 sub.add_flag("--owned", o->owned, "resistors from the drawer only");
                 sub.add_option("--use", o->use, "prints the design with this arrangement: \"12 × 2\", or 2");
                 sub.add_flag("--json", o->common.json, "JSON on stdout");
                 add_drawer(sub, o->common);
                 return [o, file, supply] {
                     if (file->count() + supply->count() == 0)
                         return fail({Fault::usage, "array", "no supply is given", "a FILE or --supply \"3 x LR6\""});
                     return array(*o);
                 };
             }}};
}

}  // namespace elkit::cli
