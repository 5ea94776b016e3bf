#pragma once
#include <filesystem>
#include <vector>

#include "batch/drawer.hpp"
#include "design/design.hpp"
#include "engine/conditions.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Writes leaflet.pdf, stave.svg, board-component-side.svg, board-solder-side.svg and parts.csv into
/// `directory` (made if missing) and returns their paths. Needs a QGuiApplication and load_fonts(). Errors of
/// the engine and of files.
Result<std::vector<std::filesystem::path>> export_kit(const Design& design, const Conditions& conditions,
                                                      const std::vector<DrawerItem>& drawer,
                                                      const std::filesystem::path& directory);

/// Only the leaflet, at `path`.
Result<void> export_leaflet(const Design& design, const std::vector<DrawerItem>& drawer,
                            const std::filesystem::path& path);

}  // namespace elkit
