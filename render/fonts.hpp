#pragma once

namespace elkit {

/// Makes the embedded Inter faces known to Qt; call once after the application object exists. False if one is
/// missing.
bool load_fonts();

}  // namespace elkit
