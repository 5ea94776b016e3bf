#pragma once

namespace elkit {

/// Makes the items of every PictureView known to assistive technology; calling it again does nothing.
void install_picture_accessibility();

}  // namespace elkit
