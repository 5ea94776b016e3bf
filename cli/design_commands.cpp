// The design itself: check, op, size, do, and the tables of what there is.
#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "command/command.hpp"
#include "design/clean.hpp"
#include "design/delta.hpp"
#include "design/file.hpp"
#include "embedded.hpp"
#include "engine/queries.hpp"
#include "formats/parts_reference.hpp"
#include "recipes/blocks.hpp"
#include "review/findings.hpp"

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
            list.push_back({{"id", f.id},
                            {"severity", severity_name(f.severity)},
                            {"title", f.title},
                            {"detail", f.detail},
                            {"station", f.station},
                            {"ref", f.ref},
                            {"known", f.known}});
            if (!o.json)
                fmt::print("{:<8} {}\n         {}\n", f.known.empty() ? severity_name(f.severity) : "known",
                           f.title, f.known.empty() ? f.detail : "because " + f.known);
        }
        if (o.json) print_json({{"name", design.name}, {"findings", list}});
        return bad ? 1 : 0;
    });
}

/// The state of rest that was asked for: 0 the one that Newton finds, 1 the one from power-up, then a latch's
/// others.
Result<OperatingPoint> state_of_rest(const Design& design, const Conditions& c, int state) {
    if (state == 0) return operating_point(design.circuit, built_in_catalogue(), c);
    auto all = operating_points(design.circuit, built_in_catalogue(), c);
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

int put_back(const Options& o, const Design& design, bool write) {
    if (!write) return std::cout << write_design(design), 0;
    if (auto sound = check_writable(design); !sound) return fail(sound.error());
    auto saved = save_design(design, o.file);
    return saved ? 0 : fail(saved.error());
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
