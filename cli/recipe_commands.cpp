// Recipes: what there is, one from its goals, one more block in a design, one less.
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "circuit/part_words.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "command/command.hpp"
#include "design/delta.hpp"
#include "design/file.hpp"
#include "drawer/values.hpp"
#include "formats/svg.hpp"
#include "power/plain_cells.hpp"
#include "recipes/measured.hpp"
#include "recipes/variants.hpp"
#include "recipes/ways_out.hpp"

namespace elkit::cli {
namespace {

using Said = std::map<std::string, ParamValue>;

struct RecipeOptions {
    Options common;
    std::string name, out, picture;
    std::vector<std::string> goals, joins;
    bool explain = false, owned = false, write = false;
};

Result<const Recipe*> recipe_named(const std::string& id) {
    if (const Recipe* recipe = find_recipe(id)) return recipe;
    std::vector<std::string> ids;
    for (const Recipe& each : recipes()) ids.push_back(each.id);
    return Error{Fault::usage, id, "there is no such recipe", fmt::format("{}", fmt::join(ids, ", "))};
}

/// "warn=3.6V" and more.
Result<Said> goals_typed(const Recipe& recipe, const std::vector<std::string>& typed) {
    Said said;
    for (const std::string& one : typed) {
        const auto gap = one.find('=');
        const GoalInfo* goal = recipe.goal(one.substr(0, gap));
        if (!goal || gap == std::string::npos) {
            std::vector<std::string> keys;
            for (const GoalInfo& each : recipe.goals) keys.push_back(each.info.key);
            return Error{Fault::usage, "goals", "\"" + one + "\" is no goal",
                         fmt::format("one of {}, with = and its value", fmt::join(keys, ", "))};
        }
        auto value = goal_value(*goal, one.substr(gap + 1), goal->info.key);
        if (!value) return value.error();
        said[goal->info.key] = value.value();
    }
    return said;
}

/// "RUN=OUT" and more.
Result<Joins> joins_typed(const std::vector<std::string>& typed) {
    Joins joins;
    for (const std::string& one : typed) {
        const auto gap = one.find('=');
        if (gap == std::string::npos || gap == 0)
            return Error{Fault::usage, "--join", "\"" + one + "\"",
                         "the recipe's net, = and a net of the design, such as RUN=OUT"};
        joins[one.substr(0, gap)] = one.substr(gap + 1);
    }
    return joins;
}

int list(const RecipeOptions& o) {
    Json all = Json::array();
    for (const Recipe& r : recipes()) {
        all.push_back({{"id", r.id}, {"name", r.name}, {"intent", r.intent}, {"about", r.about}});
        if (!o.common.json) fmt::print("{:<18} make it {}: {}\n", r.id, r.intent, r.about);
    }
    if (o.common.json) print_json({{"recipes", all}});
    return 0;
}

/// The error of sizing, with what would work in place of what was asked.
int refused(const Error& error, const Recipe& recipe, const Goals& goals, const Environment& environment) {
    const int code = fail(error);
    for (const WayOut& way : ways_out(recipe, goals, environment))
        fmt::print(stderr, "would work: {} ({}={})\n", way.label, way.key,
                   std::holds_alternative<double>(way.value)
                       ? format_quantity(std::get<double>(way.value), recipe.goal(way.key)->info.unit)
                       : std::get<std::string>(way.value));
    return code;
}

void explain_goals(const Recipe& recipe, const Goals& goals) {
    fmt::print("make it {}: {}\n\ngoals\n", recipe.intent, recipe.about);
    for (const GoalInfo& g : recipe.goals) {
        const std::string choices =
            g.info.choices.empty() ? "" : fmt::format(" ({})", fmt::join(g.info.choices, ", "));
        fmt::print("  {:<12} {:<22} {}{}\n", g.info.key, goal_text(g, goals.values.at(g.info.key)),
                   g.info.meaning, choices);
    }
    for (const RecipeNet& joint : recipe.takes)
        fmt::print("  hangs on another block: --join {}=NET ({})\n", joint.net, joint.label);
    for (const RecipeNet& joint : recipe.offers) fmt::print("  offers {} ({})\n", joint.net, joint.label);
    fmt::print("\n");
}

Json measured_json(const Measured& m) {
    Json j = figure_json(m.found);
    j["asked"] = m.asked.target, j["met"] = m.met;
    if (!m.trouble.empty()) j["trouble"] = m.trouble;
    return j;
}

int write_picture(const Recipe& recipe, const Goals& goals, const Environment& drawer,
                  const std::string& file) {
    if (!recipe.picture)
        return fail(
            {Fault::usage, "--picture", "this recipe has none", "one that has, such as cell-booster"});
    const auto picture = recipe.picture(goals, drawer);
    if (!picture) return fail(picture.error());
    auto written = write_file(file, write_svg(picture.value()));
    return written ? 0 : fail(written.error());
}

/// A booster's light beside the same on more cells.
Json beside_plain_cells(const Ask& ask, const Design& design, std::size_t block, bool print) {
    Json all = Json::array();
    if (!boosts(design, block)) return all;
    const auto rows = ask(PlainCellsQuery(design, block, {}));
    if (!rows) return all;
    if (print)
        fmt::print("\nbeside plain cells\n  {:<26} {:>9} {:>12} {:>12} {:>12} {:>12} {:>12}\n", "", "light",
                   "tenth left", "lasts", "a cell", "into light", "stays");
    for (const CellsRow& r : *rows) {
        all.push_back({{"cells", r.name},
                       {"trouble", r.reason},
                       {"light", figure_json(r.light)},
                       {"tenth_left", figure_json(r.late_light)},
                       {"run_time", figure_json(r.run_time)},
                       {"each_cell", figure_json(r.per_cell)},
                       {"efficiency", figure_json(r.efficiency)},
                       {"efficiency_half_empty", figure_json(r.late_efficiency)},
                       {"stays", figure_json(r.left)}});
        if (print && r.reason.empty())
            fmt::print("  {:<26} {:>9} {:>12} {:>12} {:>12} {:>12} {:>12}\n", r.name, r.light.text(),
                       r.late_light.text(), r.run_time.text(), r.per_cell.text(), r.efficiency.text(),
                       r.left.text());
        else if (print)
            fmt::print("  {:<26} {}\n", r.name, r.reason);
    }
    return all;
}

/// What came out: parts, the recipe's own numbers, the engine's.
int tell(const RecipeOptions& o, const Recipe& recipe, const Design& design, const Sized& sized,
         const Environment& drawer) {
    Store store;
    const Ask ask(store);
    const std::size_t block = design.blocks.size() - 1;
    const auto checked = ask(MeasuredQuery(design, block, {}));
    if (!checked) return fail(checked.error());
    const auto ways = ask(VariantsQuery(design, block, {}, drawer));
    Json parts = Json::array(), chosen = Json::array(), found = Json::array(), others = Json::array();
    for (const auto& [local, designator] : design.blocks[block].parts) {
        const Part& part = *design.circuit.find(designator);
        parts.push_back({{"part", designator}, {"for", local}, {"what", shop_name(part)}});
    }
    for (const auto& [key, figure] : sized.figures) chosen.push_back(figure_json(figure));
    for (const Figure& figure : sized.results) chosen.push_back(figure_json(figure));
    for (const Measured& m : *checked) found.push_back(measured_json(m));
    if (ways)
        for (const VariantRow& row : *ways)
            others.push_back({{"way", row.variant.label},
                              {"value", row.value.text()},
                              {"found", row.found.label.empty() ? Json(nullptr) : Json(row.found.text())},
                              {"note", row.note},
                              {"chosen", row.chosen}});
    if (o.common.json)
        return print_json({{"recipe", recipe.id},
                           {"parts", parts},
                           {"chosen", chosen},
                           {"engine", found},
                           {"ways", others},
                           {"plain_cells",
                            o.explain ? beside_plain_cells(ask, design, block, false) : Json::array()}}),
               0;
    if (o.explain) explain_goals(recipe, goals_of(design, design.blocks[block]));
    for (const Part& part : design.circuit.parts) fmt::print("{:<5} {}\n", part.designator, shop_name(part));
    fmt::print("\n");
    for (const auto& [key, figure] : sized.figures)
        if (o.explain) print_figure(figure);
    for (const Figure& figure : sized.results) print_figure(figure);
    fmt::print("\nby the engine\n");
    for (const Measured& m : *checked)
        fmt::print("  {:<44} {}{}\n", m.asked.label,
                   m.trouble.empty() ? m.found.text() + " (" + m.found.spread_text() + ")" : m.trouble,
                   m.met ? "" : fmt::format("   expected {}", format_quantity(m.asked.target, m.asked.unit)));
    if (o.explain && !others.empty()) fmt::print("\nother ways\n");
    for (const Json& way : others)
        if (o.explain)
            fmt::print("  {:<18} {:<10} {:<10} {}{}\n", way["way"].get<std::string>(),
                       way["value"].get<std::string>(),
                       way["found"].is_null() ? "" : way["found"].get<std::string>(),
                       way["note"].get<std::string>(), way["chosen"].get<bool>() ? "  (this)" : "");
    if (o.explain) beside_plain_cells(ask, design, block, true);
    return 0;
}

int recipe(const RecipeOptions& o) {
    if (o.name == "list") return list(o);
    auto which = recipe_named(o.name);
    if (!which) return fail(which.error());
    const Recipe& recipe = *which.value();
    auto said = goals_typed(recipe, o.goals);
    if (!said) return fail(said.error());
    auto items = drawer_items(o.common);
    if (!items) return fail(items.error());
    const Environment owned = values_in(items.value()), drawer = o.owned ? owned : Environment{};
    const Goals goals = planned(recipe, said.value(), drawer);
    Design design;
    design.name = recipe.name;
    design.name.front() = static_cast<char>(std::toupper(design.name.front()));
    auto sized = recipe.size(goals, drawer);
    if (!sized) return refused(sized.error(), recipe, goals, drawer);
    auto made = with_block(design, recipe.id, goals, {}, drawer);
    if (!made) return fail(made.error());
    if (!o.picture.empty())
        if (const int code = write_picture(recipe, goals, drawer, o.picture); code || o.out.empty())
            return code;
    if (o.out.empty()) return tell(o, recipe, made.value(), sized.value(), owned);
    if (auto sound = check_writable(made.value()); !sound) return fail(sound.error());
    auto saved = save_design(made.value(), o.out);
    return saved ? 0 : fail(saved.error());
}

int add_block(const RecipeOptions& o) {
    if (auto file = check_file_to_write(o.common); o.write && !file) return fail(file.error());
    auto which = recipe_named(o.name);
    if (!which) return fail(which.error());
    auto said = goals_typed(*which.value(), o.goals);
    if (!said) return fail(said.error());
    auto joins = joins_typed(o.joins);
    if (!joins) return fail(joins.error());
    return with_design(o.common, [&](const Design& design, const Conditions&) {
        auto items = drawer_items(o.common);
        if (!items) return fail(items.error());
        const Environment drawer = o.owned ? values_in(items.value()) : Environment{};
        const Goals goals = planned_in(design, *which.value(), said.value(), drawer);
        auto next = with_block(design, o.name, goals, joins.value(), drawer);
        if (!next) return refused(next.error(), *which.value(), goals, environment_in(design, drawer));
        for (const std::string& line : changed_parts(design, next.value())) fmt::print(stderr, "{}\n", line);
        return put_back(o.common, next.value(), o.write);
    });
}

int remove_block(const Options& o, int number, bool write) {
    if (auto file = check_file_to_write(o); write && !file) return fail(file.error());
    return with_design(o, [&](const Design& design, const Conditions&) {
        auto next = without_block(design, static_cast<std::size_t>(number - 1));
        if (!next)
            return fail({Fault::usage, std::to_string(number), "there is no such block",
                         design.blocks.empty() ? "a design with blocks of recipes"
                                               : fmt::format("1 to {}", design.blocks.size())});
        for (const std::string& line : changed_parts(design, next.value())) fmt::print(stderr, "{}\n", line);
        return put_back(o, next.value(), write);
    });
}

}  // namespace

std::vector<Command> recipe_commands() {
    return {
        {"recipe", "a circuit from goals: list, or a recipe's name",
         [](CLI::App& sub) {
             const auto o = std::make_shared<RecipeOptions>();
             sub.add_option("NAME", o->name, "list, or one of its ids")->required();
             sub.add_option("--goals", o->goals, "what it should do, such as rate=2Hz share=30%");
             sub.add_option("--out", o->out, "a file for the design, in place of the report");
             sub.add_option("--picture", o->picture, "an SVG file to work by, such as how to wind it");
             sub.add_flag("--explain", o->explain, "goals, working and other ways too");
             sub.add_flag("--owned", o->owned, "with values of the drawer only");
             sub.add_flag("--json", o->common.json, "JSON on stdout");
             add_drawer(sub, o->common);
             return [o] { return recipe(*o); };
         }},
        {"block", "one more block of a recipe in a design; prints the design",
         [](CLI::App& sub) {
             const auto o = std::make_shared<RecipeOptions>();
             sub.add_option("FILE", o->common.file, "a design file, or demo:NAME")->required();
             sub.add_option("RECIPE", o->name, "an id that recipe list prints")->required();
             sub.add_option("--set", o->goals, "goals, such as warn=3.6V");
             sub.add_option("--join", o->joins, "hangs on another block: its net = a net there, RUN=OUT");
             sub.add_flag("--owned", o->owned, "with values of the drawer only");
             sub.add_flag("--write", o->write, "into the file instead");
             add_drawer(sub, o->common);
             return [o] { return add_block(*o); };
         }},
        {"unblock", "a block less, with the parts that only it has; prints the design",
         [](CLI::App& sub) {
             const auto o = options(sub, {});
             const auto number = std::make_shared<int>(0);
             const auto write = std::make_shared<bool>(false);
             sub.add_option("NUMBER", *number, "1 the first")->required();
             sub.add_flag("--write", *write, "into the file instead");
             return [=] { return remove_block(*o, *number, *write); };
         }},
    };
}

}  // namespace elkit::cli
