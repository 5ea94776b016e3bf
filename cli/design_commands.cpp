// The design itself: check, op, size, do, and the tables of what there is.
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>
#include <iostream>

#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "command/command.hpp"
#include "design/clean.hpp"
#include "design/delta.hpp"
#include "design/file.hpp"
#include "design/situation_file.hpp"
#include "embedded.hpp"
#include "engine/queries.hpp"
#include "formats/parts_reference.hpp"
#include "recipes/blocks.hpp"
#include "review/findings.hpp"
#include "situations/afterglow.hpp"
#include "situations/propose.hpp"
#include "situations/words.hpp"
#include "situations/worst.hpp"

namespace elkit::cli {
namespace {

std::string severity_name(Severity s) {
    return s == Severity::error ? "error" : (s == Severity::warning ? "warning" : "note");
}

int check(const Options& o) {
    if (!is_demo(o)) {
        auto text = read_file(o.file);
        if (!text) return fail(text.error());
        auto errors = design_errors(text.value());
        if (errors.empty()) errors = schema_errors(text.value());
        constexpr std::size_t most = 100;  // told one by one
        for (std::size_t k = 0; k < std::min(errors.size(), most); ++k)
            fail({errors[k].fault, o.file + ", " + errors[k].place, errors[k].found, errors[k].expected});
        if (errors.size() > most)
            fail({Fault::design, o.file, fmt::format("has {} more errors", errors.size() - most), ""});
        if (!errors.empty()) return 1;
    }
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto drawer = drawer_items(o);
        if (!drawer) return fail(drawer.error());
        Store store;
        bool bad = false;
        Json list = Json::array();
        for (const Finding& f : review(Ask(store), design, c, drawer.value())) {
            bad = bad || (f.severity == Severity::error && f.known.empty());
            Json remedies = Json::array();
            for (std::size_t k = 0; k < f.remedies.size(); ++k)
                remedies.push_back({{"number", k + 1}, {"label", f.remedies[k].label}});
            list.push_back({{"id", f.id},
                            {"severity", severity_name(f.severity)},
                            {"title", f.title},
                            {"detail", f.detail},
                            {"station", f.station},
                            {"ref", f.ref},
                            {"situation", f.situation},
                            {"remedies", remedies},
                            {"known", f.known}});
            if (!o.json)
                fmt::print("{:<8} {}{}\n         {}\n", f.known.empty() ? severity_name(f.severity) : "known",
                           f.title, f.situation.empty() ? "" : " (" + f.situation + ")",
                           f.known.empty() ? f.detail : "because " + f.known);
        }
        if (o.json) print_json({{"name", design.name}, {"findings", list}});
        return bad ? 1 : 0;
    });
}

int situations(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions& now) {
        Store store;
        const Ask ask(store);
        const Keyed<Circuit> circuit(design.circuit);
        std::vector<Situation> all = situations_of(ask, design, circuit);
        if (all.empty()) {
            const auto why = ask(ProposalsQuery{circuit});
            return why ? 0 : fail(why.error());
        }
        if (const auto worst = ask(WorstQuery{circuit, all}))
            all.insert(all.end(), worst->begin(), worst->end());
        Json list = Json::array();
        for (const Situation& s : all) {
            const auto run = ask(RunQuery(circuit, s.under(now)));
            const bool lit = run && is_lit(*circuit, run->mean());
            if (!o.json) {
                std::string what = situation_text(s);
                if (const std::string more = lit ? afterglow_text(ask, circuit, s) : ""; !more.empty())
                    what += (what.empty() ? "" : "; ") + more;
                fmt::print(
                    "{:<28} {:<12} {}\n", s.name,
                    run ? format_quantity(run->mean().supply_current(), Unit::ampere) : run.error().found,
                    what);
                continue;
            }
            Json one = write_situation(s);
            if (const auto glow = ask(AfterglowQuery{circuit, s.under({})}); lit && glow && glow->has_value())
                one["afterglow_s"] = number(**glow);
            if (run) one["supply_current_A"] = number(run->mean().supply_current());
            if (!run) one["error"] = run.error().text();
            list.push_back(std::move(one));
        }
        if (o.json) print_json({{"name", design.name}, {"situations", list}});
        return 0;
    });
}

