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

/// Text size in pixels at 100 %, following the desktop's font scale.
int px(double at_design_size);

}  // namespace elkit
