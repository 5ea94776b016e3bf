#pragma once
#include <QColor>
#include <QFont>
#include <QPainter>

#include "drawing/drawing.hpp"

namespace elkit {

/// What each ink looks like on this surface.
struct InkPalette {
    QColor ink, muted, faint, light, structure, attention, paper, card;
    QColor colour(Ink role, unsigned rgb) const;
};
/// Dark ink on white, for printing.
InkPalette paper_palette();

/// Inter at a size in painter units, tabular figures where Qt offers them.
QFont drawing_font(double size, bool bold);

/// Paints the drawing with its unit as the painter's unit.
void paint(QPainter& painter, const Drawing& drawing, const InkPalette& palette);
/// Likewise, only its items from `begin` to before `end`; words can be left out, as in a small overview.
void paint(QPainter& painter, const Drawing& drawing, const InkPalette& palette, std::size_t begin,
           std::size_t end, bool words = true);

}  // namespace elkit
