#pragma once
#include <QImage>
#include <filesystem>
#include <vector>

#include "drawing/drawing.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Writes pages (in mm) as a PDF at `path`, atomically. Needs a QGuiApplication and load_fonts(). File error
/// on failure.
Result<void> write_pdf(const std::vector<Drawing>& pages, const std::filesystem::path& path,
                       const std::string& title);

/// The drawing as a picture, `pixels_per_unit` wide per unit, on paper.
QImage render_image(const Drawing& drawing, double pixels_per_unit);

}  // namespace elkit
