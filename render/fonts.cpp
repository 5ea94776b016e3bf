#include "render/fonts.hpp"

#include <QFontDatabase>

static void init_font_resource() { Q_INIT_RESOURCE(fonts); }

namespace elkit {

bool load_fonts() {
    init_font_resource();
    bool all = true;
    for (const char* face : {"Regular", "Medium", "SemiBold", "Bold"})
        all = QFontDatabase::addApplicationFont(
                  QStringLiteral(":/fonts/Inter-%1.otf").arg(QLatin1String(face))) >= 0 &&
              all;
    return all;
}

}  // namespace elkit
