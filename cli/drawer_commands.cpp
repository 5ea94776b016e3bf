// drawer list|import|export|count|reserve|use|release
#include <fmt/chrono.h>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <ctime>
#include <iostream>

#include "batch/reserve.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "drawer/drawer.hpp"
#include "drawer/import.hpp"
#include "drawer/search.hpp"
#include "formats/folders.hpp"

namespace elkit::cli {
namespace {

struct DrawerOptions {
    Options common;
    std::string action;
    std::vector<std::string> words;
    bool in_stock = false, low = false, reserved = false, add = false, look = false;
};

Error wrong_use(const std::string& found, const std::string& expected) {
    return {Fault::usage, "drawer", found, expected};
}

Json item_json(const DrawerItem& i) {
    const ItemWords words = words_of_key(i.key);
    return {{"key", i.key},
            {"kind", words.kind},
            {"name", i.name},
            {"value", words.value},
            {"tolerance", words.tolerance},
            {"rating", words.rating},
            {"package", i.package},
            {"stock", i.stock},
            {"reserved", i.reserved},
            {"place", i.place},
            {"pack", i.pack},
            {"price", i.price},
            {"least", i.least},
            {"low", i.low()},
            {"note", i.note},
            {"supplier", i.supplier},
            {"photo", i.photo},
            {"counted", i.counted}};
}

int list_items(const std::vector<DrawerItem>& items, const DrawerOptions& o) {
    const DrawerFilter filter{fmt::format("{}", fmt::join(o.words, " ")), o.in_stock, o.low, o.reserved};
    const auto found = found_items(items, filter);
    if (o.common.json) {
        Json rows = Json::array();
        for (const DrawerItem& item : found) rows.push_back(item_json(item));
        print_json({{"items", rows}});
        return 0;
    }
    for (const DrawerItem& i : found)
        fmt::print("{:>8.6g}{} {}{}{}\n", i.stock, i.low() ? " low" : "    ", i.name,
                   i.place.empty() ? "" : "  [" + i.place + "]",
                   i.reserved.empty() ? "" : fmt::format("  {:.6g} reserved", i.promised()));
    return 0;
}

/// What an import would do, or did, row by row where there is something to say.
void print_plan(const ImportPlan& plan, bool json) {
    constexpr std::array names{"new", "changed", "same", "left out"};
    Json rows = Json::array();
    for (const ImportedRow& row : plan.rows) {
        const char* effect = names[static_cast<std::size_t>(row.effect)];
        if (json)
            rows.push_back(
                {{"line", row.line}, {"effect", effect}, {"key", row.item.key}, {"told", row.told}});
        else if (!row.told.empty())
            fmt::print("row {}: {}{}\n", row.line,
                       row.effect == ImportedRow::Effect::left_out ? "left out: " : "", row.told);
    }
    if (json)
        print_json({{"new", plan.fresh},
                    {"changed", plan.changed},
                    {"same", plan.same},
                    {"left_out", plan.left_out},
                    {"rows", rows}});
    else
        fmt::print("{} new, {} changed, {} as they were, {} left out\n", plan.fresh, plan.changed, plan.same,
                   plan.left_out);
}

int import_table(Drawer& drawer, const std::vector<DrawerItem>& items, const DrawerOptions& o) {
    if (o.words.size() != 1) return fail(wrong_use("no table to read", "drawer import FILE.csv"));
    auto text = read_file(o.words[0], largest_table);
    if (!text) return fail({Fault::file, o.words[0], text.error().found, "a table as CSV"});
    const auto sheet = read_drawer_sheet(text.value());
    if (!sheet) {
        Error error = sheet.error();
        error.place = o.words[0] + ", " + error.place;
        return fail(error);
    }
    const ImportPlan plan = plan_import(sheet.value(), items, o.add ? ImportCounts::add : ImportCounts::set);
    if (!o.look)
        if (auto done = drawer.apply(plan.changes()); !done) return fail(done.error());
    print_plan(plan, o.common.json);
    return 0;
}

int export_table(const std::vector<DrawerItem>& items, const DrawerOptions& o) {
    if (o.words.empty()) return std::cout << drawer_csv(items), 0;
    auto written = write_file(o.words[0], drawer_csv(items));
    return written ? 0 : fail(written.error());
}

std::string today() {
    const std::time_t now = std::time(nullptr);
    return fmt::format("{:%Y-%m-%d}", fmt::localtime(now));
}

/// "count resistor/82 140": counted again, today.
int count_again(Drawer& drawer, const std::vector<DrawerItem>& items, const DrawerOptions& o) {
    if (o.words.size() != 2) return fail(wrong_use("no key and number", "drawer count resistor/82 140"));
    const DrawerItem* known = find_item(items, o.words[0]);
    if (!known)
        return fail(
            wrong_use("there is no \"" + o.words[0] + "\" in it", "a key that drawer list --json shows"));
    const auto pieces = loose_number(o.words[1], false);
    if (!pieces) return fail(wrong_use("\"" + o.words[1] + "\" is no number of pieces", "such as 140"));
    DrawerItem item = *known;
    item.stock = *pieces, item.counted = today();
    if (auto done = drawer.put(item); !done) return fail(done.error());
    if (o.common.json)
        print_json({{"key", item.key}, {"before", known->stock}, {"stock", item.stock}});
    else
        fmt::print("{}: {:.6g} → {:.6g}\n", item.name, known->stock, item.stock);
    return 0;
}

/// A design's batch is promised its parts, takes them, or gives them back.
int move_batch(Drawer& drawer, const std::vector<DrawerItem>& items, DrawerOptions o) {
    if (o.words.size() != 1) return fail(wrong_use("no design", "drawer " + o.action + " FILE"));
    o.common.file = o.words[0];
    auto design = load(o.common);
    if (!design) return fail(design.error());
    Store store;
    const auto list = Ask(store)(parts_query(design.value(), items));
    if (!list) return fail(list.error());
    const std::string& batch = design.value().name;
    const BatchMove move = o.action == "reserve" ? reserve(items, *list, batch)
                           : o.action == "use"   ? use_up(items, *list, batch)
                                                 : release(items, batch);
    if (auto done = drawer.apply(move.changes); !done) return fail(done.error());
    if (o.common.json) {
        print_json({{"batch", batch}, {"changed", move.changes.size()}, {"short_of", move.short_of}});
        return 0;
    }
    fmt::print("{}: {} kinds of parts changed\n", batch, move.changes.size());
    for (const std::string& lack : move.short_of) fmt::print("short of {}\n", lack);
    return 0;
}

int drawer_action(const DrawerOptions& o) {
    const std::filesystem::path file =
        o.common.drawer.empty() ? data_folder() / "drawer.sqlite" : std::filesystem::path(o.common.drawer);
    auto drawer = Drawer::open(file);
    if (!drawer) return fail(drawer.error());
    const auto items = drawer.value().take_opened();
    if (o.action == "list") return list_items(items, o);
    if (o.action == "import") return import_table(drawer.value(), items, o);
    if (o.action == "export") return export_table(items, o);
    if (o.action == "count") return count_again(drawer.value(), items, o);
    return move_batch(drawer.value(), items, o);
}

}  // namespace

std::vector<Command> drawer_commands() {
    return {
        {"drawer", "the parts owned: drawer list 4k7, import FILE.csv, export, count KEY 40, reserve FILE, …",
         [](CLI::App& sub) {
             const auto o = std::make_shared<DrawerOptions>();
             sub.add_option("ACTION", o->action, "list, import, export, count, reserve, use or release")
                 ->required()
                 ->check(CLI::IsMember({"list", "import", "export", "count", "reserve", "use", "release"}));
             sub.add_option("WORDS", o->words,
                            "words to find; a table; a key and a number; or the design of a batch");
             sub.add_option("--drawer", o->common.drawer, "drawer file; without it your own");
             sub.add_flag("--in-stock", o->in_stock, "list: only what is there");
             sub.add_flag("--low", o->low, "list: only low stock");
             sub.add_flag("--reserved", o->reserved, "list: only what batches were promised");
             sub.add_flag("--add", o->add, "import: counts add to the stock, they do not replace it");
             sub.add_flag("--look", o->look, "import: tells what it would do, and changes nothing");
             sub.add_flag("--json", o->common.json, "JSON on stdout");
             return [o] { return drawer_action(*o); };
         }}};
}

}  // namespace elkit::cli
