#include "app/shell/print.hpp"

#include <QPainter>
#include <QPrinter>
#include <algorithm>

#include "drawing/drawing.hpp"
#include "render/paint.hpp"

namespace elkit {

bool print_drawing(const Drawing& drawing, QPrinter& printer) {
    if (drawing.width <= 0 || drawing.height <= 0) return false;
    printer.setPageOrientation(drawing.width > drawing.height ? QPageLayout::Landscape
                                                              : QPageLayout::Portrait);
    QPainter painter;
    if (!painter.begin(&printer)) return false;
    const QRectF page = printer.pageLayout().paintRectPixels(printer.resolution());
    const double scale = std::min(page.width() / drawing.width, page.height() / drawing.height);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(scale, scale);
    paint(painter, drawing, paper_palette());
    return painter.end();
}

}  // namespace elkit
