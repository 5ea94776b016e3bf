#include "command/own_parts.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>
#include <utility>

#include "board/copper/making.hpp"
#include "board/footprint.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "formats/folders.hpp"
#include "words/vocabulary.hpp"

namespace elkit {
namespace {
using nlohmann::json;
}

Result<OwnParts> take_up_own_parts(std::string_view text) {
    auto catalogue = read_own_catalogue(text);
    if (!catalogue) return catalogue.error();
    const json all = json::parse(text);  // it was read before
    for (const auto& [list, entries] : all.items()) {
        static constexpr std::array known{"cells",   "leds",  "diodes",     "types",
                                          "modules", "words", "footprints", "making"};
        if (std::find(known.begin(), known.end(), list) == known.end())
            return Error{Fault::file, "own parts", "there is no list \"" + list + "\"",
                         "cells, leds, diodes, types, modules, words, footprints or making"};
    }
    auto modules = read_modules(all.value("modules", json::array()).dump());
    if (!modules) return modules.error();
    for (const PartKind& kind : modules.value())
        if (const std::string& light = kind.module->light;
            !light.empty() && !known_catalogue().led(light) && !catalogue.value().led(light))
            return Error{Fault::file, "modules, " + kind.id, "there is no LED type \"" + light + "\"",
                         "the id of an LED in docs/parts.md or among your own"};
    auto words = read_sayings(all.value("words", json::array()).dump());
    if (!words) return words.error();
    auto footprints = read_footprints(all.value("footprints", json::array()).dump());
    if (!footprints) return footprints.error();
    for (const Footprint& f : footprints.value()) {
        if (find_footprint(f.id))
            return Error{Fault::usage, "footprints, " + f.id, "there is a footprint of this id already",
                         "another id"};
        for (const std::string& kind : f.kinds)
            if (!part_kind(kind) && std::none_of(modules.value().begin(), modules.value().end(),
                                                 [&](const PartKind& own) { return own.id == kind; }))
                return Error{Fault::file, "footprints, " + f.id, "there is no kind \"" + kind + "\"",
                             "a kind of docs/parts.md or among your own modules"};
    }
    auto making = read_makings(all.value("making", json::object()).dump(), makings());
    if (!making) return making.error();
    for (const PartType& type : catalogue.value().types) {
        const PartKind* kind = part_kind(type.kind);
        if (!kind || !kind->param("type"))
            return Error{Fault::file, "types, " + type.id,
                         "there is no kind \"" + type.kind + "\" with types", "a kind of docs/parts.md"};
        for (const auto& [key, value] : type.values) {
            const ParamInfo* info = kind->param(key);
            if (!info || !(value >= info->low && value <= info->high))
                return Error{Fault::file, "types, " + type.id, fmt::format("{} is {}", key, value),
                             info ? fmt::format("{} to {}", info->low, info->high)
                                  : "a parameter of " + kind->name + " in docs/parts.md"};
        }
    }
    OwnParts taken;
    const Catalogue& own = catalogue.value();
    taken.types = own.cells.size() + own.leds.size() + own.diodes.size() + own.types.size();
    taken.modules = modules.value().size(), taken.words = words.value().size();
    taken.footprints = footprints.value().size();
    if (auto done = add_own_kinds(std::move(modules).value()); !done) return done.error();
    if (auto done = add_own_parts(std::move(catalogue).value()); !done) return done.error();
    add_own_sayings(std::move(words).value());
    add_own_footprints(std::move(footprints).value());
    taken.making =
        making.value().methods.size() + making.value().tools.size() + making.value().materials.size();
    add_own_makings(std::move(making).value());
    return taken;
}

Result<OwnParts> take_up_own_parts_of(const std::filesystem::path& file) {
    std::error_code none;
    if (!std::filesystem::exists(file, none)) return OwnParts{};
    std::ifstream in(file);
    std::ostringstream text;
    text << in.rdbuf();
    if (!in) return Error{Fault::file, file.string(), "it cannot be read", "a file of own parts"};
    auto taken = take_up_own_parts(text.str());
    if (taken) return taken;
    Error e = taken.error();
    e.place = file.string() + ": " + e.place;
    return e;
}

std::filesystem::path own_parts_file() { return data_folder() / "own-parts.json"; }

}  // namespace elkit