/// The state that Newton finds, if the circuit stays in it when it is let go; else the one it comes to from
/// power-up.
Result<OperatingPoint> stable_rest(const Circuit& circuit, const Conditions& c) {
    auto found = operating_point(circuit, known_catalogue(), c);
    if (!found || (!may_latch(circuit) && !may_move(circuit)) || !c.events.empty()) return found;
    if (stable_state(circuit, known_catalogue(), c, found.value())) return found;
    if (auto powered = state_from_power_up(circuit, known_catalogue(), c))
        if (stable_state(circuit, known_catalogue(), c, powered.value())) return powered;
    return Error{Fault::design, "circuit", "has no stable state of rest: it goes on moving",
                 "elkit-cli steady, which tells what it does in the long run"};
}

/// The state of rest that was asked for: 0 a stable one, 1 the one from power-up, then a latch's others.
Result<OperatingPoint> state_of_rest(const Design& design, const Conditions& c, int state) {
    if (state == 0) return stable_rest(design.circuit, c);
    auto all = operating_points(design.circuit, known_catalogue(), c);
    if (!all) return all.error();
    if (static_cast<std::size_t>(state) > all.value().size())
        return Error{Fault::usage, "--state " + std::to_string(state), "there is no such state of rest",
                     "1 to " + std::to_string(all.value().size())};
    return all.value()[static_cast<std::size_t>(state - 1)];
}

int op(const Options& o, int state) {
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto solved = state_of_rest(design, c, state);
        if (!solved) return fail(solved.error());
        const OperatingPoint& p = solved.value();
        if (p.oscillates)
            return fail({Fault::design, "circuit", "has no state of rest: it goes on switching",
                         "elkit-cli steady, which tells what it does in the long run"});
        Json nets = Json::object(), parts = Json::object();
        for (std::size_t i = 0; i < p.nets.size(); ++i) nets[p.nets[i]] = {{"V", p.voltages[i]}};
        for (const auto& s : p.parts)
            parts[s.designator] = {{"A", s.current}, {"V", s.voltage}, {"W", s.power()}};
        if (o.json)
            return print_json({{"nets", nets},
                               {"parts", parts},
                               {"residual_A", p.residual},
                               {"iterations", p.iterations}}),
                   0;
        for (std::size_t i = 0; i < p.nets.size(); ++i)
            fmt::print("{:<12} {}\n", p.nets[i], format_quantity(p.voltages[i], Unit::volt, 4));
        for (const auto& s : p.parts)
            fmt::print("{:<12} {:>10} {:>10} {:>10}\n", s.designator,
                       format_quantity(s.current, Unit::ampere), format_quantity(s.voltage, Unit::volt),
                       format_quantity(s.power(), Unit::watt));
        return 0;
    });
}

int size(const Options& o, bool anew, bool write) {
    if (auto file = check_file_to_write(o); write && !file) return fail(file.error());
    return with_design(o, [&](const Design& design, const Conditions&) {
        if (design.blocks.empty())
            return fail({Fault::design, "/blocks", "there are no goals to size from", "a block of a recipe"});
        Design sized = design;
        for (std::size_t k = 0; k < design.blocks.size(); ++k) {
            if (anew) sized.blocks[k].by_hand.clear();
            auto next = with_goals(sized, k, goals_of(sized, sized.blocks[k]));
            if (!next) return fail(next.error());
            sized = std::move(next).value();
        }
        return put_back(o, sized, write);
    });
}

