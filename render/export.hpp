#pragma once
#include <filesystem>
#include <vector>

#include "batch/drawer.hpp"
#include "design/design.hpp"
#include "engine/conditions.hpp"
#include "store/store.hpp"

namespace elkit {

/// What the files of a kit are made from.
struct KitSource {
    Design design;
    Conditions conditions;  ///< of the stave; the leaflet shows it lit and fresh
    Keyed<std::vector<DrawerItem>> drawer;
};

/// Writes leaflet, stave, board and parts list into a folder, made if missing; the files written. Errors: of
/// the engine and the board; a file that cannot be written. Safe on any thread.
Result<std::vector<std::filesystem::path>> export_kit(const Ask& ask, const KitSource& kit,
                                                      const std::filesystem::path& directory);
Result<void> export_leaflet(const Ask& ask, const KitSource& kit, const std::filesystem::path& path);
Result<void> export_parts(const Ask& ask, const KitSource& kit, const std::filesystem::path& path);

}  // namespace elkit
