#pragma once
#include <QColor>
#include <QPalette>
#include <QString>

#include "render/paint.hpp"

namespace elkit {

/// Colours of one theme, each with one meaning: amber light and energy, teal structure and selection, rust
/// attention.
struct Theme {
    bool dark = false;
    QColor paper, card, side, line, ink, muted, amber, amber_text, teal, on_teal, rust;

    InkPalette inks() const;
    QPalette palette() const;
    QString style_sheet() const;
};

/// The theme in use; everything that paints asks here.
const Theme& theme();
/// Switches the whole application.
void apply_theme(bool dark);

/// Pixels for a length or text size at the design size: larger where the desktop's font is larger than usual.
int px(double at_design_size);
/// How much larger, 1 to 2: the desktop's font against one of 11 points at 96 dots per inch.
double text_scale();
/// Another than the desktop's, for windows made from now on.
void set_text_scale(double scale);

}  // namespace elkit
