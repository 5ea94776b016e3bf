#pragma once
#include <QString>
#include <string_view>

namespace elkit {

/// Words of the core on the screen.
inline QString said(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

}  // namespace elkit
