#include "app/shell/print.hpp"

#include <QPainter>
#include <QPrinter>
#include <algorithm>

#include "drawing/stave_systems.hpp"
#include "render/paint.hpp"

namespace elkit {

bool print_stave(const Drawing& stave, QPrinter& printer) {
    if (stave.width <= 0 || stave.height <= 0) return false;
    printer.setPageOrientation(QPageLayout::Landscape);
    QPainter painter;
    if (!painter.begin(&printer)) return false;
    const QRectF page = printer.pageLayout().paintRectPixels(printer.resolution());
    const double dots =
        printer.resolution() * stave.unit_mm / 25.4;  // for a unit, at which words can be read
    double y = 0;
    for (const Drawing& system : stave_systems(stave, page.width() / dots)) {
        const double scale = std::min({dots, page.width() / system.width, page.height() / system.height});
        if (y > 0 && y + system.height * scale > page.height()) {
            printer.newPage();
            y = 0;
        }
        painter.save();
        painter.setRenderHint(QPainter::Antialiasing);
        painter.translate(0, y);
        painter.scale(scale, scale);
        paint(painter, system, paper_palette());
        painter.restore();
        y += system.height * scale;
    }
    return painter.end();
}

}  // namespace elkit
