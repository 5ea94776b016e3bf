#pragma once
#include <filesystem>
#include <functional>
#include <string>
#include <utility>
#include <vector>

#include "design/design.hpp"
#include "drawer/drawer.hpp"
#include "engine/conditions.hpp"
#include "store/store.hpp"

namespace elkit {

/// What the files of a kit are made from.
struct KitSource {
    Design design;
    Conditions conditions;  ///< of the stave; the leaflet shows it lit and fresh
    Keyed<std::vector<DrawerItem>> drawer;
};

/// One thing that can be written from a design.
struct Export {
    std::string id, label;      ///< "leaflet", "Kit leaflet (PDF)"
    std::string file;           ///< its usual name, "leaflet.pdf"
    std::string kind, pattern;  ///< for people, "PDF", and what its files are called, "*.pdf"
    std::string keys;           ///< shortcut; may be empty
    /// Errors: of the engine and the board; a file that cannot be written. Safe on any thread.
    std::function<Result<void>(const Ask&, const KitSource&, const std::filesystem::path&)> write;
    bool (*applies)(const Design&) = nullptr;  ///< false: a kit has no such file; nullptr: each has
};
/// All of them; the window's menu, the command line and export_kit() go over this list.
const std::vector<Export>& exports();
const Export* find_export(std::string_view id);  ///< nullptr if unknown

/// What came of writing a kit: files, and what could not be made, by its label, with the reason.
struct KitFiles {
    std::vector<std::filesystem::path> written;
    std::vector<std::pair<std::string, Error>> refused;
};
/// Writes every export into a folder, made if missing: what cannot be made does not keep the others from it.
/// File error if there is no such folder and none can be made.
Result<KitFiles> export_kit(const Ask& ask, const KitSource& kit, const std::filesystem::path& directory);

}  // namespace elkit
