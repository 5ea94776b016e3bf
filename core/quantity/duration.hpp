#pragma once
#include <optional>
#include <string>
#include <string_view>

namespace elkit {

/// The seconds of "2s", "300ms", "5min" or "1h", as tables of times have them; nothing of anything else.
std::optional<double> plain_seconds(std::string_view text);
/// "300ms" below a second, else "2.5s": plain_seconds() reads it back.
std::string plain_seconds(double seconds);

}  // namespace elkit
