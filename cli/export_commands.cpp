#include <fmt/format.h>

#include <filesystem>

#include "catalogue/catalogue.hpp"
#include "cli/command.hpp"
#include "render/export.hpp"
#include "render/headless.hpp"

namespace elkit::cli {

static int export_all(const Options& o) {
    if (o.directory.empty()) return fail({Fault::usage, "--to", "the name is empty", "a folder"});
    auto design = load(o);
    if (!design) return fail(design.error());
    auto conditions = conditions_from(o, design.value());
    if (!conditions) return fail(conditions.error());
    const Headless painting;
    auto drawer = drawer_items(o);
    if (!drawer) return fail(drawer.error());
    Store store;
    auto files = export_kit(Ask(store), {design.value(), conditions.value(), drawer.value()}, o.directory);
    if (!files) return fail(files.error());
    Json list = Json::array();
    for (const auto& file : files.value().written) {
        list.push_back(file.string());
        if (!o.json) fmt::print("{}\n", file.string());
    }
    Json refused = Json::array();
    for (const auto& [what, error] : files.value().refused) {
        refused.push_back({{"what", what}, {"error", error.text()}});
        fmt::print(stderr, "not written: {}: {}\n", what, error.text());
    }
    if (o.json) fmt::print("{}\n", Json{{"files", list}, {"refused", refused}}.dump(2));
    return refused.empty() ? 0 : 1;
}

std::vector<Command> export_commands() {
    return {{"export", "leaflet PDF, stave and board SVG, parts CSV", [](CLI::App& sub) {
                 const auto o = options(sub, {add_conditions, add_drawer});
                 sub.add_option("--to", o->directory, "folder, made if missing")->required();
                 return [o] { return export_all(*o); };
             }}};
}

}  // namespace elkit::cli