int remedy(const Options& o, const std::string& id, std::size_t number, bool write) {
    if (auto file = check_file_to_write(o); write && !file) return fail(file.error());
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto drawer = drawer_items(o);
        if (!drawer) return fail(drawer.error());
        Store store;
        const std::vector<Finding> all = review(Ask(store), design, c, drawer.value());
        const auto found = std::find_if(all.begin(), all.end(), [&](const Finding& f) { return f.id == id; });
        if (found == all.end())
            return fail({Fault::usage, id, "is no finding of this design", "an id that check --json prints"});
        if (number == 0 || number > found->remedies.size())
            return fail({Fault::usage, "--number " + std::to_string(number), "there is no such remedy",
                         found->remedies.empty() ? "a finding with remedies"
                                                 : "1 to " + std::to_string(found->remedies.size())});
        auto next = found->remedies[number - 1].apply(design);
        if (!next) return fail(next.error());
        return put_back(o, next.value(), write);
    });
}

int change(const Options& o, const std::string& words, bool write) {
    if (auto file = check_file_to_write(o); write && !file) return fail(file.error());
    return with_design(o, [&](const Design& design, const Conditions& c) {
        auto command = parse_command(words, design, c);
        if (!command) return fail(command.error());
        if (!command.value().design)
            return fail(
                {Fault::usage, words, "this changes nothing in the design", "an edit such as r1 = 82"});
        fmt::print(stderr, "{}\n", command.value().preview);
        return put_back(o, *command.value().design, write);
    });
}

int clean(const Options& o, bool write) {
    if (auto file = check_file_to_write(o); write && !file) return fail(file.error());
    auto text = read_file(o.file);
    if (!text) return fail(text.error());
    auto cleaned = cleaned_design(text.value());
    if (!cleaned) return fail(cleaned.error());
    for (const std::string& change : cleaned.value().changes) std::cerr << one_line(change) << "\n";
    return put_back(o, cleaned.value().design, write);
}

}  // namespace

std::vector<Command> design_commands() {
    return {
        plain("check", "schema, connectivity and findings", {add_conditions, add_drawer}, check),
        plain("situations", "the states of the gadget's life, and the current it takes in each",
              {add_conditions}, situations),
        {"op", "net voltages, part currents and power",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_conditions});
             const auto state = std::make_shared<int>(0);
             sub.add_option("--state", *state, "of a latch: 1 from power-up, 2 … the others")
                 ->check(within(1, 100));
             return [o, state] { return op(*o, *state); };
         }},
        {"size", "runs the recipes again; prints the design",
         [](CLI::App& sub) {
             const auto o = options(sub, {});
             const auto anew = std::make_shared<bool>(false), write = std::make_shared<bool>(false);
             sub.add_flag("--anew", *anew, "also what was set by hand");
             sub.add_flag("--write", *write, "into the file instead");
             return [=] { return size(*o, *anew, *write); };
         }},
        {"do", "one change in plain words, such as \"r1 = 82\"; prints the design",
         [](CLI::App& sub) {
             const auto o = options(sub, {});
             const auto words = std::make_shared<std::string>();
             const auto write = std::make_shared<bool>(false);
             sub.add_option("WORDS", *words, "the change")->required();
             sub.add_flag("--write", *write, "into the file instead");
             return [=] { return change(*o, *words, *write); };
         }},
        {"remedy", "does what a finding proposes; prints the design",
         [](CLI::App& sub) {
             const auto o = options(sub, {});
             add_drawer(sub, *o);
             const auto id = std::make_shared<std::string>();
             const auto number = std::make_shared<std::size_t>(1);
             const auto write = std::make_shared<bool>(false);
             sub.add_option("ID", *id, "of the finding, as check --json prints it")->required();
             sub.add_option("--number", *number, "which of its remedies, 1 the first");
             sub.add_flag("--write", *write, "into the file instead");
             return [=] { return remedy(*o, *id, *number, *write); };
         }},
        {"clean", "puts names and texts from elsewhere right; prints the design",
         [](CLI::App& sub) {
             const auto o = options(sub, {});
             const auto write = std::make_shared<bool>(false);
             sub.add_flag("--write", *write, "into the file instead");
             return [=] { return clean(*o, *write); };
         }},
        printing("rules", "the table of findings as Markdown", rules_markdown),
        printing("parts", "every kind of part and its parameters as Markdown", parts_markdown),
        printing("schema", "the JSON schema of design files", design_schema),
    };
}

}  // namespace elkit::cli
